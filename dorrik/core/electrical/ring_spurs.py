"""Spurs of a ring: their cable by how far a point reads above the ring, and what is said of them (rule 4.4)."""

from collections.abc import Sequence

from dorrik.core.electrical import conductors
from dorrik.core.electrical.ring_ends import SOURCE, Finding, Pair, RingPoint, RingTest

#: Both excesses of a spur lead to the same length within this share.
LENGTH_TOLERANCE = 0.20
#: Excess over what a sound ring reads there (Ω): line to neutral, line to cpc.
Excess = tuple[float, float]


def _per_metre_ohm(test: RingTest) -> tuple[float, float] | None:
    """Line and cpc of the ring (Ω/m); None where one is not known, or in no table."""
    if not test.line_csa_mm2 or not test.cpc_csa_mm2:
        return None
    try:
        return conductors.per_metre_ohm(test.line_csa_mm2), conductors.per_metre_ohm(test.cpc_csa_mm2)
    except LookupError:
        return None


def spur_length_m(excess: Excess, test: RingTest) -> float | None:
    """Cable of a spur (m) where both pairs are high by the same length, else None (rule 4.4).

    A contact in the line lifts both pairs by the same ohms, a spur lifts line to cpc more, its cpc being thinner: the
    nearer of the two is believed.
    """
    if (per_metre := _per_metre_ohm(test)) is None:
        return None
    line, cpc = per_metre
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


def length_by(over: float, pair: Pair, test: RingTest) -> float | None:
    """Cable (m) that lifts one pair by so much (Ω); None where the conductors of the ring are not known (rule 4.4)."""
    if (per_metre := _per_metre_ohm(test)) is None:
        return None
    line, cpc = per_metre
    return over / (2 * line if pair == "neutral" else line + cpc)


def spur_findings(points: Sequence[RingPoint], spurs: dict[int, float]) -> list[Finding]:
    """Spurs: the length of each (m) by the index of its point. A longer one beside another may share its branch; only
    tracing says, so nothing is coded (rule 4.4)."""
    findings = []
    for index, length in spurs.items():
        shorter = [spurs[i] for i in (index - 1, index + 1) if i in spurs and length > spurs[i] * 1.1 + 0.7]
        text = f"{points[index].name} is on a spur of about {length:.1f} m"
        if shorter:
            text += f": one of its own, or {length - max(shorter):.1f} m beyond another point on one branch"
        findings.append(
            Finding(
                "spur-off-spur" if shorter else "spur",
                "line",
                f"{text}.",
                "Isolate before anything is opened. Trace the branch and say which: several points on one unfused spur "
                "overload it."
                if shorter
                else "One point on an unfused spur is allowed; see that nothing branches off it.",
                f"{SOURCE} · rule 4.4",
                point=points[index].name,
            )
        )
    return findings
