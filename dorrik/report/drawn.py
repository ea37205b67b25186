"""A drawing of the judgement as SVG for the report: in ink on paper.

Where everything stands is laid out once, in the core (`core/basics/drawing.py`); here is how it looks on paper.
"""

from collections.abc import Iterator
from html import escape

from dorrik.core.basics.drawing import (
    Box,
    BoxLook,
    Disc,
    DiscLook,
    Drawing,
    DrawnPart,
    PathLook,
    Sign,
    Words,
    WordsLook,
)

_INK, _QUIET, _FAINT, _LINE, _HALF, _PAPER = "#17272b", "#4f6065", "#9aa5a4", "#d9dcd6", "#c9cfca", "#ffffff"
_FONT = "&apos;Atkinson Hyperlegible Next&apos;, sans-serif"


def _pen(width: float, ink: str = _INK, *, dash: str = "", fill: str = "none") -> str:
    dashed = f' stroke-dasharray="{dash}"' if dash else ""
    return f'fill="{fill}" stroke="{ink}" stroke-width="{width:g}"{dashed}'


PATHS: dict[PathLook, str] = {
    "supply": _pen(4),
    "feed": _pen(3),
    "earth": _pen(2.5),
    "earth unknown": _pen(2.5, dash="6 5"),
    "bond": _pen(2),
    "bond open": _pen(2, dash="5 4"),
    "pointer": _pen(1, dash="2 3"),
    "ground": _pen(1.5),
    "electrode": _pen(2, _PAPER),
    "electrode below": _pen(2),
    "cable": _pen(2.5),
    "cable open": _pen(2.5, dash="10 7"),
    "gap": _pen(3),
    "link": _pen(2.5, dash="2 6"),
    "spur": _pen(2, dash="4 4"),
    "floor": _pen(2),
    "walls": _pen(2),
    "partition": _pen(5),
    "basin": _pen(2, fill=_HALF),
    "band": f'fill="{_HALF}" opacity="0.55"',
}
#: A box of soil is hatched, one that only widens what a thumb hits is not drawn.
BOXES: dict[BoxLook, str] = {
    "soil": _pen(1.6, _LINE),
    "part": _pen(2, fill=_PAPER),
    "part unknown": _pen(2, fill=_PAPER, dash="6 5"),
    "part absent": _pen(2, _FAINT, fill=_PAPER),
    "reach": "",
    "board": f'fill="{_INK}"',
    "board unconfirmed": _pen(2, fill=_INK, dash="6 5"),
    "zone 0": _pen(2, fill=_HALF),
    "zone 1": _pen(2),
    "zone 2": _pen(1.5, dash="5 5"),
}
DISCS: dict[DiscLook, str] = {
    "end": _pen(2, fill=_INK),
    "end open": _pen(2, fill=_PAPER, dash="5 4"),
    "reach": "",
    "dot": _pen(2, _QUIET, fill=_PAPER, dash="3 3"),
    "dot tested": _pen(2, fill=_PAPER),
    "dot aside": _pen(2, _QUIET, fill=_LINE, dash="3 3"),
    "blank": f'fill="{_PAPER}"',
    "foot": f'fill="{_INK}"',
    "point": _pen(2.5, fill=_PAPER),
    "point wanting": _pen(2.5, fill=_INK),
}
_BOLD = 'font-weight="700"'
WORDS: dict[WordsLook, str] = {
    "title": f'font-size="18" {_BOLD}',
    "line": 'font-size="17"',
    "figure": f'font-size="20" {_BOLD}',
    "beside": 'font-size="17"',
    "small": 'font-size="15"',
    "quiet": f'font-size="15" fill="{_QUIET}"',
    "title of board": f'font-size="18" fill="{_PAPER}" {_BOLD}',
    "line of board": f'font-size="16" fill="{_PAPER}"',
    "metres": f'font-size="26" {_BOLD}',
    "way": f'font-size="14" fill="{_PAPER}" {_BOLD}',
    "number": f'font-size="12" {_BOLD}',
    "says": f'font-size="14" {_BOLD}',
    "measure": f'font-size="13" fill="{_QUIET}"',
    "name": 'font-size="13"',
}


def svg(drawing: Drawing) -> str:
    """The drawing as SVG text."""
    body = "".join(shape for part in drawing.parts for shape in _part(part))
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="{drawing.left:g} {drawing.top:g} {drawing.width:g} '
        f'{drawing.height:g}" font-family="{_FONT}" fill="{_INK}">{body}</svg>'
    )


def _part(part: DrawnPart) -> Iterator[str]:
    yield from map(_box, part.boxes)
    yield from (f'<path d="{path.d}" {PATHS[path.look]}/>' for path in part.paths)
    yield from map(_disc, part.discs)
    yield from map(_sign, part.signs)
    yield from map(_words, part.words)


def _box(box: Box) -> str:
    if box.look == "reach":
        return ""
    if box.look == "soil":
        lean = box.height
        start, end = int(box.x), int(box.x + box.width - lean)
        hatch = "".join(f"M{x} {box.y + lean:g}l{lean:g} {-lean:g}" for x in range(start, end, 14))
        return f'<path d="{hatch}" {BOXES["soil"]}/>'
    corner = 7 if box.look.startswith(("part", "board")) else 0
    return (
        f'<rect x="{box.x:g}" y="{box.y:g}" width="{box.width:g}" height="{box.height:g}" rx="{corner}" '
        f"{BOXES[box.look]}/>"
    )


def _disc(disc: Disc) -> str:
    if disc.look == "reach":
        return ""
    return f'<circle cx="{disc.x:g}" cy="{disc.y:g}" r="{disc.radius:g}" {DISCS[disc.look]}/>'


def _sign(sign: Sign) -> str:
    """A disc that fills up with urgency; on paper nothing for what passes or cannot be judged."""
    if sign.status not in ("fail", "attention"):
        return ""
    ink = _PAPER if sign.inverse else _INK
    full = ink if sign.status == "fail" else "none"
    disc = f'<circle cx="{sign.x:g}" cy="{sign.y:g}" r="8" {_pen(2, ink, fill=full)}/>'
    half = f'<path d="M{sign.x - 8:g} {sign.y:g}a8 8 0 0 0 16 0z" fill="{ink}"/>'
    return disc + half if sign.status == "attention" else disc


def _words(words: Words) -> str:
    anchor = "" if words.anchor == "start" else f' text-anchor="{words.anchor}"'
    return f'<text x="{words.x:g}" y="{words.y:g}" {WORDS[words.look]}{anchor}>{escape(words.text)}</text>'
