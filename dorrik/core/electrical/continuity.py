"""Continuity of radial circuits and of protective conductors, point by point (rules 5.1 to 5.3 and 4.7)."""

from collections.abc import Iterable, Sequence

from dorrik.core.basics.readings import Reading, rounded
from dorrik.core.basics.verdict import Verdict
from dorrik.core.electrical.conductors import per_metre_ohm

SOURCE = "BS 7671 643.2.1 · rule 5"
LEAST_TOLERANCE_OHM = 0.05
TOLERANCE = 0.15
OUTLIER = 0.10

#: Polarity recorded as wrong, at a point or for a circuit.
WRONG_POLARITY = Verdict(
    status="fail",
    reason="Polarity is recorded as not correct.",
    source="BS 7671 643.6 · rule 5.2",
    next_step="Isolate and prove dead. Reconnect at the point, restore, test again.",
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
    compared = f"{r1_r2} Ω, where {length_m:g} m lead to {rounded(expected)} Ω"
    if abs(apart) <= allowed + 1e-9:
        return Verdict(
            status="pass", reason=f"{compared}: they agree.", source=source, limit=expected, margin=allowed - abs(apart)
        )
    higher = apart > 0
    return Verdict(
        status="attention",
        reason=f"{compared}: {'higher' if higher else 'lower'} than it should be.",
        source=source,
        limit=expected,
        margin=allowed - abs(apart),
        next_step=(
            "Isolate and prove dead. Check for a loose joint or terminal; or there is more cable than was thought."
            if higher
            else "A parallel earth path, a larger cable, or this is not the end of the line."
        ),
    )


def expected_long_lead_ohm(cpc_csa_mm2: float, length_m: float, *, ring: bool = False) -> float:
    """R2 by long lead at the far point (Ω at 20 °C): the cpc's length, or a quarter of the way round a ring (rule 4.7).

    On a ring both legs come back in parallel, x·(1−x)·r2, which is a quarter of r2 half-way and the most there.
    """
    r2 = per_metre_ohm(cpc_csa_mm2) * length_m
    return r2 / 4 if ring else r2


def r1_from_r2_ohm(r2_ohm: float, line_csa_mm2: float, cpc_csa_mm2: float) -> float:
    """R1 (Ω) of a cable whose R2 (Ω) was measured by long lead: by the ratio of its conductors (rules 2.2, 4.7)."""
    return r2_ohm * per_metre_ohm(line_csa_mm2) / per_metre_ohm(cpc_csa_mm2)


def long_lead_outliers(readings: Sequence[Reading | None], most_ohm: float | None) -> list[int]:
    """Places in the walk whose R2 by long lead (Ω) stands out (rule 4.7).

    most_ohm: the most that the circuit can give where that is known. Without it a point stands out that is higher
    than both of its neighbours by more than max(0.05 Ω, 10 %); the last of a walk is its end.
    """
    values = [r.value if r is not None and r.bound is None else None for r in readings]
    outliers = []
    for index, value in enumerate(values):
        if value is None:
            continue
        if most_ohm is not None:
            if value > most_ohm + max(LEAST_TOLERANCE_OHM, OUTLIER * most_ohm) + 1e-9:
                outliers.append(index)
            continue
        before = [v for v in values[:index] if v is not None]
        after = [v for v in values[index + 1 :] if v is not None]
        if after and value > max(before[-1:] + after[:1]) + max(LEAST_TOLERANCE_OHM, OUTLIER * value) + 1e-9:
            outliers.append(index)
    return outliers


def judge_long_lead(recorded: Reading, expected_ohm: float) -> Verdict:
    """Hold R2 by long lead (Ω) beside what the cable leads to (Ω), within max(0.05 Ω, 15 %) (rule 4.7)."""
    allowed = max(LEAST_TOLERANCE_OHM, TOLERANCE * expected_ohm)
    over = (recorded.value or 0.0) - expected_ohm
    compared = f"{recorded} Ω by long lead, where {rounded(expected_ohm)} Ω was to be expected"
    source = "BS 7671 643.2.1, R = ρ·L · rules 4.7, 2.1"
    if over <= allowed + 1e-9:
        lower = over < -allowed
        return Verdict(
            status="attention" if lower else "pass",
            reason=f"{compared}: {'an earth path in parallel, or not the end of the line' if lower else 'they agree'}.",
            source=source,
            limit=expected_ohm,
            margin=allowed - abs(over),
        )
    return Verdict(
        status="attention",
        reason=f"{compared}: higher than it should be.",
        source=source,
        limit=expected_ohm,
        margin=allowed - over,
        next_step="Isolate. Test again on bare metal. The same again: check the earth terminals. Restore, test again.",
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
        next_step="Isolate. Switches on, two-way switches both ways, controls bridged. Test again.",
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
    if recorded is not None and recorded.kind != "empty":
        return None
    return Verdict(
        status="unknown",
        reason=f"The highest of the points is {highest} Ω; nothing is recorded for the circuit yet.",
        source="BS 7671 643.2.1 · rules 5.1, 4.7",
        limit=highest.value,
    )
