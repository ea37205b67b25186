"""What is checked live beside Zs and the RCDs: surge devices, leakage by clamp, functional checks (stage 9).

None of it is asked for by itself; whoever does it goes through it in this order, a figure after the other.
"""

from collections.abc import Iterator
from typing import Literal

from dorrik.core.basics.record import record
from dorrik.core.inspection.records import Board
from dorrik.core.judging.topics.context import Context

Group = Literal["surge", "leakage", "functional"]
#: Points that switch, isolate or have a button of their own.
_WITH_A_SWITCH = (
    *("switch", "pull cord", "fused unit", "cooker outlet", "cooker outlet with socket", "fan", "shower"),
    *("fixed equipment", "alarm"),
)
#: What is joined to the surge device's module.
_IN_ITS_PLACE = ("sound", "spent", "not verified")


@record
class LiveCheck:
    """A figure or a tick: with which board, in which group, of which entity and field; hint: how it is done."""

    board_id: str
    group: Group
    entity: str
    entity_id: str
    field: str
    hint: str = ""


def live_checks(context: Context) -> Iterator[LiveCheck]:
    """By board: its surge device, the leakage behind each of its RCDs, then what switches, in the order of the walk."""
    boards = context.inspection.boards
    for number, board in enumerate(boards):
        if board.spd_state in _IN_ITS_PLACE:
            uc = f", marked Uc {board.spd_uc_v:g} V" if board.spd_uc_v else ""
            hint = f"Isolated, the module out of the board{uc}."
            yield LiveCheck(board.id, "surge", "board", board.id, "spd_u_dc_v", hint)
        if number == 0:
            hint = "Clamp round line and neutral of the tails together, everything on."
            yield LiveCheck(board.id, "leakage", "inspection", context.inspection.id, "leakage_ma", hint)
        for device in (rcd for rcd in context.rcds if rcd.board.id == board.id):
            field, hint = device.field("leakage_ma"), "Clamp round line and neutral behind it together."
            yield LiveCheck(board.id, "leakage", device.entity, device.id, field, hint)
        yield from _worked(context, board, last=number == len(boards) - 1)


def _worked(context: Context, board: Board, *, last: bool) -> Iterator[LiveCheck]:
    # Points whose circuit nobody knows come with the last board.
    points = [point for circuit in board.circuits if not circuit.spare for point in circuit.points]
    points += context.inspection.points if last else ()
    rooms = {room.id: place for place, room in enumerate(context.inspection.rooms)}
    walked = sorted(points, key=lambda point: (rooms.get(point.room_id or "", len(rooms)), point.position or 0))
    for point in walked:
        if point.kind in _WITH_A_SWITCH and not point.not_reached:
            hint = "Press its test button." if point.kind == "alarm" else ""
            yield LiveCheck(board.id, "functional", "point", point.id, "functional", hint)
