"""Points in rooms with a bath or shower: zone, water protection, switches and sockets, and what is touched together
(rules 3.7, 11.1 and 11.2)."""

from collections.abc import Iterator

from dorrik.core import bathroom, bonding, devices
from dorrik.core.inspection import Circuit, Point
from dorrik.core.topics.context import Context, Note, is_measured, name_of, point_names
from dorrik.core.verdict import Verdict

#: Kinds of point that are judged by their place and not by their water protection.
_PLACED = ("socket", "switch", "fused unit", "cooker outlet", "cooker outlet with socket", "shaver supply unit")


def notes(context: Context) -> Iterator[Note]:
    """Notes on every point whose height and distance are known, and on supplementary bonding that was measured."""
    for _, circuit in context.circuits:
        for name, point in point_names(circuit).items():
            if point.bathroom:
                found = _judge(point)
                if found is not None:
                    field = "distance_m" if point.kind in _PLACED else "water_protection"
                    yield Note("point", point.id, field, f"{name_of(circuit)}: {name}", found)
            if is_measured(point.supplementary_ohm):
                with_what = point.accessible_with or "what is touched together with it"
                title = f"{name_of(circuit)}: {name} and {with_what}"
                yield Note("point", point.id, "supplementary_ohm", title, _supplementary(context, circuit, point))


def _judge(point: Point) -> Verdict | None:
    if point.height_m is None or (point.distance_m is None and not point.inside_basin):
        return None
    distance = point.distance_m or 0.0
    zone = bathroom.zone(
        point.height_m,
        distance,
        inside_basin=bool(point.inside_basin),
        basin=not point.no_basin,
        shower_head_m=point.shower_head_m,
        behind_partition=bool(point.screened),
    )
    if point.kind in ("socket", "cooker outlet with socket"):
        edge = distance - (bathroom.NO_BASIN_ZONE_1_M if point.no_basin else 0.0)
        return bathroom.judge_socket(edge)
    if point.kind in _PLACED:
        return bathroom.judge_switch(zone, shaver_supply=point.kind == "shaver supply unit")
    return bathroom.judge_protection(zone, point.water_protection, jets=bool(point.jets))


def _supplementary(context: Context, circuit: Circuit, point: Point) -> Verdict:
    """R ≤ 50/Ia: by the RCD in front where there is one, else by the circuit's device within 5 s."""
    rated = context.rated_ma(circuit)
    if rated:
        return bonding.judge_supplementary(point.supplementary_ohm, rated / 1000)
    source = "BS 7671 415.2.2, R ≤ 50/Ia · rule 3.7"
    if not (circuit.device_standard and circuit.device_type and circuit.device_rating_a):
        reason = "Standard, type and rating of the circuit's device are needed."
        return Verdict(status="unknown", reason=reason, source=source)
    try:
        ia_a = devices.operating_current_a(circuit.device_standard, circuit.device_type, circuit.device_rating_a, 5.0)
    except LookupError as error:
        return Verdict(status="unknown", reason=str(error), source=source)
    return bonding.judge_supplementary(point.supplementary_ohm, ia_a)
