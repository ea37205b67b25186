"""The supply: Ze, its agreement with PEFC, polarity and tails (rules 3.1 to 3.5, 3.7, 3.9)."""

from collections.abc import Iterator
from dataclasses import replace

from dorrik.core import loop, supply
from dorrik.core.inspection import Board
from dorrik.core.topics.context import Action, Context, Note, is_measured
from dorrik.core.verdict import Verdict

LETTER = Action(kind="letter", label="Letter to the operator")
HOLD = Action(kind="hold", label="Put on hold")


def notes(context: Context) -> Iterator[Note]:
    """Notes on the fields of the origin."""
    i = context.inspection
    if is_measured(i.ze_ohm):
        verdict = _ze(context)
        on_tn = i.earthing in supply.DECLARED_MAXIMUM_OHM and verdict.status == "fail"
        yield Note("inspection", i.id, "ze_ohm", "Ze at the origin", verdict, offers=(LETTER, HOLD) if on_tn else ())
    if is_measured(i.ze_ohm) and is_measured(i.pefc_ka) and i.earthing != "TT":
        verdict = supply.agrees(i.ze_ohm, i.pefc_ka)
        if verdict.status != "unknown":
            yield Note("inspection", i.id, "pefc_ka", "Ze beside PEFC", verdict)
    if i.earth_by in ("water pipe", "gas pipe"):
        yield Note("inspection", i.id, "earth_by", "Means of earthing", _by_pipe(i.earth_by))
    if i.supply_polarity == "incorrect":
        verdict = Verdict(
            status="fail",
            reason="Line and neutral of the supply are exchanged: every single-pole switch is in the neutral.",
            source="BS 7671 643.6 · rule 3.1",
            next_step="Stop live tests and call the network operator.",
            observation="polarity-wrong",
        )
        yield Note("inspection", i.id, "supply_polarity", "Polarity of the supply", verdict, offers=(LETTER, HOLD))
    if is_measured(i.leakage_ma):
        yield Note("inspection", i.id, "leakage_ma", "Leakage at the tails", _leakage(context))
    if i.tails_length_m is not None:
        verdict = supply.judge_tails(
            i.tails_length_m, protected=bool(i.tails_protected), limit_m=context.book.limits["tails_m"]
        )
        yield Note("inspection", i.id, "tails_length_m", "Length of the tails", verdict)
    for board in i.boards:
        verdict_or_none = _zdb(context, board)
        if verdict_or_none is not None and verdict_or_none.status not in ("unknown", "pass"):
            yield Note("board", board.id, "zdb_ohm", f"{board.name or 'Board'}: Zdb", verdict_or_none)


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
        limit_ohm=context.book.limits.get(f"ze_{i.earthing.lower().replace('-', '_')}_ohm"),
        rcd_ma=context.greatest_rcd_ma(here) or supply.USUAL_RCD_MA,
    )


def _by_pipe(earth_by: str) -> Verdict:
    return Verdict(
        status="fail",
        reason=f"The installation is earthed by a {earth_by}, which anybody may replace with plastic.",
        source="BS 7671 542.2.6 · rule 3.7",
        next_step="Ask the network operator for an earth, or have an electrode put in with RCDs.",
        observation="earthing-by-pipe",
    )


def _zdb(context: Context, board: Board) -> Verdict | None:
    """Zdb beside what stands before it: Ze, or the feeding board's Zdb with its way's R1+R2 (rule 3.3)."""
    earth, feed = context.earth(board), context.tree.feed(board)
    if feed is not None:
        above, way = feed
        if earth != context.earth(above):
            return None
        crossed = loop.cross_check(board.zdb_ohm, above.zdb_ohm, way.r1_r2_ohm)
        return crossed if crossed.status != "unknown" else loop.judge_under_zdb(board.zdb_ohm, above.zdb_ohm)
    return supply.judge_zdb(context.inspection.ze_ohm, board.zdb_ohm) if earth.of_supply else None


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
        next_step="Measure behind each RCD: only what flows through one of them counts for it.",
        observation=None,
    )
