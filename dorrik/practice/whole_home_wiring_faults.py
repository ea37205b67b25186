"""What can be wrong with the conductors of a home: rings, joints, missing and crossed conductors, damp.

Each is put into a draft that may have other things wrong already; one that finds no place left returns False.
"""

from dataclasses import replace

from dorrik.practice import entered
from dorrik.practice.entered import Document
from dorrik.practice.home import Leak, Link
from dorrik.practice.ring_circuit import CONDUCTORS, Break, LooseJoint, MissingCpc, Reversed
from dorrik.practice.whole_home import Draft, board, is_radial, point_of


def open_ring(draft: Draft) -> bool:
    """A ring broken in one conductor, or in all three at one accessory."""
    circuit = draft.free(lambda c: c.is_ring)
    if circuit is None:
        return False
    circuit_id, segment = draft.id_of(circuit), draft.chance.randrange(1, len(circuit.wiring.segments_m) - 1)
    conductors = CONDUCTORS if draft.chance.random() < 0.25 else (draft.chance.choice(CONDUCTORS),)
    draft.put(circuit, *(Break(conductor, segment) for conductor in conductors))
    fields = {"line": "r1_ohm", "neutral": "rn_ohm", "cpc": "r2_ohm"}
    evidence = [(circuit_id, fields[conductor]) for conductor in conductors]
    draft.add("ring open", "ring-open", {circuit_id}, *evidence)
    return True


def rings_joined(draft: Draft) -> bool:
    """Two rings with exchanged ends, or bridged at an accessory."""
    rings = [c for c in draft.home.circuits if c.is_ring and c.name not in draft.taken]
    if len(rings) < 2:
        return False
    draft.taken.update(c.name for c in rings)
    circuit, other = rings[0], rings[1]
    places = {draft.id_of(circuit), draft.id_of(other)}
    if draft.chance.random() < 0.5:
        draft.home = replace(draft.home, exchanged=(circuit.name, other.name))
    else:
        ends = [(c.name, c.wiring.junction(draft.chance.randrange(len(c.wiring.walk)))) for c in (circuit, other)]
        draft.home = replace(draft.home, links=(*draft.home.links, Link(ends[0], ends[1], CONDUCTORS)))
    draft.add("two rings joined", "rings-bridged", places, *((place, "joined_by") for place in places))
    return True


def loose_cpc_of_ring(draft: Draft) -> bool:
    """A joint of the cpc of a ring that is failing."""
    circuit = draft.free(lambda c: c.is_ring)
    if circuit is None:
        return False
    segment = draft.chance.randrange(1, len(circuit.wiring.segments_m) - 1)
    draft.put(circuit, LooseJoint("cpc", segment, draft.chance.uniform(0.9, 2.5)))
    circuit_id = draft.id_of(circuit)
    draft.add("cpc joint of a ring failing", "ring-cpc-high", {circuit_id}, (circuit_id, "r2_ohm"))
    return True


def no_cpc_at_a_point(draft: Draft) -> bool:
    """One point without an earth."""
    circuit = draft.free(lambda c: len(c.wiring.walk) >= 2)
    if circuit is None:
        return False
    at = draft.chance.randrange(len(circuit.wiring.walk))
    draft.put(circuit, MissingCpc(at))
    place = f"{draft.id_of(circuit)}-p{at}"
    insulating = circuit.serves == "lighting" and draft.chance.random() < 0.5
    if insulating:
        draft.after.append(lambda d: point_of(d, place).update(front="insulating"))
    elif circuit.serves == "lighting":
        draft.after.append(lambda d: point_of(d, place).update(front="metal"))
    context = ("insulating front",) if insulating else ()
    evidence = ((place, "line_cpc_ohm"), (place, "r2_ohm"), (place, "line_neutral_v"))
    draft.add("no earth at a point", "no-cpc-at-point", {place, draft.id_of(circuit)}, *evidence, context=context)
    return True


def cpc_lost(draft: Draft) -> bool:
    """The cpc of a radial broken between two points: no earth from there on."""
    circuit = draft.free(lambda c: is_radial(c, 2) and c.serves == "sockets") or draft.free(lambda c: is_radial(c, 2))
    if circuit is None:
        return False
    segment = draft.chance.randrange(len(circuit.wiring.segments_m))
    draft.put(circuit, Break("cpc", segment))
    beyond = [f"{draft.id_of(circuit)}-p{n}" for n in range(segment, len(circuit.wiring.walk))]
    evidence = [(p, name) for p in beyond for name in ("line_cpc_ohm", "r2_ohm", "line_neutral_v")]
    draft.add("cpc of a radial broken", "no-cpc-at-point", {draft.id_of(circuit), *beyond}, *evidence)
    return True


def neutral_lost(draft: Draft) -> bool:
    """The neutral of a radial broken: every point beyond floats."""
    circuit = draft.free(lambda c: is_radial(c, 2))
    if circuit is None:
        return False
    segment = draft.chance.randrange(len(circuit.wiring.segments_m))
    draft.put(circuit, Break("neutral", segment))
    beyond = [f"{draft.id_of(circuit)}-p{n}" for n in range(segment, len(circuit.wiring.walk))]
    evidence = [(p, "line_neutral_v") for p in beyond]
    draft.add("neutral lost", "neutral-lost", {draft.id_of(circuit), *beyond}, *evidence)
    return True


def reversed_point(draft: Draft) -> bool:
    """Line and neutral exchanged at one point."""
    circuit = draft.free(lambda c: len(c.wiring.walk) >= 2)
    if circuit is None:
        return False
    at = draft.chance.randrange(len(circuit.wiring.walk))
    draft.put(circuit, Reversed(at))
    place = f"{draft.id_of(circuit)}-p{at}"
    # Where the point's own voltages are not written down, the circuit's polarity still is.
    evidence = ((place, "line_neutral_v"), (place, "polarity"), (draft.id_of(circuit), "polarity"))
    draft.add("line and neutral exchanged", "socket-polarity", {place, draft.id_of(circuit)}, *evidence)
    return True


def damp(draft: Draft) -> bool:
    """One circuit with poor insulation to earth: the board fails by it."""
    circuit = draft.free()
    if circuit is None:
        return False
    leak = Leak(draft.chance.choice(("line", "neutral")), "cpc", draft.chance.uniform(0.02, 0.85))
    draft.change(circuit, leaks=(*circuit.leaks, leak))
    circuit_id = draft.id_of(circuit)
    draft.add("damp circuit", "insulation-below-minimum", {circuit_id, "b"}, (circuit_id, "insulation_lne_mohm"))
    return True


def borrowed_neutral(draft: Draft) -> bool:
    """Two circuits on one neutral."""
    circuit, other = draft.free(is_radial), draft.free(is_radial)
    if circuit is None or other is None:
        return False
    ends = [(c.name, draft.chance.randrange(len(c.wiring.walk))) for c in (circuit, other)]
    draft.home = replace(draft.home, links=(*draft.home.links, Link(ends[0], ends[1], ("neutral",))))
    places = {draft.id_of(circuit), draft.id_of(other)}
    draft.add("neutral borrowed", "shared-neutral", places, *((place, "joined_by") for place in places))
    return True


def high_loop(draft: Draft) -> bool:
    """A joint in the cpc of a radial that lifts its loop above the device's limit, and not yet to ohms."""
    circuit = draft.free(lambda c: is_radial(c) and c.device[2] >= 16 and c.serves != "distribution")
    if circuit is None or draft.home.supply.earthing == "TT" or not draft.once("no loop"):
        return False
    draft.put(circuit, LooseJoint("cpc", 0, draft.chance.uniform(3.0, 4.2)))
    circuit_id = draft.id_of(circuit)

    def context(document: Document) -> tuple[str, ...]:
        board_there, circuit = entered.circuit_of(document, circuit_id)
        safe = entered.protected(document, board_there, circuit) and entered.loop_as_calculated(board_there, circuit)
        return ("working RCD, loop as calculated",) if safe else ()

    draft.add("loop above its limit", "zs-above-limit", {circuit_id}, (circuit_id, "zs_ohm"), context=context)
    return True


def failing_cpc(draft: Draft) -> bool:
    """A joint in the cpc of a radial of many ohms: lost, whatever RCD is there."""
    circuit = draft.free(lambda c: is_radial(c) and c.serves != "distribution")
    if circuit is None or draft.home.supply.earthing == "TT" or not draft.once("no loop"):
        return False
    draft.put(circuit, LooseJoint("cpc", 0, draft.chance.uniform(7.0, 40.0)))
    circuit_id = draft.id_of(circuit)
    fields = ("zs_ohm", "r1_r2_ohm", "long_lead_r2_ohm")
    draft.add("cpc failing", "cpc-lost", {circuit_id}, *((circuit_id, field) for field in fields))
    return True


def poor_board_earth(draft: Draft) -> bool:
    """The way of the earth from the origin to the board is poor: its Zdb and every loop of it are high, Ze is not."""
    if draft.home.supply.earthing == "TT" or not draft.once("no loop") or not draft.once("earth"):
        return False
    draft.said.add("board earth")
    added = draft.chance.uniform(0.7, 2.5)

    def write(document: Document) -> None:
        raised = [(board(document), "zdb_ohm"), *((c, "zs_ohm") for c in board(document)["circuits"])]
        for entity, name in raised:
            value = entered.figure(entity.get(name))
            if value is not None:
                entity[name] = f"{value + added:.2f}"

    draft.after.append(write)
    draft.add("earth to the board poor", "board-earth-poor", {"b"}, ("b", "zdb_ohm"))
    return True
