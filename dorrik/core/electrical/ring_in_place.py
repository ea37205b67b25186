"""The points of a ring that was left in place, with one link between the line and another conductor at the board (rule
4.5): a point reads both ways round in parallel, nothing at the board and most half-way.
"""

from math import sqrt

from dorrik.core.electrical.ring_ends import (
    LEAST_TOLERANCE_OHM,
    SOURCE,
    Finding,
    Pair,
    PlacedPoint,
    RingAnalysis,
    RingPoint,
    RingTest,
    plain,
)
from dorrik.core.electrical.ring_places import settled, walked
from dorrik.core.electrical.ring_points import POINT_TOLERANCE, RETEST, bent_pairs, open_at_points


def expected_ohm(once_round_ohm: float, fraction: float = 0.5) -> float:
    """What a point reads (Ω) at a fraction of the way round, x·(1 − x) of both conductors once round (Ω), rule 4.5.

    Half-way this is a quarter of both, the most that any place on the ring can give.
    """
    return fraction * (1 - fraction) * once_round_ohm


def position(reading_ohm: float, once_round_ohm: float) -> float | None:
    """Place on the ring from a reading (Ω), from 0 at the board to 0.5 half-way; the other answer is 1 minus it.

    A reading beyond the most counts as half-way. None where the conductors have no resistance.
    """
    if once_round_ohm <= 0:
        return None
    return (1 - sqrt(max(0.0, 1 - 4 * reading_ohm / once_round_ohm))) / 2


def analyse(test: RingTest, ends: RingAnalysis) -> tuple[tuple[Finding, ...], tuple[PlacedPoint, ...]]:
    """Findings at the points and where each stands; without closed and even ends only open conductors."""
    findings = [f for f in open_at_points(test.points) if ends.closed or f.kind == "cpc-open-at-point"]
    nowhere = tuple(PlacedPoint(point.name) for point in test.points)
    named_points = {finding.point for finding in findings}
    totals = _totals(test)
    bent = bent_pairs(ends.findings)
    if not ends.closed or totals is None:
        return tuple(findings), nowhere
    placed = []
    for index, point in enumerate(test.points):
        lifted = False
        for pair, total in totals.items():
            value = _value(point, pair)
            if value is None or pair in bent or point.name in named_points:
                continue
            most = expected_ohm(total)
            if value - most > max(LEAST_TOLERANCE_OHM, POINT_TOLERANCE * most) + 1e-9:
                lifted = True
                named_points.add(point.name)
                findings.append(_high(point, pair, value - most))
        placed.append(PlacedPoint(point.name, None if lifted or bent else _place(test, totals, index)))
    return tuple(findings), tuple(placed)


def _totals(test: RingTest) -> dict[Pair, float] | None:
    """Both conductors of each pair, once round (Ω)."""
    r1, rn, r2 = plain(test.r1), plain(test.rn), plain(test.r2)
    return None if r1 is None or rn is None or r2 is None else {"cpc": r1 + r2, "neutral": r1 + rn}


def _value(point: RingPoint, pair: Pair) -> float | None:
    return plain(point.line_neutral if pair == "neutral" else point.line_cpc)


def _place(test: RingTest, totals: dict[Pair, float], index: int) -> float | None:
    """Of the two places that a reading leads to the one nearer to where the point stands in the walk."""
    pair: Pair
    for pair, total in totals.items():
        point = test.points[index]
        reading = point.line_neutral if pair == "neutral" else point.line_cpc
        value = plain(reading)
        if value is not None and reading is not None:
            span = [position(max(0.0, at), total) for at in (value - reading.resolution, value + reading.resolution)]
            return settled(span, walked(test.points, index))
    return None


def _high(point: RingPoint, pair: Pair, over: float) -> Finding:
    reading = point.line_neutral if pair == "neutral" else point.line_cpc
    again = ", the same after the retest: a spur, or a loose terminal" if point.retested else ""
    return Finding(
        "high-at-point",
        pair,
        f"{point.name} reads {reading} Ω line to {pair}, {over:.2f} Ω more than any place on this ring gives{again}.",
        "Isolate and prove dead. Remove the front, check the terminals, trace the cable. Restore, test again."
        if point.retested
        else RETEST,
        f"{SOURCE} · rules 4.4, 4.5",
        point=point.name,
    )
