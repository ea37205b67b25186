"""Parts with a past: years from their evidence, and each part held against the edition of its own day (rule 13.6)."""

import copy

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dorrik.core.home import ages
from dorrik.core.home.ages import years
from dorrik.core.inspection.document import parse
from tests.core.homes import cottage
from tests.core.whole_homes import board, circuit, judged, offered

OLD_BOARD = {"device_standard": "BS 3036", "device_type": "rewirable", "device_rating_a": 30}
TWO_RINGS = ((1, "Sockets down"), (2, "Kitchen ring"))


def evidence(about, key, first=None, last=None, **more):
    return {
        "id": f"d{key}{first}{last}",
        "about_entity": about,
        "about_id": key,
        "from_year": first,
        "to_year": last,
    } | more


def home(*datings, **origin):
    """Two socket circuits without an RCD in one board, and lights."""
    sockets = [
        circuit(n, name, "sockets", device_rating_a=32) for n, name in ((1, "Sockets down"), (2, "Kitchen ring"))
    ]
    return judged(board(*sockets, circuit(3, "Lights", "lighting", device_rating_a=6)), datings=list(datings), **origin)


def protection(judgement):
    return {
        note.entity_id: (set(note.touches), note.verdict.reason)
        for note in judgement.notes
        if note.title.endswith("additional protection")
    }


def test_an_addition_is_held_against_the_edition_of_its_day_apart_from_its_neighbours():
    """A ring of new colours without RCD in an old board: C2 for itself, the old one beside it no more than C3."""
    old, new = home(), home(evidence("circuit", "c2", 2010, 2014, known_by="colours of its cores"))
    assert set(protection(old)) == {"b"} and protection(old)["b"][0] == {"c1", "c2", "c3"}
    assert protection(new)["b"][0] == {"c1", "c3"}
    assert "17th edition already needed it" in protection(new)["c2"][1]
    codes = {(one.key, one.entity_id): one.code for one in new.suggested}
    assert codes["rcd-missing-sockets", "c2"] == "C2"
    assert codes["rcd-missing-sockets", "b"] == offered(old)["rcd-missing-sockets"] == "C3"


@pytest.mark.parametrize(
    "stated",
    [
        (),
        (evidence("circuit", "c2", None, 2006),),
        (evidence("circuit", "c2", 2004, None),),
        (evidence("circuit", "c2", 2010), evidence("circuit", "c2", None, 2006)),
        (evidence("board", "b", 2015),),
    ],
)
def test_without_years_that_prove_it_nothing_is_more_serious_for_age(stated):
    """Not known, before, not sure, evidence that does not agree, or of the board alone."""
    assert set(protection(home(*stated))) == {"b"}


def test_a_part_whose_evidence_does_not_agree_is_told_and_counts_for_nothing():
    judgement = home(evidence("circuit", "c2", 2010), evidence("circuit", "c2", None, 2006))
    (told,) = [n for n in judgement.notes if n.figure == ("c2", "fitted_from")]
    assert told.status == "attention" and "leaves no year" in told.verdict.reason
    (part,) = [part for part in judgement.parts if part.key == "c2"]
    assert not part.agrees


def test_a_part_older_than_its_home_or_from_the_future_is_asked_about():
    older = home(evidence("inspection", "i", 1990), evidence("circuit", "c1", None, 1970))
    assert any("used again" in n.verdict.reason for n in older.notes if n.entity_id == "c1")
    future = home(evidence("circuit", "c1", 2031))
    assert any("after this inspection" in n.verdict.reason for n in future.notes if n.entity_id == "c1")
    younger = home(evidence("inspection", "i", None, 1970), evidence("circuit", "c1", 1999))
    assert not [n for n in younger.notes if n.figure == ("c1", "fitted_from")]


def test_what_was_entered_offers_its_years_and_counts_only_once_taken():
    colours = circuit(1, "Ring", "sockets", core_colours="brown and blue", **OLD_BOARD)
    judgement = judged(board(colours))
    (part,) = [part for part in judgement.parts if part.key == "c1"]
    said = {(one.from_year, one.to_year) for one in part.offered}
    assert {(2004, None), (None, 1990)} <= said
    assert (part.from_year, part.to_year) == (None, None)


def test_an_alarm_tells_when_it_was_made():
    lights = circuit(1, "Alarms", points=[{"id": "a", "kind": "alarm", "replace_by": "2023-05-31"}])
    (alarms,) = [part for part in judged(board(lights)).parts if part.name == "Alarms"]
    assert [(one.from_year, one.to_year) for one in alarms.offered] == [(2012, 2014)]


YEAR = st.one_of(st.none(), st.integers(1900, 2100))


@given(st.lists(st.tuples(YEAR, YEAR)), st.tuples(YEAR, YEAR))
def test_more_evidence_never_widens_the_years(pieces, more):
    first, last, agrees = years(pieces)
    later, earlier, still = years([*pieces, more])
    assert first is None or (later is not None and later >= first)
    assert last is None or (earlier is not None and earlier <= last)
    assert agrees or not still


def test_a_circuit_of_an_extension_is_as_old_as_the_extension():
    """Said once, for all of its circuits: socket circuits known to be of 2009 or later need an RCD (its edition)."""
    document = copy.deepcopy(cottage())
    i = document["inspection"]
    circuit = next(c for c in i["boards"][0]["circuits"] if not c.get("spare"))
    i["datings"] = [
        {"id": "d1", "about_entity": "inspection", "about_id": i["id"], "part": "Extension", "from_year": 2012},
        {"id": "d2", "about_entity": "circuit", "about_id": circuit["id"], "part": "Extension"},
    ]
    inspection = parse(document)
    dated = {part.key: part for part in ages.parts(inspection)}
    assert (dated["Extension"].from_year, dated[circuit["id"]].from_year) == (2012, 2012)
    assert dated[circuit["id"]].evidence[0] == "belongs to: Extension"
    (one,) = [c for b in inspection.boards for c in b.circuits if c.id == circuit["id"]]
    assert ages.fitted(inspection, one) == (2012, None)


def test_a_notice_of_its_day_tells_of_its_board():
    """Six-monthly is said since the edition of 2018: a quarterly notice was put up before, and the board with it."""
    document = copy.deepcopy(cottage())
    i = document["inspection"]
    board_id = i["boards"][0]["id"]
    about = {"about_entity": "board", "about_id": board_id, "kind": "rcd-test", "interval": "quarterly"}
    i["labels"] = [{"id": "l", "state": "found"} | about]
    (part,) = [part for part in ages.parts(parse(document)) if part.key == board_id]
    assert [(one.from_year, one.to_year, one.known_by) for one in part.offered] == [(None, 2018, "labels")]
    # Offered alone it dates nothing.
    assert part.to_year is None
    i["labels"][0]["state"] = "removed"
    (part,) = [part for part in ages.parts(parse(document)) if part.key == board_id]
    assert not part.offered
