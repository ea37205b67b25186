"""Rooms, boards, circuits, RCDs and bonds that were recorded twice: which look like one, and what makes one of two.

Joining is nothing but ordinary changes, each with its place in the journal: what hangs on the second moves to the
first, what points at the second points at the first, what only the second knew is filled in, and the second is removed.
Where both know something and differ, a person says which of the two stands.
"""

import re
from collections.abc import Iterator, Mapping
from itertools import combinations
from typing import Any

from dorrik.core.basics.record import record
from dorrik.core.inspection.change_checks import MOVABLE
from dorrik.core.inspection.kept_inspection import KeptEntity, KeptInspection

#: Kinds that are recorded twice where two walk one home.
DOUBLED = ("board", "room", "circuit", "rcd", "bond")
#: Fields that say nothing of the thing itself.
_APART = frozenset(("position", "removed", "unconfirmed"))
#: Words that name a board without telling it from another.
_BOARD = re.compile(r"\b(?:consumer unit|distribution board|fuse ?board|fuse ?box|board|c\.?u\.?|d\.?b\.?|unit)\b")


@record
class Written:
    """A change that is proposed: one field of one entity set to a value."""

    entity: str
    entity_id: str
    field: str
    value: Any


@record
class Differing:
    """A field in which two things differ: what the first and the second say."""

    entity: str
    entity_id: str
    field: str
    first: Any
    second: Any


@record
class Joining:
    """Two things as one. first: the id of the one that stays; second: of the one that goes into it; changes: what is
    written whatever is chosen, in this order; differs: where somebody chooses what stands."""

    kind: str
    first: str
    second: str
    changes: tuple[Written, ...]
    differs: tuple[Differing, ...]


def alike(kept: KeptInspection) -> list[tuple[str, str]]:
    """Ids of pairs of things of one place that look like one, whoever recorded them."""
    places: dict[tuple[str, str], list[KeptEntity]] = {}
    for entity in kept.entities.values():
        if entity.kind in DOUBLED and not entity.values["removed"]:
            places.setdefault((entity.kind, entity.parent_id), []).append(entity)
    return [
        (first.id, second.id)
        for (kind, _), here in places.items()
        for first, second in combinations(here, 2)
        if _LOOKS[kind](first.values, second.values) and not _feeds(kept, first, second)
    ]


def _feeds(kept: KeptInspection, first: KeptEntity, second: KeptEntity) -> bool:
    """Does one of two boards feed the other? Then they are two."""
    for board, other in ((first, second), (second, first)):
        way = kept.entities.get(other.values.get("fed_by") or "")
        if board.kind == "board" and way is not None and way.parent_id == board.id:
            return True
    return False


def _same_board(first: Mapping[str, Any], second: Mapping[str, Any]) -> bool:
    """Of one name, or where one has none that tells it apart; a board that is fed from elsewhere is another one."""
    if first["fed_by"] != second["fed_by"] and first["fed_by"] and second["fed_by"]:
        return False
    return _agree(_board_name(first["name"]), _board_name(second["name"])) and _agree(
        _plain(first["location"]), _plain(second["location"])
    )


def _same_room(first: Mapping[str, Any], second: Mapping[str, Any]) -> bool:
    """Of one name on one floor; without names, of one kind."""
    if not _agree(first["floor"] or "", second["floor"] or ""):
        return False
    names = _plain(first["name"]), _plain(second["name"])
    if all(names):
        return names[0] == names[1]
    return bool(first["kind"] == second["kind"])


def _same_circuit(first: Mapping[str, Any], second: Mapping[str, Any]) -> bool:
    """On one way of the board and one phase; without ways, of one designation."""
    ways = _plain(first["way"]), _plain(second["way"])
    if all(ways):
        return ways[0] == ways[1] and _agree(first["phase"] or "", second["phase"] or "")
    named = _plain(first["designation"])
    return bool(named) and named == _plain(second["designation"])


def _same_rcd(first: Mapping[str, Any], second: Mapping[str, Any]) -> bool:
    """Of one name in one place of the board."""
    return _agree(_plain(first["name"]), _plain(second["name"])) and _agree(first["place"] or "", second["place"] or "")


def _same_bond(first: Mapping[str, Any], second: Mapping[str, Any]) -> bool:
    """To one service."""
    return bool(first["service"] == second["service"]) and _agree(_plain(first["place"]), _plain(second["place"]))


_LOOKS = {
    "board": _same_board, "room": _same_room, "circuit": _same_circuit, "rcd": _same_rcd, "bond": _same_bond,
}  # fmt: skip


def _plain(text: str | None) -> str:
    return " ".join(re.sub(r"[^\w]+", " ", (text or "").casefold()).split())


def _board_name(text: str | None) -> str:
    return " ".join(_BOARD.sub(" ", _plain(text)).split())


def _agree(first: str, second: str) -> bool:
    """The same, or one of the two says nothing."""
    return not first or not second or first == second


def joining(kept: KeptInspection, first_id: str, second_id: str) -> Joining:
    """What makes one of two. Raises LookupError where one of them is not there, ValueError where they are of two kinds.

    Their circuits are not joined by it: those of one way then stand beside each other on one board, and are asked for
    by themselves.
    """
    first, second = kept.entities[first_id], kept.entities[second_id]
    if first.kind != second.kind or first.kind not in DOUBLED:
        raise ValueError(f"A {first.kind} and a {second.kind} cannot be one.")
    changes: list[Written] = []
    differs: list[Differing] = []
    _into(first, second, changes, differs)
    for child in kept.entities.values():
        if child.parent_id != second.id:
            continue
        twin = _twin(kept, child, first.id)
        if twin is not None:
            _into(twin, child, changes, differs)
            changes.append(Written(child.kind, child.id, "removed", True))
        elif child.kind in MOVABLE:
            changes.append(Written(child.kind, child.id, second.kind, first.id))
    changes += _pointing(kept, second.id, first.id)
    changes.append(Written(second.kind, second.id, "removed", True))
    return Joining(first.kind, first.id, second.id, tuple(changes), tuple(differs))


def _into(first: KeptEntity, second: KeptEntity, changes: list[Written], differs: list[Differing]) -> None:
    """What the second knows and the first does not; and where they differ."""
    for name, value in second.values.items():
        known = first.values[name]
        if name in _APART or value is None or known == value or value == first.id:
            continue
        if known is None:
            changes.append(Written(first.kind, first.id, name, value))
        else:
            differs.append(Differing(first.kind, first.id, name, known, value))


def _twin(kept: KeptInspection, child: KeptEntity, first_id: str) -> KeptEntity | None:
    """The same thing looked at, answered on the first too: of one thing two answers would stand."""
    if child.kind != "check" or child.values["removed"]:
        return None
    return next(
        (
            entity
            for entity in kept.entities.values()
            if entity.kind == "check"
            and entity.parent_id == first_id
            and not entity.values["removed"]
            and entity.values["item"] == child.values["item"]
        ),
        None,
    )


def _pointing(kept: KeptInspection, old: str, new: str) -> Iterator[Written]:
    """Every field that names the one, naming the other."""
    for entity in kept.entities.values():
        for name, value in entity.values.items():
            renamed = _renamed(value, old, new)
            if renamed != value:
                yield Written(entity.kind, entity.id, name, renamed)


def _renamed(value: Any, old: str, new: str) -> Any:
    if isinstance(value, Mapping):
        return {(new if key == old else key): _renamed(one, old, new) for key, one in value.items()}
    if isinstance(value, list):
        return [_renamed(item, old, new) for item in value]
    return new if value == old else value
