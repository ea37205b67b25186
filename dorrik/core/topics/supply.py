"""The supply: Ze, its agreement with PEFC, polarity and tails (rules 3.1 to 3.5, 3.9)."""

from collections.abc import Iterator
from dataclasses import replace

from dorrik.core import supply
from dorrik.core.topics.context import Context, Note, spoken
from dorrik.core.verdict import Verdict


def notes(context: Context) -> Iterator[Note]:
    """Notes on the fields of the origin."""
    i = context.inspection
    if spoken(i.ze_ohm) and i.earthing:
        limits = context.book.limits
        verdict = supply.judge_ze(
            i.ze_ohm,
            i.earthing,
            parallel_removed=bool(i.ze_parallel_removed),
            limit_ohm=limits.get(f"ze_{i.earthing.lower().replace('-', '_')}_ohm"),
            rcd_ma=context.greatest_rcd_ma or supply.USUAL_RCD_MA,
        )
        yield Note("inspection", i.id, "ze_ohm", "Ze at the origin", verdict)
    elif spoken(i.ze_ohm):
        reason = "The earthing arrangement is needed to judge Ze."
        verdict = Verdict(status="unknown", reason=reason, source="rule 3.1")
        yield Note("inspection", i.id, "ze_ohm", "Ze at the origin", verdict)
    if spoken(i.ze_ohm) and spoken(i.pefc_ka) and i.earthing != "TT":
        verdict = supply.agrees(i.ze_ohm, i.pefc_ka)
        if verdict.status != "unknown":
            yield Note("inspection", i.id, "pefc_ka", "Ze beside PEFC", verdict)
    if i.supply_polarity == "incorrect":
        verdict = Verdict(
            status="fail",
            reason="Line and neutral of the supply are exchanged: every single-pole switch is in the neutral.",
            source="BS 7671 643.6 · rule 3.1",
            next_step="Stop live tests and call the network operator.",
            observation="polarity-wrong",
        )
        yield Note("inspection", i.id, "supply_polarity", "Polarity of the supply", verdict)
    if spoken(i.leakage_ma):
        yield Note("inspection", i.id, "leakage_ma", "Leakage at the tails", _leakage(context))
    if i.tails_length_m is not None:
        verdict = supply.judge_tails(
            i.tails_length_m, protected=bool(i.tails_protected), limit_m=context.book.limits["tails_m"]
        )
        yield Note("inspection", i.id, "tails_length_m", "Length of the tails", verdict)
    for board in i.boards:
        verdict = supply.judge_zdb(i.ze_ohm, board.zdb_ohm)
        if verdict.status not in ("unknown", "pass"):
            yield Note("board", board.id, "zdb_ohm", f"{board.name or 'Board'}: Zdb beside Ze", verdict)


def _leakage(context: Context) -> Verdict:
    """The tails carry the sum of all circuits: within 30 % of the most sensitive RCD it is so behind each."""
    rated = min((c.rcd_rated_ma for _, c in context.circuits if c.rcd_rated_ma), default=None)
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
