"""Two records of one thing made one: nothing of either is lost, nothing points at what is gone, and the changes are
such as anybody may enter."""

import random
from datetime import UTC, datetime
from uuid import UUID

import pytest

from dorrik.core.inspection.change import Change
from dorrik.core.inspection.change_checks import FORM, MOVABLE, PLACE, kept_value
from dorrik.core.inspection.field_spec import FieldError
from dorrik.core.inspection.joining import DOUBLED, alike, joining
from dorrik.core.inspection.kept_inspection import KeptInspection, assemble, new_entity, put
from dorrik.core.inspection.kinds import KINDS
from dorrik.practice.whole_home_draw import draw
from tests.core.judging.on_device import entities, with_uuids
from tests.core.judging.test_lasting_judge import value
from tests.examples import examples

NOW = datetime(2026, 12, 1, tzinfo=UTC)
#: What is not compared: order, and what says that something is gone or was carried over.
ASIDE = ("position", "removed", "unconfirmed")


def kept_of(document):
    whole = document["inspection"]["id"]
    kept = KeptInspection(whole, "firm", 0)
    for one in entities(document):
        kept.entities[one["id"]] = new_entity(one["kind"], one["id"], one["parent_id"])
        kept.entities[one["id"]].values.update(one["values"])
    return kept


def held(spec, drawn):
    """A drawn value as the field holds it; nothing where it does not."""
    try:
        return spec.clean(drawn, NOW)
    except FieldError:
        return None


def twice(kept, entity_id, chance):
    """Record an entity once more, as another device would: with some of its values, some others, and all that hangs on
    it. Returns the id of the second."""
    again = {}

    def copy(one, parent_id):
        made = str(UUID(int=chance.getrandbits(128)))
        again[one.id] = made
        kept.entities[made] = new_entity(one.kind, made, parent_id)
        for name, known in one.values.items():
            spec, drawn = KINDS[one.kind].fields[name], chance.random()
            # What points at something points at the same; what is a list of parts is taken or left whole.
            same = drawn < 0.5 or name.endswith(("_id", "_by"))
            kept.entities[made].values[name] = known if same else held(spec, value(chance, spec, []))
        for child in [c for c in list(kept.entities.values()) if c.parent_id == one.id and c.id not in again.values()]:
            copy(child, made)

    first = kept.entities[entity_id]
    copy(first, first.parent_id)
    return again[entity_id]


def enter(kept, changes):
    for one in changes:
        change = Change(
            str(UUID(int=random.getrandbits(128))), one.entity, one.entity_id, one.field, one.value, 0, NOW, "tablet"
        )
        for check in (*FORM, *PLACE):
            check(kept, change)
        put(kept, one.entity, one.entity_id, one.field, kept_value(change, NOW))


def mentions(thing, one):
    if isinstance(thing, dict):
        return any(mentions(part, one) for pair in thing.items() for part in pair)
    if isinstance(thing, list):
        return any(mentions(part, one) for part in thing)
    return bool(thing == one)


@pytest.mark.parametrize("seed", range(examples(60)))
def test_nothing_is_lost_by_joining(seed):
    chance = random.Random(seed)
    kept = kept_of(with_uuids(draw(seed).document))
    here = [one for one in kept.entities.values() if one.kind in DOUBLED and not one.values["removed"]]
    if not here:
        pytest.fail("A drawn home has rooms and boards.")
    first = chance.choice(here)
    second_id = twice(kept, first.id, chance)
    kept.entities[second_id].values["removed"] = None
    before = {one.id: dict(one.values) for one in kept.entities.values() if not one.values.get("removed")}
    hung = {one.id for one in kept.entities.values() if one.parent_id == second_id and not one.values.get("removed")}
    made = joining(kept, first.id, second_id)
    enter(kept, made.changes)

    assert kept.entities[second_id].values["removed"]
    chosen = {(one.entity_id, one.field): one for one in made.differs}
    twins = set()
    for one in hung:
        if kept.entities[one].values.get("removed"):
            twins.add(one)
            assert kept.entities[one].kind == "check"
        else:
            assert kept.entities[one].parent_id == first.id
    pairs = [(first.id, second_id)] + [
        (t.id, one)
        for one in twins
        for t in kept.entities.values()
        if t.id in before and t.kind == "check" and t.parent_id == first.id and t.values["item"] == before[one]["item"]
    ]
    for stays, goes in pairs:
        for name, known in before[goes].items():
            stands, stood = kept.entities[stays].values[name], before[stays].get(name)
            if name in ASIDE or known is None or mentions(known, second_id):
                continue
            if stood is None:
                assert stands == known
            elif stood != known:
                assert (chosen[stays, name].first, chosen[stays, name].second) == (stood, known)
                assert stands == stood
    for one in kept.entities.values():
        if one.id != second_id and not one.values.get("removed"):
            assert one.parent_id != second_id
            assert not mentions(one.values, second_id), (one.kind, one.values)
    assemble(kept)


def test_everything_that_hangs_on_what_can_be_doubled_can_move():
    hanging = {kind.name for kind in KINDS.values() if set(kind.parents) & set(DOUBLED)}
    assert hanging <= MOVABLE


def looks(kind, first, second, **more):
    kept = KeptInspection("home", "firm", 0)
    kept.entities["home"] = new_entity("inspection", "home", "firm")
    put(kept, "board", "over", "inspection", "home")
    put(kept, "board", "over", "name", "Board of the house")
    parent = "board" if kind in ("circuit", "rcd") else "inspection"
    for one, values in (("one", first), ("two", second)):
        put(kept, kind, one, parent, "over" if parent == "board" else "home")
        for name, known in values.items():
            put(kept, kind, one, name, known)
    return ("one", "two") in alike(kept)


@pytest.mark.parametrize(
    ("kind", "first", "second", "same"),
    [
        ("board", {"name": "Consumer unit 1"}, {"name": "CU 1"}, True),
        ("board", {"name": "CU 1"}, {"name": "CU 2"}, False),
        ("board", {"name": "Board"}, {"name": "Consumer unit"}, True),
        ("board", {"name": "Board", "location": "Hall"}, {"name": "Board", "location": "Garage"}, False),
        ("board", {"name": "Garage"}, {"name": "garage board", "location": "Garage"}, True),
        ("room", {"name": "Kitchen"}, {"name": "kitchen "}, True),
        ("room", {"name": "Bedroom 1"}, {"name": "Bedroom 2"}, False),
        ("room", {"name": "Hall", "floor": "ground"}, {"name": "Hall", "floor": "first"}, False),
        ("room", {"kind": "kitchen"}, {"kind": "kitchen"}, True),
        ("room", {"kind": "kitchen"}, {"kind": "garage"}, False),
        ("circuit", {"way": "3", "designation": "Sockets"}, {"way": "3", "designation": "Ring"}, True),
        ("circuit", {"way": "3", "designation": "Sockets"}, {"way": "4", "designation": "Sockets"}, False),
        ("circuit", {"way": "3", "phase": "L1"}, {"way": "3", "phase": "L2"}, False),
        ("circuit", {"designation": "Cooker"}, {"way": "1", "designation": "cooker"}, True),
        ("circuit", {}, {}, False),
        ("bond", {"service": "gas"}, {"service": "gas"}, True),
        ("bond", {"service": "gas"}, {"service": "water"}, False),
    ],
)  # fmt: skip
def test_what_looks_like_one_thing(kind, first, second, same):
    assert looks(kind, first, second) is same


def test_a_board_that_is_fed_from_the_other_is_another():
    kept = KeptInspection("home", "firm", 0)
    kept.entities["home"] = new_entity("inspection", "home", "firm")
    for one in ("main", "sub"):
        put(kept, "board", one, "inspection", "home")
    put(kept, "circuit", "way", "board", "main")
    assert alike(kept) == [("main", "sub")]
    put(kept, "board", "sub", "fed_by", "way")
    assert alike(kept) == []


def test_what_are_two_kinds_is_not_joined():
    kept = KeptInspection("home", "firm", 0)
    kept.entities["home"] = new_entity("inspection", "home", "firm")
    put(kept, "board", "board", "inspection", "home")
    put(kept, "room", "room", "inspection", "home")
    with pytest.raises(ValueError, match="cannot be one"):
        joining(kept, "board", "room")
    with pytest.raises(LookupError):
        joining(kept, "board", "nothing")
