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
#: A board this far above what leads to it (Ω; share of that) has a poor way of the earth, rule 3.1.
FAR_BOARD_OHM, FAR_BOARD_SHARE = 0.15, 0.5
#: From this much above it the earth to a board is a cause by itself (Ω), rule 3.1.
POOR_BOARD_OHM = 0.5
#: Above this a supply written TN may have lost its earth, or stands on an electrode in fact (Ω), rule 3.1.
LOST_SUPPLY_EARTH_OHM = 2.0
#: Up to this many times its declared maximum, with loops within their limits, Ze is for the operator to look into.
FEW_TIMES = 2.0
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
    loops_within: bool | None = None,
) -> Verdict:
    """Hold the external earth loop impedance against what is usually declared (rules 3.1 to 3.3).

    ze: Ze (Ω); earthing: 'TN-S', 'TN-C-S' or 'TT'; parallel_removed: the earthing conductor was
    disconnected from everything parallel for the measurement; limit_ohm: another declared maximum than the usual one;
    rcd_ma: on TT, the least sensitive RCD the electrode serves (mA); loops_within: are the loops that were measured
    within their limits, None where none was. Raises ValueError for another arrangement.
    """
    source = "BS 7671 643.7.3.201, declared maxima · rules 3.1 to 3.3"
    if earthing == "TT":
        return judge_electrode(ze, rcd_ma, alone=parallel_removed)
    if earthing not in DECLARED_MAXIMUM_OHM:
        raise ValueError(f"{earthing!r} is not an earthing arrangement known here (TN-S, TN-C-S, TT).")
    limit = limit_ohm or DECLARED_MAXIMUM_OHM[earthing]
    if ze is not None and ze.kind == "over-range":
        return _no_earth(ze, source, limit, "call the network operator")
    if is_impossible(ze):
        return _impossible("Ze", ze, source, limit)
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
            next_step="Keep off live tests at circuits. Call the network operator. Dead tests can go on.",
            observation="ze-above-maximum",
        ),
    )
    if verdict.status == "fail":
        return _graded(ze, earthing, limit, verdict, loops_within)
    if verdict.status in ("pass", "attention") and not parallel_removed:
        return Verdict(
            status="unknown",
            reason=f"{ze} Ω, but nothing says that bonding and other parallel paths were disconnected for it.",
            source=source,
            limit=limit,
            margin=verdict.margin,
            next_step="Confirm that the earthing conductor was disconnected from everything parallel, or test again.",
        )
    return verdict


def _graded(ze: Reading | None, earthing: str, limit: float, verdict: Verdict, loops_within: bool | None) -> Verdict:
    """A Ze above its declared maximum, which is no limit of the standard, by how far and by its loops (rule 3.1)."""
    over = 0.0 if ze is None or ze.value is None else ze.value - limit
    known = ze is not None and ze.value is not None and ze.bound is None
    if known and ze is not None and over < ze.uncertainty("loop") and loops_within is not False:
        also = "" if loops_within else "; no loop was tested yet"
        return replace(
            verdict,
            status="attention",
            reason=f"{ze} Ω is above the {limit:.2f} Ω usual for {earthing} by less than the instrument's "
            f"uncertainty{also}.",
            next_step="Test again on the high-current range, and compare with Zs of the circuits.",
            observation=None,
        )
    if ze is not None and (ze.value or 0.0) > LOST_SUPPLY_EARTH_OHM:
        return replace(
            verdict,
            reason=(
                f"{ze} Ω on {earthing}: the supply's earth may be lost. Or the installation is on an electrode in fact."
            ),
            next_step=(
                "Keep off live tests that drive current to earth. Call the network operator now. Then see "
                "where the earthing conductor goes."
            ),
        )
    if is_within_few_times(ze, limit) and loops_within:
        return replace(
            verdict,
            reason=f"{ze} Ω is above the {limit:.2f} Ω usual for {earthing}; the loops tested are within their limits.",
            next_step="Ask the network operator for the declared Ze. Live tests can go on.",
        )
    return verdict


def is_within_few_times(ze: Reading | None, limit_ohm: float) -> bool:
    """Is Ze (Ω) no more than twice its declared maximum (Ω)?"""
    return at_most(ze, FEW_TIMES * limit_ohm) is True


#: A loop this small (Ω) would let flow what no home meets: a null that was not taken, or a slip (rule 1.2).
LEAST_LOOP_OHM = 0.005


def is_impossible(loop: Reading | None) -> bool:
    """Is a loop impedance (Ω) nothing at all? (rule 1.2)"""
    return loop is not None and loop.value is not None and loop.bound != ">" and loop.value < LEAST_LOOP_OHM


def _impossible(name: str, reading: Reading | None, source: str, limit: float | None) -> Verdict:
    return Verdict(
        status="attention",
        reason=f"{name} {reading} Ω: no supply has so little. A slip, or the leads were nulled into it.",
        source=f"{source}, 1.2",
        limit=limit,
        next_step="Check the entry and the leads, then test again.",
        asks=True,
    )


def loop_impossible(name: str, reading: Reading) -> Verdict:
    """A loop of nothing is asked about as a slip (rule 1.2). name: what it is called; reading: Ω."""
    return _impossible(name, reading, "rule 7.1", None)


def _no_earth(reading: Reading, source: str, limit: float | None, then: str) -> Verdict:
    return Verdict(
        status="fail",
        reason=f"{reading}: there is no earth here.",
        source=source,
        limit=limit,
        next_step=f"Keep off live tests that drive current to earth. Tell the person in charge now; {then}.",
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
        return _no_earth(ra, source, limit, "check the electrode and its conductor")
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
            next_step="Isolate the supply. Take the bonds off, test again, reconnect. Or confirm that they were off.",
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
    said = f"{ze} Ω gives {rounded(expected_ka)} kA, written is {pefc_ka} kA"
    slip = _slip(ze, pefc_ka, expected_ka)
    # The last digit of a short reading such as 0.02 Ω moves the quotient by more than 15 % on its own.
    rounding = ze.resolution / 2 / ze.value + pefc_ka.resolution / 2 / pefc_ka.value
    short = (expected_ka - pefc_ka.value) / expected_ka
    allowed = max(0.15, ze.uncertainty("loop") / ze.value) + rounding
    if slip or short > allowed:
        return Verdict(
            status="attention",
            reason=f"{said}: {slip or 'lower than it can be with everything connected'}.",
            source=source,
            limit=expected_ka,
            margin=-short * expected_ka,
            next_step="Look at the instrument again, or measure both once more with everything reconnected.",
            asks=slip is not None,
        )
    told = "they agree" if abs(short) <= allowed else "higher, as with parallel paths"
    return Verdict(status="pass", reason=f"{said}: {told}.", source=source, limit=expected_ka)


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


#: What settles a Zdb that is somewhat above what leads to it.
RETEST_ZDB = "Test again on the high-current range."


def judge_zdb(
    before_ohm: float,
    zdb: Reading,
    *,
    spread_ohm: float = 0.0,
    before: str = "Ze",
    explained: bool = True,
    retested: bool = False,
    loops_fail: bool = False,
) -> Verdict:
    """Hold the loop impedance at a board beside what leads to it (Ω), rules 3.1 and 3.3.

    before_ohm: Ze, or the feeding board's Zdb with what its distribution circuit adds (Ω); spread_ohm: its uncertainty;
    before: its name; explained: is that circuit's own share known; retested: Zdb stood a retest on the high-current
    range;
    loops_fail: circuits of the board are above their limits by it. With everything connected again parallel paths make
    Zdb lower, which is fine.
    """
    source = "Zdb beside what leads to it · rules 3.1, 3.3"
    shown = f"{before}, {rounded(before_ohm)} Ω"
    if is_impossible(zdb):
        return _impossible("Zdb", zdb, source, before_ohm)
    if zdb.kind == "over-range":
        return Verdict(
            status="fail",
            reason=f"{zdb}: no earth reaches this board, where {shown}, leads to it.",
            source=source,
            limit=before_ohm,
            next_step=(
                "Isolate and prove dead. Find the break in the way of the earth to this board. Restore, test again."
            ),
            observation="board-earth-poor",
        )
    if zdb.value is None or zdb.bound == "<":
        return Verdict(status="unknown", reason="Needs a plain number for Zdb.", source=source)
    apart = zdb.value - before_ohm
    spread = spread_ohm + zdb.uncertainty("loop")
    if apart < -spread and zdb.bound is None:
        return Verdict(
            status="pass",
            reason=f"{zdb} Ω is under {shown}: parallel paths, as is usual with everything connected again.",
            source=source,
            limit=before_ohm,
        )
    if apart <= max(FAR_BOARD_OHM, FAR_BOARD_SHARE * before_ohm):
        return Verdict(status="pass", reason=f"{zdb} Ω beside {shown}.", source=source, limit=before_ohm)
    stands = explained and (retested or loops_fail or apart > POOR_BOARD_OHM)
    if not stands:
        return Verdict(
            status="attention",
            reason=f"{zdb} Ω is {rounded(apart)} Ω above {shown}.",
            source=source,
            limit=before_ohm,
            margin=-apart,
            next_step=RETEST_ZDB if explained else "Enter R1+R2 of the way that feeds this board: it may explain that.",
        )
    why = "the retest stands" if retested else "loops fail by it" if loops_fail else f"more than {POOR_BOARD_OHM:g} Ω"
    return Verdict(
        status="fail",
        reason=f"{zdb} Ω is {rounded(apart)} Ω above {shown}: the way of the earth to this board is poor ({why}).",
        source=source,
        limit=before_ohm,
        margin=-apart,
        next_step="Isolate and prove dead. Check the connections of the earth from the origin to this board. Restore, "
        "test again.",
        observation="board-earth-poor",
    )


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


LEAKAGE_SHARE = 0.3


def judge_leakage(leakage_ma: Reading | None, rcd_ma: float) -> Verdict:
    """Hold the standing earth leakage behind one RCD (mA) against 30 % of its rating (rule 3.8)."""
    words = Words(
        name="Leakage",
        unit="mA",
        source="BS 7671 531.3.2 · rule 3.8",
        within="{reading} is within {limit}",
        beyond=f"{{reading}} is more than 30 % of the {rcd_ma:g} mA RCD: expect unwanted tripping",
        next_step="Treat as live. Switch circuits off one by one with the clamp round the tails to find the circuit.",
        observation="leakage-high",
        status="attention",
    )
    return judge(leakage_ma, LEAKAGE_SHARE * rcd_ma, "leakage", words)


def judge_carried(
    rating_a: float, name: str, before_a: float, before: str, sum_a: float | None = None, demand_a: float | None = None
) -> Verdict:
    """Hold the rating of a main switch or isolator (A) against the device before it (A), rule 3.10.

    sum_a: the ratings behind it added up (A), None where they are not known: it carries no more than they can draw;
    demand_a: the assessed demand of the installation (A), told beside where it was entered.
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
    protects = "" if sum_a is None else f", and the devices it protects add up to {sum_a:g} A"
    demand = "" if demand_a is None else f" Assessed demand: {demand_a:g} A."
    return Verdict(
        status="attention",
        reason=f"{name} is rated {rating_a:g} A after {before} of {before_a:g} A{protects}.{demand}",
        source=source,
        limit=flow,
        margin=rating_a - flow,
        next_step="Compare with the load as used; a smaller service fuse, a larger switch, or its maker's own word.",
        observation="switch-underrated",
    )


def judge_rccb(rating_a: float, name: str, demand_a: float | None) -> Verdict:
    """Hold the rating of an RCCB (A) against the assessed demand of its own circuits (A), rule 3.10.

    An RCCB of 63 A after 100 A stands in most split boards: only where its own circuits need more is it worth a look.
    """
    source = "BS 7671 536.4.202 · rule 3.10"
    if demand_a is None or rating_a >= demand_a:
        told = "" if demand_a is None else f" for an assessed {demand_a:.0f} A"
        return Verdict(status="pass", reason=f"{name} is rated {rating_a:g} A{told}.", source=source, limit=demand_a)
    return Verdict(
        status="attention",
        reason=f"{name} is rated {rating_a:g} A; the assessed demand of its circuits is {demand_a:.0f} A.",
        source=source,
        limit=demand_a,
        margin=rating_a - demand_a,
        next_step="Compare with the load as used; look for signs of heat; spread the circuits, or a larger RCCB.",
        observation="rccb-underrated",
    )
