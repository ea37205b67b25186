"""Overload protection: device against cable, and voltage drop (rules 9.1 to 9.4)."""

from math import sqrt
from typing import Literal

from dorrik.core.basics.record import record
from dorrik.core.basics.verdict import Verdict
from dorrik.core.book.reference import cached, rows
from dorrik.core.electrical.conductors import FLAT_TWIN
from dorrik.core.electrical.devices import Device

Arrangement = Literal["ring", "radial", "fused-spur-only"]
SOURCE = "BS 7671 433.1, appendix 4 · rule 9"
#: The method of a cable whose way nobody could see.
NOT_KNOWN = "not known"
METHODS = ("100", "101", "102", "103", "C", "A", "B", "D")
REWIRABLE_FACTOR = 0.725
RING_DEVICE_A = 32.0
RING_CABLE_A = 20.0
#: k of a conductor for the adiabatic equation (A·√s/mm²), BS 7671 tables 54.2 and 54.3.
K_IN_CABLE = 115.0
K_SEPARATE = 143.0
#: A half cycle at 50 Hz (s), the least time a breaker takes.
HALF_CYCLE_S = 0.01
NOMINAL_V = 230.0


#: A ring of 30 or 32 A is at least this (mm²), in mineral insulated cable this (BS 7671 433.1.204).
RING_LEAST_MM2 = 2.5
RING_LEAST_MINERAL_MM2 = 1.5


def _row(csa_mm2: float, cable_type: str) -> dict[str, str]:
    flat = cable_type == FLAT_TWIN
    for row in rows("cables" if flat else "other_cables"):
        if float(row["csa_mm2"]) == float(csa_mm2) and (flat or row["type"] == cable_type):
            return row
    raise LookupError(f"Nothing is tabulated for {csa_mm2:g} mm² {cable_type}.")


@cached
def methods(csa_mm2: float, cable_type: str = FLAT_TWIN) -> tuple[str, ...]:
    """Installation methods that a cable is tabulated for. Raises LookupError for a size or type not in the tables."""
    row = _row(csa_mm2, cable_type)
    return tuple(method for method in METHODS if row.get(f"iz_{method}"))


@cached
def capacity_a(csa_mm2: float, method: str, cable_type: str = FLAT_TWIN) -> float:
    """Current capacity of a cable (A) by installation method. Raises LookupError if not tabulated."""
    cell = _row(csa_mm2, cable_type).get(f"iz_{method}")
    if not cell:
        raise LookupError(f"No capacity is tabulated for {csa_mm2:g} mm² {cable_type} by method {method}.")
    return float(cell)


#: Ratings that devices are made in (A).
RATINGS_A = (6.0, 10.0, 15.0, 16.0, 20.0, 25.0, 30.0, 32.0, 40.0, 45.0, 50.0, 60.0, 63.0, 80.0, 100.0)


def greatest_rating_a(csa_mm2: float, method: str | None, cable_type: str = FLAT_TWIN) -> float:
    """The greatest device (A) that one cable of that size may have; by the worst method where it is not known.

    Raises LookupError for a size or method not tabulated. Rules 4.8 and 9.1.
    """
    ways = (method,) if method else methods(csa_mm2, cable_type)
    capacity = min(capacity_a(csa_mm2, way, cable_type) for way in ways)
    return max((rating for rating in RATINGS_A if rating <= capacity), default=RATINGS_A[0])


#: What one leg of an open ring carries as long as its way was not seen whole (A), by its size (mm²), rule 4.8.
_LEG_A = {2.5: 20.0}


def leg_rating_a(csa_mm2: float, method: str | None, cable_type: str = FLAT_TWIN) -> float:
    """The greatest device (A) of an open ring until it is repaired: 20 A on 2.5 mm² first, more or less only by a
    method that was seen (rule 4.8). Raises LookupError for a size or method not tabulated."""
    usual = _LEG_A.get(float(csa_mm2))
    if method is not None:
        return greatest_rating_a(csa_mm2, method, cable_type)
    return usual if usual is not None else greatest_rating_a(csa_mm2, None, cable_type)


@record(kw_only=True)
class Cable:
    """A cable as its capacity goes: line conductor (mm²), type, installation method (None: not known), factor for
    grouping and warmth."""

    csa_mm2: float
    method: str | None = None
    type: str = FLAT_TWIN
    factor: float = 1.0


@cached
def judge(
    device_standard: str,
    rating_a: float,
    cable: Cable,
    arrangement: Arrangement = "radial",
    *,
    load_fuse_a: float | None = None,
) -> Verdict:
    """Hold a device's rating against its cable (rules 9.1, 9.2).

    device_standard: 'BS 3036' counts as rewirable; rating_a: In (A); cable: where its method is not known, the mildest
    and the worst are judged; arrangement: 'ring', 'radial', or 'fused-spur-only' where the cable feeds one fused or
    fixed load and nothing branches off; load_fuse_a: the fuse at that load (A), which has to be within the cable's
    capacity, None where it was not seen.
    """
    try:
        ways = (cable.method,) if cable.method else methods(cable.csa_mm2, cable.type)
        capacities = [capacity_a(cable.csa_mm2, way, cable.type) * cable.factor for way in ways]
    except LookupError as error:
        return Verdict(status="unknown", reason=str(error), source=SOURCE)
    case = _Case(device_standard, rating_a, cable, arrangement, load_fuse_a)
    if cable.method:
        return _judge(case, capacities[0], f"method {cable.method}")
    mildest = _judge(case, max(capacities), "by the mildest method")
    worst = _judge(case, min(capacities), "by the worst method")
    if mildest.status == worst.status:
        return mildest if mildest.status != "pass" else worst
    return Verdict(
        status="attention",
        reason=f"Installation method not known: the cable carries {min(capacities):g} to {max(capacities):g} A, the "
        f"device is {rating_a:g} A.",
        source=SOURCE + ".1",
        limit=min(capacities),
        margin=min(capacities) - rating_a,
        next_step="Find the cable route, or record a limitation.",
    )


@record
class _Case:
    standard: str
    rating_a: float
    cable: Cable
    arrangement: Arrangement
    load_fuse_a: float | None


def _judge(case: _Case, capacity: float, by: str) -> Verdict:
    carries = f"{case.cable.csa_mm2:g} mm² carries {capacity:g} A ({by})"
    if case.arrangement == "ring":
        return _judge_ring(case, capacity, carries)
    rating_a = case.rating_a
    rewirable = case.standard == "BS 3036"
    limit = capacity * (REWIRABLE_FACTOR if rewirable else 1.0)
    margin = limit - rating_a
    if margin >= -1e-9:
        note = f", {limit:.1f} A behind a rewirable fuse" if rewirable else ""
        reason = f"A {rating_a:g} A device is within it: {carries}{note}."
        return Verdict(status="pass", reason=reason, source=SOURCE + ".1", limit=limit, margin=margin)
    reason = f"A {rating_a:g} A device is too large: {carries}"
    reason += f", {limit:.1f} A behind a rewirable fuse." if rewirable else "."
    # The fuse at the load protects the cable against overload only if it is itself within the cable's capacity, and a
    # fuse that nobody read protects nothing yet.
    if case.arrangement == "fused-spur-only" and case.load_fuse_a is not None and case.load_fuse_a <= capacity:
        return Verdict(
            status="attention",
            reason=reason + f" The one load's own {case.load_fuse_a:g} A fuse protects it against overload.",
            source=SOURCE + ".2",
            limit=limit,
            margin=margin,
            next_step="See that nothing branches off; compare the cpc with the fault current.",
        )
    if case.arrangement == "fused-spur-only" and case.load_fuse_a is None:
        return Verdict(
            status="attention",
            reason=reason + " A fuse at the one load would protect it, and its rating was not read.",
            source=SOURCE + ".2",
            limit=limit,
            margin=margin,
            next_step="Read the fuse at the load and enter it.",
            asks=True,
        )
    return Verdict(
        status="fail",
        reason=reason,
        source=SOURCE + ".1",
        limit=limit,
        margin=margin,
        next_step=(
            "Isolate before anything is opened. See what the cable feeds: one fused load with no branch is "
            "another case."
        ),
        observation="breaker-too-large",
    )


def _judge_ring(case: _Case, capacity: float, carries: str) -> Verdict:
    rating_a, csa = case.rating_a, case.cable.csa_mm2
    least = RING_LEAST_MINERAL_MM2 if case.cable.type == "mineral insulated" else RING_LEAST_MM2
    source = SOURCE + ".1, 433.1.204"
    if rating_a > RING_DEVICE_A:
        reason, key = f"A {rating_a:g} A device is too large for a ring.", "ring-device-too-large"
    elif rating_a >= 30 and csa < least:
        reason = f"A ring on {rating_a:g} A in {csa:g} mm²; at least {least:g} mm² is asked for."
        key = "breaker-too-large"
    elif capacity < RING_CABLE_A and rating_a > capacity:
        reason = f"A {rating_a:g} A device, but {carries}, and a ring needs {RING_CABLE_A:g} A."
        key = "breaker-too-large"
    else:
        return Verdict(
            status="pass",
            reason=f"A {rating_a:g} A device on a ring; {carries}.",
            source=source,
            limit=RING_DEVICE_A,
            margin=RING_DEVICE_A - rating_a,
        )
    return Verdict(
        status="fail",
        reason=reason,
        source=source,
        limit=RING_DEVICE_A,
        margin=RING_DEVICE_A - rating_a,
        next_step=f"Until it is put right, a device of at most {min(RING_DEVICE_A, max(capacity, 6.0)):g} A.",
        observation=key,
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


def voltage_drop_v(
    csa_mm2: float,
    length_m: float,
    current_a: float,
    *,
    cable_type: str = FLAT_TWIN,
    ring: bool = False,
    spread: bool = False,
) -> float:
    """Voltage drop (V): mV/A/m · L · Ib / 1000, rule 9.4. Raises LookupError for a size not in the table.

    ring: a quarter, since both legs carry and the load is spread; length_m is then the way round; spread: points all
    along a radial, half.
    """
    drop = float(_row(csa_mm2, cable_type)["mV_per_A_m"]) * length_m * current_a / 1000
    return drop / 4 if ring else drop / 2 if spread else drop


def judge_voltage_drop(
    csa_mm2: float,
    length_m: float,
    current_a: float,
    *,
    lighting: bool,
    cable_type: str = FLAT_TWIN,
    ring: bool = False,
    spread: bool = False,
) -> Verdict:
    """Hold a voltage drop against 3 % for lighting or 5 % for other uses of 230 V (rule 9.4)."""
    source = "BS 7671 525.202, appendix 4 · rule 9.4"
    share = 0.03 if lighting else 0.05
    try:
        drop = voltage_drop_v(csa_mm2, length_m, current_a, cable_type=cable_type, ring=ring, spread=spread)
    except LookupError as error:
        return Verdict(status="unknown", reason=str(error), source=source)
    limit = share * NOMINAL_V
    fits = drop <= limit + 1e-9
    way = f"{length_m:g} m{' round the ring' if ring else ''}"
    return Verdict(
        status="pass" if fits else "attention",
        reason=f"{drop:.1f} V at {current_a:g} A over {way}, {'within' if fits else 'above'} {limit:.1f} V.",
        source=source,
        limit=limit,
        margin=limit - drop,
        observation=None if fits else "voltage-drop",
    )
