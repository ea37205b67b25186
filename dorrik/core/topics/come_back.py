"""Things to come back to, in walking order: origin, rooms, then boards (stage 4 of the work)."""

from collections.abc import Iterator

from dorrik.core import board_checks, place_checks
from dorrik.core.follow_up import ComeBack
from dorrik.core.inspection import KINDS, Inspection, name_of
from dorrik.core.placing import by_room, room_name, short_names
from dorrik.core.progress import Stage, stage_of
from dorrik.core.record import record
from dorrik.core.schedule import lines

#: Where a thing stands on the way round: origin, rooms, boards, and last what is no longer there.
_ORIGIN, _ROOMS, _BOARDS, _GONE = range(4)
_Order = tuple[int, int, int]


@record(kw_only=True)
class ToComeBack:
    """One open thing. where: what it is about, as it is called now; what: what is still to do, '' for no word; entity,
    entity_id, field: what it is about; stage: where that is entered; board_id: under whose cover it lies, '' for none;
    gone: the thing it is about was removed, so that `where` is what it was called."""

    id: str
    where: str
    what: str
    entity: str
    entity_id: str
    field: str
    stage: Stage
    board_id: str
    gone: bool


@record
class _Spot:
    order: _Order
    where: str
    board_id: str = ""
    #: A check is entered with what it is a check of.
    stage: Stage | None = None


def to_come_back(inspection: Inspection) -> tuple[ToComeBack, ...]:
    """Everything that is still open, in the order in which one walks past it."""
    left = [one for one in inspection.come_backs if one.open]
    if not left:
        return ()
    spots = dict(_spots(inspection))
    return tuple(view for _, view in sorted((_view(one, spots) for one in left), key=lambda pair: pair[0]))


def _view(one: ComeBack, spots: dict[str, _Spot]) -> tuple[tuple[_Order, str], ToComeBack]:
    entity, field = one.about_entity or "inspection", one.field or ""
    spot = spots.get(one.about_id or "")
    gone = spot is None
    if spot is None:
        spot = _Spot((_GONE, 0, 0), one.place or "No longer in this inspection")
    whole = entity == "inspection" and not field and one.place
    spec = KINDS[entity].fields.get(field)
    where = f"{spot.where}: {spec.label}" if spec is not None and not gone else whole or spot.where
    stage: Stage = "walk" if gone else spot.stage or stage_of(entity, field)
    view = ToComeBack(
        id=one.id,
        where=where,
        what=one.what or "",
        entity=entity,
        entity_id=one.about_id or "",
        field=field,
        stage=stage,
        board_id=spot.board_id,
        gone=gone,
    )
    return (spot.order, one.id), view


def _spots(i: Inspection) -> Iterator[tuple[str, _Spot]]:
    """Where each thing of the inspection stands, by its id; a point in its room before one on its circuit."""
    yield from _of_boards(i)
    yield i.id, _Spot((_ORIGIN, 0, 0), "Origin of the supply", stage="intake")
    labels = {line.key: line.label for line in lines()}
    for check in i.checks:
        yield check.id, _Spot((_ORIGIN, 0, 0), labels.get(check.item or "", "Inspection schedule"), stage="walk")
    for number, bond in enumerate(i.bonds, 1):
        yield bond.id, _Spot((_ORIGIN, number, 0), f"Bond to {bond.service or 'a service'}")
    looks = place_checks.room_checks()
    points = by_room(i)
    for number, room in enumerate(i.rooms, 1):
        name = room_name(room, number)
        yield room.id, _Spot((_ROOMS, number, 0), name)
        for check in room.checks:
            look = looks.get(check.item or "")
            yield check.id, _Spot((_ROOMS, number, 0), f"{name}: {look.label if look else 'a check'}", stage="walk")
        here = points.get(room.id, [])
        for at, (point, short) in enumerate(zip(here, short_names(here), strict=True), 1):
            yield point.id, _Spot((_ROOMS, number, at), short if short.startswith(name) else f"{name}, {short}")
    loose = points.get("", [])
    on_circuit = {p.id for board in i.boards for circuit in board.circuits for p in circuit.points}
    for at, (point, short) in enumerate(zip(loose, short_names(loose), strict=True), 1):
        if point.id not in on_circuit:
            yield point.id, _Spot((_ROOMS, len(i.rooms) + 1, at), short)


def _of_boards(i: Inspection) -> Iterator[tuple[str, _Spot]]:
    labels = board_checks.items()
    for number, board in enumerate(i.boards, 1):
        name = board.name or f"Board {number}"
        on = f"{name}, " if len(i.boards) > 1 else ""
        yield board.id, _Spot((_BOARDS, number, 0), name, board.id)
        for check in board.checks:
            item = labels.get(check.item or "")
            where = f"{name}: {item.label if item else 'a check'}"
            yield check.id, _Spot((_BOARDS, number, 0), where, board.id, "boards")
        for rcd in board.rcds:
            yield rcd.id, _Spot((_BOARDS, number, 0), f"{on}{rcd.name or 'RCD'}", board.id)
        for way, circuit in enumerate(board.circuits, 1):
            yield circuit.id, _Spot((_BOARDS, number, way), f"{on}{name_of(circuit)}", board.id)
            for point, short in zip(circuit.points, short_names(circuit.points), strict=True):
                where = ", ".join(part for part in (name_of(circuit), point.room, short) if part)
                yield point.id, _Spot((_BOARDS, number, way), where)
