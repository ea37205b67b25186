"""Earth fault loop impedance (rules 7.1 to 7.3)."""

from dorrik.core import devices
from dorrik.core.readings import Reading, add, at_most, figure, why_unknown
from dorrik.core.verdict import Verdict

TOUCH_VOLTAGE_V = 50.0
#: Above this an electrode's resistance may not be stable through the seasons (rule 3.2).
UNSTABLE_ELECTRODE_OHM = 200.0


def judge_zs(measured: Reading | None, limit_ohm: float, basis: float = 0.8) -> Verdict:
    """Hold a loop impedance measured cold against the device's limit (rule 7.1).

    measured: Zs (Ω); limit_ohm: limit at working temperature (Ω), see `devices.zs_limit_ohm`; basis: share
    of the limit that a cold reading may use, a house rule (0.8 or 1.0).
    """
    share_ohm = basis * limit_ohm
    cold, full = at_most(measured, share_ohm), at_most(measured, limit_ohm)
    said = f"{measured} Ω" if measured else ""
    margin = None if measured is None or measured.value is None else share_ohm - measured.value
    share = f"{basis:g} × {limit_ohm:.2f} = {share_ohm:.2f} Ω" if basis != 1 else f"{limit_ohm:.2f} Ω"
    if measured is not None and measured.sort == "over-range":
        return Verdict(
            status="fail",
            reason=f"{measured}: a loop tester that is over range has met no earth worth the name.",
            source=devices.SOURCE,
            limit=limit_ohm,
            next_step="Isolate the circuit; look for the break in its cpc before anything else.",
            observation="zs-above-limit",
        )
    if full is False:
        return Verdict(
            status="fail",
            reason=f"{said} is above the device's limit of {limit_ohm:.2f} Ω: it may not disconnect in time.",
            source=devices.SOURCE,
            limit=limit_ohm,
            margin=None if margin is None or measured is None else limit_ohm - (measured.value or 0),
            next_step="Work the terminals at the point and the board, measure again, compare with Zdb + (R1+R2).",
            observation="zs-above-limit",
        )
    if cold is None:
        reason = why_unknown(measured, "Zs")
        return Verdict(status="unknown", reason=reason, source=devices.SOURCE, limit=share_ohm)
    if not cold:
        if full is None:
            reason = why_unknown(measured, "Zs")
            return Verdict(status="unknown", reason=reason, source=devices.SOURCE, limit=limit_ohm)
        return Verdict(
            status="attention",
            reason=f"{said} lies between {share} and the full {limit_ohm:.2f} Ω: warm conductors may exceed it.",
            source=devices.SOURCE,
            limit=share_ohm,
            margin=margin,
            next_step="Judge the conductor temperature when measured, or calculate from Zdb + (R1+R2).",
        )
    assert measured is not None
    if measured.bound is None and margin is not None and margin < measured.uncertainty("loop"):
        return Verdict(
            status="attention",
            reason=f"{said} is within {share}, but by less than the instrument's uncertainty of "
            f"{figure(measured.uncertainty('loop'))} Ω.",
            source=devices.SOURCE + ", 1.3",
            limit=share_ohm,
            margin=margin,
        )
    return Verdict(
        status="pass",
        reason=f"{said} is within {share}.",
        source=devices.SOURCE,
        limit=share_ohm,
        margin=margin,
    )


def judge_zs_behind_rcd(measured: Reading | None, rated_ma: float) -> Verdict:
    """Loop impedance where an RCD gives the fault protection: Zs·IΔn ≤ 50 V (rule 7.2, 3.2).

    measured: Zs (Ω); rated_ma: rated residual current of the RCD (mA).
    """
    source = "BS 7671 411.5.3 · rule 7.2"
    limit_ohm = TOUCH_VOLTAGE_V / (rated_ma / 1000)
    held = at_most(measured, limit_ohm)
    if held is None:
        return Verdict(status="unknown", reason=why_unknown(measured, "Zs"), source=source, limit=limit_ohm)
    assert measured is not None
    margin = None if measured.value is None else limit_ohm - measured.value
    if not held:
        return Verdict(
            status="fail",
            reason=f"{measured} Ω with {rated_ma:g} mA gives more than 50 V: the limit is {limit_ohm:.0f} Ω.",
            source=source,
            limit=limit_ohm,
            margin=margin,
            observation="zs-above-limit",
        )
    if at_most(measured, UNSTABLE_ELECTRODE_OHM) is not True:
        return Verdict(
            status="attention",
            reason=f"{measured} Ω is within {limit_ohm:.0f} Ω for {rated_ma:g} mA, but above 200 Ω an electrode "
            "may not stay stable.",
            source=source + ", 3.2",
            limit=limit_ohm,
            margin=margin,
            observation="electrode-above-200",
        )
    return Verdict(
        status="pass",
        reason=f"{measured} Ω is within {limit_ohm:.0f} Ω: the {rated_ma:g} mA RCD gives the fault protection.",
        source=source,
        limit=limit_ohm,
        margin=margin,
    )


#: No Zs possible because the RCD trips on test.
TRIPS_ON_TEST = Verdict(
    status="attention",
    reason="The RCD trips on the loop test: it is too sensitive, or its circuits leak.",
    source="rule 7.4",
    next_step="Measure the standing leakage, test the RCD with its load side off; Zs can be calculated.",
    observation="rcd-trips-on-test",
)


def calculated(zdb: Reading | None, r1_r2: Reading | None) -> Reading | None:
    """Zs = Zdb + (R1+R2), all in Ω; None where either is missing (rule 7.3)."""
    if zdb is None or r1_r2 is None or zdb.value is None or r1_r2.value is None:
        return None
    return add(zdb, r1_r2)


def r1_r2_from_live(zs: Reading | None, zdb: Reading | None) -> Reading | None:
    """R1+R2 = Zs − Zdb (Ω), where only live tests were possible; None without two plain figures (rule 7.3)."""
    if zs is None or zdb is None or zs.value is None or zdb.value is None or zs.bound or zdb.bound:
        return None
    return Reading.of(max(0.0, zs.value - zdb.value))


def cross_check(measured_zs: Reading | None, zdb: Reading | None, r1_r2: Reading | None) -> Verdict:
    """Hold a measured Zs beside Zdb + (R1+R2), all in Ω (rule 7.3)."""
    source = "Zs = Zdb + (R1+R2) · rule 7.3"
    missing = [
        name
        for name, reading in (("Zs", measured_zs), ("Zdb", zdb), ("R1+R2", r1_r2))
        if reading is None or reading.value is None or reading.bound is not None
    ]
    if missing:
        return Verdict(status="unknown", reason=f"Needs a plain figure for {' and '.join(missing)}.", source=source)
    assert measured_zs and zdb and r1_r2 and measured_zs.value is not None
    total = add(zdb, r1_r2)
    assert total is not None and total.value is not None
    tolerance = max(0.05, 0.15 * total.value)
    difference = measured_zs.value - total.value
    beside = f"measured {measured_zs} Ω, calculated {zdb} + {r1_r2} = {total} Ω"
    if difference > tolerance + 1e-9:
        return Verdict(
            status="attention",
            reason=f"Higher than it should be: {beside}.",
            source=source,
            limit=total.value,
            margin=tolerance - difference,
            next_step="Look for a loose joint, a point beyond the end of line that was tested, a warm cable, or an RCD "
            "that lifts the reading.",
        )
    if difference < -tolerance - 1e-9:
        return Verdict(
            status="attention",
            reason=f"Lower than it should be: {beside}. A parallel earth path would do that.",
            source=source,
            limit=total.value,
            margin=tolerance + difference,
        )
    return Verdict(
        status="pass",
        reason=f"Agrees: {beside}.",
        source=source,
        limit=total.value,
        margin=tolerance - abs(difference),
    )
