"""Earth fault loop impedance (rules 7.1 to 7.3)."""

from dataclasses import replace

from dorrik.core import devices
from dorrik.core.comparison import Words, judge
from dorrik.core.readings import Reading, add, at_most, remembered, why_unknown
from dorrik.core.verdict import Verdict

TOUCH_VOLTAGE_V = 50.0
#: Above this an electrode's resistance may not be stable through the seasons (rule 3.2).
UNSTABLE_ELECTRODE_OHM = 200.0


#: On TN behind an RCD a loop above this is a lost or failing cpc, whatever the RCD would do (Ω), rule 7.2.
FEW_OHMS = 5.0
#: Measured above Zdb + (R1+R2) by more than this factor and this much is far above it (rules 7.2, 7.3).
FAR_FACTOR, FAR_OHM = 2.0, 0.5

_OPEN_STEP = "Isolate the circuit; look for the break in its cpc before anything else."


@remembered
def judge_zs(measured: Reading | None, limit_ohm: float, basis: float = 0.8) -> Verdict:
    """Hold a loop impedance measured cold against the device's limit (rule 7.1).

    measured: Zs (Ω); limit_ohm: limit at working temperature (Ω), see `devices.zs_limit_ohm`; basis: share
    of the limit that a cold reading may use, a house rule (0.8 or 1.0).
    """
    if measured is not None and measured.kind == "over-range":
        return _no_earth(measured, limit_ohm)
    share_ohm = basis * limit_ohm
    share = f"{basis:g} × {limit_ohm:.2f} = {share_ohm:.2f} Ω" if basis != 1 else f"{limit_ohm:.2f} Ω"
    full = judge(
        measured,
        limit_ohm,
        "loop",
        Words(
            name="Zs",
            unit="Ω",
            source=devices.SOURCE,
            within="{reading} is within {limit}",
            beyond=f"{{reading}} is above the device's limit of {limit_ohm:.2f} Ω: it may not disconnect in time",
            next_step="Work the terminals at the point and the board, measure again, compare with Zdb + (R1+R2).",
            observation="zs-above-limit",
        ),
    )
    if full.status == "fail" or (full.status == "unknown" and at_most(measured, share_ohm) is not True):
        unsettled_share = full.status == "unknown" and at_most(measured, share_ohm) is None
        return full if full.status == "fail" or not unsettled_share else replace(full, limit=share_ohm)
    return judge(
        measured,
        share_ohm,
        "loop",
        Words(
            name="Zs",
            unit="Ω",
            source=devices.SOURCE,
            within=f"{{reading}} is within {share}",
            beyond=f"{{reading}} lies between {share} and the full {limit_ohm:.2f} Ω: warm conductors may exceed it",
            next_step="Judge the conductor temperature when measured, or calculate from Zdb + (R1+R2).",
            status="attention",
        ),
    )


def _no_earth(measured: Reading, limit_ohm: float | None) -> Verdict:
    return Verdict(
        status="fail",
        reason=f"{measured}: a loop tester that is over range has met no earth worth the name.",
        source=devices.SOURCE,
        limit=limit_ohm,
        next_step=_OPEN_STEP,
        observation="no-cpc-at-point",
    )


@remembered
def judge_zs_behind_rcd(measured: Reading | None, rated_ma: float) -> Verdict:
    """Loop impedance where an RCD gives the fault protection on TT: Zs·IΔn ≤ 50 V (rules 7.2, 3.2).

    measured: Zs (Ω); rated_ma: rated residual current of the RCD (mA).
    """
    limit_ohm = TOUCH_VOLTAGE_V / (rated_ma / 1000)
    if measured is not None and measured.kind == "over-range":
        return _no_earth(measured, limit_ohm)
    words = Words(
        name="Zs",
        unit="Ω",
        source="BS 7671 411.5.3 · rule 7.2",
        within=f"{{reading}} is within {limit_ohm:.0f} Ω: the {rated_ma:g} mA RCD gives the fault protection",
        beyond=f"{{reading}} with {rated_ma:g} mA gives more than 50 V: the limit is {limit_ohm:.0f} Ω",
        observation="zs-above-limit",
    )
    verdict = judge(measured, limit_ohm, "loop", words)
    if verdict.status == "pass" and at_most(measured, UNSTABLE_ELECTRODE_OHM) is not True:
        return Verdict(
            status="attention",
            reason=f"{measured} Ω is within {limit_ohm:.0f} Ω for {rated_ma:g} mA, but above 200 Ω an electrode "
            "may not stay stable.",
            source="BS 7671 411.5.3 · rules 7.2, 3.2",
            limit=limit_ohm,
            margin=verdict.margin,
            observation="electrode-above-200",
        )
    return verdict


def judge_zs_on_tn_behind_rcd(
    measured: Reading | None, rated_ma: float, overcurrent: Verdict, total: Reading | None
) -> Verdict:
    """Loop impedance where an RCD is relied on for fault protection on TN (rule 7.2).

    measured: Zs (Ω); rated_ma: rated residual current (mA); overcurrent: what the device's own limit says, which is
    shown beside; total: Zdb + (R1+R2) (Ω), or None. The RCD would trip on almost any loop: what it must not hide is a
    cpc that is lost or failing.
    """
    source = "BS 7671 411.4.204, 411.3.2 · rule 7.2"
    if measured is not None and measured.kind == "over-range":
        return _no_earth(measured, overcurrent.limit)
    few = at_most(measured, FEW_OHMS)
    if few is None or measured is None:
        return Verdict(status="unknown", reason=why_unknown(measured, "Zs"), source=source, limit=FEW_OHMS)
    far = is_far_above(measured, total)
    if not few or far:
        why = f"far above the {total} Ω that Zdb + (R1+R2) lead to" if far else f"more than {FEW_OHMS:g} Ω on TN"
        return Verdict(
            status="fail",
            reason=f"{measured} Ω is {why}: a cpc that is lost or failing. The RCD only hides it.",
            source=source,
            limit=FEW_OHMS,
            margin=None if measured.value is None else FEW_OHMS - measured.value,
            next_step=_OPEN_STEP,
            observation="zs-above-limit",
        )
    if overcurrent.status in ("pass", "attention"):
        return overcurrent
    limit = f"; its own device alone would ask for {overcurrent.limit:.2f} Ω" if overcurrent.limit is not None else ""
    return Verdict(
        status="pass",
        reason=f"{measured} Ω: the {rated_ma:g} mA RCD gives the fault protection{limit}.",
        source=source,
        limit=FEW_OHMS,
        margin=None if measured.value is None else FEW_OHMS - measured.value,
    )


def is_far_above(measured: Reading | None, total: Reading | None) -> bool:
    """Is Zs (Ω) so far above Zdb + (R1+R2) (Ω) that a joint or a cpc is failing? False where that is not known."""
    if measured is None or total is None or measured.value is None or total.value is None or total.bound == ">":
        return False
    if measured.bound == "<":
        return False
    return measured.value > max(FAR_FACTOR * total.value, total.value + FAR_OHM)


#: No Zs possible because the RCD trips on test: what is at fault, the RCD or its circuits, other tests have to say.
TRIPS_ON_TEST = Verdict(
    status="attention",
    reason="The RCD trips on the loop test: it is too sensitive, or its circuits leak.",
    source="rule 7.4",
    next_step="Test at ½ × IΔn with its load side off, measure the standing leakage; Zs can be calculated.",
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


@remembered
def judge_under_zdb(zs: Reading | None, zdb: Reading | None) -> Verdict | None:
    """A Zs (Ω) under Zdb (Ω), through which it flows, cannot be; None where it is not (rules 1.2, 7.3)."""
    if zs is None or zdb is None or zs.value is None or zdb.value is None or zs.bound == ">" or zdb.bound == "<":
        return None
    if zs.value >= zdb.value - zs.uncertainty("loop") - zdb.uncertainty("loop"):
        return None
    return Verdict(
        status="attention",
        reason=f"{zs} Ω is under Zdb, {zdb} Ω, through which it flows: that cannot be.",
        source="Zs = Zdb + (R1+R2) · rules 7.3, 1.2",
        limit=zdb.value,
        margin=zs.value - zdb.value,
        next_step="One of them is a slip, or was measured elsewhere: look at both again.",
    )


@remembered
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
    impossible = judge_under_zdb(measured_zs, zdb)
    if impossible is not None:
        return impossible
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
