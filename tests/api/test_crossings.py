"""Two devices in one home that did not see each other: what differs is asked, never settled silently."""

import pytest

from dorrik.store.database.engine import new_id
from tests.api.conftest import Inspector
from tests.api.reviewed import authorise, seq_of, submit


@pytest.fixture
def second(app, firm):
    """The supervisor with a tablet of their own."""
    return Inspector(app, firm.supervisor_email, "second tablet")


def asked(who, inspection):
    answer = who.http.get(f"/api/inspections/{inspection}/crossings")
    assert answer.status_code == 200, answer.text
    return answer.json()


def counts(who, inspection):
    told = asked(who, inspection)
    return len(told["fields"]), len(told["removals"]), len(told["doubled"])


def enter(who, inspection, *places, based_on):
    changes = [who.change(*place) | {"based_on": based_on} for place in places]
    receipt = who.send(inspection, *changes)
    assert {r["state"] for r in receipt["results"]} == {"kept"}, receipt["results"]
    return receipt


def test_a_reading_that_both_took_is_asked_and_decided_by_one_entry(inspector, second):
    inspection = inspector.begin()
    _, circuit = inspector.board(inspection)
    parted = seq_of(inspector, inspection)
    enter(inspector, inspection, ("circuit", circuit, "zs_ohm", "0.42"), based_on=parted)
    enter(second, inspection, ("circuit", circuit, "zs_ohm", "1.9"), based_on=parted)
    # The second goes on without having heard of the first.
    enter(second, inspection, ("circuit", circuit, "zs_ohm", "1.8"), based_on=parted)

    (field,) = asked(inspector, inspection)["fields"]
    assert (field["stands"]["value"], field["stands"]["author"], field["stands"]["mine"]) == ("1.8", "Sol Visor", False)
    assert [(one["value"], one["mine"]) for one in field["others"]] == [("0.42", True)]
    assert asked(second, inspection)["fields"][0]["stands"]["mine"]

    # Taking the other, or keeping what stands, is an ordinary entry of somebody who saw both.
    enter(inspector, inspection, ("circuit", circuit, "zs_ohm", "0.42"), based_on=seq_of(inspector, inspection))
    assert counts(inspector, inspection) == (0, 0, 0)


def test_what_one_person_enters_on_one_device_and_what_is_the_same_are_no_questions(inspector, second):
    inspection = inspector.begin()
    _, circuit = inspector.board(inspection)
    for reading in ("0.3", "0.4"):
        enter(inspector, inspection, ("circuit", circuit, "zs_ohm", reading), based_on=0)
    enter(second, inspection, ("circuit", circuit, "zs_ohm", "0.4"), based_on=0)
    enter(second, inspection, ("circuit", circuit, "position", 7), based_on=0)
    assert counts(inspector, inspection) == (0, 0, 0)
    # The same person on another device has not seen it either.
    inspector.device = "phone"
    enter(inspector, inspection, ("circuit", circuit, "zs_ohm", "0.5"), based_on=0)
    assert counts(inspector, inspection) == (1, 0, 0)


def test_readings_on_a_circuit_that_was_removed_meanwhile_are_told(inspector, second):
    inspection = inspector.begin()
    _, circuit = inspector.board(inspection)
    parted = seq_of(inspector, inspection)
    enter(second, inspection, ("circuit", circuit, "removed", True), based_on=parted)
    enter(inspector, inspection, ("circuit", circuit, "zs_ohm", "1.9"), based_on=parted)
    enter(inspector, inspection, ("circuit", circuit, "zs_ohm", "1.95"), based_on=parted)
    (removal,) = asked(inspector, inspection)["removals"]
    assert removal["removed"]["author"] == "Sol Visor"
    assert [(one["field"], one["value"]) for one in removal["entered"]] == [("zs_ohm", "1.95")]
    # Bringing it back shows what was entered.
    enter(inspector, inspection, ("circuit", circuit, "removed", None), based_on=seq_of(inspector, inspection))
    assert counts(inspector, inspection) == (0, 0, 0)
    assert inspector.values(inspection, circuit)["zs_ohm"] == "1.95"


def add(who, inspection, kind, parent, parent_id, based_on, **values):
    made = new_id()
    places = [(kind, made, parent, parent_id), *((kind, made, name, value) for name, value in values.items())]
    enter(who, inspection, *places, based_on=based_on)
    return made


def test_a_board_that_both_recorded_is_one_after_a_question(inspector, second):
    inspection = inspector.begin()
    parted = seq_of(inspector, inspection)
    board = add(inspector, inspection, "board", "inspection", inspection, parted, name="Consumer unit", location="Hall")
    way = add(inspector, inspection, "circuit", "board", board, parted, way="1", designation="Cooker")
    twin = add(second, inspection, "board", "inspection", inspection, parted, name="CU", main_switch_a=100)
    other = add(second, inspection, "circuit", "board", twin, parted, way="1", zs_ohm="0.5")

    (pair,) = asked(inspector, inspection)["doubled"]
    assert (pair["first"]["entity_id"], pair["second"]["entity_id"]) == (board, twin)
    assert [(one["field"], one["first"], one["second"]) for one in pair["differs"]] == [("name", "Consumer unit", "CU")]
    here = seq_of(inspector, inspection)
    written = [(c["entity"], c["entity_id"], c["field"], c["value"]) for c in pair["changes"]]
    enter(inspector, inspection, *written, based_on=here)
    assert inspector.values(inspection, board)["main_switch_a"] == 100

    # Now two circuits stand on one way of one board: asked as well.
    (pair,) = asked(second, inspection)["doubled"]
    assert {pair["first"]["entity_id"], pair["second"]["entity_id"]} == {way, other}
    # They are two: said by putting the second where it is once more.
    enter(second, inspection, ("circuit", other, "board", board), based_on=seq_of(second, inspection))
    assert counts(inspector, inspection) == (0, 0, 0)


def test_nothing_is_signed_or_issued_over_what_nobody_decided(inspector, supervisor, second, ready):
    inspection = ready()
    circuit = next(
        e["id"]
        for e in inspector.http.get(f"/api/inspections/{inspection}").json()["entities"]
        if e["kind"] == "circuit"
    )
    here = seq_of(inspector, inspection)
    enter(inspector, inspection, ("circuit", circuit, "designation", "Cooker"), based_on=here)
    enter(second, inspection, ("circuit", circuit, "designation", "Oven"), based_on=here)
    refused = submit(inspector, inspection)
    assert refused.status_code == 422
    assert "choose what to keep" in refused.json()["message"]
    points = inspector.http.get(f"/api/inspections/{inspection}/preview").json()["points"]
    assert [p["level"] for p in points if "choose what to keep" in p["text"]] == ["must"]
    enter(inspector, inspection, ("circuit", circuit, "designation", "Oven"), based_on=seq_of(inspector, inspection))
    assert submit(inspector, inspection).status_code == 200
    assert authorise(supervisor, inspection).status_code == 201


def test_a_code_that_waits_for_a_blind_opinion_is_not_told(inspector, supervisor, second):
    inspection = inspector.begin()
    here = seq_of(inspector, inspection)
    observation = add(
        inspector, inspection, "observation", "inspection", inspection, here, text="Crack", about_entity="inspection",
        about_id=inspection, code="C3",
    )  # fmt: skip
    inspector.device = "phone"
    enter(inspector, inspection, ("observation", observation, "code", "C2"), based_on=here)
    assert counts(inspector, inspection) == (1, 0, 0)
    enter(
        inspector, inspection, ("observation", observation, "opinion_asked_at", "2026-12-01T09:00:00Z"),
        based_on=seq_of(inspector, inspection),
    )  # fmt: skip
    assert counts(supervisor, inspection) == (0, 0, 0)
    assert counts(inspector, inspection) == (1, 0, 0)
