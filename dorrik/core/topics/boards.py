"""Boards as they hang together: ways that stand twice, circuits nobody can name, RCD groups, the electrode of an
outbuilding, and what was looked at and found wanting."""

from collections import Counter
from collections.abc import Iterator, Sequence

from dorrik.core import board_checks, supply
from dorrik.core.inspection import Board, Circuit
from dorrik.core.topics.context import Context, Note, name_of, spoken
from dorrik.core.verdict import Verdict

#: What the circuits behind one RCD have in common.
_OF_THE_RCD = ("rcd_rated_ma", "rcd_standard", "rcd_kind", "rcd_delay")


def notes(context: Context) -> Iterator[Note]:
    """Notes on each board."""
    circuits = {circuit.id: board for board in context.inspection.boards for circuit in board.circuits}
    for board in context.inspection.boards:
        yield from _ways(board)
        yield from _groups(board)
        yield from _electrode(board)
        yield from _checks(board)
        if board.fed_by and board.fed_by not in circuits:
            reason = "The way that feeds this board is no longer there."
            verdict = Verdict(
                status="attention", reason=reason, source="board tree", next_step="Say which way feeds it."
            )
            yield Note("board", board.id, "fed_by", board.name or "Board", verdict)


def _ways(board: Board) -> Iterator[Note]:
    counted = Counter((circuit.way or "", circuit.phase) for circuit in board.circuits)
    for circuit in board.circuits:
        times = counted[circuit.way or "", circuit.phase]
        if circuit.way and times > 1:
            verdict = Verdict(
                status="attention",
                reason=f"Way {circuit.way} stands {times} times on {board.name or 'the board'}.",
                source="BS 7671 514.9 · circuit chart",
                next_step="Two circuits on one way share its device; otherwise one of the numbers is wrong.",
            )
            yield Note("circuit", circuit.id, "way", name_of(circuit), verdict)
        if circuit.untraced:
            verdict = Verdict(
                status="attention",
                reason="Nobody knows yet what this way feeds.",
                source="BS 7671 514.9",
                next_step="Trace it: switch it off and look for what has gone dead; otherwise a limitation.",
                observation="circuit-unknown",
            )
            yield Note("circuit", circuit.id, "untraced", name_of(circuit), verdict)
    if board.ways and len(board.circuits) > board.ways:
        reason = f"{len(board.circuits)} circuits stand on {board.ways} ways."
        verdict = Verdict(status="attention", reason=reason, source="circuit chart", next_step="Count the ways again.")
        yield Note("board", board.id, "ways", board.name or "Board", verdict)


def _groups(board: Board) -> Iterator[Note]:
    groups: dict[str, list[Circuit]] = {}
    for circuit in board.circuits:
        if circuit.rcd_group and not circuit.spare:
            groups.setdefault(circuit.rcd_group, []).append(circuit)
    for group, members in groups.items():
        differing = _differing(members)
        if differing:
            first = members[0]
            reason = (
                f"Ways {', '.join(c.way or '?' for c in members)} are behind RCD {group}, yet its {differing} differs."
            )
            verdict = Verdict(
                status="attention", reason=reason, source="circuit chart", next_step="One device, one set of data."
            )
            yield Note("circuit", first.id, "rcd_group", f"{board.name or 'Board'}: RCD {group}", verdict)


def _differing(members: Sequence[Circuit]) -> str | None:
    words = {"rcd_rated_ma": "rated current", "rcd_standard": "standard", "rcd_kind": "kind", "rcd_delay": "delay"}
    for field in _OF_THE_RCD:
        if len({getattr(circuit, field) for circuit in members}) > 1:
            return words[field]
    return None


def _electrode(board: Board) -> Iterator[Note]:
    """An outbuilding with an electrode of its own is a TT installation behind its own RCDs (rule 3.2)."""
    if board.earthing != "own electrode":
        return
    rated = [circuit.rcd_rated_ma for circuit in board.circuits if circuit.rcd_rated_ma]
    title = f"{board.name or 'Board'}: electrode"
    if spoken(board.electrode_ohm):
        verdict = supply.judge_ze(
            board.electrode_ohm, "TT", parallel_removed=True, rcd_ma=max(rated, default=supply.USUAL_RCD_MA)
        )
        yield Note("board", board.id, "electrode_ohm", title, verdict)
    if not rated and any(not circuit.spare for circuit in board.circuits):
        verdict = Verdict(
            status="fail",
            reason="The board has an electrode of its own and no RCD: a fault to earth would stay on.",
            source="BS 7671 411.5.2 · rule 3.2",
            next_step="Look for an RCD in front of the board; its rating goes to the circuits.",
            observation="tt-without-rcd",
        )
        yield Note("board", board.id, "earthing", title, verdict)


def _checks(board: Board) -> Iterator[Note]:
    for check in board.checks:
        item = board_checks.items().get(check.item or "") if check.state == "not good" else None
        if item is not None:
            verdict = Verdict(
                status="fail",
                reason=(check.note or item.wrong),
                source=f"{item.source} · looked at",
                observation=item.observation or None,
            )
            yield Note("check", check.id, "state", f"{board.name or 'Board'}: {item.label.lower()}", verdict)
