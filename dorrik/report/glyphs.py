"""Which characters the fonts can set; what none of them can is printed as its code point, and said beforehand.

scripts/fonts.py wrote down at set-up what the fonts cover. Where it was not run, the fonts that ship are asked.
"""

import json
import unicodedata
from bisect import bisect_right
from collections.abc import Iterator
from functools import cache
from pathlib import Path
from typing import Any

SHIPPED = Path(__file__).parent / "fonts"
#: Fonts gathered at set-up, with coverage.json.
GATHERED = Path(__file__).parents[2] / "var" / "fonts"


@cache
def _known() -> tuple[tuple[int, ...], tuple[int, ...], tuple[str, ...]]:
    """First and last points of the ranges that are covered, and the families in the order in which they are tried."""
    try:
        coverage = json.loads((GATHERED / "coverage.json").read_text())
        ranges, families = coverage["covered"], coverage["families"]
    except (OSError, ValueError, KeyError):
        ranges, families = _of_shipped()
    return tuple(first for first, _ in ranges), tuple(last for _, last in ranges), tuple(families)


def _of_shipped() -> tuple[list[list[int]], list[str]]:
    from fontTools.ttLib import TTFont

    points: set[int] = set()
    for path in SHIPPED.glob("*.ttf"):
        points |= set(TTFont(path, lazy=True).getBestCmap() or {})
    return [[point, point] for point in sorted(points)], ["Noto Sans", "Noto Sans Math"]


def families() -> list[str]:
    """Families that stand in where the report's own has no letter."""
    return list(_known()[2])


def folders() -> list[str]:
    """Where the fonts are."""
    return [str(folder) for folder in (SHIPPED, GATHERED) if folder.is_dir()]


def can_set(sign: str) -> bool:
    """Can some font set this character? What only joins, turns or selects others needs no letter of its own."""
    point = ord(sign)
    if point < 0x7F:
        return True
    firsts, lasts, _ = _known()
    at = bisect_right(firsts, point) - 1
    if at >= 0 and point <= lasts[at]:
        return True
    return unicodedata.category(sign) in ("Cf", "Zl", "Zp", "Zs", "Cc") or 0xFE00 <= point <= 0xFE0F


def code_point(sign: str) -> str:
    """What is printed in place of a character that no font has."""
    return f"[U+{ord(sign):04X}]"


def legible(value: Any) -> Any:
    """Plain data with every character that cannot be set replaced by its code point."""
    if isinstance(value, str):
        if value.isascii():
            return value
        return "".join(sign if can_set(sign) else code_point(sign) for sign in value)
    if isinstance(value, dict):
        return {name: legible(one) for name, one in value.items()}
    if isinstance(value, list | tuple):
        return [legible(part) for part in value]
    return value


def missing(value: Any) -> list[str]:
    """The characters in plain data that cannot be set, each once, in their order."""
    return list(dict.fromkeys(sign for text in _texts(value) for sign in text if not can_set(sign)))


def _texts(value: Any) -> Iterator[str]:
    if isinstance(value, str):
        if not value.isascii():
            yield value
    elif isinstance(value, dict):
        for part in value.values():
            yield from _texts(part)
    elif isinstance(value, list | tuple):
        for part in value:
            yield from _texts(part)
