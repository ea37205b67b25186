"""The points of a ring, measured with opposite ends cross-connected: where each stands, spurs, contacts, wrong pairing
(rules 4.3 to 4.7).

On a sound ring line to neutral is the same everywhere and line to cpc hardly varies. A spur lifts both by its own
cable, a bad contact lifts them otherwise, the same ends joined by mistake let them rise from nothing at the board.
"""

from collections.abc import Sequence
from math import sqrt

from dorrik.core import conductors
from dorrik.core.readings import Reading
from dorrik.core.ring_ends import (
    LEAST_TOLERANCE_OHM,
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

#: A point higher than expected by more than this share, and by LEAST_TOLERANCE_OHM, is looked at (rule 4.4).
POINT_TOLERANCE = 0.10
#: Both excesses of a spur lead to the same length within this share.
LENGTH_TOLERANCE = 0.20
#: From this share of points well under what a cross-connected ring reads, the ends are joined the wrong way.
WRONG_PAIRING_SHARE = 0.3
#: Under it by this much: nothing on a sound ring lowers line to neutral.
WRONG_PAIRING_OHM = 0.03

RETEST = "Re-plug, work the switch a few times and test again; then take the front off."


def position(line_cpc_ohm: float, r1_ohm: float, r2_ohm: float) -> float | None:
    """Place on the ring from line to cpc (Ω), the inverse of rule 4.3: from 0 at the board to 0.5 half-way.

    The other answer is 1 minus it; the order of the walk settles which. A reading beyond either end counts as that
    end. None where line and cpc are alike, so that every place reads the same.
    """
    total = r1_ohm + r2_ohm
    if total <= 0 or abs(r1_ohm - r2_ohm) < 1e-9:
        return None
    # a + b = r1 + r2 and R = a·b / (a + b), so a and b are the roots of t² − total·t + R·total.
    root = sqrt(max(0.0, total * total - 4 * line_cpc_ohm * total))
    higher, lower = max(r1_ohm, r2_ohm), min(r1_ohm, r2_ohm)
    fraction = (higher - (total + root) / 2) / (higher - lower)
    return min(0.5, max(0.0, fraction))


def _open(reading: Reading | None) -> bool:
    if reading is None:
        return False
    return reading.sort == "over-range" or (reading.bound == ">" and (reading.value or 0.0) >= 5.0)


def analyse(test: RingTest, ends: RingAnalysis) -> tuple[tuple[Finding, ...], tuple[PlacedPoint, ...]]:
    """Findings at the points and where each stands. Without closed and even ends only open cpcs can be told."""
    findings = [
        _cpc_open(point) for point in test.points if plain(point.line_neutral) is not None and _open(point.line_cpc)
    ]
    r1, rn, r2 = plain(test.r1), plain(test.rn), plain(test.r2)
    # A loose joint or an earth in parallel bends what every point reads: that is mended before the walk says anything.
    uneven = any(finding.kind in ("loose-joint", "parallel-earth") for finding in ends.findings)
    if not ends.closed or uneven or r1 is None or rn is None or r2 is None:
        return tuple(findings), tuple(PlacedPoint(point.name) for point in test.points)
    if _wrongly_paired(test.points, r1, rn, r2):
        findings.insert(
            0,
            Finding(
                "wrong-pairing",
                "line",
                "The readings rise from near nothing at the board to the middle: the same ends are joined.",
                "Swap the pairs at the board, line of one leg with cpc or neutral of the other; test again.",
                f"{SOURCE} · rule 4.5",
            ),
        )
        return tuple(findings), tuple(PlacedPoint(point.name) for point in test.points)
    spurs: dict[int, float] = {}
    for index, point in enumerate(test.points):
        excess = _excess(point, (index + 1) / (len(test.points) + 1), r1, rn, r2)
        if excess is None:
            continue
        length = _spur_length_m(excess, test)
        if length is not None:
            spurs[index] = length
        else:
            findings.append(_contact(point, excess))
    findings.extend(_spur_findings(test.points, spurs))
    return tuple(findings), _placed(test.points, spurs, r1, r2)


def _cpc_open(point: RingPoint) -> Finding:
    return Finding(
        "cpc-open-at-point",
        "cpc",
        f"{point.name}: line to neutral reads, line to cpc does not: no earth at this point, or polarity is wrong.",
        "Test polarity here, then look at the cpc terminal.",
        f"{SOURCE} · rule 4.6",
        "no-cpc-at-point",
        point=point.name,
    )


def _wrongly_paired(points: Sequence[RingPoint], r1: float, rn: float, r2: float) -> bool:
    """Same ends joined: x(1−x)·(r1+rn) on line to neutral, and the same share of (r1+r2) on line to cpc."""
    flat = expected_line_neutral_ohm(r1, rn)
    both = [(plain(p.line_neutral), plain(p.line_cpc)) for p in points]
    measured = [(ln, lc) for ln, lc in both if ln is not None and lc is not None]
    low = [(ln, lc) for ln, lc in measured if ln < flat - max(WRONG_PAIRING_OHM, 0.08 * flat)]
    if len(low) < 2 or len(low) < WRONG_PAIRING_SHARE * len(measured):
        return False
    agree = [abs(ln / (r1 + rn) - lc / (r1 + r2)) <= 0.06 for ln, lc in low]
    return sum(agree) >= 0.7 * len(agree)


#: Excess over what a sound ring reads there (Ω): line to neutral, line to cpc.
_Excess = tuple[float, float]


def _excess(point: RingPoint, walked: float, r1: float, rn: float, r2: float) -> _Excess | None:
    """How far a point is above what a sound ring reads; None where it is not, or was not measured on both pairs.

    walked: share of the walk at which the point stands; line to cpc varies by a few per cent along the ring.
    """
    ln, lc = plain(point.line_neutral), plain(point.line_cpc)
    if ln is None or lc is None:
        return None
    flat, there = expected_line_neutral_ohm(r1, rn), expected_line_cpc_ohm(r1, r2, walked)
    most = expected_line_cpc_ohm(r1, r2)
    high_ln = ln - flat > max(LEAST_TOLERANCE_OHM, POINT_TOLERANCE * flat)
    high_lc = lc - most > max(LEAST_TOLERANCE_OHM, POINT_TOLERANCE * most)
    return (ln - flat, lc - there) if high_ln or high_lc else None


def _spur_length_m(excess: _Excess, test: RingTest) -> float | None:
    """Cable of a spur (m) where both pairs are high by the same length, else None (rule 4.4).

    A contact in the line lifts both pairs by the same ohms, a spur lifts line to cpc more, its cpc being thinner: the
    nearer of the two is believed.
    """
    if not test.line_csa_mm2 or not test.cpc_csa_mm2:
        return None
    try:
        line, cpc = conductors.per_metre_ohm(test.line_csa_mm2), conductors.per_metre_ohm(test.cpc_csa_mm2)
    except LookupError:
        return None
    over_ln, over_lc = excess
    by_neutral, by_cpc = over_ln / (2 * line), over_lc / (line + cpc)
    # Two last digits of the instrument, in metres, on top of the share: short spurs drown in rounding.
    if over_ln <= 0 or abs(by_neutral - by_cpc) > LENGTH_TOLERANCE * by_neutral + 0.02 / (2 * line):
        return None
    as_spur = abs(over_lc - over_ln * (line + cpc) / (2 * line))
    as_contact = abs(over_lc - over_ln)
    if as_contact < as_spur and cpc > line:
        return None
    return (by_neutral + by_cpc) / 2


def _contact(point: RingPoint, excess: _Excess) -> Finding:
    over_ln, over_lc = excess
    if over_ln > LEAST_TOLERANCE_OHM and over_lc > LEAST_TOLERANCE_OHM:
        where = "line contact or terminal, since both pairs are high but not as a cable would make them"
    elif over_ln > over_lc:
        where = "neutral contact or terminal, since only line to neutral is high"
    else:
        where = "cpc contact or terminal, since only line to cpc is high"
    return Finding(
        "contact",
        "cpc" if over_lc > over_ln else "neutral",
        f"{point.name} reads {point.line_neutral} and {point.line_cpc} Ω: a {where}.",
        RETEST,
        f"{SOURCE} · rule 4.4",
        point=point.name,
    )


def _spur_findings(points: Sequence[RingPoint], spurs: dict[int, float]) -> list[Finding]:
    """Spurs, and spurs off spurs: a longer one that follows another on the walk shares its branch."""
    findings = []
    for index, length in spurs.items():
        shorter = [spurs[i] for i in (index - 1, index + 1) if i in spurs and length > spurs[i] * 1.1 + 0.7]
        off = bool(shorter)
        said = f"{points[index].name} is on a spur of about {length:.1f} m"
        if off:
            said += f", {length - max(shorter):.1f} m beyond another point on it"
        findings.append(
            Finding(
                "spur-off-spur" if off else "spur",
                "line",
                f"{said}.",
                "More than one point on an unfused spur overloads it: trace the branch."
                if off
                else "One point on an unfused spur is allowed; see that nothing branches off it.",
                f"{SOURCE} · rule 4.4",
                "spur-off-spur" if off else None,
                point=points[index].name,
            )
        )
    return findings


def _placed(points: Sequence[RingPoint], spurs: dict[int, float], r1: float, r2: float) -> tuple[PlacedPoint, ...]:
    """Positions by line to cpc; of the two answers the one nearer to the place in the walk."""
    placed = []
    for index, point in enumerate(points):
        lc = plain(point.line_cpc)
        if index in spurs or lc is None:
            placed.append(PlacedPoint(point.name, None, spurs.get(index)))
            continue
        near = position(lc, r1, r2)
        walked = (index + 1) / (len(points) + 1)
        if near is not None and abs(1 - near - walked) < abs(near - walked):
            near = 1 - near
        placed.append(PlacedPoint(point.name, near))
    return tuple(placed)
