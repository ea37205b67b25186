"""Zones round a bath or shower, from the side and from above, with the points where they stand (rule 11.1)."""

from collections.abc import Iterator, Sequence
from math import ceil
from typing import Any

from dorrik.core.basics.drawing import Box, Disc, Drawing, DrawnPart, Path, Scale, Words
from dorrik.core.basics.record import record
from dorrik.core.book.reference import cached
from dorrik.core.electrical import bathroom, bathroom_plan
from dorrik.core.home import placing
from dorrik.core.inspection.point import Point
from dorrik.core.inspection.records import Room

#: Fineness of the drawn zones (m).
_STEP_M = 0.05
#: Units of the drawing to a metre.
_PER_M = 100.0
#: How far from the basin the side is drawn, the lowest ceiling and the rim of a bath (m).
_AWAY_M, _CEILING_M, _RIM_M = 1.9, 2.4, 0.55


@record
class BathDrawings:
    """A bath or shower from the side and from above."""

    side: Drawing
    above: Drawing


@record
class ZonePoint:
    """A point of the room; name: within it; wanting: is what its zone asks for not shown to be met?"""

    point: Point
    name: str
    wanting: bool


@record
class _Zones:
    """The zones of a plan (m): zone 1 and zone 2 as strips (y, from x, to x), each `_STEP_M` high; wide: how long the
    basin is, 0 for an outlet without one; top_m: their upper edge; reach_m: how far zone 2 reaches, or zone 1 round an
    outlet."""

    basin: tuple[tuple[float, ...], ...]
    bands: tuple[tuple[float, ...], ...]
    wide_m: float
    top_m: float
    reach_m: float
    length_m: float
    width_m: float

    @property
    def outlet(self) -> bool:
        """Is it an outlet without a basin?"""
        return len(self.basin) < 3


def bath_drawings(room: Room, points: Sequence[ZonePoint]) -> BathDrawings | None:
    """The drawings of a room with a bath or shower; None where it has none."""
    plan = placing.plan_of(room)
    if plan is None:
        return None
    zones = _zones(plan, room.length_m, room.width_m)
    return BathDrawings(_side(zones, points), _above(zones, points, room.partitions or ()))


@cached
def _zones(plan: bathroom_plan.BathroomPlan, length_m: float | None, width_m: float | None) -> _Zones:
    reach = bathroom.ZONE_2_M if plan.has_basin else bathroom.NO_BASIN_ZONE_1_M
    xs, ys = [x for x, _ in plan.basin], [y for _, y in plan.basin]
    return _Zones(
        basin=tuple(plan.basin),
        # Drawn at the height where most screens stand; what is placed is judged at its own.
        bands=plan.band(reach, 1.0, _STEP_M),
        wide_m=max(xs) - min(xs) if plan.has_basin else 0.0,
        top_m=max(bathroom.HEIGHT_M, plan.shower_head_m or 0.0),
        reach_m=reach,
        length_m=length_m or ceil(2 * (max(xs) + 1.2)) / 2,
        width_m=width_m or ceil(2 * (max(ys) + 1.2)) / 2,
    )


def _dots(places: Sequence[tuple[ZonePoint, float, float]]) -> Iterator[DrawnPart]:
    for at, (placed_point, x, y) in enumerate(places):
        x, y = round(x, 1), round(y, 1)
        yield DrawnPart(
            key=placed_point.point.id,
            discs=(Disc(x, y, 22, "reach"), Disc(x, y, 9, "point wanting" if placed_point.wanting else "point")),
            # Names of neighbours stand above and below in turn.
            words=(Words(x, y + 24 if at % 2 else y - 15, placed_point.name, "name", "middle"),),
        )


def _side(zones: _Zones, points: Sequence[ZonePoint]) -> Drawing:
    """Bath or tray, the zones beside and above it, heights to scale."""
    wide, reach, top = zones.wide_m * _PER_M, zones.reach_m * _PER_M, zones.top_m
    away, ceiling = _AWAY_M * _PER_M, max(top, _CEILING_M) + 0.15
    left, width = -70.0, wide + away + 100

    def y(metres: float) -> float:
        return round((ceiling - metres) * _PER_M, 1)

    high = top * _PER_M
    boxes = [Box(0, y(top), reach if zones.outlet else wide, high, "zone 1")]
    words = [
        Words(10 if zones.outlet else wide / 2, y(0.7), "zone 1", "line", "start" if zones.outlet else "middle"),
        Words(-8, y(top) + 12, f"{top:.2f} m", "measure", "end"),
        Words(wide + reach + 8, y(0) + 18, f"{zones.reach_m:.1f} m", "measure"),
    ]
    if not zones.outlet:
        boxes += [
            Box(0, y(_RIM_M), wide, _RIM_M * _PER_M, "zone 0"),
            Box(wide, y(top), reach, high, "zone 2"),
        ]
        words += [
            Words(wide / 2, y(0.2), "zone 0", "line", "middle"),
            Words(wide + reach / 2, y(0.2), "zone 2", "line", "middle"),
        ]
    standing = [
        placed_point
        for placed_point in points
        if placed_point.point.height_m is not None and _distance(placed_point.point) is not None
    ]
    over = [placed_point for placed_point in standing if not _distance(placed_point.point)]
    places = []
    for placed_point in standing:
        distance = _distance(placed_point.point) or 0.0
        # Over the bath nothing says where along it: side by side.
        beside = (
            0.0 if zones.outlet else wide * (over.index(placed_point) + 1) / (len(over) + 1) if not distance else 0.0
        )
        x = min(wide + distance * _PER_M, wide + away) if distance else beside
        places.append((placed_point, x, y(placed_point.point.height_m or 0.0)))
    return Drawing(
        says=f"Zones from the side: {'no tray' if zones.outlet else 'bath or tray'}, up to {top:g} m",
        width=width,
        height=ceiling * _PER_M + 30,
        left=left,
        top=-8.0,
        parts=(
            DrawnPart(
                boxes=tuple(boxes),
                paths=(Path(f"M{left:g} {y(0):g}h{width:g}", "floor"),),
                words=tuple(words),
            ),
            *_dots(places),
        ),
        scale=Scale(x=wide, y=ceiling * _PER_M, per_m=_PER_M, up=True),
    )


def _distance(point: Point) -> float | None:
    """From the edge of the bath or tray (m); None where nobody said, or a screen stands before it all round."""
    return None if point.screened and not point.distance_m else point.distance_m


def _above(zones: _Zones, points: Sequence[ZonePoint], partitions: Sequence[dict[str, Any]]) -> Drawing:
    """The room with its bath, fixed partitions, and how far the zones reach round them."""
    long, broad = zones.length_m * _PER_M, zones.width_m * _PER_M
    corners = "L".join(f"{x * _PER_M:g} {y * _PER_M:g}" for x, y in zones.basin)
    seen = [
        placed_point
        for placed_point in points
        if placed_point.point.plan_x_m is not None and placed_point.point.plan_y_m is not None
    ]
    return Drawing(
        says="The room from above, with its zones",
        width=long + 24,
        height=broad + 40,
        left=-12.0,
        top=-22.0,
        parts=(
            DrawnPart(
                paths=(
                    Path("".join(_bands(zones)), "band"),
                    *(() if zones.outlet else (Path(f"M{corners}z", "basin"),)),
                    Path(f"M0 0H{long:g}V{broad:g}H0z", "walls"),
                    *(_partition(partition) for partition in partitions),
                ),
                words=(Words(long, -8, f"{zones.length_m:g} × {zones.width_m:g} m", "measure", "end"),),
            ),
            *_dots(
                [
                    (
                        placed_point,
                        (placed_point.point.plan_x_m or 0) * _PER_M,
                        (placed_point.point.plan_y_m or 0) * _PER_M,
                    )
                    for placed_point in seen
                ]
            ),
        ),
        scale=Scale(x=0.0, y=0.0, per_m=_PER_M, up=False),
    )


def _bands(zones: _Zones) -> Iterator[str]:
    """Strips as far as the walls go."""
    for y, start, end in zones.bands:
        start, end = max(start, 0.0), min(end, zones.length_m)
        low = min(y + _STEP_M, zones.width_m)
        if start < end and max(y, 0.0) < low:
            yield (
                f"M{start * _PER_M:g} {max(y, 0.0) * _PER_M:g}H{end * _PER_M:g}V{low * _PER_M:g}H{start * _PER_M:g}z"
            )


def _partition(partition: dict[str, float]) -> Path:
    (x1, y1), (x2, y2) = (partition["x1"], partition["y1"]), (partition["x2"], partition["y2"])
    return Path(f"M{x1 * _PER_M:g} {y1 * _PER_M:g}L{x2 * _PER_M:g} {y2 * _PER_M:g}", "partition")
