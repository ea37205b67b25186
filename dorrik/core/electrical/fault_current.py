"""Prospective fault current: what is recorded, whether it goes with its loop, what has to break it (rules 3.4, 3.5)."""

from math import inf, sqrt
from typing import Literal

from dorrik.core.basics.readings import Reading, at_most, rounded, why_unknown
from dorrik.core.basics.verdict import Verdict
from dorrik.core.electrical.devices import U0_V
from dorrik.core.electrical.supply import is_impossible


def prospective_fault(pscc_a: Reading | None, pefc_a: Reading | None) -> Reading | None:
    """The prospective fault current to record (A): the higher of the two (rule 3.4); bounds are carried.

    pscc_a: line to neutral; pefc_a: line to earth, in the same unit, which the result has too.
    None where neither was measured.
    """
    spans = [(r, r.interval) for r in (pscc_a, pefc_a) if r is not None and r.interval is not None]
    if not spans:
        return None
    low = max(span[0] for _, span in spans if span)
    high = max(span[1] for _, span in spans if span)
    for reading, span in spans:
        if span == (low, high):
            return reading
    if high == inf:
        return Reading.of(low, ">")
    return Reading.of(high, "<")


def agrees(ze: Reading | None, pefc_ka: Reading | None) -> Verdict:
    """Do Ze (Ω) and PEFC (kA) measured at one place agree with I = U0/Z? (rule 3.5)

    PEFC is taken with everything connected, so that a higher one is usual; lower by more than 15 % and the loop's own
    uncertainty is asked about. So
    is the pattern of a slip: ohms written for kiloamperes, amperes for kiloamperes, U0/Z the other way round.
    """
    source = "I = U0/Z · rule 3.5"
    for name, reading in (("Ze", ze), ("PEFC", pefc_ka)):
        if reading is None or not reading.value or reading.bound is not None:
            return Verdict(status="unknown", reason=f"Needs a plain figure for {name}.", source=source)
    assert ze and pefc_ka and ze.value and pefc_ka.value
    expected_ka = U0_V / ze.value / 1000
    compared = f"{ze} Ω gives {rounded(expected_ka)} kA, written is {pefc_ka} kA"
    slip = _slip(ze, pefc_ka, expected_ka)
    # The last digit of a short reading such as 0.02 Ω moves the quotient by more than 15 % on its own.
    rounding = ze.resolution / 2 / ze.value + pefc_ka.resolution / 2 / pefc_ka.value
    short = (expected_ka - pefc_ka.value) / expected_ka
    allowed = max(0.15, ze.uncertainty("loop") / ze.value) + rounding
    if slip or short > allowed:
        return Verdict(
            status="attention",
            reason=f"{compared}: {slip or 'lower than it can be with everything connected'}.",
            source=source,
            limit=expected_ka,
            margin=-short * expected_ka,
            next_step="Look at the instrument again, or measure both once more with everything reconnected.",
            asks=slip is not None,
        )
    agreement = "they agree" if abs(short) <= allowed else "higher, as with parallel paths"
    return Verdict(status="pass", reason=f"{compared}: {agreement}.", source=source, limit=expected_ka)


#: No home meets more (kA): a figure above it was read in amperes.
MOST_KA = 50.0


def judge_too_high(name: str, current_ka: Reading | None, zdb: Reading | None, ze: Reading | None) -> Verdict | None:
    """A fault current (kA) several times what its loop (Ω) lets flow is asked about as a slip; None where it is not.

    zdb: at the first board, ze: at the origin; only Ze known, bonds and pipes may do more (rule 1.2).
    """
    if current_ka is None or current_ka.value is None or current_ka.bound is not None:
        return None
    for loop, times, beside in ((zdb, MOST_BESIDE_ZDB, "Zdb"), (ze, MOST_BESIDE_ZE, "Ze")):
        if loop is None or not loop.value or loop.bound is not None or is_impossible(loop):
            continue
        possible = U0_V / loop.value / 1000
        if current_ka.value <= times * possible:
            return None
        fits = next((f for f in (1e-1, 1e-2, 1e-3) if abs(current_ka.value * f - possible) <= 0.35 * possible), None)
        would = f" {rounded(current_ka.value * fits)} kA would fit." if fits is not None else ""
        return Verdict(
            status="attention",
            reason=f"{name} {current_ka} kA: {beside} of {loop} Ω lets {rounded(possible)} kA flow.{would}",
            source="I = U0/Z · rules 1.2, 3.5",
            limit=times * possible,
            margin=times * possible - current_ka.value,
            next_step="Check the entry and its unit, then test again.",
            asks=True,
        )
    return None


def is_slip(fault_current_ka: Reading) -> bool:
    """Is a fault current (kA) so high that it was written in amperes?"""
    return fault_current_ka.value is not None and fault_current_ka.value > MOST_KA


#: A figure counts as the slip's own when it is within this share of it.
_SLIP = 0.08
#: More than this many times U0/Z is no parallel path any more: beside Zdb, and beside Ze alone (rule 1.2).
MOST_BESIDE_ZDB, MOST_BESIDE_ZE = 3.0, 6.0


def _slip(ze: Reading, pefc_ka: Reading, expected_ka: float) -> str | None:
    """The slip that a pair of figures shows, in words; None for none."""
    written, ohms = pefc_ka.value or 0.0, ze.value or 1.0

    def like(figure: float) -> bool:
        return abs(written - figure) <= _SLIP * figure

    if like(ohms) and not like(expected_ka):
        return "that is the ohms again, not kiloamperes"
    if like(expected_ka * 1000):
        return "that is amperes, not kiloamperes"
    if like(1 / expected_ka) and not like(expected_ka):
        return "that is the quotient the other way round"
    return "far above what this loop lets flow" if written > MOST_BESIDE_ZE * expected_ka else None


#: Cut-out fuses that limit the current, and so back up what stands behind them (rule 3.4).
LIMITING_FUSES = ("1361", "88")
#: A conditional rating holds behind a service fuse up to this (A).
CONDITIONAL_FUSE_A = 100.0
Backing = Literal["limiting", "rewirable", "not known"]


def backing(fuse_standard: str | None) -> Backing:
    """What a service fuse of that standard does for what stands behind it."""
    standard = (fuse_standard or "").upper()
    if "3036" in standard or "REWIR" in standard:
        return "rewirable"
    return "limiting" if any(number in standard for number in LIMITING_FUSES) else "not known"


def judge_breaking_capacity(
    pfc_ka: Reading | None,
    breaking_ka: float,
    conditional_ka: float | None = None,
    *,
    behind: Backing = "not known",
    fuse_a: float | None = None,
) -> Verdict:
    """Can a device break the prospective fault current? (rule 3.4)

    pfc_ka: prospective fault current there (kA); breaking_ka: the device's own breaking capacity (kA); conditional_ka:
    conditional rating of the unit behind its service fuse (kA), or None; behind, fuse_a: what that fuse is, and its
    rating (A). A cartridge service fuse limits the current, so that what lies above a device's own capacity is worth a
    look and no code; behind a rewirable one nothing is backed up.
    """
    source = "BS 7671 434.5.1, 536.4.201 · rule 3.4"
    held, own = at_most(pfc_ka, max(breaking_ka, conditional_ka or 0.0)), at_most(pfc_ka, breaking_ka)
    limit = breaking_ka if behind == "rewirable" else max(breaking_ka, conditional_ka or 0.0)
    if pfc_ka is None or held is None:
        reason = why_unknown(pfc_ka, "The prospective fault current")
        return Verdict(status="unknown", reason=reason, source=source, limit=limit)
    margin = None if pfc_ka.value is None else limit - pfc_ka.value
    if own:
        reason = f"{pfc_ka} kA is within {breaking_ka:g} kA."
        return Verdict(status="pass", reason=reason, source=source, limit=breaking_ka, margin=margin)
    if held and behind == "limiting" and (fuse_a or 0.0) <= CONDITIONAL_FUSE_A:
        reason = f"{pfc_ka} kA is within the unit's conditional {limit:g} kA behind its service fuse."
        return Verdict(status="pass", reason=reason, source=source, limit=limit, margin=margin)
    if behind == "not known" and (held or conditional_ka is None):
        return Verdict(
            status="unknown",
            reason=f"{pfc_ka} kA is more than the {breaking_ka:g} kA of the device itself; whether the service fuse "
            "backs it up goes by the fuse's standard, which is not recorded.",
            source=source,
            limit=limit,
            margin=margin,
            next_step="Record the service fuse, and the unit's conditional rating where it is marked.",
        )
    if behind == "limiting" and conditional_ka is None:
        return Verdict(
            status="attention",
            reason=f"{pfc_ka} kA is more than the {breaking_ka:g} kA of the device itself; the cartridge cut-out "
            "fuse in front limits it.",
            source=source,
            limit=limit,
            margin=margin,
            next_step="Look for the unit's conditional rating; without one say that the service fuse backs it up.",
        )
    return Verdict(
        status="fail",
        reason=f"{pfc_ka} kA can flow where {limit:g} kA can be broken"
        + (": a rewirable service fuse backs nothing up." if behind == "rewirable" else "."),
        source=source,
        limit=limit,
        margin=margin,
        next_step="Look for the unit's conditional rating with its service fuse, or for a backing device.",
        observation="breaking-capacity-below-pfc",
    )


def fault_current_a(impedance_ohm: float) -> float:
    """Prospective current (A) through a loop: I = U0/Z, rule 3.4. Raises ZeroDivisionError for no impedance."""
    return U0_V / impedance_ohm


def line_to_line_a(single_phase_a: float, *, safe: bool = True) -> float:
    """Three-phase prospective fault current (A) from the single-phase one, rule 3.4.

    safe: twice the single-phase value, the estimate that never falls short; otherwise √3 times.
    """
    return single_phase_a * (2.0 if safe else sqrt(3))
