"""What goes over the line is what the contract says."""

import json
from pathlib import Path

from dorrik.api.change_types import Receipt
from dorrik.api.declared import typescript
from dorrik.api.inspection_types import InspectionOut
from dorrik.core.inspection.kinds import KINDS
from dorrik.core.work.register import REGISTER
from dorrik.store.database.tables import ENTITIES

ROOT = Path(__file__).parents[2]


def test_the_kept_contract_is_current(app):
    assert json.loads((ROOT / "docs" / "openapi.json").read_text()) == app.openapi()


def test_what_the_front_end_knows_of_the_declarations_is_current():
    kept = (ROOT / "web" / "src" / "api" / "declared.gen.ts").read_text()
    assert kept == typescript() + "\n"
    # Every kind of the rules with what it hangs on, the usual first; stages in the order of the work.
    assert '"point": [\n    "circuit",\n    "inspection"\n  ]' in kept
    assert '"brief", "intake", "walk", "isolation", "boards", "dead", "live", "observations", "report"' in kept


def test_answers_written_without_pydantic_have_the_shape_of_their_models(inspector):
    inspection = inspector.begin()
    _, circuit = inspector.board(inspection)
    receipt = inspector.send(
        inspection,
        inspector.change("circuit", circuit, "form", "ring"),
        inspector.change("circuit", circuit, "r1_ohm", "0.46"),
        inspector.change("circuit", circuit, "rn_ohm", "OL"),
        inspector.change("circuit", circuit, "insulation_lne_mohm", "0.4"),
        inspector.change("circuit", circuit, "zs_ohm", "bad"),
    )
    assert Receipt.model_validate(receipt, strict=False).model_dump(mode="json") == receipt
    whole = inspector.http.get(f"/api/inspections/{inspection}").json()
    assert InspectionOut.model_validate(whole).model_dump(mode="json") == whole


def test_reference_data_tells_every_field(inspector):
    fields = inspector.http.get("/api/reference").json()["fields"]
    assert {kind: set(names) for kind, names in fields.items()} == {
        k: set(v.fields) for k, v in ({**KINDS, **REGISTER}).items()
    }


def test_every_declared_field_has_a_column():
    for name, kind in KINDS.items():
        assert set(kind.fields) <= set(ENTITIES[name].columns.keys())
