"""Documents that earlier versions wrote still open, with every figure where it was, and are judged.

`data/documents/` was written before residual current devices were entities of their own: a cottage as it was
published as the example, and one with a value in every field that there was. Some parts have other names since.
"""

import json
import re
from pathlib import Path

import pytest

from dorrik.core.inspection.document import DocumentError, parse, write
from dorrik.core.judging.judgement import judge
from dorrik.core.judging.wire.judgement import as_json

FILES = sorted((Path(__file__).parents[1] / "data" / "documents").glob("*.json"))


def leaves(value, path=""):
    """Every value of a document by where it stands; entities by their id, since an order may differ."""
    if isinstance(value, dict):
        for name, one in value.items():
            yield from leaves(one, f"{path}.{name}")
    elif isinstance(value, list) and value and isinstance(value[0], dict) and "id" in value[0]:
        for one in value:
            yield from leaves(one, f"{path}[{one['id']}]")
    else:
        yield path, value


def today(path):
    """Where a value of then stands now."""
    path = re.sub(r"\.meters\[", ".instruments_used[", path).replace(".outlets[", ".points[")
    path = re.sub(r"(circuits\[[^]]*\])\.points$", r"\1.points_served", path)
    return re.sub(r"((?:\.points|\.instruments_used)\[[^]]*\])\.sort$", r"\1.kind", path)


@pytest.mark.parametrize("file", FILES, ids=lambda file: file.stem)
def test_it_opens_with_every_figure_where_it_was(file):
    old = json.loads(file.read_text(encoding="utf-8"))
    new = dict(leaves(write(parse(old))))
    then = {path: value for path, value in leaves(old) if path != ".version"}
    assert {path: new.get(today(path)) for path in then} == then


@pytest.mark.parametrize("file", FILES, ids=lambda file: file.stem)
def test_it_is_judged_and_the_judgement_can_be_sent(file):
    judgement = judge(parse(json.loads(file.read_text(encoding="utf-8"))))
    assert judgement.notes
    json.dumps(as_json(judgement), allow_nan=False)


def test_there_are_some():
    assert [file.stem for file in FILES] == ["cottage", "every-field"]


def test_a_name_of_then_beside_that_of_now_is_no_second_voice():
    circuit = {"id": "c", "points_served": 5, "points": 4}
    home = {"id": "i", "boards": [{"id": "b", "circuits": [circuit]}]}
    with pytest.raises(DocumentError, match=r"circuits\[0\]\.points: stands there a second time, as points_served"):
        parse({"format": "dorrik-inspection", "version": 1, "inspection": home})


def test_why_there_is_no_zs_was_written_in_words_before_it_was_a_field():
    """Version 2 had only the words of the limitation; since version 3 a word in a sentence says nothing (rule 7.4)."""
    circuit = {"id": "c", "way": "1", "zs_ohm": "LIM RCD trips at once", "form": "radial"}
    inspection = {"id": "i", "boards": [{"id": "b", "circuits": [circuit]}]}

    def why(version):
        document = parse({"format": "dorrik-inspection", "version": version, "inspection": inspection})
        return document.boards[0].circuits[0].zs_not_possible

    assert why(2) == "RCD trips on the test"
    assert why(3) is None


def test_a_reason_that_says_nothing_of_a_trip_stays_in_words():
    circuit = {"id": "c", "way": "1", "zs_ohm": "LIM locked cupboard", "form": "radial"}
    inspection = {"id": "i", "boards": [{"id": "b", "circuits": [circuit]}]}
    document = parse({"format": "dorrik-inspection", "version": 1, "inspection": inspection})
    read = document.boards[0].circuits[0]
    assert read.zs_not_possible is None and read.zs_ohm.limitation == "locked cupboard"
