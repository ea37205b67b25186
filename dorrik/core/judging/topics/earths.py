"""Points and circuits without an earth, one word for one break (rules 5.2, 13.6).

A cpc that breaks in a radial is missing at every point beyond; a circuit wired without one is one statement with its
metal fittings listed.
"""

from collections.abc import Iterator, Sequence
from dataclasses import replace

from dorrik.core.basics.verdict import Verdict
from dorrik.core.electrical import continuity
from dorrik.core.electrical.polarity import LIVE_V, judge_voltages
from dorrik.core.inspection.records import Board, Circuit, Point
from dorrik.core.judging.topics.context import Context, Note, name_of, point_names
from dorrik.core.judging.topics.soundness import feeds_class_i, is_class_ii, needs_earth


def notes(context: Context, board: Board, circuit: Circuit) -> Iterator[Note]:
    """Notes on a circuit's earths: of the whole circuit, or of the points that have none."""
    points = list(point_names(circuit).items())
    if circuit.no_cpc:
        yield Note("circuit", circuit.id, "no_cpc", f"{name_of(circuit)}: no cpc", _whole(circuit, board))
        return
    analysis = context.ring(circuit)
    named_points = {f.point for f in analysis.findings} if analysis is not None else set()
    beyond = _beyond(circuit, [point for _, point in points])
    first = beyond[0] if beyond else None
    for name, point in points:
        if not _bare(point):
            continue
        title, field = f"{name_of(circuit)}: {name}", _field(point)
        if is_class_ii(circuit, point):
            yield Note("point", point.id, field, title, _class_ii(point))
            continue
        if point.class_ii:
            yield Note("point", point.id, "class_ii", f"{title}: class II", _asked(point))
        if name in named_points:
            continue  # the ring's analysis has said it
        if field == "line_neutral_v" and point not in beyond:
            continue  # its voltages say it
        if first is not None and point in beyond and point is not first:
            yield Note("point", point.id, field, title, _judge(point), because_of=(first.id, _field(first)))
        elif point is first and len(beyond) > 1:
            names = ", ".join(n for n, p in points if p in beyond)
            verdict = replace(_judge(point), reason=f"No earth from here on, at {len(beyond)} points: {names}.")
            touches = tuple(p.id for p in beyond)
            yield Note("point", point.id, field, title, verdict, touches=touches)
        else:
            yield Note("point", point.id, field, title, _judge(point))


def _bare(point: Point) -> bool:
    readings = (point.line_cpc_ohm, point.r2_ohm)
    none_read = any(r is not None and r.kind == "over-range" for r in readings)
    return bool(point.no_cpc) or none_read or voltages(point).observation == "no-cpc-at-point"


def voltages(point: Point) -> Verdict:
    """What the voltages of a point say."""
    return judge_voltages(point.line_neutral_v, point.line_earth_v, point.neutral_earth_v)


def says_voltages(context: Context, circuit: Circuit, point: Point) -> bool:
    """Is a missing earth that the voltages show said here, as part of a break, and so not by the voltages again?"""
    if voltages(point).observation != "no-cpc-at-point" or circuit.no_cpc or is_class_ii(circuit, point):
        return False
    return point in _beyond(circuit, circuit.points)


def _earthed(point: Point) -> bool:
    """Was an earth measured there? A point that was not tested says nothing."""
    readings = (point.line_cpc_ohm, point.r2_ohm)
    return any(r is not None and r.value is not None for r in readings) or (point.line_earth_v or 0.0) >= LIVE_V


def _field(point: Point) -> str:
    if point.no_cpc:
        return "no_cpc"
    for name in ("line_cpc_ohm", "r2_ohm"):
        reading = getattr(point, name)
        if reading is not None and reading.kind == "over-range":
            return name
    return "line_neutral_v"


def _beyond(circuit: Circuit, points: Sequence[Point]) -> list[Point]:
    """The points at the end of a radial without earth, one and all: beyond one break. Class II ones
    and those that were not tested are passed by."""
    if circuit.form == "ring":
        return []
    tail: list[Point] = []
    for point in reversed(points):
        bare = _bare(point)
        if is_class_ii(circuit, point) or not (bare or _earthed(point)):
            continue
        if not bare:
            break
        tail.insert(0, point)
    return tail


def _judge(point: Point) -> Verdict:
    if point.no_cpc:
        return Verdict(
            status="fail",
            reason="There is no cpc at this point.",
            source=f"{continuity.SOURCE}.2",
            next_step="Isolate and prove dead. See whether a cpc lies cut off in the box. Restore, test again.",
            observation="no-cpc-at-point",
        )
    if _field(point) == "line_neutral_v":
        return voltages(point)
    reading = point.line_cpc_ohm if _field(point) == "line_cpc_ohm" else point.r2_ohm
    assert reading is not None
    return continuity.judge_point(reading)


def _class_ii(point: Point) -> Verdict:
    return Verdict(
        status="pass",
        reason="No earth reaches this point, and class II equipment needs none.",
        source=f"{continuity.SOURCE}.2",
    )


def _asked(point: Point) -> Verdict:
    """A socket and its like always need an earth: ticked class II they are asked about (rule 5.2)."""
    return Verdict(
        status="attention",
        reason=f"Ticked class II: a {point.kind or 'socket'} needs an earth for what it supplies.",
        source=f"{continuity.SOURCE}.2",
        next_step="Untick class II, or correct the kind of point.",
        asks=True,
    )


def _whole(circuit: Circuit, board: Board) -> Verdict:
    """A circuit wired without a cpc: what is on it decides, and a notice excuses nothing that needs an earth (rule
    5.2)."""
    named = point_names(circuit)
    needed = [name for name, point in named.items() if needs_earth(circuit, point)]
    asked = [name for name, point in named.items() if needs_earth(circuit, point) is None]
    source = "BS 7671 411.3.1.1, 412 · rules 5.2, 13.6"
    if needed or feeds_class_i(circuit):
        on_it = f", and needs one at: {', '.join(needed[:6])}" if needed else f", and feeds {_fed(circuit)}"
        return Verdict(
            status="fail",
            reason=f"The circuit has no cpc{on_it}.",
            source=source,
            next_step=(
                "Isolate and prove dead. Bring an earth to them, or replace them with class II or insulating "
                "ones. Restore, test again."
            ),
            observation="circuit-without-cpc",
        )
    known = bool(named) and not asked
    if board.no_cpc_notice and known:
        return Verdict(
            status="pass",
            reason="The circuit has no cpc; all on it is class II or insulating, and a notice at the board says so.",
            source=source,
        )
    missing = "" if board.no_cpc_notice else ", and no notice at the board says so"
    unseen = f" Front not recorded at {len(asked)} points: {', '.join(asked[:4])}." if asked else ""
    unseen = unseen if named else " What is on it is not listed."
    return Verdict(
        status="attention",
        reason=f"The circuit has no cpc{missing}.{unseen}",
        source=source,
        next_step="Put a notice at the board; see that nothing of metal is fitted on this circuit.",
        observation="circuit-without-cpc",
    )


def _fed(circuit: Circuit) -> str:
    if circuit.appliance is not None:
        return f"a {circuit.appliance}"
    return "sockets" if circuit.serves == "sockets" else "fixed equipment"
