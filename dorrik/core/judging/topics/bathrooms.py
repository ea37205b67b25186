"""Points in rooms with a bath or shower: zone, water protection, switches and sockets, and what is touched together
(rules 3.7, 11.1 and 11.2)."""

from collections.abc import Iterator

from dorrik.core.basics.verdict import Verdict
from dorrik.core.electrical import bathroom, bonding
from dorrik.core.inspection.records import Circuit, Point
from dorrik.core.judging.topics.context import Context, Note, is_measured, name_of
from dorrik.core.judging.topics.soundness import circuits_of_bathroom, supplementary_current_a

#: Kinds of point that are judged by their place and not by their water protection.
PLACED = (
    "socket",
    "switch",
    "fused unit",
    "cooker outlet",
    "cooker outlet with socket",
    "shaver supply unit",
    "pull cord",
)


def notes(context: Context) -> Iterator[Note]:
    """Notes on every point whose height and distance are known, and on supplementary bonding that was measured."""
    for circuit, name, point in context.points():
        title = f"{name_of(circuit)}: {name}" if circuit is not None else name
        if point.bathroom:
            verdict = judge_place(point)
            if verdict is not None:
                field = "distance_m" if point.kind in PLACED else "water_protection"
                yield Note("point", point.id, field, title, verdict)
        if is_measured(point.supplementary_ohm):
            with_what = point.accessible_with or "what is touched together with it"
            yield Note(
                "point", point.id, "supplementary_ohm", f"{title} and {with_what}",
                _supplementary(context, circuit, point),
            )  # fmt: skip


def zone_of(point: Point) -> bathroom.Zone | None:
    """The zone of a point in a room with a bath or shower; None where its place is not known."""
    if not point.bathroom or point.height_m is None or (point.distance_m is None and not point.inside_basin):
        return None
    return bathroom.zone(
        point.height_m,
        point.distance_m or 0.0,
        inside_basin=bool(point.inside_basin),
        basin=not point.no_basin,
        shower_head_m=point.shower_head_m,
        behind_partition=bool(point.screened),
    )


def judge_place(point: Point) -> Verdict | None:
    """A point held against its zone; None where its place is not known."""
    zone = zone_of(point)
    if zone is None:
        return None
    if point.kind in ("socket", "cooker outlet with socket"):
        edge = (point.distance_m or 0.0) - (bathroom.NO_BASIN_ZONE_1_M if point.no_basin else 0.0)
        return bathroom.judge_socket(edge)
    if point.kind in PLACED:
        return bathroom.judge_switch(zone, shaver_supply=point.kind == "shaver supply unit")
    return bathroom.judge_protection(
        zone, point.water_protection, jets=bool(point.jets), unmarked=bool(point.ip_unmarked)
    )


def _supplementary(context: Context, circuit: Circuit | None, point: Point) -> Verdict:
    """R ≤ 50/Ia, by the largest device whose circuit enters the room, or IΔn where a working RCD is relied on for
    all."""
    circuits = circuits_of_bathroom(context, point)
    if circuit is None and not circuits:
        current: float | str = "Its circuit is not known yet: link it."
    else:
        current = supplementary_current_a(context, circuits)
    if isinstance(current, str):
        return Verdict(status="unknown", reason=current, source="BS 7671 415.2.2, R ≤ 50/Ia · rule 3.7")
    return bonding.judge_supplementary(point.supplementary_ohm, current)
