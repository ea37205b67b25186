"""What a point is told by its room: its name, that it stands by a bath, and how far from it (rules 11.1, 12.1).

The rules read a point by itself; what a room says of all its points is written into them once, before they are judged.
"""

from collections import defaultdict
from collections.abc import Iterator, Mapping, Sequence
from math import inf
from typing import Any

from dorrik.core.book.reference import cached
from dorrik.core.electrical.bathroom_plan import BathroomPlan, Partition
from dorrik.core.inspection.incremental_rewrite import Rewritten
from dorrik.core.inspection.point import Point
from dorrik.core.inspection.records import Inspection
from dorrik.core.inspection.room import BATH, Room

#: Where a wall ends that nobody measured (m).
_FAR_M = 60.0
#: Length and width (m) that a bath or a tray is drawn with where nobody typed its size.
USUAL_BASINS_M = {"bath": (1.7, 0.7), "shower tray": (0.8, 0.8)}


def placed(inspection: Inspection) -> Inspection:
    """The inspection with every point of a room told what its room says. Points that hang in none stay as they are."""
    room_facts = told_by_rooms(inspection)
    if not room_facts:
        return inspection
    return Rewritten().of(
        inspection, room_facts, lambda kind, entity: room_facts.get(entity.id, {}) if kind == "point" else {}
    )


def told_by_rooms(inspection: Inspection) -> dict[str, dict[str, Any]]:
    """What each point that hangs in a room is told by it: fields by the id of the point."""
    rooms = {room.id: room for room in inspection.rooms}
    if not rooms:
        return {}
    names = _names(inspection, rooms)
    return {
        point.id: _facts_of_point(point, rooms[point.room_id], names[point.id])
        for point in all_points(inspection)
        if point.room_id in rooms
    }


def all_points(inspection: Inspection) -> list[Point]:
    """Every point, those without a circuit last."""
    on_circuits = [p for board in inspection.boards for circuit in board.circuits for p in circuit.points]
    return [*on_circuits, *inspection.points]


def by_room(inspection: Inspection) -> dict[str, list[Point]]:
    """Points by the id of their room, in the order of the walk; '' for those that hang in none that stands."""
    known = {room.id for room in inspection.rooms}
    points_in: dict[str, list[Point]] = defaultdict(list)
    for point in sorted(all_points(inspection), key=lambda p: (p.position or 0, p.id)):
        points_in[point.room_id if point.room_id in known else ""].append(point)
    return dict(points_in)


def room_name(room: Room, number: int = 0) -> str:
    """What a room is called: its name, else its kind, else its number on the walk."""
    return room.name or (room.kind or f"Room {number}").capitalize()


def _names(inspection: Inspection, rooms: Mapping[str, Room]) -> dict[str, str]:
    """Names by id: a point without one is its room, its kind and its number among its like."""
    order = {room.id: number for number, room in enumerate(inspection.rooms, 1)}
    names = {}
    for room_id, points in by_room(inspection).items():
        if not room_id:
            continue
        where = room_name(rooms[room_id], order[room_id])
        for point, short in zip(points, short_names(points), strict=True):
            names[point.id] = point.name or f"{where} {short}"
    return names


def short_names(points: Sequence[Point]) -> list[str]:
    """What the points of one room are called within it: their own name, else their kind, numbered where it repeats."""
    kinds = [point.kind or "point" for point in points]
    counted: dict[str, int] = defaultdict(int)
    names = []
    for point, kind in zip(points, kinds, strict=True):
        counted[kind] += 1
        names.append(point.name or (f"{kind} {counted[kind]}" if kinds.count(kind) > 1 else kind))
    return names


def _facts_of_point(point: Point, room: Room, name: str) -> dict[str, Any]:
    facts: dict[str, Any] = {"name": name, "room": room_name(room)}
    if room.kind != BATH and room.basin is None:
        return facts
    facts |= {"bathroom": True, "jets": point.jets if point.jets is not None else room.jets}
    facts["shower_head_m"] = point.shower_head_m or room.shower_head_m
    if point.no_basin is None and room.basin is not None:
        facts["no_basin"] = room.basin == "no tray"
    plan = plan_of(room)
    if plan is not None and point.plan_x_m is not None and point.plan_y_m is not None:
        away = plan.distance_m((point.plan_x_m, point.plan_y_m), point.height_m or 0.0)
        facts |= {"screened": True, "distance_m": 0.0} if away == inf else {"distance_m": round(away, 3)}
    return facts


def _walls(length: float | None, width: float | None) -> Iterator[Partition]:
    right, near = length or _FAR_M, width or _FAR_M
    yield Partition((0.0, 0.0), (0.0, near))
    yield Partition((0.0, 0.0), (right, 0.0))
    if length is not None:
        yield Partition((right, 0.0), (right, near))
    if width is not None:
        yield Partition((0.0, near), (right, near))


def plan_of(room: Room) -> BathroomPlan | None:
    """The plan of a room with a bath or shower; None where it has none. A bath without a size is of the usual one."""
    if room.basin is None:
        return None
    partitions = tuple(
        sorted((name, metres) for name, metres in partition.items()) for partition in room.partitions or ()
    )
    return _plan(
        room.basin, room.basin_x_m, room.basin_y_m, room.basin_length_m, room.basin_width_m,
        tuple(map(tuple, partitions)), room.shower_head_m, room.length_m, room.width_m,
    )  # fmt: skip


@cached
def _plan(
    basin: str, x: float | None, y: float | None, length: float | None, width: float | None,
    partitions: tuple[tuple[tuple[str, float], ...], ...], shower_head_m: float | None,
    room_length: float | None, room_width: float | None,
) -> BathroomPlan:  # fmt: skip
    left, far = x or 0.0, y or 0.0
    screens = [dict(partition) for partition in partitions]
    lines = tuple(Partition((p["x1"], p["y1"]), (p["x2"], p["y2"]), p.get("top_m")) for p in screens)
    # No string leads round a screen through the wall it stands against: the plan begins at two walls, and ends at two
    # more where somebody measured.
    lines = (*lines, *_walls(room_length, room_width))
    if basin == "no tray":
        return BathroomPlan(((left, far),), lines, shower_head_m)
    usual = USUAL_BASINS_M.get(basin or "", USUAL_BASINS_M["shower tray"])
    right, near = left + (length or usual[0]), far + (width or usual[1])
    return BathroomPlan(((left, far), (right, far), (right, near), (left, near)), lines, shower_head_m)
