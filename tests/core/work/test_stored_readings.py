"""Readings stored in an instrument, each beside the figure that it belongs to; nothing is guessed."""

import pytest

from dorrik.core.inspection.document import FORMAT, VERSION, parse
from dorrik.core.work.stored_readings import MOST_ROWS, match

HEAD = ["Circuit", "Point", "Test", "Result", "Unit", "Time"]


def home(**more):
    points = [{"id": "p1", "position": 1, "name": "Landing"}, {"id": "p2", "position": 2, "name": "Box room"}]
    circuits = [
        {"id": "c1", "way": "1", "designation": "Sockets up", "form": "ring", "points": points, "rcd_id": "r"},
        {"id": "c2", "way": "2", "designation": "Lights", "zs_ohm": "1.10"},
    ]
    board = {"id": "b", "name": "Board 1", "circuits": circuits, "rcds": [{"id": "r", "name": "RCD 1"}]}
    return parse({"format": FORMAT, "version": VERSION, "inspection": {"id": "i", "boards": [board], **more}})


def one(*row, head=HEAD):
    return match(home(), [head, list(row)])[0]


@pytest.mark.parametrize(
    ("row", "place", "text"),
    [
        (("1", "", "R1+R2", "0.47", "Ω"), ("circuit", "c1", "r1_r2_ohm"), "0.47"),
        (("Sockets up", "", "r1", "0,30", ""), ("circuit", "c1", "r1_ohm"), "0,30"),
        (("2 Lights", "", "IR L+N-E", ">299", "MΩ"), ("circuit", "c2", "insulation_lne_mohm"), ">299"),
        (("2", "", "L–N", "188", "MΩ"), ("circuit", "c2", "insulation_ln_mohm"), "188"),
        (("1", "Landing", "R1+R2", "0.19", "Ω"), ("point", "p1", "line_cpc_ohm"), "0.19"),
        (("1", "2", "L-N", "150", "mΩ"), ("point", "p2", "line_neutral_ohm"), "150 mΩ"),
        (("1", "", "RCD x1", "24", "ms"), ("rcd", "r", "trip_ms"), "24"),
        (("2", "", "RCD x5", "14", "ms"), ("circuit", "c2", "rcd_five_ms"), "14"),
        (("", "", "Ze", "0.21", "Ω"), ("inspection", "i", "ze_ohm"), "0.21"),
        (("", "", "PFC", "1120", "A"), ("inspection", "i", "pefc_ka"), "1120 A"),
        (("", "", "Zdb", "0.22", "Ω"), ("board", "b", "zdb_ohm"), "0.22"),
    ],
)
def test_a_line_finds_its_figure(row, place, text):
    found = one(*row, "")
    assert (found.entity, found.entity_id, found.field, found.text, found.state) == (*place, text, "new")


@pytest.mark.parametrize(
    ("row", "words"),
    [
        (("9", "", "Zs", "0.4", "Ω"), "no circuit is called that"),
        (("1", "Cellar", "R2", "0.4", "Ω"), "no one point"),
        (("1", "", "magic", "0.4", "Ω"), "no test of a circuit"),
        (("", "", "Zs", "0.4", "Ω"), "without a circuit"),
        (("1", "", "Zs", "0.4", "V"), "unit"),
        (("1", "", "Zs", "", "Ω"), "no reading"),
        (("1", "", "Zs", "about 2", "Ω"), "not a reading"),
        # In ohm it is continuity, in megohm insulation: without its unit it is neither.
        (("1", "", "L-N", "0.4", ""), "its unit is missing"),
        (("1", "Landing", "L-E", "200", "MΩ"), "unit"),
    ],
)
def test_what_has_no_figure_is_told_with_its_line(row, words):
    found = one(*row, "")
    assert (found.state, found.row, words in found.why) == ("wrong", 2, True), found.why


def test_what_stands_there_already_is_the_same_or_another():
    assert one("2", "", "Zs", "1.10", "Ω", "").state == "same"
    other = one("2", "", "Zs", "1.30", "Ω", "")
    assert (other.state, other.why) == ("other", "1.10 is entered there.")


@pytest.mark.parametrize(
    ("written", "at"),
    [
        ("2026-11-29T14:02:03+00:00", "2026-11-29T14:02:03Z"),
        ("29/11/2026 14:02", "2026-11-29T14:02:00Z"),
        ("yesterday", None),
        ("", None),
    ],
)
def test_when_it_was_shown_is_kept_where_it_is_said(written, at):
    assert one("2", "", "R1+R2", "0.4", "Ω", written).at == at


def test_a_table_with_words_before_its_head_and_lines_that_are_empty():
    rows = [["Instrument", "MF-20771"], ["", ""], HEAD, ["", "", "", "", "", ""], ["2", "", "R1+R2", "0.4", "Ω", ""]]
    assert [(line.row, line.state) for line in match(home(), rows)] == [(5, "new")]


@pytest.mark.parametrize("rows", [[], [["a", "b"]], [["Circuit", "Test"], ["1", "Zs"]]])
def test_a_table_that_does_not_say_what_was_measured_is_refused(rows):
    with pytest.raises(ValueError, match="value"):
        match(home(), rows)


def test_no_more_are_taken_than_any_instrument_stores():
    with pytest.raises(ValueError, match="at once"):
        match(home(), [HEAD, *[["1", "", "Zs", "0.4", "Ω", ""]] * (MOST_ROWS + 1)])
