"""Carrying an earlier inspection over into a new one: its boards and circuits as they were, marked unconfirmed, and its
readings as earlier figures to compare with. Nothing measured then is taken for measured now.
"""

from collections.abc import Callable, Iterator, Mapping
from typing import Any

from dorrik.core.basics.record import record
from dorrik.core.inspection.kinds import KINDS, compared, staying
from dorrik.core.inspection.records import Board, Bond, Circuit, Inspection, Point


@record
class CarriedDraft:
    """An entity to be made: its kind, the id of what it belongs to (as given by `ids`), its id and first fields."""

    kind: str
    parent_id: str
    id: str
    fields: dict[str, Any]


def origin(earlier: Inspection) -> dict[str, Any]:
    """Fields of the inspection itself that are carried over, in the form in which they are kept."""
    return _values("inspection", earlier, staying("inspection"))


def drafts(earlier: Inspection, into: str, new_id: Callable[[], str], source: str) -> Iterator[CarriedDraft]:
    """Rooms, boards, circuits, points and bonds of an earlier inspection as entities of the one with the id `into`.

    Everything on a board is unconfirmed; rooms are walked round again. Readings become earlier figures, with their
    day and `source`; those that were earlier figures themselves come along. Parents stand before their children.
    """
    for bond in earlier.bonds:
        yield _bond(bond, into, new_id)
    rooms = {room.id: new_id() for room in earlier.rooms}
    for room in earlier.rooms:
        yield CarriedDraft("room", into, rooms[room.id], _things("room", room))
    for point in earlier.points:
        yield from _point(point, into, new_id, rooms, earlier.inspected_on, source)
    fed: dict[str, str] = {}
    made: list[tuple[Board, str]] = [(board, new_id()) for board in earlier.boards]
    for board in earlier.boards:
        for circuit in board.circuits:
            fed[circuit.id] = new_id()
    for board, board_id in made:
        fields = _things("board", board) | {"unconfirmed": True}
        fields.pop("fed_by", None)
        yield CarriedDraft("board", into, board_id, fields)
        rcds = {rcd.id: new_id() for rcd in board.rcds}
        for rcd in board.rcds:
            yield CarriedDraft("rcd", board_id, rcds[rcd.id], _things("rcd", rcd) | {"unconfirmed": True})
        for circuit in board.circuits:
            behind = rcds.get(circuit.rcd_id or "")
            drafts_of = _circuit(circuit, board_id, fed[circuit.id], new_id, earlier.inspected_on, source, rooms)
            for draft in drafts_of:
                if draft.kind == "circuit":
                    draft.fields.pop("rcd_id", None)
                    draft.fields.update({"rcd_id": behind} if behind else {})
                yield draft
    for board, board_id in made:
        # A board is fed by a circuit of another one, which may stand after it.
        if board.fed_by in fed:
            yield CarriedDraft("board", into, board_id, {"fed_by": fed[board.fed_by]})


def _circuit(
    circuit: Circuit, board_id: str, circuit_id: str, new_id: Callable[[], str], on: str | None, source: str,
    rooms: Mapping[str, str],
) -> Iterator[CarriedDraft]:  # fmt: skip
    yield CarriedDraft("circuit", board_id, circuit_id, _things("circuit", circuit) | {"unconfirmed": True})
    for outlet in circuit.points:
        yield from _point(outlet, circuit_id, new_id, rooms, on, source)
    yield from _earlier(circuit, circuit_id, compared("circuit"), new_id, on, source)


def _earlier(
    thing: Circuit | Point, thing_id: str, figures: tuple[str, ...], new_id: Callable[[], str], on: str | None,
    source: str,
) -> Iterator[CarriedDraft]:  # fmt: skip
    """What a circuit or a point read before, and what it reads now."""
    for before in thing.earlier:
        fields = _values("earlier", before, ("measured_on", "figure", "reading", "source"))
        yield CarriedDraft("earlier", thing_id, new_id(), fields)
    for figure in figures:
        reading = getattr(thing, figure)
        if reading is not None and reading.kind in ("number", "over-range"):
            fields = {"measured_on": on, "figure": figure, "reading": reading.text, "source": source[:120]}
            given = {name: value for name, value in fields.items() if value is not None}
            yield CarriedDraft("earlier", thing_id, new_id(), given)


def _point(
    point: Point, hangs_on: str, new_id: Callable[[], str], rooms: Mapping[str, str], on: str | None, source: str
) -> Iterator[CarriedDraft]:
    room, point_id = rooms.get(point.room_id or ""), new_id()
    fields = _values("point", point, staying("point")) | ({"room_id": room} if room else {})
    yield CarriedDraft("point", hangs_on, point_id, fields)
    # Zs at a point is held against its limit each time; what tells of a change there is its continuity.
    yield from _earlier(point, point_id, compared("point"), new_id, on, source)


def _bond(bond: Bond, into: str, new_id: Callable[[], str]) -> CarriedDraft:
    return CarriedDraft("bond", into, new_id(), _things("bond", bond) | {"unconfirmed": True})


def _things(kind: str, entity: Any) -> dict[str, Any]:
    """Every field of a thing that is carried over: neither its readings nor what belongs to the day."""
    return _values(kind, entity, staying(kind))


def _values(kind: str, entity: Any, names: tuple[str, ...]) -> dict[str, Any]:
    fields = KINDS[kind].fields
    return {n: fields[n].plain(getattr(entity, n)) for n in names if getattr(entity, n) is not None}
