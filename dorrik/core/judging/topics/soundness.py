"""Whether what mitigates is itself sound (the fourth principle of the rules).

Every place that lowers a code, answers a question by itself or lets a loop pass asks here and nowhere else. What can be
measured counts only by its reading; what a proof rests on is said in words.
"""

from collections.abc import Iterable, Sequence
from math import inf

from dorrik.core.basics.comparison import compare
from dorrik.core.basics.readings import Reading, at_most
from dorrik.core.basics.record import record
from dorrik.core.electrical import bonding, devices, loop, rcd
from dorrik.core.home.rcd_devices import RcdDevice
from dorrik.core.inspection.circuit import CLASS_I_APPLIANCES, Circuit
from dorrik.core.inspection.point import CLASS_I_KINDS, MAY_BE_CLASS_II, Point
from dorrik.core.inspection.records import Board, Bond
from dorrik.core.judging.topics.context import Context, is_measured


@record
class Proof:
    """Is a protective measure sound? True: proved by its reading; False: something recorded speaks against it, or it is
    not there; None: not measured or not entered yet. says: what that rests on, as the middle of a sentence."""

    sound: bool | None
    says: str


def rcd_works(device: RcdDevice) -> Proof:
    """Does a residual current device protect: of the right type for its loads, in time, working on its button? (8.1,
    8.2)"""
    name = device.name
    if device.standard == rcd.VOLTAGE_OPERATED:
        return Proof(False, f"{name} is voltage-operated, which is no RCD")
    if device.button == "incorrect":
        return Proof(False, f"{name} fails on its test button")
    standard, delay = device.standard or "BS EN 61008", device.delay or "none"
    rated_ma = device.rated_ma or rcd.ADDITIONAL_MA
    shown = "not tested"
    states: list[bool | None] = []
    for reading, multiple in ((device.trip_ms, 1), (device.five_ms, 5)):
        if reading is None or not is_measured(reading):
            states += [None] if multiple == 1 else []
            continue
        verdict = rcd.judge_trip(standard, delay, rated_ma, reading, multiple, delay_ms=device.delay_ms)
        if verdict.status == "fail":
            return Proof(False, f"{name} reads {reading}{'' if reading.value is None else ' ms'}")
        if multiple == 1:
            shown = f"{reading} ms"
            states.append(None if verdict.status == "unknown" or rcd.is_too_quick(reading) else True)
    for circuit in device.circuits:
        if device.kind and circuit.load:
            kind, load = rcd.KINDS[device.kind], rcd.LOADS[circuit.load]
            if rcd.judge_kind(kind, load, dc_detection=bool(circuit.dc_detection)).status == "fail":
                return Proof(False, f"{name} is of a type that its load can blind")
    if device.rated_ma is None:
        return Proof(None, f"{name}: IΔn not entered")
    return Proof(None if None in states else True, f"{name}: {shown}")


def _first(proofs: Iterable[tuple[RcdDevice, Proof]]) -> tuple[RcdDevice | None, Proof]:
    """The nearest that works; else what is known of the others, the untested before the failing."""
    tried = list(proofs)
    for wanted in (True, None, False):
        for device, proof in tried:
            if proof.sound is wanted:
                return (device if wanted is not False else None), proof
    return None, Proof(False, "no RCD")


def fault_rcd(context: Context, circuit: Circuit) -> tuple[RcdDevice | None, Proof]:
    """The nearest device in front of a circuit that works, and its proof; None where none is there or none works."""
    rcd_devices: tuple[RcdDevice | None, Proof] = context.cells.made(_fault_rcd, context, circuit)
    return rcd_devices


def _fault_rcd(context: Context, circuit: Circuit) -> tuple[RcdDevice | None, Proof]:
    return _first((device, rcd_works(device)) for device in context.rcds_before(circuit))


def additional_rcd(context: Context, circuit: Circuit) -> Proof:
    """Has a circuit additional protection: 30 mA at most, without delay, and working? (rules 8.2, 8.3)"""
    able = [d for d in context.rcds_before(circuit) if gives_additional(d)]
    return _first((device, rcd_works(device)) for device in able)[1]


def gives_additional(device: RcdDevice) -> bool:
    """Is a device made for additional protection? A time-delayed one is not (BS 7671 415.1.1)."""
    return (
        device.rated_ma is not None
        and device.rated_ma <= rcd.ADDITIONAL_MA
        and device.delay != "S"
        and device.standard != rcd.VOLTAGE_OPERATED
    )


def rcds_throughout(context: Context, circuits: Sequence[Circuit] | None = None) -> Proof:
    """Does a working RCD stand in front of every circuit?"""
    asked = [c for _, c in context.circuits if not context.tree.fed_from(c)] if circuits is None else circuits
    if not asked:
        return Proof(None, "no circuit entered")
    proofs = [fault_rcd(context, circuit)[1] for circuit in asked]
    return _all(proofs)


def _all(proofs: Sequence[Proof]) -> Proof:
    """All of several: the first that fails, then the first that nobody knows, speaks for them."""
    for wanted in (False, None):
        for proof in proofs:
            if proof.sound is wanted:
                return proof
    return Proof(bool(proofs), "; ".join(dict.fromkeys(proof.says for proof in proofs)))


def bond_proved(context: Context, bond: Bond) -> Proof:
    """Is a main bond proved? By its reading at the pipe alone; a plastic service needs none (rule 3.7)."""
    name = f"bond to {bond.service or 'a service'}"
    if bond.state == "plastic service":
        return Proof(True, f"{name}: plastic service")
    if bond.state == "missing":
        return Proof(False, f"{name} missing")
    reading = bond.at_pipe_ohm
    if reading is None or not is_measured(reading):
        return Proof(None, f"{name} not measured")
    if (bond.id, "at_pipe_ohm") in context.doubtful:
        return Proof(None, f"{name} measured with leads in doubt")
    school: bonding.School = (
        "its length plus 0.05 Ω" if context.house.bonding_limit == "its length plus 0.05 Ω" else "0.05 Ω in all"
    )
    verdict = bonding.judge(
        reading,
        context.book.limits["bonding_ohm"],
        expected=bonding.expected_ohm(bond.csa_mm2, bond.length_m),
        school=school,
    )
    contact = bonding.judge_contact(bond.at_clamp_ohm, bond.at_pipe_ohm)
    if verdict.status == "fail" or contact.status == "fail":
        return Proof(False, f"{name} reads {reading}{'' if reading.value is None else ' Ω'}")
    return Proof(None if verdict.status == "unknown" else True, f"{name}: {reading} Ω")


def main_bonding_proved(context: Context) -> Proof:
    """Is every main bond proved?"""
    if not context.inspection.bonds:
        return Proof(None, "no main bond entered")
    return _all([bond_proved(context, bond) for bond in context.inspection.bonds])


def circuits_of_bathroom(context: Context, point: Point) -> list[tuple[Board, Circuit]]:
    """The circuits that enter the room of a point: those with a point in it, and those that serve a bathroom."""

    def beside(other: Point) -> bool:
        if point.room_id is not None or other.room_id is not None:
            return point.room_id == other.room_id
        return other.room == point.room if point.room is not None else bool(other.bathroom)

    serving = []
    for board, circuit in context.circuits:
        own = any(other.id == point.id or beside(other) for other in circuit.points)
        served = bool(circuit.bathroom) and (point.room_id is None or not circuit.points)
        if own or served:
            serving.append((board, circuit))
    return serving


def supplementary_current_a(context: Context, circuits: Sequence[tuple[Board, Circuit]]) -> float | str:
    """Ia for R ≤ 50/Ia (A): the largest device within 5 s among the circuits that no working RCD protects, else the
    largest IΔn; why it cannot be said otherwise (BS 7671 415.2.2 · rule 3.7)."""
    largest = 0.0
    for _, circuit in circuits:
        device, proof = fault_rcd(context, circuit)
        if proof.sound and device is not None and device.rated_ma:
            largest = max(largest, device.rated_ma / 1000)
            continue
        if not (circuit.device_standard and circuit.device_type and circuit.device_rating_a):
            return "Standard, type and rating of the device are needed of every circuit in that room."
        named = (circuit.device_standard, circuit.device_type, circuit.device_rating_a)
        try:
            largest = max(largest, devices.operating_current_a(*named, 5.0))
        except LookupError as error:
            return str(error)
    return largest or "Its circuit is not known yet: link it."


def supplementary_proved(context: Context, circuits: Sequence[tuple[Board, Circuit]]) -> Proof:
    """Is supplementary bonding in the room of some circuits proved? By its readings alone (rule 3.7)."""
    states = [c.supplementary_bonding for _, c in circuits if c.bathroom]
    proofs = []
    for point in _bathroom_points(context, circuits):
        reading = point.supplementary_ohm
        if reading is None or not is_measured(reading):
            continue
        current = supplementary_current_a(context, circuits_of_bathroom(context, point) or circuits)
        if isinstance(current, str):
            proofs.append(Proof(None, current))
            continue
        state = compare(reading, 50.0 / current, "continuity")
        sound = {"beyond": False, "unsettled": None}.get(state, True)
        proofs.append(Proof(sound, f"supplementary bonding {reading}{'' if reading.value is None else ' Ω'}"))
    if any(proof.sound is False for proof in proofs):
        return _all(proofs)
    if "missing" in states:
        return Proof(False, "supplementary bonding missing")
    if not proofs:
        return Proof(None, "supplementary bonding not measured")
    return _all(proofs)


def _bathroom_points(context: Context, circuits: Sequence[tuple[Board, Circuit]]) -> list[Point]:
    """Points where the bonding of these circuits' rooms would be measured: their own, and those of the same rooms."""
    own = {point.id for _, c in circuits for point in c.points}
    rooms = {p.room_id or p.room for _, c in circuits for p in c.points if p.bathroom and (p.room_id or p.room)}
    every = [point for _, _, point in context.points()]
    return [
        point
        for point in every
        if point.supplementary_ohm is not None
        and (point.id in own or (point.room_id or point.room) in rooms or (not rooms and point.bathroom))
    ]


def fused_downstream(circuit: Circuit, capacity_a: float = inf) -> Proof:
    """Does a fuse that was seen at the one load protect the cable? (rule 9.2) capacity_a: what the cable carries
    (A)."""
    if not circuit.one_fused_load:
        known = circuit.one_fused_load is False
        return Proof(False if known else None, "no fuse downstream was seen")
    if circuit.load_fuse_a is None:
        return Proof(None, "the fuse at the load was not read")
    fits = circuit.load_fuse_a <= capacity_a
    return Proof(fits, f"a {circuit.load_fuse_a:g} A fuse at the one load")


def feeds_class_i(circuit: Circuit) -> bool:
    """Does a circuit feed what always needs an earth: sockets, a class I appliance, or fixed equipment that nobody
    found to be class II? (rule 5.2)"""
    if circuit.serves == "sockets" or circuit.outlet_with_socket or circuit.appliance in CLASS_I_APPLIANCES:
        return True
    return circuit.serves == "fixed" and not (circuit.points and all(is_class_ii(circuit, p) for p in circuit.points))


def needs_earth(circuit: Circuit | None, point: Point) -> bool | None:
    """Does what stands at a point need an earth behind it? None where that was not entered (rule 5.2).

    A socket, a fused unit, an outlet and a fixed class I appliance always do, however the plate is made; class II and
    an insulating front excuse the thing itself alone.
    """
    if point.kind in CLASS_I_KINDS or (circuit is not None and circuit.appliance in CLASS_I_APPLIANCES):
        return True
    if point.kind is None:
        return True if circuit is not None and circuit.serves == "sockets" else None
    if point.class_ii and point.kind in MAY_BE_CLASS_II:
        return False
    if point.kind == "fixed equipment":
        return True
    if point.front == "metal":
        return True
    return False if point.front == "insulating" else None


def is_class_ii(circuit: Circuit | None, point: Point) -> bool:
    """Is a point ticked class II one that may be? A socket ticked so is asked about (rule 5.2)."""
    if not point.class_ii:
        return False
    if point.kind is None:
        return circuit is None or (circuit.serves != "sockets" and circuit.appliance not in CLASS_I_APPLIANCES)
    return point.kind in MAY_BE_CLASS_II and not (circuit is not None and circuit.appliance in CLASS_I_APPLIANCES)


def loop_as_calculated(zs: Reading | None, total: Reading | None) -> Proof:
    """Is a loop (Ω) what Zdb + (R1+R2) (Ω) leads to, within the tolerance of rule 7.3?"""
    if zs is None or total is None or zs.value is None or total.value is None or zs.bound or total.bound:
        return Proof(None, "Zs cannot be compared with Zdb + (R1+R2)")
    fits = at_most(zs, total.value + max(loop.CROSS_OHM, loop.CROSS_SHARE * total.value) + 1e-9)
    return Proof(bool(fits), f"Zs {zs} Ω beside {total} Ω calculated")
