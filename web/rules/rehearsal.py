"""A small home judged again and again in a browser that has just started: it compiles a second time, and better, what
is run often, and the first figures of a person need not wait for that."""

import json
from uuid import UUID

from dorrik.core.judging.device_judge import DeviceJudge

WAYS = 12
NOW = "2026-01-01T00:00:00Z"
CIRCUIT = {
    "form": "radial", "serves": "sockets", "line_csa_mm2": 2.5, "cpc_csa_mm2": 1.5, "device_standard": "BS EN 60898",
    "device_type": "B", "device_rating_a": 20, "r1_r2_ohm": "0.40", "insulation_lne_mohm": ">200",
}  # fmt: skip


def _id(number):
    return str(UUID(int=number))


def _entity(kind, number, parent, **values):
    return {"kind": kind, "id": _id(number), "parent_id": parent, "values": values}


def rehearse(rounds=24):
    """Each round is a figure of a circuit, as a person would enter it."""
    judge = DeviceJudge()
    circuits = [
        _entity("circuit", 100 + way, _id(2), way=str(way), position=way, designation=f"Way {way}", **CIRCUIT)
        for way in range(1, WAYS + 1)
    ]
    entities = [_entity("inspection", 1, "firm", earthing="TN-S"), _entity("board", 2, _id(1), ways=WAYS), *circuits]
    facts = {"read_at": [], "read_by": [], "signed": {}}
    home = {
        "id": _id(1), "firm_id": "firm", "entities": entities, "facts": facts, "entered": [], "blind": [],
        "changes": [], "now": NOW,
    }  # fmt: skip
    judge.answer("open", json.dumps(home))
    for at in range(rounds):
        change = {
            "id": _id(5000 + at), "entity": "circuit", "entity_id": _id(101 + at % WAYS), "field": "zs_ohm",
            "value": f"{0.4 + at / 10:.2f}", "based_on": 0, "made_at": NOW, "device": "rehearsal",
        }  # fmt: skip
        judge.answer("write", json.dumps({"changes": [change], "now": NOW}))
    judge.close()
