"""Earthing and bonding conductors: their sizes, and the continuity of main bonding (rules 3.6 and 3.7)."""

from typing import Literal

from dorrik.core.basics.comparison import ComparedWords
from dorrik.core.basics.comparison import judge as compare_and_judge
from dorrik.core.basics.readings import Reading, at_most, rounded
from dorrik.core.basics.verdict import Verdict
from dorrik.core.electrical import conductors

SOURCE = "BS 7671 544.1, 643.2.1 · rule 3.7"
LIMIT_OHM = 0.05
#: Clamp and pipe further apart than this speak of a corroded or painted contact (Ω).
CONTACT_OHM = 0.02

#: TN-C-S: main bonding by the supply neutral, each up to and including its size (mm²), BS 7671 table 54.8.
_BY_NEUTRAL = ((35.0, 10.0), (50.0, 16.0), (95.0, 25.0), (150.0, 35.0))
_STANDARD_MM2 = (1.0, 1.5, 2.5, 4.0, 6.0, 10.0, 16.0, 25.0, 35.0, 50.0, 70.0, 95.0, 120.0)


#: No main bond is smaller (mm²), BS 7671 544.1.1.
LEAST_BOND_MM2 = 6.0


def _next_size_mm2(least_mm2: float) -> float:
    for size in _STANDARD_MM2:
        if size >= least_mm2 - 1e-9:
            return size
    return least_mm2


def earthing_conductor_mm2(tails_mm2: float) -> float:
    """Least main earthing conductor for copper tails (mm²), BS 7671 table 54.7 · rule 3.6."""
    if tails_mm2 <= 16:
        return tails_mm2
    return 16.0 if tails_mm2 <= 35 else _next_size_mm2(tails_mm2 / 2)


def main_bonding_mm2(earthing: str, earthing_conductor_mm2: float, neutral_mm2: float | None = None) -> float:
    """Least main bonding conductor (mm²), BS 7671 544.1.1 · rule 3.6.

    earthing: 'TN-S', 'TN-C-S' or 'TT'; earthing_conductor_mm2: what the installation requires (mm²); neutral_mm2:
    the supply neutral (mm²), needed on TN-C-S. Raises ValueError where that is missing.
    """
    if earthing == "TN-C-S":
        if neutral_mm2 is None:
            raise ValueError("On TN-C-S main bonding goes by the size of the supply neutral.")
        for upto, size in _BY_NEUTRAL:
            if neutral_mm2 <= upto:
                return size
        return 50.0
    return min(25.0, max(LEAST_BOND_MM2, _next_size_mm2(earthing_conductor_mm2 / 2)))


def judge_size(name: str, found_mm2: float, least_mm2: float, *, to_electrode: bool = False) -> Verdict:
    """Hold a conductor's size against the least (mm²), rule 3.6.

    to_electrode: an earthing conductor to an electrode, which carries so little that it may be far smaller, and with
    it the bonds that follow from it, of 6 mm² at least.
    """
    source = "BS 7671 542.3, 544.1 · rule 3.6"
    if to_electrode and found_mm2 + 1e-9 < least_mm2:
        return Verdict(
            status="attention",
            reason=(
                f"{name} is {found_mm2:g} mm², under the table's {least_mm2:g} mm²; with an electrode it may "
                "be so by calculation."
            ),
            source="BS 7671 542.3.1, 543.1.3 · rule 3.6",
            limit=least_mm2,
            margin=found_mm2 - least_mm2,
            next_step="See that the conductor is protected against damage and corrosion along its way.",
        )
    if found_mm2 + 1e-9 < least_mm2:
        # Smaller than today's tables is no failure by itself: what met its day and shows no harm may stay (rule 13.6).
        return Verdict(
            status="attention",
            reason=f"{name} is {found_mm2:g} mm²; {least_mm2:g} mm² is the least today.",
            source=source,
            limit=least_mm2,
            margin=found_mm2 - least_mm2,
            next_step="Look for signs of heat; without them a smaller one that met its day's edition is usually C3.",
            observation="bond-undersized",
        )
    return Verdict(
        status="pass",
        reason=f"{name} of {found_mm2:g} mm² is at least {least_mm2:g} mm².",
        source=source,
        limit=least_mm2,
        margin=found_mm2 - least_mm2,
    )


def longest_run_m(csa_mm2: float, limit_ohm: float = LIMIT_OHM) -> float:
    """Longest bonding conductor whose expected resistance stays within the limit (m), rules 2.1 and 3.7."""
    return conductors.length_m(csa_mm2, limit_ohm)


def judge_presence(state: str | None, service: str | None) -> Verdict | None:
    """Judge whether a main bond is there; None for a state that needs no word (rule 3.7).

    state: 'present', 'missing', 'not seen', 'plastic service' or None; service: what it should be bonded to.
    """
    source = "BS 7671 411.3.1.2 · rule 3.7"
    to = service or "the service"
    if state == "missing":
        return Verdict(
            status="fail",
            reason=f"There is no main bond to {to}, which comes in as metal.",
            source=source,
            next_step="See that the pipe is metal where it enters; then it needs a bond.",
            observation="main-bond-missing",
        )
    if state == "not seen":
        return Verdict(
            status="attention",
            reason=f"The main bond to {to} was not seen.",
            source=source,
            next_step="Isolate the supply. Continuity from the earth terminal to the pipe can replace seeing it.",
            observation="main-bond-not-seen",
        )
    if state == "plastic service":
        return Verdict(status="pass", reason=f"Plastic service: no bond to {to} is needed.", source=source)
    return None


def judge_run(csa_mm2: float, length_m: float, limit_ohm: float = LIMIT_OHM) -> Verdict:
    """Can a bond of this size (mm²) and length (m) stay within the limit (Ω) at all? (rules 2.1, 3.7)"""
    try:
        longest = longest_run_m(csa_mm2, limit_ohm)
    except LookupError as error:
        return Verdict(status="unknown", reason=str(error), source=SOURCE)
    margin = longest - length_m
    if margin < 0:
        return Verdict(
            status="attention",
            reason=f"{length_m:g} m of {csa_mm2:g} mm² exceed {limit_ohm:g} Ω by their length alone: {longest:.0f} m "
            "is the most.",
            source=SOURCE,
            limit=longest,
            margin=margin,
            next_step="A larger conductor, or a shorter way.",
        )
    reason = f"{length_m:g} m is within {longest:.0f} m for {csa_mm2:g} mm²."
    return Verdict(status="pass", reason=reason, source=SOURCE, limit=longest, margin=margin)


#: What the joint of a bond may add to its conductor, by the school that goes by size and length (Ω), rule 3.7.
JOINT_OHM = 0.05
School = Literal["0.05 Ω in all", "its length plus 0.05 Ω"]


def expected_ohm(csa_mm2: float | None, length_m: float | None) -> float | None:
    """What size (mm²) and length (m) of a bond lead to (Ω), rule 2.1; None where one is not known or not tabulated."""
    if not csa_mm2 or not length_m:
        return None
    try:
        return conductors.resistance_ohm(csa_mm2, length_m)
    except LookupError:
        return None


def judge(
    reading: Reading | None,
    limit_ohm: float = LIMIT_OHM,
    *,
    expected: float | None = None,
    school: School = "0.05 Ω in all",
    at: str = "",
) -> Verdict:
    """Hold the continuity of a main bond (Ω) against its limit, leads nulled, one end off (rule 3.7).

    expected: what size and length lead to (Ω), see `expected_ohm`; school: whether the limit is for conductor and joint
    together, or for the joint on top of the conductor. What the length explains is worth a look and no code; beyond
    both is a failure.
    """
    by_length = None if expected is None else expected + JOINT_OHM
    if school == "its length plus 0.05 Ω" and by_length is not None:
        limit_ohm = by_length
    words = ComparedWords(
        name="The bond",
        unit="Ω",
        source=SOURCE,
        within=f"{{reading}} is within {{limit}}{at}",
        beyond="{reading} is above {limit} for a main bond",
        next_step=(
            "Isolate the supply. Null the leads again, test at the clamp and at the pipe; clean or renew the "
            "clamp, "
            "or a larger conductor where its length alone explains the reading. Reconnect, test again."
        ),
        observation="bond-high",
    )
    verdict = compare_and_judge(reading, limit_ohm, "continuity", words)
    if verdict.status == "fail" and by_length is not None and at_most(reading, by_length):
        return Verdict(
            status="attention",
            reason=f"{reading} Ω is above {limit_ohm:g} Ω, but its length leads to {rounded(expected or 0.0)} Ω: the "
            "joint is good, the run is long.",
            source=SOURCE,
            limit=by_length,
            margin=None if reading is None or reading.value is None else by_length - reading.value,
            next_step="A larger conductor would bring it down; no code for the length alone.",
        )
    return verdict


def judge_clamp_only(reading: Reading | None, verdict: Verdict) -> Verdict:
    """A bond measured at its clamp alone: its contact with the pipe is not in it, so it cannot pass (rule 3.7)."""
    if verdict.status not in ("pass", "attention") or reading is None or verdict.next_step is not None:
        return verdict
    return Verdict(
        status="unknown",
        reason=f"{reading} Ω up to the clamp; whether the clamp grips the metal shows only at the pipe.",
        source=SOURCE,
        limit=verdict.limit,
        next_step="Isolate the supply. Test again with the probe on the bare metal of the pipe.",
    )


def judge_supplementary(reading: Reading | None, ia_a: float) -> Verdict:
    """Hold the resistance between parts that can be touched together (Ω) against 50/Ia (rule 3.7).

    ia_a: current that operates the largest device of the room within 5 s (A), for an RCD its IΔn. Over range is no
    bond.
    """
    words = ComparedWords(
        name="Supplementary bonding",
        unit="Ω",
        source="BS 7671 415.2.2, R ≤ 50/Ia · rule 3.7",
        within="{reading} keeps what is touched together within 50 V (max {limit})",
        beyond="{reading} allows more than 50 V between parts that are touched together (max {limit})",
        next_step="Isolate. Find the bond between the parts and clean its clamps. Restore, test again.",
        observation="supplementary-bonding-missing",
    )
    return compare_and_judge(reading, 50.0 / ia_a, "continuity", words)


def judge_contact(at_clamp: Reading | None, at_pipe: Reading | None) -> Verdict:
    """Compare the continuity at the clamp with that at the pipe (Ω), rule 3.7."""
    for name, reading in (("at the clamp", at_clamp), ("at the pipe", at_pipe)):
        if reading is None or reading.value is None or reading.bound is not None:
            return Verdict(status="unknown", reason=f"Needs a plain figure {name}.", source=SOURCE)
    assert at_clamp and at_pipe and at_clamp.value is not None and at_pipe.value is not None
    apart = at_pipe.value - at_clamp.value
    if -apart > CONTACT_OHM + 1e-9:
        return Verdict(
            status="attention",
            reason=f"The pipe reads less than its clamp ({at_pipe} and {at_clamp} Ω): another way to earth helps.",
            source=f"{SOURCE}, 1.2",
            limit=CONTACT_OHM,
            margin=CONTACT_OHM + apart,
            next_step="See that one end was off and the supply isolated, then measure both again.",
        )
    readings = f"clamp {at_clamp} Ω, pipe {at_pipe} Ω"
    if apart > CONTACT_OHM + 1e-9:
        return Verdict(
            status="fail",
            reason=f"The clamp does not grip the metal: {readings}.",
            source=SOURCE,
            limit=CONTACT_OHM,
            margin=CONTACT_OHM - apart,
            next_step="Isolate the supply. Clean paint and corrosion off the pipe, refit the clamp. Test again.",
            observation="bond-high",
        )
    return Verdict(
        status="pass",
        reason=f"Clamp and pipe agree: {readings}.",
        source=SOURCE,
        limit=CONTACT_OHM,
        margin=CONTACT_OHM - abs(apart),
    )
