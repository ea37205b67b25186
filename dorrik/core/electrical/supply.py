"""The supply: external earth loop impedance, electrode, Zdb, leakage, what is carried (rules 3.1 to 3.3, 3.8, 3.9)."""

from dataclasses import replace

from dorrik.core.basics.comparison import ComparedWords, judge
from dorrik.core.basics.readings import Reading, at_most, rounded
from dorrik.core.basics.verdict import Verdict

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
        ComparedWords(
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
    words = ComparedWords(
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
    why = (
        "a retest confirms it" if retested else "loops fail by it" if loops_fail else f"more than {POOR_BOARD_OHM:g} Ω"
    )
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


LEAKAGE_SHARE = 0.3


#: What a supply of 230 V is declared as: 10 % more and 6 % less (V).
VOLTAGE_V = (216.2, 253.0)


def judge_voltage(voltage_v: float) -> Verdict:
    """The voltage between line and neutral at the origin (V) beside the declared one: 230 V +10 %, −6 % (BS 7671 313.1,
    rule 3.12)."""
    low, high = VOLTAGE_V
    reading, source = f"{voltage_v:g} V between line and neutral", "BS 7671 313.1 · rule 3.12"
    if low <= voltage_v <= high:
        return Verdict(status="pass", reason=f"{reading} is within {low:g} to {high:g} V.", source=source)
    limit = high if voltage_v > high else low
    return Verdict(
        status="attention",
        reason=f"{reading} is {'above' if voltage_v > high else 'below'} {limit:g} V. A supply neutral that is lost or"
        " loose shows like this.",
        source=source,
        limit=limit,
        margin=limit - voltage_v if voltage_v > high else voltage_v - limit,
        next_step="Keep off metal that is joined to the supply's earth. Measure again; call the network operator.",
        asks=True,
    )


def judge_leakage(leakage_ma: Reading | None, rcd_ma: float) -> Verdict:
    """Hold the standing earth leakage behind one RCD (mA) against 30 % of its rating (rule 3.8)."""
    words = ComparedWords(
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
        demand = "" if demand_a is None else f" for an assessed {demand_a:.0f} A"
        return Verdict(status="pass", reason=f"{name} is rated {rating_a:g} A{demand}.", source=source, limit=demand_a)
    return Verdict(
        status="attention",
        reason=f"{name} is rated {rating_a:g} A; the assessed demand of its circuits is {demand_a:.0f} A.",
        source=source,
        limit=demand_a,
        margin=rating_a - demand_a,
        next_step="Compare with the load as used; look for signs of heat; spread the circuits, or a larger RCCB.",
        observation="rccb-underrated",
    )
