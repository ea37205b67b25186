"""A judgement has one shape, its records: what is sent of a full home is held against the contract made of them."""

import json
from typing import Any

import pytest
from pydantic import TypeAdapter

from dorrik.api.change_types import Receipt
from dorrik.api.inspection_types import InspectionOut
from dorrik.core.inspection import document
from dorrik.core.judging.judgement import judge
from dorrik.core.judging.wire.judgement import JudgementView, as_json
from dorrik.practice.whole_home_draw import draw
from tests.report import full_homes

#: One with an RCD that trips on the loop test and passes its half test: a reason for no Zs is offered.
NO_ZS = 23


def judgements() -> list[Any]:
    full = document.parse(full_homes.everything())
    by_trainees = {"tr": ((full.boards[0].circuits[0].id, "zs_ohm"),)}
    return [judge(full, by_trainees=by_trainees), judge(document.parse(draw(NO_ZS).document))]


def test_what_is_written_of_full_homes_is_what_the_contract_says():
    """Every part is there in one home at least, reads back into its record, and comes out of it the same."""
    contract = TypeAdapter(JudgementView)
    blind = frozenset({"o1"})
    empty: set[str] | None = None
    for judgement in judgements():
        data = as_json(judgement, blind)
        sent = json.dumps(data, allow_nan=False)
        read = contract.validate_json(sent)
        assert contract.dump_python(read, mode="json") == json.loads(sent)
        nothing = {name for name, value in data.items() if value in ([], {}, None, "")}
        empty = nothing if empty is None else empty & nothing
    assert empty == set()


@pytest.mark.parametrize("part", ["notes", "benches", "suggested", "walk"])
def test_the_contract_refuses_what_is_not_in_it(part):
    """It is held against what is sent: a part without one of its fields, or with a status that there is none of."""
    data = as_json(judgements()[0])
    wrong = {
        "notes": lambda: data["notes"][0].update(status="fine"),
        "benches": lambda: data["benches"][0]["points"][0].pop("walked"),
        "suggested": lambda: data["suggested"][0].pop("code"),
        "walk": lambda: data["points"][0].update(moved=None),
    }
    wrong[part]()
    with pytest.raises(ValueError, match="validation error"):
        TypeAdapter(JudgementView).validate_python(data)


def test_a_full_home_over_the_api_has_the_shape_of_the_contract(supervisor, inspector):
    taken = supervisor.http.post("/api/import", content=json.dumps(full_homes.everything()).encode())
    assert taken.status_code == 200, taken.text
    (inspection,) = (inspection["id"] for inspection in taken.json()["inspections"])
    whole = inspector.http.get(f"/api/inspections/{inspection}").json()
    assert InspectionOut.model_validate(whole).model_dump(mode="json") == whole
    judgement = whole["judgement"]
    assert judgement["rooms"] and judgement["benches"] and judgement["set_aside"] and judgement["repairs"]
    circuit = next(entity["id"] for entity in whole["entities"] if entity["kind"] == "circuit")
    receipt = inspector.send(inspection, inspector.change("circuit", circuit, "zs_ohm", "0.62"))
    assert Receipt.model_validate(receipt).model_dump(mode="json") == receipt
