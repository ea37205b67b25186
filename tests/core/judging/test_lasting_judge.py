"""A judge that works out only what a change touches says what one says that begins from nothing: after every change of
any field of any home, and after things were added, taken out, hung elsewhere and put back."""

import copy
import gc
import json
import random
from dataclasses import replace
from typing import Any

import pytest

from dorrik.core.inspection.document import parse
from dorrik.core.inspection.field_spec import FieldError
from dorrik.core.inspection.kinds import KINDS
from dorrik.core.judging import lasting_judge
from dorrik.core.judging.judgement import judge
from dorrik.core.judging.lasting_judge import LastingJudge
from dorrik.core.judging.wire.judgement import as_json
from dorrik.practice.whole_home_draw import draw
from tests.core.homes import cottage
from tests.core.inspection.test_any_document import NO_FIGURES, WRITTEN
from tests.examples import examples
from tests.practice.worsening import entities
from tests.report import full_homes

OF = {kind.plural: kind for kind in KINDS.values()}
CHANGES = 12
#: Rules that everything is judged by: with another of them everything is worked out anew, which proves nothing here.
RULES = ("house_rules", "rule_book", "table_corrections", "catalogue")


def start(chance: random.Random) -> dict[str, Any]:
    """A home with much in it: simulated with faults, or built to have everything a report can show."""
    match chance.randrange(6):
        case 0:
            return copy.deepcopy(cottage())
        case 1:
            return copy.deepcopy(full_homes.home(chance.randint(1, 40), chance.randint(1, 3), 4, 3))
        case 2 | 3:
            return full_homes.everything()
        case _:
            return copy.deepcopy(draw(chance.randrange(60)).document)


def value(chance: random.Random, spec: Any, ids: list[str]) -> Any:
    """Any value of a field, those that point at something mostly at something that is there."""
    match spec.kind:
        case "reading":
            return chance.choice([*WRITTEN, *NO_FIGURES, f"{chance.random():.2f}", f"{chance.randint(1, 400)}"])
        case "choice":
            return chance.choice([*spec.choices, None])
        case "number":
            return chance.choice([None, spec.low, spec.high, chance.uniform(spec.low, spec.high), 2.5, 30, 32])
        case "integer":
            return chance.choice([None, int(spec.low), int(spec.high), chance.randint(0, 6)])
        case "flag":
            return chance.choice([True, False, None])
        case "date":
            return chance.choice([None, "1990-01-01", "2021-11-03", "2026-11-03"])
        case "instant":
            return chance.choice([None, "2026-11-03T09:40:00Z", "2026-11-03T11:00:00Z"])
        case _:
            return chance.choice([None, *ids, *spec.choices, "insulation_lne_mohm", "zs_ohm", "r1_r2_ohm", "Hall"])


def set_field(chance: random.Random, document: dict[str, Any]) -> None:
    every = list(entities(document))
    kind, entity = chance.choice(every)
    name, spec = chance.choice(list(KINDS[kind].fields.items()))
    if name in RULES:
        return
    given = value(chance, spec, [one["id"] for _, one in every])
    try:
        cleaned = spec.clean(given)
    except FieldError:
        return
    if cleaned is None:
        entity.pop(name, None)
    else:
        entity[name] = given


def lists_of(document: dict[str, Any]) -> list[tuple[dict[str, Any], str]]:
    return [
        (one, child.plural) for kind, one in entities(document) for child in KINDS.values() if kind in child.parents
    ]


def add(chance: random.Random, document: dict[str, Any]) -> None:
    """Something new with a few fields, or a copy of something that hangs there."""
    parent, plural = chance.choice(lists_of(document))
    there = parent.setdefault(plural, [])
    new = copy.deepcopy(chance.choice(there)) if there and chance.random() < 0.7 else {}
    for at, (_, one) in enumerate(entities_in(OF[plural].name, new)):
        one["id"] = f"new-{chance.getrandbits(40):x}-{at}"
    there.insert(chance.randint(0, len(there)), new)
    for _ in range(3):
        set_field(chance, document)


def entities_in(kind: str, entity: dict[str, Any]) -> list[tuple[str, dict[str, Any]]]:
    found = [(kind, entity)]
    for name, inside in entity.items():
        if name in OF and isinstance(inside, list):
            found += [each for one in inside for each in entities_in(OF[name].name, one)]
    return found


def take_out(chance: random.Random, document: dict[str, Any]) -> None:
    full = [(parent, plural) for parent, plural in lists_of(document) if parent.get(plural)]
    if full:
        parent, plural = chance.choice(full)
        parent[plural].pop(chance.randrange(len(parent[plural])))


def hang_elsewhere(chance: random.Random, document: dict[str, Any]) -> None:
    """A point to another circuit or to none, as when one is linked."""
    holders = [(p, plural) for p, plural in lists_of(document) if plural == "points"]
    full = [holder for holder in holders if holder[0].get("points")]
    if full:
        point = (points := chance.choice(full)[0]["points"]).pop(chance.randrange(len(points)))
        chance.choice(holders)[0].setdefault("points", []).append(point)


def alike(new: Any, old: Any) -> Any:
    """The new inspection with the very objects of the old one wherever they are equal, as the store keeps them."""
    known = {one.id: one for _, one in records(old)}
    return shared(new, known)


def records(inspection: Any) -> list[tuple[str, Any]]:
    found = []

    def look(kind: str, entity: Any) -> None:
        found.append((kind, entity))
        for child in KINDS.values():
            if kind in child.parents:
                for one in getattr(entity, child.plural):
                    look(child.name, one)

    look("inspection", inspection)
    return found


def shared(entity: Any, known: dict[str, Any]) -> Any:
    kind = next(kind for kind in KINDS.values() if kind.type is type(entity))
    lists = {
        child.plural: tuple(shared(one, known) for one in getattr(entity, child.plural))
        for child in KINDS.values()
        if kind.name in child.parents
    }
    built = replace(entity, **lists)
    return known[entity.id] if known.get(entity.id) == built else built


def times(chance: random.Random, document: dict[str, Any]) -> dict[tuple[str, str], str]:
    """When some of the readings were entered: what the journal tells beside the document."""
    if chance.random() < 0.5:
        return {}
    figures = [(one["id"], name) for _, one in entities(document) for name in one if name.endswith("_ohm")]
    return {figure: f"2026-11-03T{chance.choice(['09', '10', '12'])}:00:00+00:00" for figure in figures}


def unsigned(chance: random.Random, document: dict[str, Any]) -> dict[str, tuple[tuple[str, str], ...]]:
    """Figures of trainees that nobody signed for."""
    there = [one["id"] for kind, one in entities(document) if kind == "attendance"]
    return {chance.choice(there): (("c1", "zs_ohm"),)} if there and chance.random() < 0.5 else {}


def told(judgement: Any) -> str:
    # In what order a mapping has its keys says nothing.
    return json.dumps(as_json(judgement), indent=1, sort_keys=True)


@pytest.mark.hypothesis
@pytest.mark.parametrize("seed", range(examples(400)))
def test_what_is_kept_of_a_judgement_never_shows(seed):
    chance = random.Random(seed)
    document = start(chance)
    lasting, inspection = LastingJudge(), parse(document)
    assert told(lasting.judge(inspection)) == told(judge(inspection))
    before = [copy.deepcopy(document)]
    for _ in range(CHANGES):
        match chance.randrange(12):
            case 0:
                add(chance, document)
            case 1:
                take_out(chance, document)
            case 2:
                hang_elsewhere(chance, document)
            case 3:
                document = copy.deepcopy(chance.choice(before))
            case _:
                set_field(chance, document)
        before.append(copy.deepcopy(document))
        now = parse(document)
        inspection = alike(now, inspection) if chance.random() < 0.7 else now
        outside = (times(chance, document), unsigned(chance, document))
        assert told(lasting.judge(inspection, *outside)) == told(judge(inspection, *outside)), seed


def test_a_judge_that_begins_anew_says_the_same(monkeypatch):
    """Cells that nobody asks for any more are thrown away with all others once there are many."""
    monkeypatch.setattr(lasting_judge, "_TIMES", 1)
    monkeypatch.setattr(lasting_judge, "_AT_LEAST", 1)
    document = copy.deepcopy(cottage())
    circuit = document["inspection"]["boards"][0]["circuits"][0]
    lasting, begun = LastingJudge(), set()
    for n in range(40):
        circuit["zs_ohm"] = f"{3 + n / 100:.2f}"
        inspection = parse(document)
        assert told(lasting.judge(inspection)) == told(judge(inspection))
        begun.add(id(lasting.written))
    assert len(begun) > 1


def test_a_time_that_is_none_is_refused_and_the_next_judgement_is_right():
    nulls = [
        {"id": "n1", "reading_ohm": "0.05", "nulled_at": "2026-11-03T09:00:00Z"},
        {"id": "n2", "reading_ohm": "OL", "known_ohm": 0.05, "nulled_at": "2026-11-03T10:00:00Z"},
    ]
    document = {"id": "h", "lead_nulls": nulls, "boards": [{"id": "b", "circuits": [{"id": "c", "r1_r2_ohm": "0.4"}]}]}
    inspection = parse({"format": "dorrik-inspection", "version": 1, "inspection": document})
    lasting = LastingJudge()
    figure = ("c", "r1_r2_ohm")
    for at in ("2026-11-03T09:30:00Z", "yesterday", "2026-11-03T09:20:00Z"):
        if at == "yesterday":
            with pytest.raises(ValueError, match="yesterday"):
                lasting.judge(inspection, {figure: at})
        else:
            assert told(lasting.judge(inspection, {figure: at})) == told(judge(inspection, {figure: at}))


def grown(do):
    """How many things are left that only a search for circles would find, after something was done a few times."""
    do()
    gc.collect()
    gc.disable()
    try:
        before = len(gc.get_objects())
        for _ in range(5):
            do()
        return len(gc.get_objects()) - before
    finally:
        gc.enable()


def test_a_judgement_leaves_nothing_for_the_collector_and_a_judge_that_is_let_go_little():
    """A server looks for circles seldom: what is in hand would have to be looked through each time."""
    inspection = parse(full_homes.home(12, 1, 4, 3))
    changed = parse(full_homes.home(12, 1, 4, 2))

    def lasting(forgotten=True):
        judge_of = LastingJudge()
        as_json(judge_of.judge(inspection), kept=judge_of.written)
        as_json(judge_of.judge(changed), kept=judge_of.written)
        if forgotten:
            judge_of.forget()

    assert grown(lambda: judge(inspection)) < 300
    assert grown(lasting) < grown(lambda: lasting(forgotten=False)) / 4
