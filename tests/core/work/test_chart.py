"""Circuit charts from elsewhere: columns guessed by their heads, cells read with the units that people write."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from dorrik.core.work import chart
from dorrik.core.work.table_heads import head_row

HEADS = ["Cct No", "Circuit description", "Cable mm²", "Device", "R1+R2 (Ω)", "Insulation L-E", "Zs Ω", "Remarks"]


def read(row, heads=HEADS):
    return chart.read([heads, row], chart.guess(heads), 1)[0]


def test_columns_are_recognised_by_their_heads():
    assert chart.guess(HEADS) == (
        "way", "designation", "cable", "device", "r1_r2_ohm", "insulation_lne_mohm", "zs_ohm", None,
    )  # fmt: skip
    assert chart.guess(["DB", "Ref", "Serves", "BS (EN)", "Type", "In (A)", "RCD mA", "r1", "rn", "r2"]) == (
        "board", "way", "designation", "device_standard", "device_type", "device_rating_a", "rcd_rated_ma",
        "r1_ohm", "rn_ohm", "r2_ohm",
    )  # fmt: skip
    assert chart.guess(["live mm2", "cpc mm2"]) == ("line_csa_mm2", "cpc_csa_mm2")


def test_the_head_is_found_below_a_title():
    rows = [["Chart of the pilot's house", ""], ["", ""], ["Way", "Circuit"], ["1", "Cooker"]]
    assert head_row(rows, chart.guess) == 2


def test_a_row_is_read_with_the_short_forms_of_the_trade():
    line = read(["3", "Kitchen ring", "2.5/1.5 mm²", "B32", "0,27 Ω", ">200 MΩ", "0.46", "old"])
    assert line.fields == {
        "way": "3", "designation": "Kitchen ring", "line_csa_mm2": 2.5, "cpc_csa_mm2": 1.5,
        "device_standard": "BS EN 60898", "device_type": "B", "device_rating_a": 32.0, "form": "ring",
    }  # fmt: skip
    assert line.figures == {"r1_r2_ohm": "0,27", "insulation_lne_mohm": ">200", "zs_ohm": "0.46"}
    assert line.wrong == ()


@pytest.mark.parametrize(
    ("text", "fields"),
    [
        ("RCBO B16 30mA", ("BS EN 61009", "B", 16.0, 30.0)),
        ("BS EN 60898 C20", ("BS EN 60898", "C", 20.0, None)),
        ("32A type B", ("BS EN 60898", "B", 32.0, None)),
        ("BS 3036 30A", ("BS 3036", None, 30.0, None)),
    ],
)
def test_devices(text, fields):
    line = read(["1", "Cooker", "6", text])
    names = ("device_standard", "device_type", "device_rating_a", "rcd_rated_ma")
    assert tuple(line.fields.get(name) for name in names) == fields
    assert line.wrong == ()


@pytest.mark.parametrize(
    ("column", "text", "said"),
    [
        (2, "thick", "not a size such as 2.5/1.5"),
        (2, "2.5 / banana", "not a size"),
        (3, "B32 or so", "not such as B32"),
        (4, "=SUM(A1:A9)", "a formula is not worked out"),
        (4, "about 0.3", "is not a reading"),
        (1, "x" * 90, "at most 80"),
    ],
)
def test_what_cannot_be_read_is_said_at_its_cell(column, text, said):
    row = ["1", "Cooker", "6/2.5", "B32", "0.2", "", "", ""]
    row[column] = text
    (wrong,) = read(row).wrong
    assert wrong.column == column
    assert wrong.text == text[:200]
    assert said in wrong.reason


def test_a_unit_that_is_not_the_columns_own_is_refused():
    heads = ["Way", "Rating A", "RCD mA"]
    (wrong,) = read(["1", "30 mA", "30mA"], heads).wrong
    assert (wrong.column, wrong.reason) == (1, "Rating is in A; “30 mA” is not.")


def test_a_formula_stays_text_and_is_never_worked_out():
    line = read(["1", "=HYPERLINK(1)", "", ""])
    assert line.fields["designation"] == "=HYPERLINK(1)"


def test_spare_ways_and_empty_rows():
    lines = chart.read([HEADS, ["1", "Spare"], ["", ""], ["2", "n/a", "-"]], chart.guess(HEADS), 1)
    assert [line.row for line in lines] == [2, 4]
    assert lines[0].fields == {"way": "1", "designation": "Spare", "spare": True}
    assert lines[1].fields == {"way": "2"}


def test_a_target_stands_once_and_a_chart_has_an_end():
    with pytest.raises(ValueError, match="Two columns"):
        chart.read([["1", "2"]], ["way", "way"], 0)
    with pytest.raises(ValueError, match="nothing called"):
        chart.read([["1"]], ["wings"], 0)
    with pytest.raises(ValueError, match="5000 rows"):
        chart.read([["1"]] * 5000, ["way"], 0)


def test_drafts_are_unconfirmed_boards_with_earlier_figures():
    ids = iter(f"id-{n}" for n in range(99))
    heads = ["Board", "Way", "Circuit", "Zs"]
    rows = [heads, ["DB1", "1", "Cooker", "0.3"], ["DB2", "1", "Lights", "x"], ["DB1", "2", "Shower", ""]]
    lines = chart.read(rows, chart.guess(heads), 1)
    made = list(chart.drafts(lines, "home", lambda: next(ids), "chart.csv", "2021-05-04"))
    # The line with a mistake is left out, and with it its board.
    assert [(d.kind, d.parent_id) for d in made] == [
        ("board", "home"), ("circuit", "id-0"), ("earlier", "id-1"), ("circuit", "id-0"),
    ]  # fmt: skip
    assert all(d.fields["unconfirmed"] for d in made if d.kind != "earlier")
    assert made[2].fields == {
        "measured_on": "2021-05-04", "figure": "zs_ohm", "reading": "0.3", "source": "chart.csv",
    }  # fmt: skip
    assert made[3].fields["position"] == 2


CELLS = st.one_of(
    st.text(max_size=12),
    st.sampled_from(["2.5/1.5", "B32", "OL", ">200", "LIM", "30 mA", "=1+1", "\x00", "2.5 mm²", "９"]),
)


@settings(deadline=None)
@given(st.lists(st.lists(CELLS, max_size=8), max_size=6), st.integers(0, 6))
def test_any_table_is_read_or_refused_with_words(rows, first):
    columns = chart.guess(rows[0]) if rows else ()
    targets = [target.key for target in chart.TARGETS][: len(rows[0]) if rows else 0]
    for matched in (columns, targets):
        for line in chart.read(rows, matched, first):
            assert all(wrong.reason for wrong in line.wrong)
            for name, value in line.fields.items():
                assert chart.KINDS["circuit"].fields[name].clean(value) == value
