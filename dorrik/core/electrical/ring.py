"""Ring final circuits, ends and points together (rules 4.1 to 4.7).

The ends are judged in `ring_ends`, the points in `ring_points` or, of a ring that was left in place, in
`ring_in_place`; this is the way in to all of them.
"""

from dataclasses import replace

from dorrik.core.basics.readings import Reading
from dorrik.core.basics.verdict import Verdict
from dorrik.core.electrical import ring_ends, ring_in_place, ring_points
from dorrik.core.electrical.ring_ends import (
    LEAST_TOLERANCE_OHM,
    OPEN_OHM,
    SOURCE,
    Finding,
    PlacedPoint,
    RingAnalysis,
    RingPoint,
    RingTest,
    expected_line_cpc_ohm,
    expected_line_neutral_ohm,
    plain,
)

__all__ = [
    "OPEN_OHM",
    "SOURCE",
    "Finding",
    "PlacedPoint",
    "RingAnalysis",
    "RingPoint",
    "RingTest",
    "analyse",
    "expected_line_cpc_ohm",
    "expected_line_neutral_ohm",
    "judge_above_ends",
    "judge_recorded",
]


def analyse(test: RingTest) -> RingAnalysis:
    """Judge a ring by its ends and its points (rules 4.1 to 4.7)."""
    ends = ring_ends.analyse(test)
    if not test.points:
        return ends
    if test.compared:
        findings, placed = ring_points.compare(test.points)
    else:
        findings, placed = ring_in_place.analyse(test, ends) if test.in_place else ring_points.analyse(test, ends)
    highest = [p.line_cpc.value for p in test.points if p.line_cpc and p.line_cpc.value is not None]
    return replace(
        ends, findings=ends.findings + findings, points=placed, recorded_r1_r2_ohm=max(highest, default=None)
    )


def judge_recorded(r1_r2: Reading | None, analysis: RingAnalysis) -> tuple[str, float] | None:
    """Hold the recorded R1+R2 (Ω) of a ring against its highest expected value (rules 4.3, 4.4).

    Returns ('higher' or 'lower', the difference in Ω) beyond max(0.05 Ω, 10 %), else None.
    """
    expected = analysis.expected_line_cpc_ohm
    measured = plain(r1_r2)
    if expected is None or measured is None:
        return None
    allowed = max(LEAST_TOLERANCE_OHM, 0.10 * expected)
    least = analysis.expected_line_cpc_least_ohm or expected
    if measured > expected + allowed + 1e-9:
        return ("higher", measured - expected)
    if measured < least - allowed - 1e-9:
        return ("lower", least - measured)
    return None


def judge_above_ends(r1_r2: Reading | None, r1: Reading | None, r2: Reading | None) -> Verdict | None:
    """R1+R2 (Ω) above both of its conductors once round (Ω) cannot be; None where it is not so (rule 1.2)."""
    measured, line, cpc = plain(r1_r2), plain(r1), plain(r2)
    if measured is None or line is None or cpc is None or measured <= line + cpc + LEAST_TOLERANCE_OHM:
        return None
    return Verdict(
        status="attention",
        reason=f"{r1_r2} Ω is more than line and cpc of the whole ring, {r1} + {r2} Ω: that cannot be.",
        source=f"{SOURCE} · rules 4.3, 1.2",
        limit=line + cpc,
        margin=line + cpc - measured,
        next_step="One of the three is a slip, or a contact was bad: measure again.",
    )
