"""The supply: external earth loop impedance, fault current, leakage and tails (rules 3.1 to 3.5, 3.8, 3.9)."""

from dataclasses import replace
from math import inf, sqrt
from typing import Literal

from dorrik.core.comparison import Words, judge
from dorrik.core.devices import U0_V
from dorrik.core.readings import Reading, at_most, rounded, why_unknown
from dorrik.core.verdict import Verdict

#: Highest Ze that network operators usually declare (Ω), rule 3.1.
DECLARED_MAXIMUM_OHM = {"TN-C-S": 0.35, "TN-S": 0.8}
#: Touch voltage that an electrode's RCD must not let stand (V), and the RCD that is usual behind one (mA).
TOUCH_VOLTAGE_V = 50.0
USUAL_RCD_MA = 30.0
#: A board this far above the origin (Ω) has a long sub-main or a poor connection.
FAR_BOARD_OHM = 0.2


#: From here a supply written TN-S has the earth of an electrode and not of a cable's sheath (Ω), rule 3.7.
LIKE_AN_ELECTRODE_OHM = 5.0
#: Half of the least usual TN maximum (Ω): an electrode that reads so has something else beside it (rule 1.2).
TOO_GOOD_FOR_AN_ELECTRODE_OHM = 0.5 * DECLARED_MAXIMUM_OHM["TN-C-S"]
#: Under about this an electrode's own resistance is asked about: pipes or a bond help it (Ω), rule 3.2.
ASK_ABOUT_PIPES_OHM = 2.0
UNSTABLE_ELECTRODE_OHM = 200.0


def judge_ze(
    ze: Reading | None,
    earthing: str,
    *,
    parallel_removed: bool = True,
    limit_ohm: float | None = None,
    rcd_ma: float = USUAL_RCD_MA,
) -> Verdict:
    """Hold the external earth loop impedance against what is usually declared (rules 3.1 to 3.3).

    ze: Ze (Ω); earthing: 'TN-S', 'TN-C-S' or 'TT'; parallel_removed: the earthing conductor was
    disconnected from everything parallel for the measurement; limit_ohm: another declared maximum than the usual one;
    rcd_ma: on TT, the least sensitive RCD the electrode serves (mA). Raises ValueError for another arrangement.
    """
    source = "BS 7671 643.7.3.201, declared maxima · rules 3.1 to 3.3"
    if earthing == "TT":
        return judge_electrode(ze, rcd_ma, alone=parallel_removed)
    if earthing not in DECLARED_MAXIMUM_OHM:
        raise ValueError(f"{earthing!r} is not an earthing arrangement known here (TN-S, TN-C-S, TT).")
    limit = limit_ohm or DECLARED_MAXIMUM_OHM[earthing]
    if ze is not None and ze.kind == "over-range":
        return _no_earth(ze, source, limit, "stop live tests and call the network operator")
    verdict = judge(
        ze,
        limit,
        "loop",
        Words(
            name="Ze",
            unit="Ω",
            source=source,
            within=f"{{reading}} is within {{limit}} for {earthing}",
            beyond=f"{{reading}} is above the {{limit}} usual for {earthing}: the network's earth is in doubt",
            next_step="Stop live tests and call the network operator; dead tests can go on.",
            observation="ze-above-maximum",
        ),
    )
    if verdict.status == "fail":
        if earthing == "TN-S" and ze is not None and (ze.value or 0.0) >= LIKE_AN_ELECTRODE_OHM:
            reason = f"{ze} Ω is the earth of an electrode, not of a cable's sheath: TN-S is written, TT seems meant."
            return replace(verdict, reason=reason, next_step="Look where the earthing conductor goes, then set it so.")
        return verdict
    if verdict.status in ("pass", "attention") and not parallel_removed:
        return Verdict(
            status="unknown",
            reason=f"{ze} Ω, but nothing says that bonding and other parallel paths were disconnected for it.",
            source=source,
            limit=limit,
            margin=verdict.margin,
            next_step="Confirm that the earthing conductor was taken off everything parallel, or measure again.",
        )
    return verdict


def _no_earth(reading: Reading, source: str, limit: float | None, then: str) -> Verdict:
    return Verdict(
        status="fail",
        reason=f"{reading}: there is no earth here.",
        source=source,
        limit=limit,
        next_step=f"Tell the person in charge now; {then}.",
        observation="no-earth-at-origin",
    )


def judge_electrode(ra: Reading | None, rcd_ma: float, *, alone: bool = True) -> Verdict:
    """Hold an electrode's resistance RA (Ω) against RA·IΔn ≤ 50 V and against 200 Ω (rule 3.2).

    rcd_ma: the least sensitive RCD it serves (mA); alone: bonds and everything parallel were off it. A reading that
    fails fails all the same: whatever is parallel only lowers it.
    """
    source = "BS 7671 411.5.3 · rule 3.2"
    limit = round(TOUCH_VOLTAGE_V / rcd_ma * 1000)
    if ra is not None and ra.kind == "over-range":
        return _no_earth(ra, source, limit, "look at the electrode and its conductor")
    words = Words(
        name="The electrode",
        unit="Ω",
        source=source,
        within=f"{{reading}} keeps a {rcd_ma:g} mA RCD's fault under 50 V (up to {{limit}})",
        beyond=f"{{reading}} with a {rcd_ma:g} mA RCD gives more than 50 V",
        next_step="Add or lengthen an electrode, or a more sensitive RCD; measure again.",
        observation="ze-above-maximum",
    )
    verdict = judge(ra, limit, "loop", words)
    if verdict.status in ("fail", "unknown") or ra is None:
        return verdict
    stable = at_most(ra, UNSTABLE_ELECTRODE_OHM)
    if stable is not True:
        return Verdict(
            status="attention" if stable is False else "unknown",
            reason=f"{ra} Ω serves a {rcd_ma:g} mA RCD, but above 200 Ω an electrode may not stay stable.",
            source=source,
            limit=UNSTABLE_ELECTRODE_OHM,
            margin=None if ra.value is None else UNSTABLE_ELECTRODE_OHM - ra.value,
            observation="electrode-above-200" if stable is False else None,
        )
    if not alone:
        return Verdict(
            status="unknown",
            reason=f"{ra} Ω, but nothing says that bonds and pipes were off the electrode: they would help it.",
            source=source,
            limit=UNSTABLE_ELECTRODE_OHM,
            next_step="Confirm that it was measured by itself, or take the bonds off and measure again.",
        )
    if ra.value is not None and ra.value < ASK_ABOUT_PIPES_OHM:
        much = ra.value < TOO_GOOD_FOR_AN_ELECTRODE_OHM
        return Verdict(
            status="attention",
            reason=f"{ra} Ω is too good for a rod in the ground"
            + (": it reads like a supply's own earth." if much else ": metal pipes may still be beside it."),
            source=f"{source}, 1.2",
            limit=UNSTABLE_ELECTRODE_OHM,
            next_step="Look what else is connected: water or gas pipes, a bond, the supply's own earth.",
        )
    return Verdict(
        status="pass",
        reason=f"{ra} Ω is a stable value.",
        source=source,
        limit=UNSTABLE_ELECTRODE_OHM,
        margin=limit - (ra.value or 0.0),
    )


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

    PEFC is taken with everything connected, so that a higher one is usual; lower by more than 15 % is asked about. So
    is the pattern of a slip: ohms written for kiloamperes, amperes for kiloamperes, U0/Z the other way round.
    """
    source = "I = U0/Z · rule 3.5"
    for name, reading in (("Ze", ze), ("PEFC", pefc_ka)):
        if reading is None or not reading.value or reading.bound is not None:
            return Verdict(status="unknown", reason=f"Needs a plain figure for {name}.", source=source)
    assert ze and pefc_ka and ze.value and pefc_ka.value
    expected_ka = U0_V / ze.value / 1000
    said = f"{ze} Ω gives {rounded(expected_ka)} kA, written is {pefc_ka} kA"
    slip = _slip(ze, pefc_ka, expected_ka)
    # The last digit of a short reading such as 0.02 Ω moves the quotient by more than 15 % on its own.
    rounding = ze.resolution / 2 / ze.value + pefc_ka.resolution / 2 / pefc_ka.value
    short = (expected_ka - pefc_ka.value) / expected_ka
    if slip or short > 0.15 + rounding:
        return Verdict(
            status="attention",
            reason=f"{said}: {slip or 'lower than it can be with everything connected'}.",
            source=source,
            limit=expected_ka,
            margin=-short * expected_ka,
            next_step="Look at the instrument again, or measure both once more with everything reconnected.",
        )
    told = "they agree" if abs(short) <= 0.15 + rounding else "higher, as with parallel paths"
    return Verdict(status="pass", reason=f"{said}: {told}.", source=source, limit=expected_ka)


#: No home meets more (kA): a figure above it was read in amperes.
MOST_KA = 50.0


def is_slip(fault_current_ka: Reading) -> bool:
    """Is a fault current (kA) so high that it was written in amperes?"""
    return fault_current_ka.value is not None and fault_current_ka.value > MOST_KA


#: A figure counts as the slip's own when it is within this share of it.
_SLIP = 0.08
#: More than this many times U0/Z is no parallel path any more.
_FAR_TOO_HIGH = 10.0


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
    return "far above what this loop lets flow" if written > _FAR_TOO_HIGH * expected_ka else None


def judge_zdb(ze: Reading | None, zdb: Reading | None) -> Verdict:
    """Hold the loop impedance at a board beside Ze (both Ω), rule 3.3.

    With everything connected again parallel paths make Zdb lower, which is fine; a board well above its origin has a
    long or poor connection.
    """
    source = "Zdb − Ze · rule 3.3"
    if ze is None or zdb is None or ze.value is None or zdb.value is None or ze.bound or zdb.bound:
        return Verdict(status="unknown", reason="Needs plain figures for Ze and Zdb.", source=source)
    apart = zdb.value - ze.value
    spread = ze.uncertainty("loop") + zdb.uncertainty("loop")
    if apart < -spread:
        return Verdict(
            status="pass",
            reason=f"{zdb} Ω is under Ze, {ze} Ω: parallel paths, as is usual with everything connected again.",
            source=source,
            limit=ze.value,
        )
    if apart > max(FAR_BOARD_OHM, spread):
        return Verdict(
            status="attention",
            reason=f"{zdb} Ω is {rounded(apart)} Ω above Ze, {ze} Ω.",
            source=source,
            limit=ze.value,
            margin=-apart,
            next_step="A long sub-main explains it; otherwise look for a loose connection between origin and board.",
        )
    return Verdict(status="pass", reason=f"{zdb} Ω beside Ze, {ze} Ω.", source=source, limit=ze.value)


#: Cut-out fuses that limit the current, and so back up what stands behind them (rule 3.4).
LIMITING_FUSES = ("1361", "88")
#: A conditional rating holds behind a service fuse up to this (A).
CONDITIONAL_FUSE_A = 100.0
Backing = Literal["limiting", "rewirable", "not known"]


def backing(fuse_standard: str | None) -> Backing:
    """What a cut-out fuse of that standard does for what stands behind it."""
    said = (fuse_standard or "").upper()
    if "3036" in said or "REWIR" in said:
        return "rewirable"
    return "limiting" if any(number in said for number in LIMITING_FUSES) else "not known"


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
    rating (A). A cartridge cut-out fuse limits the current, so that what lies above a device's own capacity is worth a
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
            next_step="Look for the unit's conditional rating; without one say that the cut-out fuse backs it up.",
        )
    return Verdict(
        status="fail",
        reason=f"{pfc_ka} kA can flow where {limit:g} kA can be broken"
        + (": a rewirable cut-out fuse backs nothing up." if behind == "rewirable" else "."),
        source=source,
        limit=limit,
        margin=margin,
        next_step="Look for the unit's conditional rating behind its service fuse, or for a backing device.",
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


LEAKAGE_SHARE = 0.3
TAILS_M = 3.0


def judge_leakage(leakage_ma: Reading | None, rcd_ma: float) -> Verdict:
    """Hold the standing earth leakage behind one RCD (mA) against 30 % of its rating (rule 3.8)."""
    words = Words(
        name="Leakage",
        unit="mA",
        source="BS 7671 531.3.2 · rule 3.8",
        within="{reading} is within {limit}",
        beyond=f"{{reading}} is more than 30 % of the {rcd_ma:g} mA RCD: expect unwanted tripping",
        next_step="Switch circuits off one by one with the clamp round the tails to find where it goes.",
        observation="leakage-high",
        status="attention",
    )
    return judge(leakage_ma, LEAKAGE_SHARE * rcd_ma, "leakage", words)


def judge_carried(rating_a: float, name: str, before_a: float, before: str, sum_a: float | None = None) -> Verdict:
    """Hold the rating of a main switch, RCCB or isolator (A) against the device before it (A), rule 3.10.

    sum_a: the ratings behind it added up (A), None where they are not known; it can carry no more than what stands
    before it lets through, nor more than what stands behind it can draw.
    """
    source = "BS 7671 536.4.202, 433.1 · rule 3.10"
    flow = before_a if sum_a is None else min(before_a, sum_a)
    if rating_a >= flow:
        return Verdict(
            status="pass",
            reason=f"{name} of {rating_a:g} A carries what can flow ({flow:g} A).",
            source=source,
            limit=flow,
            margin=rating_a - flow,
        )
    behind = "" if sum_a is None else f", and the devices behind it add up to {sum_a:g} A"
    return Verdict(
        status="attention",
        reason=f"{name} is rated {rating_a:g} A behind {before} of {before_a:g} A{behind}.",
        source=source,
        limit=flow,
        margin=rating_a - flow,
        next_step="Compare with the load as used; a smaller service fuse, a larger switch, or its maker's own word.",
        observation="switch-underrated",
    )


def judge_tails(length_m: float, *, protected: bool, limit_m: float = TAILS_M) -> Verdict:
    """Hold the length of the tails (m) against what the operator allows without a further device (rule 3.9)."""
    source = "network operator's rules, usually 3 m · rule 3.9"
    if protected or length_m <= limit_m:
        reason = "A switch-fuse protects the tails." if protected else f"{length_m:g} m is within {limit_m:g} m."
        return Verdict(status="pass", reason=reason, source=source, limit=limit_m, margin=limit_m - length_m)
    return Verdict(
        status="attention",
        reason=f"{length_m:g} m of tails without a protective device; {limit_m:g} m is usual.",
        source=source,
        limit=limit_m,
        margin=limit_m - length_m,
        next_step="Look for a switch-fuse near the meter; ask the operator what it allows.",
        observation="tails-long",
    )
