"""What an inspection knows that moves a code, by the names that the catalogue has for it (rule 13.2).

A fact is true, false, or not known; what is not known is asked.
"""

from collections.abc import Callable, Iterator, Mapping

from dorrik.core.basics.readings import at_most
from dorrik.core.basics.record import record
from dorrik.core.electrical import loop, overload, polarity, supply, tails
from dorrik.core.electrical.ring_ends import LEAST_TOLERANCE_OHM, TOLERANCE
from dorrik.core.home.ages import required_since
from dorrik.core.inspection.check import GOOD, NOT_GOOD
from dorrik.core.inspection.records import Board, Bond, Circuit, Point, Room
from dorrik.core.inspection.room import BATH, OUTDOORS
from dorrik.core.judging.topics import loops, soundness
from dorrik.core.judging.topics.context import Context, cable_of, is_measured


@record
class FactPlace:
    """What a suggestion speaks of: its board, circuit, point, room and bonds, as far as it has them, and the circuits
    and points it touches."""

    board: Board | None
    circuit: Circuit | None
    point: Point | None
    circuits: tuple[tuple[Board, Circuit], ...]
    room: Room | None = None
    points: tuple[Point, ...] = ()
    bonds: tuple[Bond, ...] = ()


def known(context: Context, place: FactPlace, fact: str) -> bool | None:
    """Is a fact so at that place? None where the inspection does not say, or where only eyes can."""
    ask = FACTS.get(fact)
    return ask(context, place) if ask is not None else None


def _nothing_disconnects(context: Context, place: FactPlace) -> bool | None:
    """Is there no working RCD in front of some circuit? With the earth lost nothing else clears a fault (rule 3.1)."""
    proof = soundness.rcds_throughout(context)
    return None if not context.circuits else proof.sound is not True


def _loops_within(context: Context, place: FactPlace) -> bool | None:
    """Is Ze no more than twice its declared maximum, with the loops that were tested within their limits? (rule 3.1)"""
    i = context.inspection
    limit = context.declared_ze_ohm
    if limit is None or i.ze_ohm is None or i.ze_ohm.value is None:
        return False
    return supply.is_within_few_times(i.ze_ohm, limit) and loops_within(context) is True


def loops_within(context: Context) -> bool | None:
    """Are the loops tested on the supply's earth within their devices' limits? None where none was tested (rule
    3.1)."""
    tested = context.each_circuit(_loop_within)
    return all(tested) if tested else None


def _loop_within(context: Context, board: Board, circuit: Circuit) -> Iterator[bool]:
    limit = context.zs_limit(board, circuit)
    if context.earth(board).of_supply and isinstance(limit, tuple) and is_measured(circuit.zs_ohm):
        yield at_most(circuit.zs_ohm, limit[0]) is True


def _rcd_for_fault(context: Context, place: FactPlace) -> bool | None:
    """Does a working RCD give the fault protection of every circuit there, on TN, with a loop that is what Zdb +
    (R1+R2) leads to? Nothing less lowers the code (rules 7.2, 8.1)."""
    if not place.circuits:
        return False
    for board, circuit in place.circuits:
        working = soundness.fault_rcd(context, circuit)[1].sound
        total = loop.calculated(board.zdb_ohm, loops.r1_r2(circuit))
        if context.earth(board).tt or working is not True:
            return False
        if soundness.loop_as_calculated(circuit.zs_ohm, total).sound is not True:
            return False
    return True


def _loop_tests_alone(context: Context, place: FactPlace) -> bool | None:
    """Does the RCD hold at half its rating, so that the loop tests alone take it out? (rule 7.4)"""
    devices = [d for d in context.rcds if any(c.id in {t.id for _, t in place.circuits} for c in d.circuits)]
    halves = [d.half for d in devices]
    return bool(halves) and all(half == "correct" for half in halves)


def _earth_needed(context: Context, place: FactPlace) -> bool | None:
    """Is something on the circuit that needs an earth, whatever its plates are made of? (rule 5.2)"""
    if place.circuit is None:
        return None
    return soundness.feeds_class_i(place.circuit) or any(
        soundness.needs_earth(place.circuit, point) for point in place.circuit.points
    )


def _bond_under_6(context: Context, place: FactPlace) -> bool | None:
    sizes = [bond.csa_mm2 for bond in place.bonds if bond.csa_mm2 is not None]
    return any(size < 6 for size in sizes) if sizes else False


def _tails_one_size(context: Context, place: FactPlace) -> bool | None:
    """Are the tails only a size too small for the fuse, and the demand over what they carry? (rule 3.7)"""
    i = context.inspection
    if i.tails_mm2 is None or i.service_fuse_a is None:
        return False
    try:
        return tails.capacity_a(i.tails_mm2) >= tails.LOOK_SHARE * i.service_fuse_a
    except LookupError:
        return False


def _charger_shared(context: Context, place: FactPlace) -> bool | None:
    """Does a 30 mA RCD that works protect the charge point, shared with other circuits? (observations)"""
    return bool(place.circuits) and all(
        soundness.additional_rcd(context, c).sound is True for _, c in place.circuits if c.load == "vehicle"
    )


def _demand_exceeds(context: Context, place: FactPlace) -> bool | None:
    """Does a demand that was assessed exceed the device? Only what was entered counts, no estimate."""
    currents = [c.design_current_a for _, c in place.circuits]
    return True if currents and all(current is not None for current in currents) else None


def _falling(context: Context, place: FactPlace) -> bool | None:
    """Has the insulation of a circuit there fallen since the last report, by more than two instruments can differ?"""
    seen = False
    for _, circuit in place.circuits:
        for figure in ("insulation_lne_mohm", "insulation_ln_mohm"):
            now = getattr(circuit, figure)
            before = [e for e in circuit.earlier if e.figure == figure and e.reading is not None and e.reading.value]
            if now is None or now.value is None or not before:
                continue
            seen = True
            last = max(before, key=lambda e: e.measured_on or "").reading
            assert last is not None and last.value is not None
            spread = now.uncertainty("insulation") + last.uncertainty("insulation")
            if now.bound != ">" and last.bound != "<" and now.value + spread < last.value:
                return True
    return False if seen else None


def _board_in_part(context: Context, place: FactPlace) -> bool | None:
    """Is it a board read as a whole, with circuits that were not measured by themselves?"""
    if place.board is None or place.circuit is not None or len(place.circuits) > 0:
        return False
    own = [c for c in place.board.circuits if not c.spare]
    return any(not is_measured(c.insulation_lne_mohm) for c in own)


def _every_circuit_sound(context: Context, place: FactPlace) -> bool | None:
    """Is it a board read as a whole, every circuit of which was measured at 2 MΩ or more?"""
    if place.board is None or place.circuit is not None or len(place.circuits) > 0:
        return False
    own = [c for c in place.board.circuits if not c.spare]
    return bool(own) and all(
        is_measured(c.insulation_lne_mohm)
        and c.insulation_lne_mohm is not None
        and (c.insulation_lne_mohm.value or 0) >= 2
        for c in own
    )


def _small_excess(context: Context, place: FactPlace) -> bool | None:
    """Is the cpc of a ring higher by less than twice its tolerance, with an earth proved at every point tested?"""
    circuit = place.circuit
    analysis = context.ring(circuit) if circuit is not None else None
    if circuit is None or analysis is None or analysis.expected_r2_ohm is None or circuit.r2_ohm is None:
        return False
    greatest = analysis.expected_r2_ohm[1]
    allowed = max(LEAST_TOLERANCE_OHM, TOLERANCE * greatest)
    if circuit.r2_ohm.value is None or circuit.r2_ohm.bound is not None:
        return False
    if circuit.r2_ohm.value - greatest >= 2 * allowed:
        return False
    points = [p for p in circuit.points if not soundness.is_class_ii(circuit, p)]
    readings = [p.line_cpc_ohm if p.line_cpc_ohm is not None else p.r2_ohm for p in points]
    unearthed = any(p.no_cpc for p in points) or any(r is not None and r.kind == "over-range" for r in readings)
    return bool(points) and not unearthed and all(r is not None and r.value is not None for r in readings)


def _heat_signs(context: Context, place: FactPlace) -> bool | None:
    """Was heat found at the board? Its check says so, or says that there is none."""
    return _at_the_board(place, "heat")


def _heat_or_loose(context: Context, place: FactPlace) -> bool | None:
    """Was heat or a loose terminal found at the board?"""
    return _at_the_board(place, "heat", "tight", "busbar")


def _at_the_board(place: FactPlace, *items: str) -> bool | None:
    if place.board is None:
        return None
    states = {check.item: check.state for check in place.board.checks}
    answers = [states.get(item) for item in items]
    if NOT_GOOD in answers:
        return True
    return False if all(state == GOOD for state in answers) else None


def _live_by_it(context: Context, place: FactPlace) -> bool | None:
    """Was metal found live anywhere? Where nobody measured it, it is asked."""
    volts = [p.metal_earth_v for _, _, p in context.points() if p.metal_earth_v is not None]
    return True if any(v > polarity.METAL_LIVE_V for v in volts) else None


def _elsewhere(context: Context, place: FactPlace) -> bool | None:
    if place.board is None or place.board.only_way_out is None:
        return None
    return not place.board.only_way_out and _heat_or_loose(context, place) is not True


def _only_way_out(context: Context, place: FactPlace) -> bool | None:
    return place.board.only_way_out if place.board is not None else None


def _vehicle_load(context: Context, place: FactPlace) -> bool | None:
    loads = [c.load for _, c in place.circuits]
    return True if "vehicle" in loads else (False if loads and all(loads) else None)


def _dc_loads(context: Context, place: FactPlace) -> bool | None:
    loads = [c.load for _, c in place.circuits if c.load]
    if any(load != "resistive" for load in loads):
        return True
    return False if loads and len(loads) == len(place.circuits) else None


def _upper_floor_flat(context: Context, place: FactPlace) -> bool | None:
    storey = context.inspection.storey
    return None if storey is None else storey == "upper floor flat"


def _flat_above(context: Context, place: FactPlace) -> bool | None:
    """Seen above the fitting itself, where somebody looked; else as the home lies."""
    above = place.point.above if place.point is not None else None
    if above == "another dwelling":
        return True
    return context.inspection.flat_above


def _over_the_way_out(context: Context, place: FactPlace) -> bool | None:
    return place.room.on_the_way_out if place.room is not None else None


def _children_or_wet(context: Context, place: FactPlace) -> bool | None:
    """Wet is seen from the room; children only the inspector sees."""
    wet = place.room is not None and place.room.kind in (BATH, OUTDOORS)
    return True if wet or (place.point is not None and place.point.bathroom) else None


def _supplementary_proved(context: Context, place: FactPlace) -> bool | None:
    proof = soundness.supplementary_proved(context, place.circuits)
    return proof.sound


def _supplementary_missing(context: Context, place: FactPlace) -> bool | None:
    """Known to be missing, or refuted by its reading; what nobody measured is not known."""
    proof = soundness.supplementary_proved(context, place.circuits)
    return None if proof.sound is None else proof.sound is False


def _rcd_and_main_bond(context: Context, place: FactPlace) -> bool | None:
    """Has every circuit of the room a working RCD of 30 mA, and is every main bond proved by its reading?"""
    circuits = list(place.circuits)
    if place.point is not None:
        circuits = soundness.circuits_of_bathroom(context, place.point) or circuits
    elif place.room is not None:
        inside = [p for _, _, p in context.points() if p.room_id == place.room.id]
        circuits = soundness.circuits_of_bathroom(context, inside[0]) if inside else circuits
    if not circuits:
        circuits = [(b, c) for b, c in context.circuits if c.bathroom or any(p.bathroom for p in c.points)]
    if not circuits or not context.inspection.bonds:
        return None
    protected = all(soundness.additional_rcd(context, c).sound is True for _, c in circuits)
    return protected and soundness.main_bonding_proved(context).sound is True


def _device_lowered(context: Context, place: FactPlace) -> bool | None:
    """Is the device of an open ring within what one leg carries? With its cpc open only if R1+R2 and Zs were measured
    within their limits as well (rule 4.8, observations)."""
    circuit, board = place.circuit, place.board
    cable = cable_of(circuit) if circuit is not None else None
    if circuit is None or board is None or cable is None or circuit.device_rating_a is None:
        return False
    try:
        leg_a = overload.leg_rating_a(cable.csa_mm2, cable.method, cable.type)
    except LookupError:
        return False
    if circuit.device_rating_a > leg_a:
        return False
    analysis = context.ring(circuit)
    opened = (
        {f.conductor for f in analysis.findings if f.kind in ("open-conductor", "not-a-ring")} if analysis else set()
    )
    if analysis is not None and any(f.kind == "not-a-ring" for f in analysis.findings):
        opened = {"line", "neutral", "cpc"}
    if "cpc" not in opened:
        return True
    limit = context.zs_limit(board, circuit)
    within = isinstance(limit, tuple) and at_most(circuit.zs_ohm, limit[0]) is True
    return within and at_most(circuit.r1_r2_ohm, loop.FEW_OHMS) is True


def _risen(context: Context, place: FactPlace) -> bool | None:
    if place.circuit is None or place.circuit.r2_ohm is None or place.circuit.r2_ohm.value is None:
        return None
    before = [e for e in place.circuit.earlier if e.figure == "r2_ohm" and e.reading is not None and e.reading.value]
    if not before:
        return None
    last = max(before, key=lambda e: e.measured_on or "").reading
    assert last is not None and last.value is not None
    spread = place.circuit.r2_ohm.uncertainty("continuity") + last.uncertainty("continuity")
    return place.circuit.r2_ohm.value > last.value + spread


def _insulating_front(context: Context, place: FactPlace) -> bool | None:
    """Is what has no earth an insulating switch, lampholder or luminaire, at every point concerned? A cpc lost on a
    whole circuit, a socket, a fused unit, an outlet or a class I appliance is never excused (rule 5.2)."""
    points = place.points or ((place.point,) if place.point is not None else ())
    if not points:
        return False
    needs = [soundness.needs_earth(place.circuit, point) for point in points]
    if any(need for need in needs):
        return False
    return None if None in needs else True


def _metal_fitting(context: Context, place: FactPlace) -> bool | None:
    if place.circuit is None or not place.circuit.points:
        return None
    points = [p for p in place.circuit.points if not soundness.is_class_ii(place.circuit, p)]
    if any(p.front == "metal" for p in points):
        return True
    return False if all(p.front == "insulating" for p in points) else None


def _unbonded_there(context: Context, place: FactPlace) -> bool | None:
    if place.board is None or place.board.extraneous not in ("bonded", "not bonded"):
        return None
    return place.board.extraneous == "not bonded"


def _fused_downstream(context: Context, place: FactPlace) -> bool | None:
    """Does a fuse that was read at the one load protect the cable? (rule 9.2)"""
    circuit = place.circuit
    cable = cable_of(circuit) if circuit is not None else None
    if circuit is None or cable is None:
        return None
    try:
        ways = (cable.method,) if cable.method else overload.methods(cable.csa_mm2, cable.type)
        capacity = min(overload.capacity_a(cable.csa_mm2, way, cable.type) for way in ways) * cable.factor
    except LookupError:
        return None
    # What nobody read is no fact, and what is not said is asked of nobody but the circuit's own fields (rule 9.2).
    return soundness.fused_downstream(circuit, capacity).sound is True


#: Every fact that the rules can tell themselves. What is not here is for the inspector's eyes.
def _needed_in_its_day(context: Context, place: FactPlace) -> bool | None:
    """Was every circuit there fitted when the edition of its day already needed an RCD? Where the years are not known
    nothing is asked: age alone is no code (rule 13.6)."""
    since = required_since()["rcd-missing-sockets"][0]
    first = [context.fitted(circuit)[0] for _, circuit in place.circuits]
    return bool(first) and all(year is not None and year >= since for year in first)


FACTS: Mapping[str, Callable[[Context, FactPlace], bool | None]] = {
    "needed-in-its-day": _needed_in_its_day,
    "nothing-disconnects": _nothing_disconnects,
    "loops-within": _loops_within,
    "rcd-for-fault": _rcd_for_fault,
    "loop-tests-alone": _loop_tests_alone,
    "earth-needed": _earth_needed,
    "bond-under-6": _bond_under_6,
    "tails-one-size": _tails_one_size,
    "charger-shared": _charger_shared,
    "demand-exceeds": _demand_exceeds,
    "insulation-falling": _falling,
    "board-in-part": _board_in_part,
    "every-circuit-sound": _every_circuit_sound,
    "small-excess": _small_excess,
    "heat-signs": _heat_signs,
    "heat-or-loose": _heat_or_loose,
    "live-by-it": _live_by_it,
    "elsewhere": _elsewhere,
    "only-way-out": _only_way_out,
    "vehicle-load": _vehicle_load,
    "dc-loads": _dc_loads,
    "upper-floor-flat": _upper_floor_flat,
    "flat-above": _flat_above,
    "only-way-out-cable": _over_the_way_out,
    "children-or-wet": _children_or_wet,
    "supplementary-proved": _supplementary_proved,
    "supplementary-missing": _supplementary_missing,
    "rcd-and-main-bond": _rcd_and_main_bond,
    "device-lowered": _device_lowered,
    "risen": _risen,
    "fused-downstream": _fused_downstream,
    "insulating-front": _insulating_front,
    "metal-fitting": _metal_fitting,
    "unbonded-there": _unbonded_there,
}
