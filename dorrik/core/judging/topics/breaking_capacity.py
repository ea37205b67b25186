"""Prospective fault current against what the devices can break, board by board (rule 3.4)."""

from collections.abc import Iterator
from dataclasses import replace

from dorrik.core.basics.readings import Reading
from dorrik.core.electrical import devices, fault_current
from dorrik.core.inspection.records import Board, Circuit
from dorrik.core.judging.topics.context import Context, Note, is_measured, name_of

#: A circuit on all phases has a device of more than one pole, between whose poles the greater current can flow.
_ALL_POLES = "all three"


def notes(context: Context) -> Iterator[Note]:
    """One note a board, on its weakest device; a note per circuit would say the same twelve times."""
    i = context.inspection
    fuse_a = i.switch_fuse_a or i.service_fuse_a
    for board in i.boards:
        at_board = _at_board(context, board)
        if at_board is None or not is_measured(at_board):
            continue
        one_pole = _weakest(board, poles=False)
        all_poles = _weakest(board, poles=True)
        for weakest, current, fault in (
            (one_pole, at_board, ""),
            (all_poles, _between(context, at_board), f"Between lines ({context.house.three_phase_fault}): "),
        ):
            if weakest is None or current is None:
                continue
            verdict = fault_current.judge_breaking_capacity(
                current,
                weakest[0],
                board.conditional_ka,
                behind=fault_current.backing(i.service_fuse_standard),
                fuse_a=fuse_a,
            )
            title = f"{board.name or 'Board'}: fault current against {name_of(weakest[1])}"
            verdict = replace(verdict, reason=f"{fault}{verdict.reason}")
            yield Note("board", board.id, "conditional_ka", title, verdict)


def _at_board(context: Context, board: Board) -> Reading | None:
    """The fault current at a board (kA): what was recorded, or by its own Zdb where it stands further on.

    Behind an electrode its loop says nothing of line to neutral: there the origin's figure stands, which is never less.
    """
    feed, zdb = context.tree.feed(board), board.zdb_ohm
    if feed is None or context.earth(board).tt or zdb is None or not zdb.value or zdb.bound is not None:
        return context.sure_pfc_ka
    return Reading.of(fault_current.fault_current_a(zdb.value) / 1000)


def _between(context: Context, measured: Reading) -> Reading | None:
    if context.inspection.phases != "3" or measured.value is None:
        return None
    safe = context.house.three_phase_fault.startswith("2")
    return Reading.of(fault_current.line_to_line_a(measured.value, safe=safe), measured.bound)


def between_lines_ka(context: Context) -> Reading | None:
    """The estimated fault current between lines (kA) of a three-phase supply; None on one phase."""
    return None if context.pfc_ka is None else _between(context, context.pfc_ka)


def _weakest(board: Board, *, poles: bool) -> tuple[float, Circuit] | None:
    capacities = [
        (capacity, circuit)
        for circuit in board.circuits
        if not circuit.spare
        and (circuit.phase == _ALL_POLES) == poles
        and (capacity := _breaking_ka(circuit)) is not None
    ]
    return min(capacities, key=lambda pair: pair[0], default=None)


def _breaking_ka(circuit: Circuit) -> float | None:
    if circuit.device_breaking_ka is not None:
        return circuit.device_breaking_ka
    if not (circuit.device_standard and circuit.device_type and circuit.device_rating_a):
        return None
    try:
        return devices.find(circuit.device_standard, circuit.device_type, circuit.device_rating_a).breaking_ka
    except LookupError:
        return None
