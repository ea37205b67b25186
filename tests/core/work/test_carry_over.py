"""An earlier inspection carried over: things as they were, nothing measured then taken for measured now."""

from itertools import count

import pytest

from dorrik.core.inspection import document
from dorrik.core.inspection.kinds import KINDS, stage_of
from dorrik.core.work import carry_over
from dorrik.core.work.workflow import action_of
from tests.core.homes import cottage as home


def carried():
    found = document.parse(home())
    ids = (f"new-{n}" for n in count())
    return found, list(carry_over.drafts(found, "here", lambda: next(ids), "Report K-1"))


def test_every_board_and_circuit_comes_unconfirmed_and_without_readings():
    found, drafts = carried()
    circuits = [d for d in drafts if d.kind == "circuit"]
    assert len(circuits) == sum(len(board.circuits) for board in found.boards)
    assert all(d.fields["unconfirmed"] is True for d in drafts if d.kind in ("board", "circuit", "bond"))
    fields = {name for d in drafts for name in d.fields}
    assert not fields & {"r1_ohm", "zs_ohm", "isolated_at", "polarity", "zdb_ohm"}


def test_readings_become_earlier_figures_of_that_day():
    found, drafts = carried()
    ring = found.boards[0].circuits[0]
    circuit = next(d for d in drafts if d.kind == "circuit")
    earlier = {d.fields["figure"]: d.fields for d in drafts if d.kind == "earlier" and d.parent_id == circuit.id}
    assert earlier["r1_ohm"]["reading"] == ring.r1_ohm.text
    assert earlier["r1_ohm"]["measured_on"] == found.inspected_on
    assert earlier["r1_ohm"]["source"] == "Report K-1"


def test_drafts_make_an_inspection_that_can_be_parsed_again():
    found, drafts = carried()
    entities = {"here": {"id": "here"}}
    plural = {
        "board": "boards",
        "circuit": "circuits",
        "earlier": "earlier",
        "point": "points",
        "bond": "bonds",
        "room": "rooms",
    }
    for draft in drafts:
        if draft.id not in entities:
            entities[draft.id] = {"id": draft.id}
            entities[draft.parent_id].setdefault(plural[draft.kind], []).append(entities[draft.id])
        entities[draft.id] |= draft.fields
    again = document.parse({"format": document.FORMAT, "version": document.VERSION, "inspection": entities["here"]})
    assert [c.designation for c in again.boards[0].circuits] == [c.designation for c in found.boards[0].circuits]


def test_the_tree_of_boards_keeps_its_shape():
    board = {"id": "b1", "circuits": [{"id": "c1", "way": "4"}]}
    shed = {"id": "b2", "name": "Shed", "fed_by": "c1"}
    found = document.parse(
        {"format": document.FORMAT, "version": 1, "inspection": {"id": "old", "boards": [shed, board]}}
    )
    ids = (f"new-{n}" for n in count())
    drafts = list(carry_over.drafts(found, "here", lambda: next(ids), "x"))
    feeding = next(d.id for d in drafts if d.kind == "circuit")
    assert drafts[-1].fields == {"fed_by": feeding}
    assert next(d for d in drafts if d.id == drafts[-1].id).fields["name"] == "Shed"


def test_of_the_origin_only_what_stays_is_taken():
    found, _ = carried()
    origin = carry_over.origin(found)
    assert origin["earthing"] == found.earthing
    assert "ze_ohm" not in origin and "declared_outcome" not in origin and "reference" not in origin


def test_rooms_come_along_with_what_hangs_in_them_and_nothing_of_that_day():
    walked = home()["inspection"]
    walked["rooms"] = [
        {"id": "r1", "name": "Bathroom", "kind": "bath or shower", "basin": "bath", "walked_at": "2026-11-03T09:20:00Z",
         "not_reached": "locked", "checks": [{"id": "k1", "item": "cables-seen", "state": "good"}]},
    ]  # fmt: skip
    walked["points"] = [{"id": "p1", "room_id": "r1", "kind": "fan", "looked": "defect", "opened": True}]
    walked["boards"][0]["circuits"][2]["points"] = [
        {"id": "p2", "room_id": "r1", "kind": "light", "plan_x_m": 1.0, "plan_y_m": 0.3, "height_m": 2.1}
    ]
    found = document.parse({"format": document.FORMAT, "version": 2, "inspection": walked})
    ids = (f"new-{n}" for n in count())
    drafts = list(carry_over.drafts(found, "here", lambda: next(ids), "x"))
    (room,) = [d for d in drafts if d.kind == "room"]
    assert room.fields == {"name": "Bathroom", "kind": "bath or shower", "basin": "bath"}
    fan, light = [d for d in drafts if d.kind == "point"]
    assert (fan.parent_id, fan.fields) == ("here", {"kind": "fan", "room_id": room.id})
    assert light.fields["room_id"] == room.id and light.fields["plan_x_m"] == 1.0
    assert light.parent_id in {d.id for d in drafts if d.kind == "circuit"}


#: What could be carried of a figure of each kind, so that every field of a thing has something to carry.
SAMPLES = {"flag": True, "instant": "2026-11-03T12:00:00Z", "date": "2026-11-03"}


def sample(spec):
    if spec.kind in ("choice", "text", "identity"):
        return spec.choices[-1] if spec.choices else "c9"
    return int(spec.high) if spec.kind in ("number", "integer") else SAMPLES.get(spec.kind)


@pytest.mark.parametrize("kind", ["board", "circuit", "rcd", "point", "bond"])
def test_nothing_that_was_tested_or_done_on_the_day_is_a_fact_of_the_next(kind):
    """An open ring lowered with consent, switches that stood open, ends tried against another's: of that day alone."""
    fields = {}
    for name, spec in KINDS[kind].fields.items():
        value = sample(spec)
        if value is not None and name not in ("removed", "spare"):
            fields[name] = value
    point = {"id": "p1"} | (fields if kind == "point" else {})
    circuit = {"id": "c1", "points": [point]} | (fields if kind == "circuit" else {})
    board = {"id": "b1", "circuits": [circuit], "rcds": [{"id": "r1"} | (fields if kind == "rcd" else {})]}
    board |= fields if kind == "board" else {}
    bond = {"id": "w1"} | (fields if kind == "bond" else {})
    inspection = {"id": "old", "boards": [board], "bonds": [bond]}
    found = document.parse({"format": document.FORMAT, "version": document.VERSION, "inspection": inspection})
    ids = (f"new-{n}" for n in count())
    drafts = [d for d in carry_over.drafts(found, "here", lambda: next(ids), "Report") if d.kind == kind]
    came = {name for draft in drafts for name in draft.fields}
    of_the_day = {
        name for name in fields if stage_of(kind, name) in ("dead", "live") or action_of(kind, name) == "decide"
    } - ({"two_gangs", "no_cpc"} if kind == "point" else set())
    assert came & of_the_day == set()
    assert came
