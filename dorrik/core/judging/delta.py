"""What became different between two judgements as plain data, so that a device is told that and not all of it again.

A judgement is a mapping. Of its lists, runs of the old one that still stand are named by their ends and only new items
are written out; of its mappings (the sums of circuits) what is set and what is gone; everything else is written whole.
"""

from collections.abc import Mapping
from typing import Any

#: What names an item of a list among its fellows; the rest of it may change.
NAMES = ("id", "entity", "field", "title", "board_id", "circuit_id", "entity_id", "key", "stage")


def difference(old: Mapping[str, Any], new: Mapping[str, Any]) -> dict[str, Any]:
    """`set`: values written whole; `lists`: runs of a list; `maps`: of a mapping what is set and what is gone."""
    delta: dict[str, Any] = {"set": {}, "lists": {}, "maps": {}}
    for name, value in new.items():
        before = old.get(name)
        if before is value or before == value:
            continue
        if isinstance(value, list) and isinstance(before, list) and before:
            delta["lists"][name] = runs(before, value)
        elif isinstance(value, dict) and isinstance(before, dict) and before:
            there = {key: one for key, one in value.items() if key not in before or before[key] != one}
            delta["maps"][name] = {"set": there, "gone": [key for key in before if key not in value]}
        else:
            delta["set"][name] = value
    return delta


def runs(old: list[Any], new: list[Any]) -> list[dict[str, Any]]:
    """The new list as runs `{start, end}` of the old one (the end not included) and `{new}` items."""
    # Most often one item in the middle is another: what stands before and behind it is not looked at by name.
    shorter = min(len(old), len(new))
    front = next((at for at in range(shorter) if not _same(old[at], new[at])), shorter)
    left = shorter - front
    back = next((at for at in range(left) if not _same(old[-1 - at], new[-1 - at])), left)
    rest = len(old) - back
    between = _runs(old[front:rest], new[front : len(new) - back])
    parts = [{"start": 0, "end": front}] if front else []
    parts += [
        {"start": part["start"] + front, "end": part["end"] + front} if "end" in part else part for part in between
    ]
    return [*parts, {"start": rest, "end": len(old)}] if back else parts


def _runs(old: list[Any], new: list[Any]) -> list[dict[str, Any]]:
    places: dict[Any, int] = {}
    for at, item in enumerate(old):
        places.setdefault(_name(item), at)
    parts: list[dict[str, Any]] = []
    start = end = -1

    def close() -> None:
        if end > start >= 0:
            parts.append({"start": start, "end": end})

    for item in new:
        # The next of the old list comes first: fellows of the same name stand in a row.
        at = end if 0 <= end < len(old) and _same(old[end], item) else places.get(_name(item), -1)
        if at >= 0 and _same(old[at], item):
            if at != end:
                close()
                start = at
            end = at + 1
            continue
        close()
        start = end = -1
        if parts and "new" in parts[-1]:
            parts[-1]["new"].append(item)
        else:
            parts.append({"new": [item]})
    close()
    return parts


def _same(one: Any, other: Any) -> bool:
    # What was kept from one judgement to the next is the same object: mappings do not look for that themselves.
    return one is other or bool(one == other)


def _name(item: Any) -> Any:
    return tuple(item.get(name) for name in NAMES) if isinstance(item, dict) else item


def applied(old: Mapping[str, Any], change: Mapping[str, Any]) -> dict[str, Any]:
    """The new judgement, from the old one and what became different."""
    new: dict[str, Any] = dict(old) | change["set"]
    for name, parts in change["lists"].items():
        items: list[Any] = []
        for part in parts:
            items += part["new"] if "new" in part else old[name][part["start"] : part["end"]]
        new[name] = items
    for name, part in change["maps"].items():
        gone = set(part["gone"])
        new[name] = {key: one for key, one in old[name].items() if key not in gone} | part["set"]
    return new
