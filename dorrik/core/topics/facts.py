"""What an inspection knows that moves a code, by the names that the catalogue has for it (rule 13.2).

A fact is true, false, or not known; what is not known is asked.
"""

from collections.abc import Callable, Mapping

from dorrik.core import overload, rcd
from dorrik.core.inspection import Board, Circuit, Point, Room
from dorrik.core.record import record
from dorrik.core.room import BATH, OUTDOORS
from dorrik.core.topics.context import Context, cable_of


@record
class Place:
    """What a suggestion speaks of: its board, circuit, point and room, as far as it has them, and the circuits it
    touches."""

    board: Board | None
    circuit: Circuit | None
    point: Point | None
    circuits: tuple[tuple[Board, Circuit], ...]
    room: Room | None = None


def known(context: Context, place: Place, fact: str) -> bool | None:
    """Is a fact so at that place? None where the inspection does not say, or where only eyes can."""
    ask = FACTS.get(fact)
    return ask(context, place) if ask is not None else None


def _rcd_throughout(context: Context, place: Place) -> bool | None:
    if not context.circuits:
        return None
    rated = [context.rated_ma(c) for _, c in context.circuits if not context.tree.fed_from(c)]
    if any(c.device_standard is None and not context.rcds_before(c) for _, c in context.circuits):
        return None
    return all(rated)


def _rcd_throughout_on_tn(context: Context, place: Place) -> bool | None:
    """The network operator's earth: of an electrode nobody else has to find the cause."""
    board = place.board
    on_tt = context.earth(board).tt if board is not None else context.inspection.earthing == "TT"
    return False if on_tt else _rcd_throughout(context, place)


def _operator_called(context: Context, place: Place) -> bool | None:
    i = context.inspection
    return True if i.held_at and "operator" in (i.held_reason or "").lower() else None


def _rcd_for_fault(context: Context, place: Place) -> bool | None:
    if not place.circuits:
        return None
    return all(context.rated_ma(c) is not None and not context.earth(b).tt for b, c in place.circuits)


def _only_way_out(context: Context, place: Place) -> bool | None:
    return place.board.only_way_out if place.board is not None else None


def _overhead_supply(context: Context, place: Place) -> bool | None:
    return context.inspection.overhead_supply


def _vehicle_load(context: Context, place: Place) -> bool | None:
    loads = [c.load for _, c in place.circuits]
    return True if "vehicle" in loads else (False if loads and all(loads) else None)


def _vehicle_earth_monitor(context: Context, place: Place) -> bool | None:
    circuits = [c for b, c in context.circuits if place.board is None or b.id == place.board.id]
    return None if any(c.load == "vehicle" for c in circuits) else False


def _dc_loads(context: Context, place: Place) -> bool | None:
    loads = [c.load for _, c in place.circuits if c.load]
    if any(load != "resistive" for load in loads):
        return True
    return False if loads and len(loads) == len(place.circuits) else None


def _upper_floor_flat(context: Context, place: Place) -> bool | None:
    storey = context.inspection.storey
    return None if storey is None else storey == "upper floor flat"


def _flat_above(context: Context, place: Place) -> bool | None:
    """Seen above the fitting itself, where somebody looked; else as the home lies."""
    above = place.point.above if place.point is not None else None
    if above == "another dwelling":
        return True
    return context.inspection.flat_above


def _over_the_way_out(context: Context, place: Place) -> bool | None:
    return place.room.on_the_way_out if place.room is not None else None


def _children_or_wet(context: Context, place: Place) -> bool | None:
    """Wet is seen from the room; children only the inspector sees."""
    wet = place.room is not None and place.room.kind in (BATH, OUTDOORS)
    return True if wet or (place.point is not None and place.point.bathroom) else None


def _supplementary(context: Context, place: Place) -> str | None:
    """The worst that is recorded of the bathrooms in question: missing, not known (None), present."""
    said = [c.supplementary_bonding for _, c in place.circuits if c.bathroom]
    if not said:
        return None
    if "missing" in said:
        return "missing"
    return "present" if all(word == "present" for word in said) else None


def _supplementary_proved(context: Context, place: Place) -> bool | None:
    said = _supplementary(context, place)
    return None if said is None else said == "present"


def _supplementary_missing(context: Context, place: Place) -> bool | None:
    said = _supplementary(context, place)
    return None if said is None else said == "missing"


def _rcd_and_main_bond(context: Context, place: Place) -> bool | None:
    bonds = context.inspection.bonds
    if not bonds or not place.circuits:
        return None
    protected = all((context.rated_ma(c) or rcd.ADDITIONAL_MA + 1) <= rcd.ADDITIONAL_MA for _, c in place.circuits)
    proved = all(bond.state in ("present", "plastic service") for bond in bonds)
    return protected and proved


def _device_lowered(context: Context, place: Place) -> bool | None:
    circuit = place.circuit
    cable = cable_of(circuit) if circuit is not None else None
    if circuit is None or cable is None or circuit.device_rating_a is None:
        return None
    try:
        leg_a = overload.greatest_rating_a(cable.csa_mm2, cable.method, cable.type)
    except LookupError:
        return None
    return circuit.device_rating_a <= leg_a


def _risen(context: Context, place: Place) -> bool | None:
    if place.circuit is None or place.circuit.r2_ohm is None or place.circuit.r2_ohm.value is None:
        return None
    before = [e for e in place.circuit.earlier if e.figure == "r2_ohm" and e.reading is not None and e.reading.value]
    if not before:
        return None
    last = max(before, key=lambda e: e.measured_on or "").reading
    assert last is not None and last.value is not None
    spread = place.circuit.r2_ohm.uncertainty("continuity") + last.uncertainty("continuity")
    return place.circuit.r2_ohm.value > last.value + spread


def _insulating_front(context: Context, place: Place) -> bool | None:
    point = place.point
    if point is None or point.kind == "socket":
        return False if point is not None else None
    if point.kind is None and place.circuit is not None and place.circuit.serves == "sockets":
        return False
    return None if point.front is None else point.front == "insulating"


def _metal_fitting(context: Context, place: Place) -> bool | None:
    if place.circuit is None or not place.circuit.points:
        return None
    points = [p for p in place.circuit.points if not p.class_ii]
    if any(p.front == "metal" for p in points):
        return True
    return False if all(p.front == "insulating" for p in points) else None


def _unbonded_there(context: Context, place: Place) -> bool | None:
    if place.board is None or place.board.extraneous not in ("bonded", "not bonded"):
        return None
    return place.board.extraneous == "not bonded"


#: Every fact that the rules can tell themselves. What is not here is for the inspector's eyes.
FACTS: Mapping[str, Callable[[Context, Place], bool | None]] = {
    "rcd-throughout": _rcd_throughout,
    "rcd-throughout-on-tn": _rcd_throughout_on_tn,
    "operator-called": _operator_called,
    "rcd-for-fault": _rcd_for_fault,
    "only-way-out": _only_way_out,
    "overhead-supply": _overhead_supply,
    "vehicle-load": _vehicle_load,
    "vehicle-earth-monitor": _vehicle_earth_monitor,
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
    "insulating-front": _insulating_front,
    "metal-fitting": _metal_fitting,
    "unbonded-there": _unbonded_there,
}
