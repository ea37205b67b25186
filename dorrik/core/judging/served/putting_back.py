"""What tests have taken apart: it lists itself as they are made, and is ticked when it is back (stage 10 of the work).

What has to come off before a test voltage above 250 V stands on the list before the test: electronics seen on the walk,
alarms, surge devices (rules 5.3, 6.1, 10.2).
"""

from collections.abc import Iterator
from dataclasses import replace
from itertools import chain

from dorrik.core.basics.readings import Reading
from dorrik.core.basics.record import record
from dorrik.core.inspection.circuit import Circuit, name_of
from dorrik.core.inspection.point import Point
from dorrik.core.inspection.records import Board
from dorrik.core.judging.topics.context import Context, opened_at

#: What a list of things is shortened to, in words.
MOST_NAMED = 4
_INSULATION = ("insulation_ln_mohm", "insulation_lne_mohm", "insulation_le_mohm", "insulation_ne_mohm")
_ENDS = ("r1_ohm", "rn_ohm", "r2_ohm")
_CROSSED = ("line_neutral_ohm", "line_cpc_ohm")


@record
class PutBack:
    """Something that a test took off, or that has to come off before one.

    item, about_entity, about_id: which thing it is; board_id: of the board that it belongs to ('' where there is none
    yet); says: what is to be seen to, in words; because: which test asks for it; before: has it to come off before a
    test above 250 V?; off: is it off, by a test or by word?; back: was it ticked as back?; open: is it off, and
    not ticked as back?; record_id: of what was entered of it, '' for nothing.
    """

    item: str
    about_entity: str
    about_id: str
    board_id: str
    says: str
    because: str
    before: bool = False
    off: bool = True
    back: bool = False
    open: bool = True
    record_id: str = ""


def things(context: Context) -> tuple[PutBack, ...]:
    """Everything that is to be seen to, board by board in the order of the work."""
    entered = {
        (put_back_record.item, put_back_record.about_id): put_back_record
        for put_back_record in context.inspection.put_backs
    }

    def standing(thing: PutBack) -> PutBack:
        entered_record = entered.get((thing.item, thing.about_id))
        if entered_record is None:
            return thing if thing.off else replace(thing, open=False)
        back = entered_record.back_at is not None
        off = thing.off or entered_record.off_at is not None or back
        return replace(thing, off=off, back=back, open=off and not back, record_id=entered_record.id)

    boards = context.inspection.boards
    listed = chain(_origin(context, boards[0].id if boards else ""), *(_of_board(context, board) for board in boards))
    return tuple(standing(thing) for thing in listed)


def _origin(context: Context, board_id: str) -> Iterator[PutBack]:
    i = context.inspection
    if i.ze_parallel_removed and _read(i.ze_ohm):
        yield PutBack(
            "earthing", "inspection", i.id, board_id, "Main earthing conductor back in its terminal, and tight",
            "Ze was measured with it disconnected.",
        )  # fmt: skip
    for bond in i.bonds:
        if _read(bond.at_clamp_ohm) or _read(bond.at_pipe_ohm):
            yield PutBack(
                "bond", "bond", bond.id, board_id, f"Bond to {bond.service or 'a service'} back in its terminal",
                "It was measured with one end off.",
            )  # fmt: skip


def _of_board(context: Context, board: Board) -> Iterator[PutBack]:
    circuits = [circuit for circuit in board.circuits if not circuit.spare]
    measured = [c for c in circuits if any(_read(getattr(c, field)) for field in _INSULATION)]
    whole = _read(board.insulation_ln_mohm) or _read(board.insulation_lne_mohm)
    tested = bool(measured) or whole
    for circuit in circuits:
        by = context.aside.get(circuit.id)
        if by is not None and by.disconnected:
            yield PutBack(
                "left off", "circuit", circuit.id, board.id,
                f"{name_of(circuit)}: out of its device, its ends in connectors, marked at the board",
                f"It is left disconnected, agreed with {by.agreed_with}.",
            )  # fmt: skip
            continue
        yield from _of_circuit(context, board, circuit)
        yield from _controls(circuit, board)
    if measured:
        yield PutBack(
            "neutrals", "board", board.id, board.id, f"Neutrals back on their bar: {_named(measured)}",
            "Their insulation was measured circuit by circuit.",
        )  # fmt: skip
    if board.spd_state in ("sound", "spent", "not verified"):
        taken = tested or _read(board.spd_u_dc_v)
        yield PutBack(
            "surge", "board", board.id, board.id, "Surge device back in its place",
            "It limits a test above 250 V." if not _read(board.spd_u_dc_v) else "It was tested out of the board.",
            before=True, off=taken,
        )  # fmt: skip
    for circuit in circuits:
        for point in circuit.points:
            because = _delicate(point)
            if because:
                yield PutBack(
                    "point", "point", point.id, board.id, f"{_where(point)} ({name_of(circuit)}) back", because,
                    before=True, off=False,
                )  # fmt: skip
    if tested:
        yield PutBack(
            "loads", "board", board.id, board.id, "Lamps, plugs and switches as they were found",
            "Loads were off for the insulation test.",
        )  # fmt: skip
    if board.electrode_alone and _read(board.electrode_ohm):
        yield PutBack(
            "electrode", "board", board.id, board.id, "Earthing conductor and bonds back on the electrode's terminal",
            "RA was measured with them off.",
        )  # fmt: skip


def _of_circuit(context: Context, board: Board, circuit: Circuit) -> Iterator[PutBack]:
    about = "circuit", circuit.id, board.id
    crossed = any(_read(getattr(point, field)) for point in circuit.points for field in _CROSSED)
    name = name_of(circuit)
    if circuit.form == "ring":
        if crossed or any(_read(getattr(circuit, field)) for field in _ENDS):
            socket = next((_where(p) for p in circuit.points if p.id == opened_at(circuit)), "")
            at = f" at {socket}" if socket else ""
            yield PutBack(
                "ends", *about, f"{name}: all six ends of the ring back in their terminals{at}",
                "They were measured apart.",
            )  # fmt: skip
    elif context.continuity_method(circuit) != "long lead" and (crossed or _read(circuit.r1_r2_ohm)):
        yield PutBack(
            "link", *about, f"{name}: link between line and cpc off, line back in its device", "R1+R2 was measured."
        )


def _read(reading: Reading | None) -> bool:
    """Was something measured? A limitation, or an N/A, took nothing apart."""
    return reading is not None and reading.kind in ("number", "over-range")


def _controls(circuit: Circuit, board: Board) -> Iterator[PutBack]:
    if circuit.controls_bridged:
        yield PutBack(
            "controls", "circuit", circuit.id, board.id, f"{name_of(circuit)}: bridges off its dimmers and controls",
            "They were bridged for the test.",
        )  # fmt: skip
    if circuit.lowered_to_a is not None:
        yield PutBack(
            "lowered", "circuit", circuit.id, board.id,
            f"{name_of(circuit)}: a device of {circuit.lowered_to_a:g} A fitted, and marked at the board",
            "The ring is open: it was lowered for today.",
        )  # fmt: skip


def _delicate(point: Point) -> str:
    """Why a point has to come off before a test above 250 V; '' where nothing is known of it."""
    if point.delicate:
        return f"{point.delicate.capitalize()}: a test above 250 V can harm it, and it makes the reading false."
    return "An alarm: a test above 250 V can harm it." if point.kind == "alarm" else ""


def _where(point: Point) -> str:
    return ", ".join(part for part in (point.room, point.name or point.kind or "point") if part)


def _named(circuits: list[Circuit]) -> str:
    names = [
        f"{name_of(circuit)} at {circuit.neutral_at}" if circuit.neutral_at else name_of(circuit)
        for circuit in circuits
    ]
    more = f" and {len(names) - MOST_NAMED} more" if len(names) > MOST_NAMED else ""
    return ", ".join(names[:MOST_NAMED]) + more
