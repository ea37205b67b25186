"""Safe isolation: which pairings are to be proved dead, and whether a record of it holds (HSE GS38, GS85 practice).

The tester is proved on a known source, the board isolated, locked and tagged, every pairing tested, and the tester
proved again: only then is what it showed worth anything.
"""

from collections.abc import Iterable

from dorrik.core.basics.record import record
from dorrik.core.basics.verdict import Verdict
from dorrik.core.inspection.field_spec import DEAD, LIVE
from dorrik.core.inspection.records import Board, Inspection, Isolation

SOURCE = "safe isolation · Electricity at Work Regulations 1989, reg. 13"


@record
class Pairing:
    """Conductors to be tested against each other; `at` is the busbar or a way."""

    at: str
    between: str

    @property
    def name(self) -> str:
        """What the record calls it: `busbar L–N`, `way 3 L1–E`."""
        return f"{self.at} {self.between}"


def pairings(phases: str | None, ways: Iterable[tuple[str, str | None]]) -> tuple[Pairing, ...]:
    """Every pairing to be tested, the busbar first.

    phases: '3' for three, else one. ways: name and phase of each outgoing way (None: the only one; 'all three').
    """
    three = phases == "3"
    lines = ("L1", "L2", "L3") if three else ("L",)
    to_prove = [Pairing("busbar", between) for between in _between(lines)]
    for name, phase in ways:
        own = lines if phase == "all three" or not three else (phase,) if phase else lines
        to_prove += [Pairing(f"way {name}", between) for between in _between(own)]
    return tuple(to_prove)


def _between(lines: tuple[str, ...]) -> list[str]:
    across = [f"{a}–{b}" for i, a in enumerate(lines) for b in lines[i + 1 :]]
    return [*across, *(f"{line}–N" for line in lines), *(f"{line}–E" for line in lines), "N–E"]


@record
class BoardState:
    """How a board stands: when it was last proved dead with everything that belongs to it (None: never), its lock, with
    whom the key is, whether it was put back since, what stays live in it meanwhile, and the pairings to prove."""

    board_id: str
    proved_at: str | None
    lock: str | None
    key_with: str | None
    restored: bool
    stays_live: str
    pairings: tuple[Pairing, ...]


def state_of(board: Board, inspection: Inspection) -> BoardState:
    """The state of a board. Older documents have the moment and the lock at the board itself."""
    wanted, live = of_board(board, inspection.phases), stays_live(board, inspection)
    proved = [isolation for isolation in board.isolations if isolation.proved_dead]
    if proved:
        last = max(proved, key=lambda proof: proof.proved_again_at or "")
        restored = last.restored_at is not None
        return BoardState(board.id, last.proved_again_at, last.lock, last.key_with, restored, live, wanted)
    return BoardState(board.id, board.isolated_at, board.isolated_lock, None, False, live, wanted)


def stays_live(board: Board, inspection: Inspection) -> str:
    """What of an isolated board can still be live, in words."""
    if board.fed_by:
        kept = "The cable that feeds it stays live up to where it was isolated."
    else:
        kept = "Tails and supply side stay live."
    if inspection.other_source and inspection.other_source != "none":
        kept += f" So does the side of its own source ({inspection.other_source}), until that is isolated too."
    return kept


def of_board(board: Board, phases: str | None) -> tuple[Pairing, ...]:
    """The pairings of a board; its own phases go before those of the supply. Spare ways have nothing connected."""
    ways = [
        (circuit.way or str(number), circuit.phase)
        for number, circuit in enumerate(board.circuits, 1)
        if not circuit.spare
    ]
    return pairings(board.phases or phases, ways)


def judge(isolation: Isolation, wanted: Iterable[Pairing]) -> Verdict | None:
    """Does the record hold? None while it is being made and nothing is wrong with it."""
    entered = isolation.pairings or {}
    live = [name for name, state in entered.items() if state == LIVE]
    if live:
        return Verdict(
            status="fail",
            reason=f"Voltage between {_named(live)}: the board is not dead.",
            source=SOURCE,
            next_step="Keep off. Find the second supply or the wrong switch, isolate it, and begin again.",
        )
    steps = [isolation.proved_at, isolation.isolated_at, isolation.proved_again_at]
    taken = [step for step in steps if step]
    if taken != sorted(taken):
        return Verdict(
            status="attention",
            reason="The steps are not in their order: the tester proved, the board isolated, the tester proved again.",
            source=SOURCE,
            next_step="Prove dead again if the times are not a slip.",
        )
    if not isolation.proved_again_at:
        return None
    left = [pairing.name for pairing in wanted if entered.get(pairing.name) != DEAD]
    if left:
        return Verdict(
            status="attention",
            reason=f"{len(left)} pairings were not tested: {_named(left)}.",
            source=SOURCE,
            next_step="Test them before hands go in, and prove the tester again.",
        )
    if not (isolation.proved_at and isolation.isolated_at):
        missing = "proved first" if not isolation.proved_at else "isolated"
        return Verdict(status="attention", reason=f"It is not recorded when it was {missing}.", source=SOURCE)
    if not isolation.lock:
        return Verdict(
            status="attention",
            reason="No lock or tag is recorded: anybody could switch on.",
            source=SOURCE,
            next_step="Lock and tag it, keep the key on you, and write down which lock.",
        )
    return Verdict(
        status="pass", reason="Proved dead at every pairing, the tester proved before and after.", source=SOURCE
    )


def _named(names: list[str], most: int = 4) -> str:
    return ", ".join(names[:most]) + (" …" if len(names) > most else "")
