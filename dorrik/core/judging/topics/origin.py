"""The supply: Ze, its agreement with PEFC, polarity and tails (rules 3.1 to 3.5, 3.7, 3.9)."""

from collections.abc import Iterator
from dataclasses import replace

from dorrik.core.basics.verdict import Verdict
from dorrik.core.electrical import fault_current, loop, supply, tails
from dorrik.core.inspection.records import Board, Circuit
from dorrik.core.judging.topics import facts
from dorrik.core.judging.topics.context import Action, Context, Note, is_measured
from dorrik.core.judging.topics.loops import r1_r2
from dorrik.core.judging.topics.note import set_field

LETTER = Action(kind="letter", label="Letter to the operator")
HOLD = Action(kind="hold", label="Put on hold")
CALLED = Action(kind="call", label="Operator called now")


def notes(context: Context) -> Iterator[Note]:
    """Notes on the fields of the origin."""
    i = context.inspection
    if is_measured(i.ze_ohm):
        verdict = _ze(context)
        on_tn = i.earthing in supply.DECLARED_MAXIMUM_OHM and verdict.status == "fail"
        yield Note(
            "inspection", i.id, "ze_ohm", "Ze at the origin", verdict, offers=_operator(context) if on_tn else ()
        )
    yield from _fault_currents(context)
    yield from _written_otherwise(context)
    if i.tails_mm2 is not None and i.service_fuse_a is not None:
        verdict = tails.judge_size(i.tails_mm2, i.service_fuse_a, read_on=i.fuse_read, demand_a=i.maximum_demand_a)
        if verdict.status in ("fail", "attention"):
            yield Note("inspection", i.id, "tails_mm2", "Tails against the service fuse", verdict)
    if i.earth_by in ("water pipe", "gas pipe"):
        yield Note("inspection", i.id, "earth_by", "Means of earthing", _by_pipe(i.earth_by))
    if i.supply_polarity == "incorrect":
        verdict = Verdict(
            status="fail",
            reason="Line and neutral of the supply are swapped: every single-pole switch is in the neutral.",
            source="BS 7671 643.6 · rule 3.1",
            next_step="Keep off live tests. Tell the person in charge; call the network operator now.",
            observation="supply-polarity-reversed",
        )
        yield Note("inspection", i.id, "supply_polarity", "Polarity of the supply", verdict, offers=_operator(context))
    if i.supply_voltage_v is not None:
        verdict = supply.judge_voltage(i.supply_voltage_v)
        offers = _operator(context) if verdict.status != "pass" else ()
        yield Note("inspection", i.id, "supply_voltage_v", "Voltage of the supply", verdict, offers=offers)
    if is_measured(i.leakage_ma):
        yield Note("inspection", i.id, "leakage_ma", "Leakage at the tails", _leakage(context))
    if i.tails_length_m is not None:
        verdict = tails.judge_length(
            i.tails_length_m, protected=bool(i.tails_protected), limit_m=context.book.limits["tails_m"]
        )
        yield Note("inspection", i.id, "tails_length_m", "Length of the tails", verdict)
    for board in i.boards:
        verdict_or_none = _zdb(context, board)
        if verdict_or_none is not None and verdict_or_none.status not in ("unknown", "pass"):
            offers = (_retested(board),) if verdict_or_none.next_step == supply.RETEST_ZDB else ()
            yield Note("board", board.id, "zdb_ohm", f"{board.name or 'Board'}: Zdb", verdict_or_none, offers=offers)


def _retested(board: Board) -> Action:
    return set_field("board", board.id, "zdb_retested", True, f"It reads {board.zdb_ohm} Ω again")


def _operator(context: Context) -> tuple[Action, ...]:
    """What is offered where the network operator has to act; that it was called is offered until it was."""
    return (LETTER, HOLD) if _called(context) else (LETTER, HOLD, CALLED)


def _ze(context: Context) -> Verdict:
    i = context.inspection
    if not i.earthing:
        reason = "The earthing arrangement is needed to judge Ze."
        return Verdict(status="unknown", reason=reason, source="rule 3.1")
    here = [board for board in i.boards if context.earth(board).of_supply]
    return supply.judge_ze(
        i.ze_ohm,
        i.earthing,
        parallel_removed=bool(i.ze_parallel_removed),
        limit_ohm=context.declared_ze_ohm,
        rcd_ma=context.served_rcd_ma(here) or supply.USUAL_RCD_MA,
        loops_within=facts.loops_within(context),
    )


def _fault_currents(context: Context) -> Iterator[Note]:
    """PEFC beside Ze, and both fault currents beside the loop that they flow through (rules 1.2, 3.5)."""
    i = context.inspection
    zdb = next((b.zdb_ohm for b in i.boards if context.tree.feed(b) is None and context.earth(b).of_supply), None)
    for field, name, reading in (("pscc_ka", "PSCC", i.pscc_ka), ("pefc_ka", "PEFC", i.pefc_ka)):
        # On an electrode its loop says nothing of line to neutral, nor on TN-S much of it.
        if i.earthing == "TT" or (field == "pscc_ka" and i.earthing != "TN-C-S"):
            continue
        high = fault_current.judge_too_high(name, reading, zdb, i.ze_ohm)
        if high is not None:
            yield Note("inspection", i.id, field, f"{name} beside its loop", high)
        elif field == "pefc_ka" and is_measured(i.ze_ohm) and is_measured(i.pefc_ka):
            verdict = fault_current.agrees(i.ze_ohm, i.pefc_ka)
            if verdict.status != "unknown":
                yield Note("inspection", i.id, "pefc_ka", "Ze beside PEFC", verdict)


def _written_otherwise(context: Context) -> Iterator[Note]:
    """An arrangement and a means of earthing that do not go together are asked about (rule 3.7)."""
    i = context.inspection
    terminal, electrode = "network operator's terminal", "electrode"
    wrong = {("TN-C-S", electrode), ("TN-S", electrode), ("TT", terminal)}
    if (i.earthing, i.earth_by) not in wrong:
        return
    verdict = Verdict(
        status="attention",
        reason=f"{i.earthing} is written, and {i.earth_by} as the means of earthing: they do not go together.",
        source="BS 7671 312.2, 411.4, 411.5 · rule 3.7",
        next_step="See where the main earthing conductor goes, then correct one of the two.",
        asks=True,
    )
    yield Note("inspection", i.id, "earth_by", "Means of earthing", verdict)


def _by_pipe(earth_by: str) -> Verdict:
    return Verdict(
        status="fail",
        reason=f"The installation is earthed by a {earth_by}, which may be replaced with plastic at any time.",
        source="BS 7671 542.2.6 · rule 3.7",
        next_step="Ask the network operator for an earth, or have an electrode put in with RCDs.",
        observation="earthing-by-pipe",
    )


def _zdb(context: Context, board: Board) -> Verdict | None:
    """Zdb beside what leads to it: Ze, or the feeding board's Zdb with its way's R1+R2 (rules 3.1, 3.3)."""
    earth, feed, zdb = context.earth(board), context.tree.feed(board), board.zdb_ohm
    if zdb is None or not is_measured(zdb):
        return None
    if feed is None:
        ze = context.inspection.ze_ohm
        if not earth.of_supply or ze is None or ze.value is None or ze.bound is not None:
            return None
        return _beside(context, board, ze.value, ze.uncertainty("loop"), "Ze")
    above, way = feed
    if earth != context.earth(above) or above.zdb_ohm is None or above.zdb_ohm.value is None:
        return None
    under = loop.judge_under_zdb(zdb, above.zdb_ohm)
    if under is not None:
        return under
    own = r1_r2(way)
    if own is not None and own.value is not None and own.bound is None:
        before = above.zdb_ohm.value + own.value
        crossed = loop.cross_check(zdb, above.zdb_ohm, own)
        verdict = _beside(context, board, before, above.zdb_ohm.uncertainty("loop"), "its feeding board and way")
        return crossed if verdict.status == "pass" else verdict
    if above.zdb_ohm.bound is not None:
        return None
    name = f"Zdb of {above.name or 'its feeding board'}"
    return _beside(context, board, above.zdb_ohm.value, above.zdb_ohm.uncertainty("loop"), name, explained=False)


def _beside(
    context: Context, board: Board, before_ohm: float, spread_ohm: float, name: str, *, explained: bool = True
) -> Verdict:
    assert board.zdb_ohm is not None
    if context.earth(board).tt:
        # An electrode's own value hides what a connection adds.
        explained = False
    return supply.judge_zdb(
        before_ohm,
        board.zdb_ohm,
        spread_ohm=spread_ohm,
        before=name,
        explained=explained,
        retested=bool(board.zdb_retested),
        loops_fail=_loops_fail(context, board, before_ohm),
    )


def _loops_fail(context: Context, board: Board, before_ohm: float) -> bool:
    """Are circuits of a board above their limits by its Zdb: would they be within them with what leads to the board?"""
    if board.zdb_ohm is None or board.zdb_ohm.value is None:
        return False
    excess = board.zdb_ohm.value - before_ohm
    above = context.each_circuit(_above_its_limit)
    return any(board_id == board.id and limit_ohm >= zs_ohm - excess for board_id, zs_ohm, limit_ohm in above)


def _above_its_limit(context: Context, board: Board, circuit: Circuit) -> Iterator[tuple[str, float, float]]:
    """The id of the board, the Zs and its limit (Ω) of a circuit whose Zs is above it."""
    limit = context.zs_limit(board, circuit)
    zs = circuit.zs_ohm
    if not isinstance(limit, tuple) or zs is None or zs.value is None or zs.bound is not None:
        return
    if zs.value > limit[0]:
        yield board.id, zs.value, limit[0]


def _leakage(context: Context) -> Verdict:
    """The tails carry the sum of all circuits: within 30 % of the most sensitive RCD it is so behind each."""
    rated = min((d.rated_ma for d in context.rcds if d.rated_ma), default=None)
    if rated is None:
        reason = "No RCD is entered yet to hold it against."
        return Verdict(status="unknown", reason=reason, source="BS 7671 531.3.2 · rule 3.8")
    verdict = supply.judge_leakage(context.inspection.leakage_ma, rated)
    if verdict.status != "attention":
        return verdict
    return replace(
        verdict,
        reason=f"{context.inspection.leakage_ma} mA in all is more than 30 % of a {rated:g} mA RCD.",
        next_step="Test after each RCD: only what flows through one of them counts for it.",
        observation=None,
    )


def _called(context: Context) -> bool:
    i = context.inspection
    return i.operator_called_at is not None or any(operator_call.called_at for operator_call in i.operator_calls)
