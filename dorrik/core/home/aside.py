"""What is set aside, with everything that belongs to it: a board's circuits, a circuit's points, a room's points, and
the boards that a disconnected circuit feeds."""

from collections.abc import Iterator, Mapping

from dorrik.core.home.placing import all_points
from dorrik.core.inspection.records import Board, Circuit, Inspection, Point, Room
from dorrik.core.inspection.set_aside import SetAside


def aside(inspection: Inspection) -> Mapping[str, SetAside]:
    """By its id everything that is set aside by an agreement in force. Of two the one on the thing itself counts."""
    own = {
        set_aside.about_id: set_aside
        for set_aside in inspection.set_asides
        if set_aside.in_force and set_aside.about_id
    }
    if not own:
        return {}
    set_asides: dict[str, SetAside] = {}
    rooms = {room.id: room for room in inspection.rooms}
    fed: dict[str, list[Board]] = {}
    for board in inspection.boards:
        if board.fed_by:
            fed.setdefault(board.fed_by, []).append(board)

    def put(thing: Board | Circuit | Point | Room, by: SetAside | None) -> None:
        by = own.get(thing.id, by)
        if by is None or thing.id in set_asides:
            return
        set_asides[thing.id] = by
        for below, how in _below(thing, by, fed):
            put(below, how)

    # What has an agreement of its own comes first: it goes before that of what it belongs to.
    everything: list[Board | Circuit | Point | Room] = [
        *inspection.boards,
        *(circuit for board in inspection.boards for circuit in board.circuits),
        *rooms.values(),
        *all_points(inspection),
    ]
    for thing in everything:
        if thing.id in own:
            put(thing, None)
    for point in all_points(inspection):
        if point.room_id in set_asides and point.room_id in rooms:
            put(point, set_asides[point.room_id])
    for board in inspection.boards:
        if board.id in set_asides:
            set_asides |= {rcd.id: set_asides[board.id] for rcd in board.rcds if rcd.id not in set_asides}
    return set_asides


def _below(
    thing: Board | Circuit | Point | Room, by: SetAside, fed: Mapping[str, list[Board]]
) -> Iterator[tuple[Board | Circuit | Point, SetAside]]:
    if isinstance(thing, Board):
        for circuit in thing.circuits:
            yield circuit, by
    elif isinstance(thing, Circuit):
        for point in thing.points:
            yield point, by
        # What it feeds is dead with it; what was merely left out feeds on.
        for board in fed.get(thing.id, ()) if by.disconnected else ():
            yield board, by
