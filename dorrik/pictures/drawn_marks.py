"""What was marked on a photo, drawn over it: arrows, rings and numbers, as SVG."""

from collections.abc import Mapping, Sequence
from math import atan2, cos, hypot, sin
from typing import Any
from xml.sax.saxutils import quoteattr

from dorrik.core.inspection.photo_marks import FIGURES

_LAMP, _INK = "#ffc94d", "#17272b"
Mark = Mapping[str, Any]


def over(picture: str, width: float, height: float, marks: Sequence[Mark], words: str) -> str:
    """A picture with its marks as SVG text. picture: its address, or its data as one; width, height: its sides, in any
    unit; marks: in parts of them; words: for who does not see it."""
    drawn = "".join(_drawn(mark, number, width, height) for mark, number in _numbered(marks))
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" role="img" '
        f'aria-label={quoteattr(words)} viewBox="0 0 {width} {height}" width="{width}" height="{height}">'
        f'<image width="{width}" height="{height}" xlink:href="{picture}"/>{drawn}</svg>'
    )


def _numbered(marks: Sequence[Mark]) -> list[tuple[Mark, int]]:
    count, numbered = 0, []
    for mark in marks:
        count += mark["kind"] == "number"
        numbered.append((mark, count))
    return numbered


def _drawn(mark: Mark, number: int, width: float, height: float) -> str:
    x, y, x2, y2 = mark["x"] * width, mark["y"] * height, mark["x2"] * width, mark["y2"] * height
    unit = max(width, height) / 1000
    match mark["kind"]:
        case "number":
            return (
                f'<circle cx="{x:.1f}" cy="{y:.1f}" r="{FIGURES["disc"] * unit:.1f}" fill="{_LAMP}" stroke="{_INK}" '
                f'stroke-width="{FIGURES["rim"] * unit:.1f}"/>'
                f'<text x="{x:.1f}" y="{y + FIGURES["number_down"] * unit:.1f}" text-anchor="middle" '
                f'font-family="Atkinson Hyperlegible Next" font-weight="700" '
                f'font-size="{FIGURES["number"] * unit:.1f}" '
                f'fill="{_INK}">{number}</text>'
            )
        case "ring":
            shape = (
                f'<ellipse cx="{(x + x2) / 2:.1f}" cy="{(y + y2) / 2:.1f}" rx="{abs(x2 - x) / 2:.1f}" '
                f'ry="{abs(y2 - y) / 2:.1f}"'
            )
        case "arrow":
            shape = f'<path d="{_arrow(x, y, x2, y2, FIGURES["head"] * unit)}"'
        case _:
            return ""
    lines = ((_INK, FIGURES["under"]), (_LAMP, FIGURES["over"]))
    return "".join(
        f'{shape} fill="none" stroke="{ink}" stroke-width="{heavy * unit:.1f}" stroke-linecap="round"/>'
        for ink, heavy in lines
    )


def _arrow(x: float, y: float, x2: float, y2: float, wing: float) -> str:
    if hypot(x2 - x, y2 - y) == 0:
        return f"M{x:.1f} {y:.1f}"
    angle, turned = atan2(y2 - y, x2 - x), FIGURES["head_angle"]
    ends = [f"{x2 - wing * cos(angle + turn):.1f} {y2 - wing * sin(angle + turn):.1f}" for turn in (turned, -turned)]
    return f"M{x:.1f} {y:.1f} L{x2:.1f} {y2:.1f} M{ends[0]} L{x2:.1f} {y2:.1f} L{ends[1]}"
