"""`judge` on documents drawn at random from everything that the format admits."""

import json

from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from dorrik.core.book import house_rules, reference
from dorrik.core.book.rule_book import keys
from dorrik.core.inspection import document
from dorrik.core.inspection.kinds import KINDS
from dorrik.core.judging.judgement import judge
from dorrik.core.judging.wire.judgement import as_json
from tests.core.homes import cottage
from tests.examples import examples

WRITTEN = ("", "0", "0.00", "<0", ">0", "0.4", "1,37", ">299", "<0.05", "≥0.8", "≤ 2", "OL", "∞", "99999", "1000000")
NO_FIGURES = ("LIM x", "LIM trips", "N/A", "N/V", "-", None)
READINGS = st.one_of(st.sampled_from(WRITTEN + NO_FIGURES), st.floats(0, 1000).map(lambda value: f"{value:.2f}"))
CORRECTIONS = st.lists(
    st.sampled_from(
        [
            ("devices", "BS EN 60898 | B | 3-125", "ia_multiple", "4"),
            ("devices", "BS EN 60898 | C | 3-125", "ia_multiple", ""),
            ("conductors", "2.5", "milliohm_per_m", "7.4"),
            ("cables", "2.5", "iz_C", "26"),
            ("rcd", "BS EN 61008 | none | 1", "max_ms", "200"),
        ]
    ).map(lambda cell: dict(zip(("table", "row", "column", "value", "why"), (*cell, "our copy"), strict=True))),
    max_size=3,
)
OPTIONS = st.fixed_dictionaries(
    {}, optional={name: st.sampled_from(option["choices"]) for name, option in house_rules.options().items()}
)


def values(spec):
    match spec.kind:
        case "reading":
            return READINGS
        case "choice":
            return st.sampled_from([*spec.choices, None])
        case "number":
            return st.one_of(st.none(), st.floats(spec.low, spec.high), st.sampled_from([spec.low, spec.high, 2.5, 32]))
        case "integer":
            return st.one_of(st.none(), st.integers(int(spec.low), int(spec.high)))
        case "flag":
            return st.sampled_from([True, False, None])
        case "text":
            return st.one_of(st.none(), st.text("aΩ 3", max_size=min(8, spec.max_length)))
        case "date":
            return st.sampled_from([None, "1990-01-01", "2016-02-29", "2021-11-03", "2026-11-03"])
        case "instant":
            return st.sampled_from([None, "2026-11-03T09:40:00Z"])
        case "options":
            return OPTIONS
        case "corrections":
            return CORRECTIONS
        case "partitions":
            metres = st.sampled_from([0.0, 0.5, 1.7, 2.5])
            ends = st.fixed_dictionaries(dict.fromkeys(("x1", "y1", "x2", "y2"), metres), optional={"top_m": metres})
            return st.none() | st.lists(ends, min_size=1, max_size=3)
        case "answers":
            facts = st.sampled_from(["heat-signs", "flat-above", "children-or-wet", "no-such-fact"])
            return st.none() | st.dictionaries(facts, st.booleans(), min_size=1, max_size=3)
        case "entries":
            own = {"key": "own-ladder", "title": "Ladder hooked on a cable", "code": "C2"}
            changed = {"key": "accessory-cracked", "code": "C2", "why": "Ours are in reach of children."}
            return st.sampled_from([None, [own], [changed], [own, changed]])
        case "marks":
            ends = dict.fromkeys(("x", "y", "x2", "y2"), st.sampled_from([0.0, 0.25, 1.0]))
            kinds = st.sampled_from(["arrow", "ring", "number", "blur"])
            return st.none() | st.lists(st.fixed_dictionaries({"kind": kinds, **ends}), min_size=1, max_size=3)
        case "pairings":
            return st.none() | st.dictionaries(
                st.sampled_from(["busbar L–N", "way 1 L–E"]), st.sampled_from(["dead", "live"]), max_size=2
            )


def fitting(spec):
    """Values that the field itself admits: a number that its limits leave out is not part of the document format."""

    def admitted(value):
        try:
            spec.clean(value)
        except ValueError:
            return False
        return True

    return values(spec).filter(admitted)


def entity(kind, most=2):
    """Any entity of a kind, with any entities in it."""
    children = {k.plural: st.lists(entity(k.name, most), max_size=most) for k in KINDS.values() if kind in k.parents}
    fields = {name: fitting(spec) for name, spec in KINDS[kind].fields.items()}
    return st.fixed_dictionaries({"id": st.uuids().map(str)} | children, optional=fields)


def whole(home):
    return {"format": "dorrik-inspection", "version": 1, "inspection": home}


@settings(max_examples=examples(150), deadline=None, suppress_health_check=list(HealthCheck))
@given(entity("inspection"))
def test_judging_never_fails_on_a_document_that_can_be_read(home):
    inspection = document.parse(whole(home))
    json.dumps(as_json(judge(inspection)), allow_nan=False)
    assert document.parse(document.write(inspection)) == inspection


@settings(max_examples=examples(150), deadline=None, suppress_health_check=list(HealthCheck))
@given(entity("circuit"), st.sampled_from(keys()), st.sampled_from(["TN-S", "TN-C-S", "TT", None]), OPTIONS)
def test_any_circuit_on_a_sound_board_under_any_rules(circuit, book, earthing, options):
    home = cottage()["inspection"] | {"rule_book": book, "earthing": earthing, "house_rules": options}
    home["boards"][0]["circuits"].append(circuit)
    judgement = judge(document.parse(whole(home)))
    json.dumps(as_json(judgement), allow_nan=False)
    for note in judgement.notes:
        assert note.verdict.reason and note.verdict.source
        assert note.verdict.status != "fail" or note.verdict.reason.endswith((".", "?"))


@settings(max_examples=examples(80), deadline=None)
@given(CORRECTIONS)
def test_corrections_never_outlive_the_judgement(corrections):
    before = reference.rows("devices")
    judge(document.parse(whole(cottage()["inspection"] | {"table_corrections": corrections})))
    assert reference.rows("devices") is before
