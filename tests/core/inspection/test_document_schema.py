import json
from pathlib import Path

import jsonschema
import pytest

from dorrik.core.inspection import document
from dorrik.core.inspection.document_schema import schema
from dorrik.core.judging.judgement import judge
from tests.core.homes import cottage, spoilt

DOCS = Path(__file__).parents[3] / "docs"


def test_the_kept_schema_is_current_and_is_one():
    assert json.loads((DOCS / "inspection.schema.json").read_text()) == schema()
    jsonschema.Draft202012Validator.check_schema(schema())


def test_the_worked_example_is_admitted_read_and_judged():
    example = json.loads((DOCS / "inspection.example.json").read_text())
    jsonschema.validate(example, schema())
    judgement = judge(document.parse(example))
    assert judgement.outcome == "unsatisfactory"
    assert any(note.verdict.status == "fail" for note in judgement.notes)


@pytest.mark.parametrize("home", [cottage(), spoilt("c1", zs_ohm=None), spoilt(house_rules={"zs_basis": 1.0})])
def test_what_can_be_read_is_admitted(home):
    document.parse(home)
    jsonschema.validate(home, schema())
    jsonschema.validate(document.write(document.parse(home)), schema())


@pytest.mark.parametrize(
    "home",
    [spoilt(colour="red"), spoilt("c1", form="square"), spoilt("board", ways="many"), cottage() | {"version": 4}],
)
def test_what_has_the_wrong_shape_is_not_admitted(home):
    with pytest.raises(jsonschema.ValidationError):
        jsonschema.validate(home, schema())
