"""Continuity of radial circuits and of protective conductors, point by point (rules 5.1 to 5.3 and 4.7)."""

from collections.abc import Iterable

from dorrik.core.conductors import per_metre_ohm
from dorrik.core.readings import Reading, figure
from dorrik.core.verdict import Verdict

SOURCE = "BS 7671 643.2.1 · rule 5"
LEAST_TOLERANCE_OHM = 0.05
TOLERANCE = 0.15

#: Polarity recorded as wrong, at a point or for a circuit.
WRONG_POLARITY = Verdict(
    status="fail",
    reason="Polarity is recorded as not correct.",
    source="BS 7671 643.6 · rule 5.2",
    next_step="Name the point in an observation; reconnect and test again.",
    observation="polarity-wrong",
)


def expected_r1_r2_ohm(line_csa_mm2: float, cpc_csa_mm2: float, length_m: float) -> float:
    """R1+R2 at the end of a radial (Ω at 20 °C) from its conductors (mm²) and its length (m), rules 2.1 and 5.1.

    Raises LookupError for a size that is not in the table.
    """
    return (per_metre_ohm(line_csa_mm2) + per_metre_ohm(cpc_csa_mm2)) * length_m


def judge_length(r1_r2: Reading | None, line_csa_mm2: float, cpc_csa_mm2: float, length_m: float) -> Verdict:
    """Hold a radial's R1+R2 (Ω) beside what its length leads to, within max(0.05 Ω, 15 %) (rule 5.1)."""
    source = f"{SOURCE}.1, R = ρ·L · rule 2.1"
    try:
        expected = expected_r1_r2_ohm(line_csa_mm2, cpc_csa_mm2, length_m)
    except LookupError as error:
        return Verdict(status="unknown", reason=str(error), source=source)
    if r1_r2 is None or r1_r2.value is None or r1_r2.bound is not None:
        return Verdict(status="unknown", reason="Needs a plain figure for R1+R2.", source=source, limit=expected)
    allowed = max(LEAST_TOLERANCE_OHM, TOLERANCE * expected)
    apart = r1_r2.value - expected
    said = f"{r1_r2} Ω, where {length_m:g} m lead to {figure(expected)} Ω"
    if abs(apart) <= allowed + 1e-9:
        return Verdict(
            status="pass", reason=f"{said}: they agree.", source=source, limit=expected, margin=allowed - abs(apart)
        )
    higher = apart > 0
    return Verdict(
        status="attention",
        reason=f"{said}: {'higher' if higher else 'lower'} than it should be.",
        source=source,
        limit=expected,
        margin=allowed - abs(apart),
        next_step="A loose joint or terminal, or more cable than was thought."
        if higher
        else "A parallel earth path, a larger cable, or this is not the end of the line.",
    )


def judge_point(reading: Reading, *, class_ii: bool = False) -> Verdict:
    """Judge a point that shows no continuity to earth (rules 5.2 and 5.3).

    class_ii: the equipment carries the double square and needs no earth.
    """
    if class_ii:
        return Verdict(
            status="pass",
            reason=f"{reading}: no earth reaches this point, and class II equipment needs none.",
            source=f"{SOURCE}.2",
        )
    return Verdict(
        status="fail",
        reason="No continuity: the cpc does not reach this point, or a switch or control is open.",
        source="BS 7671 643.2.1 · rules 5.2, 5.3",
        next_step="Switches on, two-way switches both ways, controls bridged; then test again.",
        observation="no-cpc-at-point",
    )


def highest(readings: Iterable[Reading | None]) -> Reading | None:
    """The highest plain figure (Ω), which is what is recorded for the circuit (rules 4.7 and 5.1)."""
    plain = [r for r in readings if r is not None and r.value is not None and r.bound is None]
    return max(plain, key=lambda r: r.value or 0.0, default=None)


def judge_recorded(recorded: Reading | None, highest: Reading) -> Verdict | None:
    """Is the highest reading of the circuit the one that is recorded? None where it is (rules 4.7, 5.1)."""
    if recorded is not None and recorded.value is not None and highest.value is not None:
        short = highest.value - recorded.value
        if short <= highest.resolution / 2 or recorded.bound == ">":
            return None
        return Verdict(
            status="attention",
            reason=f"{recorded} Ω is recorded, but a point read {highest} Ω: the highest is the end of the line.",
            source="BS 7671 643.2.1 · rules 5.1, 4.7",
            limit=highest.value,
            margin=-short,
            next_step="Record the highest, or test that point again.",
        )
    if recorded is not None and recorded.sort != "empty":
        return None
    return Verdict(
        status="unknown",
        reason=f"The highest of the points is {highest} Ω; nothing is recorded for the circuit yet.",
        source="BS 7671 643.2.1 · rules 5.1, 4.7",
        limit=highest.value,
    )
