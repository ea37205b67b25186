"""Boards as they hang together: ways that stand twice, circuits nobody can name, their electrodes, what feeds them, and
what was looked at and found wanting."""

from collections import Counter
from collections.abc import Iterator
from math import fsum

from dorrik.core.basics.verdict import Verdict
from dorrik.core.book import board_checks
from dorrik.core.electrical import rcd, supply
from dorrik.core.inspection import demand
from dorrik.core.inspection.records import Board
from dorrik.core.judging.topics.context import Context, Note, is_measured, name_of


def notes(context: Context) -> Iterator[Note]:
    """Notes on each board."""
    circuits = {circuit.id for board in context.inspection.boards for circuit in board.circuits}
    for board in context.inspection.boards:
        yield from _ways(board)
        yield from _electrode(context, board)
        yield from _exported(context, board)
        yield from _main_switch(context, board)
        yield from _checks(board)
        if board.fed_by and board.fed_by not in circuits:
            reason = "The way that feeds this board is no longer there."
            verdict = Verdict(
                status="attention", reason=reason, source="board tree", next_step="Say which way feeds it."
            )
            yield Note("board", board.id, "fed_by", board.name or "Board", verdict)
    yield from _without_rcd(context)


def _ways(board: Board) -> Iterator[Note]:
    counted = Counter((circuit.way or "", circuit.phase) for circuit in board.circuits)
    ways_seen: set[tuple[str, str | None]] = set()
    for circuit in board.circuits:
        place = (circuit.way or "", circuit.phase)
        if circuit.way and counted[place] > 1 and place not in ways_seen:
            ways_seen.add(place)
            verdict = Verdict(
                status="attention",
                reason=f"Way {circuit.way} is there {counted[place]} times on {board.name or 'the board'}.",
                source="BS 7671 514.9 · circuit chart",
                next_step="Two circuits on one way share its device; otherwise one of the numbers is wrong.",
            )
            same = tuple(c.id for c in board.circuits if (c.way or "", c.phase) == place)
            yield Note("circuit", circuit.id, "way", name_of(circuit), verdict, touches=same)
        if circuit.untraced:
            verdict = Verdict(
                status="attention",
                reason="Circuit not identified: what this way feeds is not known.",
                source="BS 7671 514.9",
                next_step="Trace the way: switch it off and see what has gone dead; otherwise a limitation.",
                observation="circuit-unknown",
            )
            yield Note("circuit", circuit.id, "untraced", name_of(circuit), verdict)
    if board.ways and len(board.circuits) > board.ways and not any(c.phase for c in board.circuits):
        reason = f"{len(board.circuits)} circuits are on {board.ways} ways."
        verdict = Verdict(status="attention", reason=reason, source="circuit chart", next_step="Count the ways again.")
        yield Note("board", board.id, "ways", board.name or "Board", verdict)


def _electrode(context: Context, board: Board) -> Iterator[Note]:
    """An outbuilding with an electrode of its own is a TT installation behind its own RCDs (rule 3.2)."""
    if context.earth(board).electrode_of is not board or not is_measured(board.electrode_ohm):
        return
    served = context.served_rcd_ma(context.tree.behind(board))
    upstream = [d.rated_ma for c in board.circuits if not c.spare for d in context.rcds_before(c) if d.rated_ma]
    rated = served or max(upstream, default=supply.USUAL_RCD_MA)
    verdict = supply.judge_electrode(board.electrode_ohm, rated, alone=bool(board.electrode_alone))
    yield Note("board", board.id, "electrode_ohm", f"{board.name or 'Board'}: electrode", verdict)


def _exported(context: Context, board: Board) -> Iterator[Note]:
    """The supply's earth taken to an outbuilding with metal services of its own (rule 3.2, 411.3.1.2)."""
    if not board.outbuilding or context.earth(board).arrangement != "TN-C-S":
        return
    if board.extraneous not in ("bonded", "not bonded"):
        return
    bonded = board.extraneous == "bonded"
    verdict = Verdict(
        status="attention" if bonded else "fail",
        reason="The earth of a TN-C-S supply is taken to an outbuilding with metal services"
        + (", which are bonded there." if bonded else ", which are not bonded there."),
        source="BS 7671 411.3.1.2, 542.1.3 · rule 3.2",
        next_step=(
            "See that the bond there has the size of the supply's table, or give the outbuilding an electrode and RCDs."
        ),
        observation="earth-exported",
    )
    yield Note("board", board.id, "extraneous", f"{board.name or 'Board'}: earth of the supply", verdict)


def _main_switch(context: Context, board: Board) -> Iterator[Note]:
    """Main switch against what stands before it and behind it (rule 3.10)."""
    before = _before(context, board)
    if before is None or board.main_switch_a is None or board.main_switch_kind in ("switch-fuse", "breaker", "none"):
        return
    ratings = [c.device_rating_a for c in board.circuits if not c.spare]
    whole = fsum(r for r in ratings if r) if ratings and all(ratings) else None
    if board.main_switch_kind == "RCCB":
        own = [c for c in board.circuits if not c.spare]
        verdict = supply.judge_rccb(board.main_switch_a, "The RCCB", demand.assess(own) if own else None)
    else:
        assessed = context.inspection.maximum_demand_a
        verdict = supply.judge_carried(board.main_switch_a, "The main switch", before[0], before[1], whole, assessed)
    if verdict.status != "pass":
        yield Note("board", board.id, "main_switch_a", f"{board.name or 'Board'}: main switch", verdict)


def _before(context: Context, board: Board) -> tuple[float, str] | None:
    """Rating and name of the overcurrent device before a board."""
    feed = context.tree.feed(board)
    if feed is not None:
        way = feed[1]
        return (way.device_rating_a, f"its device at {name_of(way)}") if way.device_rating_a else None
    i = context.inspection
    if i.switch_fuse_a:
        return i.switch_fuse_a, "the switch-fuse"
    return (i.service_fuse_a, "the service fuse") if i.service_fuse_a else None


def _without_rcd(context: Context) -> Iterator[Note]:
    """Circuits on an electrode that no RCD protects: one word for each electrode (rule 3.2)."""
    by_electrode: dict[str | None, list[tuple[Board, str, str]]] = {}
    for board, circuit in context.circuits:
        earth = context.earth(board)
        if not earth.tt or context.rcds_before(circuit):
            continue
        if circuit.device_standard is None and earth.of_supply:
            continue  # the way has not been described yet
        owner = earth.electrode_of.id if earth.electrode_of is not None else None
        by_electrode.setdefault(owner, []).append((board, circuit.id, name_of(circuit)))
    for owner, circuits_there in by_electrode.items():
        names = [name for _, _, name in circuits_there]
        boards = {board.id: board for board, _, _ in circuits_there}
        own = next((b for b in context.inspection.boards if b.id == owner), None)
        verdict = rcd.missing_on_tt(names)
        touches = tuple(circuit_id for _, circuit_id, _ in circuits_there)
        place = own or (next(iter(boards.values())) if len(boards) == 1 else None)
        if place is not None:
            title = f"{place.name or 'Board'}: no RCD on an electrode"
            yield Note("board", place.id, "earthing", title, verdict, touches=touches)
        else:
            i = context.inspection
            yield Note("inspection", i.id, "earthing", "No RCD on an electrode", verdict, touches=touches)


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
