"""The supply: external earth loop impedance, fault current, leakage and tails (rules 3.1 to 3.5, 3.8, 3.9)."""

from math import inf, sqrt

from dorrik.core.devices import U0_V
from dorrik.core.readings import Reading, at_most, figure, why_unknown
from dorrik.core.verdict import Verdict

#: Highest Ze that network operators usually declare (Ω), rule 3.1.
DECLARED_MAXIMUM_OHM = {"TN-C-S": 0.35, "TN-S": 0.8}
#: Touch voltage that an electrode's RCD must not let stand (V), and the RCD that is usual behind one (mA).
TOUCH_VOLTAGE_V = 50.0
USUAL_RCD_MA = 30.0
#: A board this far above the origin (Ω) has a long sub-main or a poor connection.
FAR_BOARD_OHM = 0.2


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
    if ze is not None and ze.sort == "over-range" and earthing in (*DECLARED_MAXIMUM_OHM, "TT"):
        on_tn = earthing in DECLARED_MAXIMUM_OHM
        return Verdict(
            status="fail",
            reason=f"{ze}: there is no earth at the origin.",
            source=source,
            limit=limit_ohm or DECLARED_MAXIMUM_OHM.get(earthing),
            next_step="Tell the person in charge now; stop live tests and call the network operator."
            if on_tn
            else "Tell the person in charge now; look at the electrode and its conductor.",
            observation="no-earth-at-origin",
        )
    if earthing == "TT":
        return _judge_electrode(ze, rcd_ma)
    if earthing not in DECLARED_MAXIMUM_OHM:
        raise ValueError(f"{earthing!r} is not an earthing arrangement known here (TN-S, TN-C-S, TT).")
    limit = limit_ohm or DECLARED_MAXIMUM_OHM[earthing]
    held = at_most(ze, limit)
    margin = None if ze is None or ze.value is None else limit - ze.value
    if held is False:
        return Verdict(
            status="fail",
            reason=f"{ze} Ω is above the {limit:g} Ω usual for {earthing}: the network's earth is in doubt.",
            source=source,
            limit=limit,
            margin=margin,
            next_step="Stop live tests and call the network operator; dead tests can go on.",
            observation="ze-above-maximum",
        )
    if held is None:
        return Verdict(status="unknown", reason=why_unknown(ze, "Ze"), source=source, limit=limit)
    assert ze is not None
    if not parallel_removed:
        return Verdict(
            status="unknown",
            reason=f"{ze} Ω, but nothing says that bonding and other parallel paths were disconnected for it.",
            source=source,
            limit=limit,
            margin=margin,
            next_step="Confirm that the earthing conductor was taken off everything parallel, or measure again.",
        )
    if ze.bound is None and margin is not None and margin < ze.uncertainty("loop"):
        return Verdict(
            status="attention",
            reason=f"{ze} Ω is within {limit:g} Ω, but by less than the instrument's uncertainty of "
            f"{figure(ze.uncertainty('loop'))} Ω.",
            source=source,
            limit=limit,
            margin=margin,
        )
    return Verdict(
        status="pass",
        reason=f"{ze} Ω is within {limit:g} Ω for {earthing}.",
        source=source,
        limit=limit,
        margin=margin,
    )


def _judge_electrode(ra: Reading | None, rcd_ma: float) -> Verdict:
    """Electrode resistance RA on a TT supply: RA·IΔn ≤ 50 V (rule 3.2)."""
    source = "BS 7671 411.5.3 · rule 3.2"
    limit = round(TOUCH_VOLTAGE_V / rcd_ma * 1000)
    held = at_most(ra, limit)
    if held is None:
        return Verdict(status="unknown", reason=why_unknown(ra, "The electrode"), source=source, limit=limit)
    assert ra is not None
    margin = None if ra.value is None else limit - ra.value
    if not held:
        return Verdict(
            status="fail",
            reason=f"{ra} Ω with a {rcd_ma:g} mA RCD gives more than 50 V.",
            source=source,
            limit=limit,
            margin=margin,
            observation="ze-above-maximum",
        )
    if at_most(ra, 200.0) is not True:
        return Verdict(
            status="attention",
            reason=f"{ra} Ω serves a {rcd_ma:g} mA RCD, but above 200 Ω an electrode may not stay stable.",
            source=source,
            limit=200.0,
            margin=None if ra.value is None else 200.0 - ra.value,
            observation="electrode-above-200",
        )
    return Verdict(status="pass", reason=f"{ra} Ω is a stable value.", source=source, limit=200.0, margin=margin)


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
    """Do Ze (Ω) and PEFC (kA) measured at one place agree with I = U0/Z within 15 %? (rule 3.5)"""
    source = "I = U0/Z · rule 3.5"
    for name, reading in (("Ze", ze), ("PEFC", pefc_ka)):
        if reading is None or not reading.value or reading.bound is not None:
            return Verdict(status="unknown", reason=f"Needs a plain figure for {name}.", source=source)
    assert ze and pefc_ka and ze.value and pefc_ka.value
    expected_ka = U0_V / ze.value / 1000
    apart = abs(pefc_ka.value - expected_ka) / expected_ka
    said = f"{ze} Ω gives {figure(expected_ka)} kA, written is {pefc_ka} kA"
    # The last digit of a short reading such as 0.02 Ω moves the quotient by more than 15 % on its own.
    rounding = ze.resolution / 2 / ze.value + pefc_ka.resolution / 2 / pefc_ka.value
    if apart > 0.15 + rounding:
        return Verdict(
            status="attention",
            reason=f"{said}: one of them may be mistyped, or ohms and kiloamperes exchanged.",
            source=source,
            limit=expected_ka,
            margin=-apart * expected_ka,
            next_step="Look at the instrument again, or measure both once more with everything reconnected.",
        )
    return Verdict(status="pass", reason=f"{said}: they agree.", source=source, limit=expected_ka)


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
            reason=f"{zdb} Ω is {figure(apart)} Ω above Ze, {ze} Ω.",
            source=source,
            limit=ze.value,
            margin=-apart,
            next_step="A long sub-main explains it; otherwise look for a loose connection between origin and board.",
        )
    return Verdict(status="pass", reason=f"{zdb} Ω beside Ze, {ze} Ω.", source=source, limit=ze.value)


def judge_breaking_capacity(pfc_ka: Reading | None, breaking_ka: float, conditional_ka: float | None = None) -> Verdict:
    """Can a device break the prospective fault current? (rule 3.4)

    pfc_ka: recorded prospective fault current (kA); breaking_ka: the device's own rated breaking capacity
    (kA); conditional_ka: conditional rating of the consumer unit behind its service fuse (kA), or None.
    """
    source = "BS 7671 434.5.1 · rule 3.4"
    limit = max(breaking_ka, conditional_ka or 0.0)
    held = at_most(pfc_ka, limit)
    if held is None:
        return Verdict(
            status="unknown",
            reason=why_unknown(pfc_ka, "The prospective fault current"),
            source=source,
            limit=limit,
        )
    assert pfc_ka is not None
    margin = None if pfc_ka.value is None else limit - pfc_ka.value
    if not held:
        return Verdict(
            status="fail",
            reason=f"{pfc_ka} kA can flow where {limit:g} kA can be broken, and no backing device is recorded.",
            source=source,
            limit=limit,
            margin=margin,
            next_step="Look for the unit's conditional rating behind its service fuse, or for a backing device.",
            observation="breaking-capacity-below-pfc",
        )
    return Verdict(
        status="pass",
        reason=f"{pfc_ka} kA is within {limit:g} kA.",
        source=source,
        limit=limit,
        margin=margin,
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
    source = "BS 7671 531.3.2 · rule 3.8"
    limit = LEAKAGE_SHARE * rcd_ma
    held = at_most(leakage_ma, limit)
    if held is None:
        return Verdict(status="unknown", reason=why_unknown(leakage_ma, "Leakage"), source=source, limit=limit)
    assert leakage_ma is not None
    margin = None if leakage_ma.value is None else limit - leakage_ma.value
    if held:
        reason = f"{leakage_ma} mA is within {limit:g} mA."
        return Verdict(status="pass", reason=reason, source=source, limit=limit, margin=margin)
    return Verdict(
        status="attention",
        reason=f"{leakage_ma} mA is more than 30 % of the {rcd_ma:g} mA RCD: expect unwanted tripping.",
        source=source,
        limit=limit,
        margin=margin,
        next_step="Switch circuits off one by one with the clamp round the tails to find where it goes.",
        observation="leakage-high",
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
