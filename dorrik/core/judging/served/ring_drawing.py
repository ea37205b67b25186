"""A ring as its readings lay it out: the board on the left, each point at its place, spurs outside."""

from collections.abc import Iterator
from math import cos, pi, sin

from dorrik.core.basics.drawing import Anchor, Box, Disc, DiscLook, Drawing, DrawnPart, Path, Words
from dorrik.core.inspection.records import Board, Circuit
from dorrik.core.inspection.set_aside import SetAside
from dorrik.core.judging.topics.bench import Bench, BenchPoint, bench_of
from dorrik.core.judging.topics.context import Context

_WIDE, _HIGH = 400.0, 250.0
_CENTRE, _REACH = (206.0, 125.0), (146.0, 78.0)
#: How far outside the ring the end of a spur stands.
_SPUR = 32.0
_Place = tuple[float, float]


def ring_drawings(context: Context) -> dict[str, Drawing]:
    """The drawing of each ring with points, by the id of its circuit."""
    return dict(context.each_circuit(_of_circuit))


def _of_circuit(context: Context, board: Board, circuit: Circuit) -> Iterator[tuple[str, Drawing]]:
    if circuit.form != "ring" or not circuit.points:
        return
    for bench in context.cells.made(bench_of, context, board, circuit):
        yield circuit.id, _drawing(context, circuit, bench)


def _at(place: float, out: float = 0.0) -> _Place:
    """Where a place from 0 to 1 lies: from the board on the left over the top and back."""
    turn = 2 * pi * place
    return round(_CENTRE[0] - (_REACH[0] + out) * cos(turn), 1), round(_CENTRE[1] - (_REACH[1] + out) * sin(turn), 1)


def _metres(length: float) -> str:
    return f"{length:.1f} m" if length < 10 else f"{length:.0f} m"


def _drawing(context: Context, circuit: Circuit, bench: Bench) -> Drawing:
    left_out = context.aside
    parts = [
        _ring(circuit, bench),
        *_break(bench),
        *(_link(bench, *ends) for ends in bench.across),
        *(
            _dot(context, point, number, left_out.get(point.id), quiet=bool(bench.across) and point.spur_m is not None)
            for number, point in enumerate(bench.points, 1)
            # The socket whose ends are open is drawn as the ends.
            if not (bench.starts_at and point.walked == 0)
        ),
    ]
    return Drawing(says=_says(context, bench), width=_WIDE, height=_HIGH, parts=tuple(parts))


def _says(context: Context, bench: Bench) -> str:
    count = len(bench.points)
    sentences = [f"Ring of {count} point{'' if count == 1 else 's'}"]
    if bench.open:
        sentences[0] += ", open"
    elif bench.length_m:
        sentences[0] += f", {_metres(bench.length_m)} of cable"
    if bench.gap is not None:
        sentences.append(bench.gap.says.rstrip("."))
    sentences += [
        f"{number} {point.name}: {context.book.translate(point.says)}"
        for number, point in enumerate(bench.points, 1)
        if point.says
    ]
    return ". ".join(sentences) + "."


def _ring(circuit: Circuit, bench: Bench) -> DrawnPart:
    (x, y), (wide, high) = _CENTRE, _REACH
    around = f"M{x - wide:g} {y:g}a{wide:g} {high:g} 0 1 1 {2 * wide:g} 0a{wide:g} {high:g} 0 1 1 {-2 * wide:g} 0"
    ends = [str(end) for end in (circuit.r1_ohm, circuit.rn_ohm, circuit.r2_ohm) if end is not None]
    middle = "open" if bench.open else _metres(bench.length_m) if bench.length_m else ""
    board_x, way = _at(0)[0], (circuit.way or "")[:6]
    boxes = [Box(board_x - 20, y - 27, 40, 54, "board")]
    words = [Words(board_x, y + 5, "ends" if bench.starts_at else way, "way", "middle")]
    if bench.starts_at:
        # Opened at a socket, the board is passed on the way round.
        on_x, on_y = _at(bench.board_at)
        boxes.append(Box(on_x - 15, on_y - 15, 30, 30, "board"))
        words.append(Words(on_x, on_y + 5, way, "way", "middle"))
    if middle:
        words.append(Words(x, y - 2, middle, "metres", "middle"))
    if middle and not bench.open:
        words.append(Words(x, y + 20, "of cable round the ring", "quiet", "middle"))
    if ends:
        words.append(Words(x, y + 40, f"ends {' · '.join(ends)} Ω", "quiet", "middle"))
    return DrawnPart(
        boxes=tuple(boxes), paths=(Path(around, "cable open" if bench.open else "cable"),), words=tuple(words)
    )


def _break(bench: Bench) -> Iterator[DrawnPart]:
    """A break across the cable between the two points on either side of the gap, or next to the one that is known."""
    if bench.gap is None:
        return
    places = {point.id: point.walked for point in bench.points}
    before, after = places.get(bench.gap.before or ""), places.get(bench.gap.after or "")
    if before is None and after is None:
        return
    step = 1 / (len(bench.points) + 1)
    first = before if before is not None else (after or 0.0) - step
    last = after if after is not None else (before or 0.0) + step
    x, y = _at((first + last) / 2)
    yield DrawnPart(discs=(Disc(x, y, 12, "blank"),))
    yield DrawnPart(paths=(Path(f"M{x - 9:g} {y - 9:g}l18 18M{x + 9:g} {y - 9:g}l-18 18", "gap"),))


def _link(bench: Bench, one_end: str, other_end: str) -> DrawnPart:
    """A link across the ring, as it may run between the first and the last of the points that read high together."""
    places = {point.id: point.walked for point in bench.points}
    (x, y), (u, v) = _at(places.get(one_end, 0.0)), _at(places.get(other_end, 0.0))
    inwards = ((x + u) / 4 + _CENTRE[0] / 2, (y + v) / 4 + _CENTRE[1] / 2)
    return DrawnPart(
        says="A link across the ring could run here",
        paths=(Path(f"M{x:g} {y:g}Q{inwards[0]:g} {inwards[1]:g} {u:g} {v:g}", "link"),),
    )


def _dot(context: Context, point: BenchPoint, number: int, left_out: SetAside | None, *, quiet: bool) -> DrawnPart:
    place = point.position if point.position is not None else point.walked
    foot = _at(place)
    spur = point.spur_m is not None
    x, y = _at(place, _SPUR) if spur else foot
    look: DiscLook = "dot aside" if left_out is not None else "dot tested" if point.tested else "dot"
    label = left_out.state if left_out is not None else "" if quiet else context.book.translate(point.says)
    # Words lean inwards, so that none is cut off at the side; what a point is called stands in the table.
    anchor: Anchor = "end" if x > _WIDE * 0.7 else "start" if x < _WIDE * 0.3 else "middle"
    return DrawnPart(
        key=point.id,
        paths=(Path(f"M{foot[0]:g} {foot[1]:g}L{x:g} {y:g}", "spur"),) if spur else (),
        discs=(
            *((Disc(*foot, 4, "foot"),) if spur else ()),
            # A thumb hits more than the dot.
            Disc(x, y, 22, "reach"),
            Disc(x, y, 11, look),
        ),
        words=(
            Words(x, y + 4.5, str(number), "number", "middle"),
            *((Words(x, y - 18 if y < _CENTRE[1] else y + 36, label, "says", anchor),) if label else ()),
        ),
    )
