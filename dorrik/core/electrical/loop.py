"""Earth fault loop impedance (rules 7.1 to 7.3)."""

from dataclasses import replace

from dorrik.core.basics.comparison import ComparedWords, judge
from dorrik.core.basics.readings import Reading, add, at_most, remembered, rounded, why_unknown
from dorrik.core.basics.verdict import Verdict
from dorrik.core.electrical import devices

TOUCH_VOLTAGE_V = 50.0
#: Above this an electrode's resistance may not be stable through the seasons (rule 3.2).
UNSTABLE_ELECTRODE_OHM = 200.0


#: On TN behind an RCD a loop above this is a lost or failing cpc, whatever the RCD would do (Ω), rule 7.2.
FEW_OHMS = 5.0
#: Measured above Zdb + (R1+R2) by more than this factor and this much is far above it (rules 7.2, 7.3).
FAR_FACTOR, FAR_OHM = 2.0, 0.5

#: Within the greater of these a measured loop is what was calculated (Ω, share), rule 7.3.
CROSS_OHM, CROSS_SHARE = 0.05, 0.15
#: A loop this many times the circuit's own R1+R2, and this much more than it (Ω), has a failing cpc (rule 7.2).
LOST_FACTOR, LOST_OHM = 3.0, 1.0

_OPEN_STEP = "Isolate the circuit. Find the break in its cpc before anything else. Restore, test again."


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
        ComparedWords(
            name="Zs",
            unit="Ω",
            source=devices.SOURCE,
            within="{reading} is within {limit}",
            beyond=f"{{reading}} is above the device's limit of {limit_ohm:.2f} Ω: it may not disconnect in time",
            next_step="Isolate and prove dead. Check the terminals at the point and the board. Restore, test again.",
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
        ComparedWords(
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
    words = ComparedWords(
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


def why_lost(zs: Reading | None, zdb_ohm: float, r1_r2: Reading | None) -> str | None:
    """Why a TN loop is that of a lost or failing cpc, as the end of a sentence; None where it is not one (rule 7.2).

    zs, r1_r2: Zs and R1+R2 (Ω), either of which may be missing; zdb_ohm: what stands before the circuit (Ω).
    """
    own = r1_r2.value if r1_r2 is not None and r1_r2.bound != "<" else None
    if own is not None and own > FEW_OHMS:
        return f"R1+R2 of {r1_r2} Ω is more than {FEW_OHMS:g} Ω"
    if zs is None or zs.value is None or zs.bound == "<":
        return None
    if zs.value > zdb_ohm + FEW_OHMS:
        return f"Zs of {zs} Ω is more than {FEW_OHMS:g} Ω above the {rounded(zdb_ohm)} Ω before it"
    own_share = zs.value - zdb_ohm
    if (
        own is not None
        and r1_r2 is not None
        and r1_r2.bound is None
        and own_share > max(LOST_FACTOR * own, own + LOST_OHM)
    ):
        return f"Zs of {zs} Ω is far above the {rounded(zdb_ohm)} + {r1_r2} Ω that lead to it"
    return None


def judge_lost(why: str, margin: float | None = None) -> Verdict:
    """A cpc that is lost or failing: nothing lowers it, least of all an RCD (rule 7.2). why: see `why_lost`."""
    return Verdict(
        status="fail",
        reason=f"{why[0].upper()}{why[1:]}: the cpc is lost or failing. An RCD only hides it.",
        source="BS 7671 411.3.1.1, 411.4.204 · rule 7.2",
        limit=FEW_OHMS,
        margin=margin,
        next_step=_OPEN_STEP,
        observation="cpc-lost",
    )


def judge_zs_on_tn_behind_rcd(measured: Reading | None, rated_ma: float, overcurrent: Verdict, shown: str) -> Verdict:
    """Loop impedance where a working RCD is relied on for fault protection on TN (rule 7.2).

    measured: Zs (Ω), of no lost cpc; rated_ma: rated residual current (mA); overcurrent: what the device's own limit
    says, which is shown beside; shown: what the RCD's protection rests on.
    """
    source = "BS 7671 411.4.204, 411.3.2 · rule 7.2"
    if overcurrent.status in ("pass", "attention"):
        return overcurrent
    if measured is None or measured.value is None or measured.bound == ">":
        return Verdict(status="unknown", reason=why_unknown(measured, "Zs"), source=source, limit=FEW_OHMS)
    limit = f"; its own device alone needs {overcurrent.limit:.2f} Ω" if overcurrent.limit is not None else ""
    return Verdict(
        status="pass",
        reason=f"{measured} Ω: the {rated_ma:g} mA RCD gives the fault protection ({shown}){limit}.",
        source=source,
        limit=FEW_OHMS,
        margin=FEW_OHMS - measured.value,
    )


#: Until then fixed equipment alone had 5 s to disconnect (BS 7671:2008 table 41.1 · rule 7.2).
SHORTER_TIME_YEAR = 2008


def within_older_time(verdict: Verdict) -> Verdict:
    """A loop of fixed equipment from before 2008 between the limits of 0.4 s and of 5 s: worth a look, no code."""
    return replace(
        verdict,
        status="attention",
        reason=f"{verdict.reason.rstrip('.')}; within the 5 s that fixed equipment had before {SHORTER_TIME_YEAR}.",
        next_step=None,
        observation=None,
    )


def judge_no_device(measured: Reading, limit_ohm: float) -> Verdict:
    """A TN loop (Ω) that no usual device would pass, where the circuit's own was not described (rule 7.2)."""
    return Verdict(
        status="fail",
        reason=f"{measured} Ω is more than any usual device allows ({limit_ohm:.2f} Ω).",
        source=devices.SOURCE,
        limit=limit_ohm,
        margin=None if measured.value is None else limit_ohm - measured.value,
        next_step="Isolate and prove dead. Check the cpc and the terminals of this circuit. Restore, test again.",
        observation="zs-above-limit",
    )


#: An R1+R2 this many times what the live tests leave for it was written with another decimal point (rule 1.2).
SLIP_FACTOR = 20.0


def judge_r1_r2_slip(zs: Reading, zdb: Reading | None, r1_r2: Reading | None) -> Verdict | None:
    """An R1+R2 (Ω) some powers of ten above what Zs − Zdb (Ω) allows is asked about as a slip (rule 1.2)."""
    own = r1_r2_from_live(zs, zdb)
    if own is None or r1_r2 is None or r1_r2.value is None or r1_r2.bound is not None or own.value is None:
        return None
    # What two loops differ by is known to their last digits only.
    spread = zs.uncertainty("loop") + (zdb.uncertainty("loop") if zdb is not None else 0.0)
    if r1_r2.value <= SLIP_FACTOR * (own.value + spread):
        return None
    return Verdict(
        status="attention",
        reason=f"R1+R2 of {r1_r2} Ω, where Zs − Zdb leaves {own} Ω: a decimal point or a unit may be wrong.",
        source="R1+R2 = Zs − Zdb · rules 7.3, 1.2",
        limit=own.value,
        margin=own.value - r1_r2.value,
        next_step="Check R1+R2 and Zs, then test again.",
        asks=True,
    )


def judge_unproved_rcd(verdict: Verdict, shown: str, *, failing: bool) -> Verdict:
    """A loop that only an RCD would make safe, and the RCD is not proved (rules 7.2, 8.1). shown: what is known of
    it."""
    return replace(
        verdict,
        status="fail" if failing else "unknown",
        reason=f"{verdict.reason.rstrip('.')}, but {shown}.",
        margin=None,
        next_step="Test the RCD first." if not failing else _RCD_STEP,
        observation="zs-above-limit" if failing else None,
    )


_RCD_STEP = "Isolate. Replace the RCD that this circuit depends on. Restore, test again."


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
    next_step="Isolate. Disconnect the load side, restore, test at ½ × IΔn; measure the earth leakage. "
    "Zs can be calculated.",
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
        reason=f"Zs {zs} Ω is under Zdb, {zdb} Ω: Zs includes Zdb, so it cannot be lower.",
        source="Zs = Zdb + (R1+R2) · rules 7.3, 1.2",
        limit=zdb.value,
        margin=zs.value - zdb.value,
        next_step="Check both entries, then test again.",
        asks=True,
    )


@remembered
def judge_live_r1_r2(live: Reading, dead: Reading | None) -> Verdict:
    """Hold R1+R2 by a live test beside the dead one (Ω): it finds what has changed since, and replaces nothing."""
    source = "live beside dead · rule 7.3"
    lost = why_lost(None, 0.0, live)
    if lost is not None:
        return judge_lost(lost)
    if dead is None or dead.value is None or dead.bound is not None or live.value is None or live.bound is not None:
        return Verdict(
            status="unknown",
            reason=f"{live} Ω by a live test: it shows no polarity, and other earth paths are in it.",
            source=source,
            next_step="Measure R1+R2 dead, or enter LIM with the reason.",
        )
    difference = live.value - dead.value
    tolerance = max(CROSS_OHM, CROSS_SHARE * dead.value)
    beside = f"{live} Ω live, {dead} Ω dead"
    if abs(difference) <= tolerance + 1e-9:
        return Verdict(
            status="pass", reason=f"Agrees: {beside}.", source=source, limit=dead.value,
            margin=tolerance - abs(difference),
        )  # fmt: skip
    higher = difference > 0
    return Verdict(
        status="attention",
        reason=f"{'Higher' if higher else 'Lower'} live than dead: {beside}."
        + ("" if higher else " A parallel earth path would do that."),
        source=source,
        limit=dead.value,
        margin=tolerance - abs(difference),
        next_step="Isolate and prove dead. Check the joints, test dead again, then restore." if higher else None,
    )


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
    tolerance = max(CROSS_OHM, CROSS_SHARE * total.value)
    difference = measured_zs.value - total.value
    beside = f"measured {measured_zs} Ω, calculated {zdb} + {r1_r2} = {total} Ω"
    if difference > tolerance + 1e-9:
        return Verdict(
            status="attention",
            reason=f"Higher than it should be: {beside}.",
            source=source,
            limit=total.value,
            margin=tolerance - difference,
            next_step=(
                "Isolate and prove dead. Check for a loose joint and for a point beyond the end of line. "
                "Restore, test again; a warm cable or an RCD lifts the reading too."
            ),
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
