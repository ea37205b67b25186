"""Where each thing of an inspection stands on the way round: the origin, room by room, then board by board, and what it
is called there."""

from collections.abc import Iterator

from dorrik.core.basics.record import record
from dorrik.core.book import board_checks
from dorrik.core.home import place_checks
from dorrik.core.home.placing import by_room, room_name, short_names
from dorrik.core.inspection.records import Inspection, name_of
from dorrik.core.inspection.stages import Stage
from dorrik.core.judging.coverage.schedule import lines

#: Origin, rooms, boards, and last what is no longer there.
ORIGIN, ROOMS, BOARDS, GONE = range(4)
Order = tuple[int, int, int]


@record
class Spot:
    """order: by which things are sorted; where: what it is called; board_id: under whose cover it lies, '' for none;
    stage: where it is entered if that does not follow from its kind, as with a check."""

    order: Order
    where: str
    board_id: str = ""
    stage: Stage | None = None


def spots(inspection: Inspection) -> dict[str, Spot]:
    """Where everything stands, by its id. A point stands in its room before it stands on its circuit."""
    return dict(_spots(inspection))


def names(inspection: Inspection) -> dict[str, str]:
    """What everything is called, by its id, in walking order."""
    return {key: spot.where for key, spot in sorted(spots(inspection).items(), key=lambda pair: pair[1].order)}


def _spots(i: Inspection) -> Iterator[tuple[str, Spot]]:
    yield from _of_boards(i)
    yield i.id, Spot((ORIGIN, 0, 0), "Origin of the supply", stage="intake")
    labels = {line.key: line.label for line in lines()}
    for check in i.checks:
        yield check.id, Spot((ORIGIN, 0, 0), labels.get(check.item or "", "Inspection schedule"), stage="walk")
    for number, bond in enumerate(i.bonds, 1):
        yield bond.id, Spot((ORIGIN, number, 0), f"Bond to {bond.service or 'a service'}")
    looks = place_checks.room_checks()
    points = by_room(i)
    for number, room in enumerate(i.rooms, 1):
        name = room_name(room, number)
        yield room.id, Spot((ROOMS, number, 0), name)
        for check in room.checks:
            look = looks.get(check.item or "")
            yield check.id, Spot((ROOMS, number, 0), f"{name}: {look.label if look else 'a check'}", stage="walk")
        here = points.get(room.id, [])
        for at, (point, short) in enumerate(zip(here, short_names(here), strict=True), 1):
            yield point.id, Spot((ROOMS, number, at), short if short.startswith(name) else f"{name}, {short}")
    loose = points.get("", [])
    on_circuit = {p.id for board in i.boards for circuit in board.circuits for p in circuit.points}
    for at, (point, short) in enumerate(zip(loose, short_names(loose), strict=True), 1):
        if point.id not in on_circuit:
            yield point.id, Spot((ROOMS, len(i.rooms) + 1, at), short)


def _of_boards(i: Inspection) -> Iterator[tuple[str, Spot]]:
    labels = board_checks.items()
    for number, board in enumerate(i.boards, 1):
        name = board.name or f"Board {number}"
        on = f"{name}, " if len(i.boards) > 1 else ""
        yield board.id, Spot((BOARDS, number, 0), name, board.id)
        for check in board.checks:
            item = labels.get(check.item or "")
            where = f"{name}: {item.label if item else 'a check'}"
            yield check.id, Spot((BOARDS, number, 0), where, board.id, "boards")
        for rcd in board.rcds:
            yield rcd.id, Spot((BOARDS, number, 0), f"{on}{rcd.name or 'RCD'}", board.id)
        for way, circuit in enumerate(board.circuits, 1):
            yield circuit.id, Spot((BOARDS, number, way), f"{on}{name_of(circuit)}", board.id)
            for point, short in zip(circuit.points, short_names(circuit.points), strict=True):
                where = ", ".join(part for part in (name_of(circuit), point.room, short) if part)
                yield point.id, Spot((BOARDS, number, way), where)
