"""Points in rooms with a bath or shower: zone, water protection, sockets and switches (rules 11.1 and 11.2)."""

from collections.abc import Iterator

from dorrik.core import bathroom
from dorrik.core.inspection import Point
from dorrik.core.topics.context import Context, Note, name_of, point_names
from dorrik.core.verdict import Verdict


def notes(context: Context) -> Iterator[Note]:
    """Notes on every point whose height and distance are known."""
    for _, circuit in context.circuits:
        if not any(point.bathroom for point in circuit.outlets):
            continue
        for name, point in point_names(circuit).items():
            if point.bathroom:
                found = _judge(point)
                if found is not None:
                    field = "water_protection" if point.sort not in ("socket", "switch") else "distance_m"
                    yield Note("point", point.id, field, f"{name_of(circuit)}: {name}", found)


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
    if point.sort == "socket":
        edge = distance - (bathroom.NO_BASIN_ZONE_1_M if point.no_basin else 0.0)
        return bathroom.judge_socket(edge)
    if point.sort == "switch":
        return bathroom.judge_switch(zone)
    return bathroom.judge_protection(zone, point.water_protection, jets=bool(point.jets))
