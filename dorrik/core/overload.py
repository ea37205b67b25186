"""Overload protection: device against cable, and voltage drop (rules 9.1 to 9.4)."""

from math import sqrt
from typing import Literal

from dorrik.core.devices import Device
from dorrik.core.reference import kept, rows
from dorrik.core.verdict import Status, Verdict

Arrangement = Literal["ring", "radial", "fused-spur-only"]
SOURCE = "BS 7671 433.1, appendix 4 · rule 9"
#: The method of a cable whose way nobody could see.
NOT_KNOWN = "not known"
METHODS = ("100", "101", "102", "103", "C", "A")
REWIRABLE_FACTOR = 0.725
RING_DEVICE_A = 32.0
RING_CABLE_A = 20.0
#: k of a conductor for the adiabatic equation (A·√s/mm²), BS 7671 tables 54.2 and 54.3.
K_IN_CABLE = 115.0
K_SEPARATE = 143.0
#: A half cycle at 50 Hz (s), the least time a breaker takes.
HALF_CYCLE_S = 0.01
NOMINAL_V = 230.0


@kept
def capacity_a(csa_mm2: float, method: str) -> float:
    """Current capacity of flat twin-and-earth (A) by installation method. Raises LookupError if not tabulated."""
    for row in rows("cables"):
        if float(row["csa_mm2"]) == float(csa_mm2) and f"iz_{method}" in row:
            return float(row[f"iz_{method}"])
    raise LookupError(f"No capacity is tabulated for {csa_mm2:g} mm² by method {method}.")


#: Ratings that devices are made in (A).
RATINGS_A = (6.0, 10.0, 15.0, 16.0, 20.0, 25.0, 30.0, 32.0, 40.0, 45.0, 50.0, 60.0, 63.0, 80.0, 100.0)


def greatest_rating_a(csa_mm2: float, method: str | None) -> float:
    """The greatest device (A) that one cable of that size may have; by the worst method where it is not known.

    Raises LookupError for a size or method not tabulated. Rules 4.8 and 9.1.
    """
    capacity = capacity_a(csa_mm2, method) if method else min(capacity_a(csa_mm2, one) for one in METHODS)
    return max((rating for rating in RATINGS_A if rating <= capacity), default=RATINGS_A[0])


@kept
def judge(
    device_standard: str,
    rating_a: float,
    csa_mm2: float,
    method: str | None,
    arrangement: Arrangement = "radial",
    *,
    load_fuse_a: float | None = None,
) -> Verdict:
    """Hold a device's rating against its cable (rules 9.1, 9.2).

    device_standard: 'BS 3036' counts as rewirable; rating_a: In (A); csa_mm2: line conductor (mm²); method: one of
    METHODS, or None where it is not known: then the mildest and the worst are judged; arrangement: 'ring', 'radial', or
    'fused-spur-only' where the cable feeds one fused or fixed load and nothing branches off; load_fuse_a: the fuse at
    that load (A), which has to be within the cable's capacity, None where it was not seen.
    """
    try:
        if method is not None:
            capacity = capacity_a(csa_mm2, method)
            return _judge(device_standard, rating_a, csa_mm2, capacity, method, arrangement, load_fuse_a)
        capacities = [capacity_a(csa_mm2, one) for one in METHODS]
    except LookupError as error:
        return Verdict(status="unknown", reason=str(error), source=SOURCE)
    mildest = _judge(device_standard, rating_a, csa_mm2, max(capacities), "the mildest", arrangement, load_fuse_a)
    worst = _judge(device_standard, rating_a, csa_mm2, min(capacities), "the worst", arrangement, load_fuse_a)
    if mildest.status == worst.status:
        return mildest if mildest.status != "pass" else worst
    return Verdict(
        status="attention",
        reason=f"The installation method is not known: by the mildest the cable carries {max(capacities):g} A, by the "
        f"worst {min(capacities):g} A, against a {rating_a:g} A device.",
        source=SOURCE + ".1",
        limit=min(capacities),
        margin=min(capacities) - rating_a,
        next_step="Find out how the cable runs, or record the method as a limitation.",
    )


def _judge(
    device_standard: str,
    rating_a: float,
    csa_mm2: float,
    capacity: float,
    by: str,
    arrangement: Arrangement,
    load_fuse_a: float | None,
) -> Verdict:
    said = f"{csa_mm2:g} mm² carries {capacity:g} A (method {by})"
    if arrangement == "ring":
        fits = rating_a <= RING_DEVICE_A and capacity >= RING_CABLE_A
        why = "too large for a ring" if rating_a > RING_DEVICE_A else f"but {said}, and a ring needs {RING_CABLE_A:g} A"
        return Verdict(
            status="pass" if fits else "fail",
            reason=f"A {rating_a:g} A device on a ring; {said}."
            if fits
            else f"A {rating_a:g} A device is {why}."
            if rating_a > RING_DEVICE_A
            else f"A {rating_a:g} A device, {why}.",
            source=SOURCE + ".1, 433.1.204",
            limit=RING_DEVICE_A,
            margin=RING_DEVICE_A - rating_a,
            observation=None if fits else "ring-device-too-large" if rating_a > RING_DEVICE_A else "breaker-too-large",
        )
    rewirable = device_standard == "BS 3036"
    limit = capacity * (REWIRABLE_FACTOR if rewirable else 1.0)
    margin = limit - rating_a
    if margin >= -1e-9:
        note = f", {limit:.1f} A behind a rewirable fuse" if rewirable else ""
        reason = f"A {rating_a:g} A device is within it: {said}{note}."
        return Verdict(status="pass", reason=reason, source=SOURCE + ".1", limit=limit, margin=margin)
    # The fuse at the load protects the cable against overload only if it is itself within the cable's capacity.
    downstream = arrangement == "fused-spur-only" and (load_fuse_a is None or load_fuse_a <= capacity)
    status: Status = "attention" if downstream else "fail"
    reason = f"A {rating_a:g} A device is too large: {said}"
    reason += f", {limit:.1f} A behind a rewirable fuse." if rewirable else "."
    if downstream:
        return Verdict(
            status=status,
            reason=reason + " The one load's own fuse protects it against overload.",
            source=SOURCE + ".2",
            limit=limit,
            margin=margin,
            next_step="Check the fuse at the load, that nothing branches off, and the fault case.",
        )
    return Verdict(
        status=status,
        reason=reason,
        source=SOURCE + ".1",
        limit=limit,
        margin=margin,
        next_step="See what the cable feeds: one fused load with nothing branching off is another case.",
        observation="breaker-too-large",
    )


def least_csa_mm2(fault_current_a: float, seconds: float, k: float = K_IN_CABLE) -> float:
    """Least conductor for a fault (mm²): S = I·√t/k, rule 9.3, BS 7671 543.1.3."""
    return fault_current_a * sqrt(seconds) / k


def judge_fault(csa_mm2: float, fault_current_a: float, seconds: float, k: float = K_IN_CABLE) -> Verdict:
    """Hold a conductor's size (mm²) against the fault current (A) for the time its device takes (s), rule 9.3."""
    least = least_csa_mm2(fault_current_a, seconds, k)
    fits = csa_mm2 + 1e-9 >= least
    return Verdict(
        status="pass" if fits else "fail",
        reason=f"{fault_current_a:g} A for {seconds:g} s needs {least:.2f} mm²; there is {csa_mm2:g} mm².",
        source="BS 7671 543.1.3, S = I·√t/k · rule 9.3",
        limit=least,
        margin=csa_mm2 - least,
        observation=None if fits else "conductor-undersized",
    )


def let_through_a2s(device: Device, rating_a: float, fault_a: float) -> float | None:
    """Energy a device lets through in a fault (A²s), as far as the table tells; None where it would not operate.

    A breaker that operates at once takes at most 0.1 s at its operating current and a half cycle at more; of a fuse the
    tabulated points of its characteristic are taken. Its maker's own figures are usually lower.
    """
    if device.ia_multiple is not None:
        operating = device.ia_multiple * rating_a
        return None if fault_a < operating else max(operating**2 * 0.1, fault_a**2 * HALF_CYCLE_S)
    for current, seconds in ((device.ia_0s4_a, 0.4), (device.ia_5s_a, 5.0)):
        if current is not None and fault_a >= current:
            return current**2 * seconds
    return None


def judge_let_through(csa_mm2: float, let_through_a2s: float, k: float = K_IN_CABLE) -> Verdict:
    """Hold a cpc (mm²) against the energy its device lets through (A²s): S ≥ √(I²t)/k (rule 9.3).

    Attention, not fail: the device's maker may guarantee less.
    """
    least = sqrt(let_through_a2s) / k
    fits = csa_mm2 + 1e-9 >= least
    return Verdict(
        status="pass" if fits else "attention",
        reason=f"By the table the fault needs {least:.2f} mm²; the cpc has {csa_mm2:g} mm².",
        source="BS 7671 543.1.3, S = √(I²t)/k · rule 9.3",
        limit=least,
        margin=csa_mm2 - least,
        next_step=None if fits else "Compare with the let-through energy that the device's maker gives.",
        observation=None if fits else "conductor-undersized",
    )


def judge_demand(design_a: float, rating_a: float) -> Verdict:
    """Hold the design current (A) against the device (A): Ib ≤ In (rule 9.1)."""
    margin = rating_a - design_a
    fits = margin >= 0
    return Verdict(
        status="pass" if fits else "attention",
        reason=f"{design_a:g} A is drawn through a {rating_a:g} A device.",
        source=SOURCE + ".1",
        limit=rating_a,
        margin=margin,
        next_step=None if fits else "Look again at what runs at the same time; the device will trip.",
    )


def voltage_drop_v(csa_mm2: float, length_m: float, current_a: float) -> float:
    """Voltage drop (V): mV/A/m · L · Ib / 1000, rule 9.4. Raises LookupError for a size not in the table."""
    for row in rows("cables"):
        if float(row["csa_mm2"]) == float(csa_mm2):
            return float(row["mV_per_A_m"]) * length_m * current_a / 1000
    raise LookupError(f"No voltage drop is tabulated for {csa_mm2:g} mm².")


def judge_voltage_drop(csa_mm2: float, length_m: float, current_a: float, *, lighting: bool) -> Verdict:
    """Hold a voltage drop against 3 % for lighting or 5 % for other uses of 230 V (rule 9.4)."""
    source = "BS 7671 525.202, appendix 4 · rule 9.4"
    share = 0.03 if lighting else 0.05
    try:
        drop = voltage_drop_v(csa_mm2, length_m, current_a)
    except LookupError as error:
        return Verdict(status="unknown", reason=str(error), source=source)
    limit = share * NOMINAL_V
    fits = drop <= limit + 1e-9
    return Verdict(
        status="pass" if fits else "attention",
        reason=f"{drop:.1f} V at {current_a:g} A over {length_m:g} m, {'within' if fits else 'above'} {limit:.1f} V.",
        source=source,
        limit=limit,
        margin=limit - drop,
        observation=None if fits else "voltage-drop",
    )
