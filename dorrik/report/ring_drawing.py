"""A ring as a drawing for the report: the board, each point in the order of the walk, what was found, where it is open.

It is laid out as on screen (`web/src/drawings/RingDrawing.tsx`), in ink on paper.
"""

from html import escape
from math import cos, pi, sin

from dorrik.core.judging.topics.bench import Bench, BenchPoint

_WIDE, _HIGH = 400, 250
_CENTRE, _REACH = (206, 125), (146, 78)
_INK, _QUIET = "#17272b", "#4f6065"


def _at(place: float, out: float = 0.0) -> tuple[float, float]:
    """Where a place from 0 to 1 lies: from the board on the left over the top and back."""
    turn = 2 * pi * place
    return _CENTRE[0] - (_REACH[0] + out) * cos(turn), _CENTRE[1] - (_REACH[1] + out) * sin(turn)


def drawing(bench: Bench, way: str) -> str:
    """The ring as SVG. way: of its circuit at the board."""
    middle = "open" if bench.open else f"{_metres(bench.length_m)} of cable" if bench.length_m else ""
    dashed = ' stroke-dasharray="7 5"' if bench.open else ""
    body = "".join(
        (
            f'<ellipse cx="{_CENTRE[0]}" cy="{_CENTRE[1]}" rx="{_REACH[0]}" ry="{_REACH[1]}" fill="none" '
            f'stroke="{_INK}" stroke-width="2.5"{dashed}/>',
            _text(_CENTRE[0], _CENTRE[1] + 6, middle, size=17, bold=True),
            _break(bench),
            f'<rect x="{_at(0)[0] - 20}" y="{_CENTRE[1] - 27}" width="40" height="54" rx="4" fill="{_INK}"/>',
            _text(_at(0)[0], _CENTRE[1] + 6, "ends" if bench.starts_at else way[:6], size=15, fill="#ffffff"),
            *(
                _dot(point, number)
                for number, point in enumerate(bench.points, 1)
                if not (bench.starts_at and point.walked == 0)
            ),
        )
    )
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {_WIDE} {_HIGH}" '
        f'font-family="&apos;Atkinson Hyperlegible Next&apos;, sans-serif" fill="{_INK}">{body}</svg>'
    )


def in_words(bench: Bench, name: str) -> str:
    """What the drawing shows."""
    told = [f"{name}: {'open' if bench.open else 'ring'} of {len(bench.points)} points"]
    if bench.length_m and not bench.open:
        told.append(f"{_metres(bench.length_m)} of cable")
    if bench.gap is not None:
        told.append(bench.gap.says.rstrip("."))
    told += [
        f"{number} {point.name}: {point.says}" + (f", {_metres(point.spur_m)}" if point.spur_m else "")
        for number, point in enumerate(bench.points, 1)
        if point.says
    ]
    return "; ".join(told) + "."


def _metres(length: float) -> str:
    return f"{length:.1f} m" if length < 10 else f"{length:.0f} m"


def _dot(point: BenchPoint, number: int) -> str:
    x, y = _at(point.walked)
    parts = []
    if point.spur_m is not None:
        out_x, out_y = _at(point.walked, 22)
        parts.append(f'<path d="M{x:.1f} {y:.1f}L{out_x:.1f} {out_y:.1f}" stroke="{_INK}" stroke-width="2.5"/>')
        x, y = out_x, out_y
    filled = _INK if point.says else "#ffffff"
    parts.append(f'<circle cx="{x:.1f}" cy="{y:.1f}" r="10" fill="{filled}" stroke="{_INK}" stroke-width="2"/>')
    parts.append(_text(x, y + 4.5, str(number), size=12, fill="#ffffff" if point.says else _INK))
    return "".join(parts)


def _break(bench: Bench) -> str:
    """A cross between the two points on either side of the gap, or next to the one that is known."""
    if bench.gap is None:
        return ""
    places = {point.id: point.walked for point in bench.points}
    before, after = places.get(bench.gap.before or ""), places.get(bench.gap.after or "")
    if before is None and after is None:
        return ""
    step = 1 / (len(bench.points) + 1)
    first = before if before is not None else (after or 0.0) - step
    last = after if after is not None else (before or 0.0) + step
    x, y = _at((first + last) / 2)
    return (
        f'<circle cx="{x:.1f}" cy="{y:.1f}" r="12" fill="#ffffff"/>'
        f'<path d="M{x - 9:.1f} {y - 9:.1f}l18 18M{x + 9:.1f} {y - 9:.1f}l-18 18" stroke="{_INK}" stroke-width="3"/>'
    )


def _text(x: float, y: float, words: str, *, size: int, bold: bool = False, fill: str = _INK) -> str:
    weight = ' font-weight="bold"' if bold else ""
    return (
        f'<text x="{x:.1f}" y="{y:.1f}" text-anchor="middle" font-size="{size}" fill="{fill}"{weight}>'
        f"{escape(words)}</text>"
    )
