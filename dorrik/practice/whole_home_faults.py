"""What can be wrong with a whole home, each put into a draft that may have other things wrong already. A fault that
finds no place left says so by returning False."""

import random
from collections.abc import Callable
from dataclasses import replace
from typing import Any

from dorrik.core.book import board_checks
from dorrik.practice import entered
from dorrik.practice.entered import Document
from dorrik.practice.home import Circuit, Leak, Link, Load, Surge
from dorrik.practice.radial_circuit import RadialCircuit
from dorrik.practice.ring_circuit import CONDUCTORS, Break, LooseJoint, MissingCpc, Reversed
from dorrik.practice.whole_home import Draft, board, circuit_of, wire_without_cpc

Fault = Callable[[Draft], bool]


def _radial(circuit: Circuit, least: int = 1) -> bool:
    return isinstance(circuit.wiring, RadialCircuit) and len(circuit.wiring.walk) >= least


def _ring(circuit: Circuit) -> bool:
    return circuit.is_ring


def _put(draft: Draft, circuit: Circuit, *faults: Any) -> None:
    draft.change(circuit, wiring=replace(circuit.wiring, faults=(*circuit.wiring.faults, *faults)))


def _once(draft: Draft, word: str) -> bool:
    """Is this the first fault of its kind? Of the origin there is one of each."""
    first = word not in draft.said
    draft.said.add(word)
    return first


def high_ze(draft: Draft) -> bool:
    """A supply earth far above what is declared: every loop is high by it."""
    supply = draft.home.supply
    if supply.earthing == "TT" or not _once(draft, "earth"):
        return False
    above = draft.chance.uniform(0.15, 3.0)
    if supply.earthing == "TN-S":
        changed = replace(supply, earth_ohm=0.8 + above - supply.line_ohm)
    else:
        changed = replace(supply, neutral_ohm=0.35 + above - supply.line_ohm)
    draft.home = replace(draft.home, supply=changed)
    most = 0.8 if supply.earthing == "TN-S" else 0.35

    def context(document: Document) -> tuple[str, ...]:
        ze = entered.figure(document["inspection"].get("ze_ohm"))
        few = ze is not None and ze <= 2 * most
        return ("up to twice, loops within",) if few and entered.loops_within(document) else ()

    draft.add("supply earth too high", "ze-above-maximum", {"i"}, ("i", "ze_ohm"), context=context)
    draft.said.add("Ze high")
    return True


def no_earth(draft: Draft) -> bool:
    """The earth of the supply is gone."""
    supply = draft.home.supply
    # Where there is no earth at all no loop can show what a single circuit adds.
    if supply.earthing != "TN-S" or "earth" in draft.said or not _once(draft, "no loop"):
        return False
    draft.said.add("earth")
    draft.home = replace(draft.home, supply=replace(supply, earth_ohm=1e9))
    draft.said.add("earth lost")
    draft.add(
        "no earth at the origin", "no-earth-at-origin", {"i"}, ("i", "ze_ohm"),
        context=lambda d: () if entered.protected_throughout(d) else ("no working RCD",),
    )  # fmt: skip
    return True


def weak_electrode(draft: Draft) -> bool:
    """An electrode between 230 and 1400 Ω."""
    supply = draft.home.supply
    if supply.earthing != "TT" or not _once(draft, "earth"):
        return False
    draft.home = replace(draft.home, supply=replace(supply, electrode_ohm=draft.chance.uniform(240, 1300)))
    draft.add("weak electrode", "electrode-above-200", {"i"}, ("i", "ze_ohm"))
    return True


def tt_without_rcd(draft: Draft) -> bool:
    """On an electrode, and no RCD anywhere."""
    if draft.home.supply.earthing != "TT" or draft.taken or not _once(draft, "rcds"):
        return False
    draft.protection = "none"
    circuits = tuple(replace(c, rcd=None, device=("BS EN 60898", "B", c.device[2])) for c in draft.home.circuits)
    draft.home = replace(draft.home, rcds={}, circuits=circuits)
    places = {"b", "i", *(draft.id_of(c) for c in draft.home.circuits)}
    evidence = [(draft.id_of(c), "device_standard") for c in draft.home.circuits]
    draft.add("electrode without RCD", "tt-without-rcd", places, *evidence)
    return True


def bond(draft: Draft) -> bool:
    """A bond missing, not seen, too thin, or with a painted clamp."""
    if not _once(draft, "bond"):
        return False
    kind = draft.chance.choice(("missing", "not seen", "thin", "painted"))
    first = draft.home.bonds[0]
    if kind == "thin" and draft.home.supply.earthing == "TT":
        kind = "painted"  # with an electrode 6 mm² may be enough (rule 3.6)
    if kind == "thin":
        draft.home = replace(draft.home, bonds=(replace(first, csa_mm2=6.0, length_m=4.0), *draft.home.bonds[1:]))
        draft.add("bond too thin", "bond-undersized", {"bond0"}, ("bond0", "csa_mm2"))
    elif kind == "painted":
        painted = replace(first, clamp_ohm=draft.chance.uniform(0.08, 0.8), length_m=min(first.length_m, 9.0))
        draft.home = replace(draft.home, bonds=(painted, *draft.home.bonds[1:]))
        draft.add("painted clamp", "bond-high", {"bond0"}, ("bond0", "at_pipe_ohm"))
    else:
        key = "main-bond-missing" if kind == "missing" else "main-bond-not-seen"
        draft.add(f"bond {kind}", key, {"bond0"}, ("bond0", "state"))

        def write(document: Document) -> None:
            first_bond = document["inspection"]["bonds"][0]
            first_bond["state"] = kind
            for name in ("at_clamp_ohm", "at_pipe_ohm", "csa_mm2", "length_m"):
                first_bond.pop(name, None)

        draft.after.append(write)
    return True


def by_pipe(draft: Draft) -> bool:
    """Earthed by a water pipe."""
    if draft.home.supply.earthing == "TN-C-S" or not _once(draft, "pipe"):
        return False
    draft.after.append(lambda d: d["inspection"].update(earth_by="water pipe"))
    draft.add("earthed by a pipe", "earthing-by-pipe", {"i"}, ("i", "earth_by"))
    return True


def rcd(draft: Draft) -> bool:
    """An RCD of several circuits: slow, dead, its button dead, too eager, or with leaking equipment behind it.

    That only the button fails shows by the time of the test.
    """
    if "RCD 1" not in draft.home.rcds or not any(c.rcd == "RCD 1" for c in draft.home.circuits):
        return False
    if not _once(draft, "RCD 1"):
        return False
    device = draft.home.rcds["RCD 1"]
    kind = draft.chance.choice(("slow", "dead", "button", "eager", "leakage"))
    behind = [c for c in draft.home.circuits if c.rcd == "RCD 1"]
    places = {"b-r0", "b-r1", *(draft.id_of(c) for c in behind)}
    fields = {"slow": "trip_ms", "dead": "trip_ms", "button": "trip_ms", "eager": "half", "leakage": "leakage_ma"}
    names = (fields[kind], f"rcd_{fields[kind]}")
    evidence = [(place, name) for place in places for name in names]
    if kind == "leakage":
        circuit = behind[0]
        draft.change(circuit, leakage_ma=draft.chance.uniform(11, 13.5))
        draft.add("leaking equipment", "leakage-high", places, *evidence)
        return True
    each: dict[str, dict[str, Any]] = {
        "slow": {"trip_ms": draft.chance.uniform(330, 900)},
        "dead": {"stuck": True, "button": False},
        "button": {"button": False},
        "eager": {"trips_at": draft.chance.uniform(0.2, 0.45)},
    }
    changes = each[kind]
    key = {"slow": "rcd-slow", "dead": "rcd-no-trip", "button": "rcd-button-fails", "eager": "rcd-trips-on-test"}[kind]
    draft.home = replace(draft.home, rcds=draft.home.rcds | {"RCD 1": replace(device, **changes)})
    draft.add(f"RCD {kind}", key, places, *evidence)
    return True


def open_ring(draft: Draft) -> bool:
    """A ring broken in one conductor, or in all three at one accessory."""
    circuit = draft.free(_ring)
    if circuit is None:
        return False
    circuit_id, segment = draft.id_of(circuit), draft.chance.randrange(1, len(circuit.wiring.segments_m) - 1)
    conductors = CONDUCTORS if draft.chance.random() < 0.25 else (draft.chance.choice(CONDUCTORS),)
    _put(draft, circuit, *(Break(conductor, segment) for conductor in conductors))
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
    circuit = draft.free(_ring)
    if circuit is None:
        return False
    segment = draft.chance.randrange(1, len(circuit.wiring.segments_m) - 1)
    _put(draft, circuit, LooseJoint("cpc", segment, draft.chance.uniform(0.9, 2.5)))
    circuit_id = draft.id_of(circuit)
    draft.add("cpc joint of a ring failing", "ring-cpc-high", {circuit_id}, (circuit_id, "r2_ohm"))
    return True


def no_cpc_at_a_point(draft: Draft) -> bool:
    """One point without an earth."""
    circuit = draft.free(lambda c: len(c.wiring.walk) >= 2)
    if circuit is None:
        return False
    at = draft.chance.randrange(len(circuit.wiring.walk))
    _put(draft, circuit, MissingCpc(at))
    place = f"{draft.id_of(circuit)}-p{at}"
    insulating = circuit.serves == "lighting" and draft.chance.random() < 0.5
    if insulating:
        draft.after.append(lambda d: _point(d, place).update(front="insulating"))
    elif circuit.serves == "lighting":
        draft.after.append(lambda d: _point(d, place).update(front="metal"))
    context = ("insulating front",) if insulating else ()
    evidence = ((place, "line_cpc_ohm"), (place, "r2_ohm"), (place, "line_neutral_v"))
    draft.add("no earth at a point", "no-cpc-at-point", {place, draft.id_of(circuit)}, *evidence, context=context)
    return True


def _point(document: Document, point_id: str) -> Document:
    circuit = circuit_of(document, point_id.partition("-")[0])
    return next(p for p in circuit["points"] if p["id"] == point_id)


def cpc_lost(draft: Draft) -> bool:
    """The cpc of a radial broken between two points: no earth from there on."""
    circuit = draft.free(lambda c: _radial(c, 2) and c.serves == "sockets") or draft.free(lambda c: _radial(c, 2))
    if circuit is None:
        return False
    segment = draft.chance.randrange(len(circuit.wiring.segments_m))
    _put(draft, circuit, Break("cpc", segment))
    beyond = [f"{draft.id_of(circuit)}-p{n}" for n in range(segment, len(circuit.wiring.walk))]
    evidence = [(p, name) for p in beyond for name in ("line_cpc_ohm", "r2_ohm", "line_neutral_v")]
    draft.add("cpc of a radial broken", "no-cpc-at-point", {draft.id_of(circuit), *beyond}, *evidence)
    return True


def neutral_lost(draft: Draft) -> bool:
    """The neutral of a radial broken: every point beyond floats."""
    circuit = draft.free(lambda c: _radial(c, 2))
    if circuit is None:
        return False
    segment = draft.chance.randrange(len(circuit.wiring.segments_m))
    _put(draft, circuit, Break("neutral", segment))
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
    _put(draft, circuit, Reversed(at))
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
    circuit, other = draft.free(_radial), draft.free(_radial)
    if circuit is None or other is None:
        return False
    ends = [(c.name, draft.chance.randrange(len(c.wiring.walk))) for c in (circuit, other)]
    draft.home = replace(draft.home, links=(*draft.home.links, Link(ends[0], ends[1], ("neutral",))))
    places = {draft.id_of(circuit), draft.id_of(other)}
    draft.add("neutral borrowed", "shared-neutral", places, *((place, "joined_by") for place in places))
    return True


def device_too_large(draft: Draft) -> bool:
    """A device that is too large for its cable, with several points on it so that nothing downstream protects it."""
    circuit = draft.free(lambda c: _radial(c, 2) and c.wiring.line_csa_mm2 <= 4 and c.serves != "lighting")
    if circuit is None or draft.old:
        return False
    standard, type_, _ = circuit.device
    draft.change(circuit, device=(standard, type_, 50.0))
    circuit_id = draft.id_of(circuit)
    draft.add("device too large", "breaker-too-large", {circuit_id}, (circuit_id, "device_rating_a"))
    return True


def ring_device(draft: Draft) -> bool:
    """A 40 A device on a ring."""
    circuit = draft.free(_ring)
    if circuit is None or draft.old:
        return False
    standard, type_, _ = circuit.device
    draft.change(circuit, device=(standard, type_, 40.0))
    circuit_id = draft.id_of(circuit)
    draft.add("ring on 40 A", "ring-device-too-large", {circuit_id}, (circuit_id, "device_rating_a"))
    return True


def high_loop(draft: Draft) -> bool:
    """A joint in the cpc of a radial that lifts its loop above the device's limit, and not yet to ohms."""
    circuit = draft.free(lambda c: _radial(c) and c.device[2] >= 16 and c.serves != "distribution")
    if circuit is None or draft.home.supply.earthing == "TT" or not _once(draft, "no loop"):
        return False
    _put(draft, circuit, LooseJoint("cpc", 0, draft.chance.uniform(3.0, 4.2)))
    circuit_id = draft.id_of(circuit)

    def context(document: Document) -> tuple[str, ...]:
        board_there, circuit = entered.circuit_of(document, circuit_id)
        safe = entered.protected(document, board_there, circuit) and entered.loop_as_calculated(board_there, circuit)
        return ("working RCD, loop as calculated",) if safe else ()

    draft.add("loop above its limit", "zs-above-limit", {circuit_id}, (circuit_id, "zs_ohm"), context=context)
    return True


def failing_cpc(draft: Draft) -> bool:
    """A joint in the cpc of a radial of many ohms: lost, whatever RCD is there."""
    circuit = draft.free(lambda c: _radial(c) and c.serves != "distribution")
    if circuit is None or draft.home.supply.earthing == "TT" or not _once(draft, "no loop"):
        return False
    _put(draft, circuit, LooseJoint("cpc", 0, draft.chance.uniform(7.0, 40.0)))
    circuit_id = draft.id_of(circuit)
    fields = ("zs_ohm", "r1_r2_ohm", "long_lead_r2_ohm")
    draft.add("cpc failing", "cpc-lost", {circuit_id}, *((circuit_id, field) for field in fields))
    return True


def poor_board_earth(draft: Draft) -> bool:
    """The way of the earth from the origin to the board is poor: its Zdb and every loop of it are high, Ze is not."""
    if draft.home.supply.earthing == "TT" or not _once(draft, "no loop") or not _once(draft, "earth"):
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


def claimed_class_ii(draft: Draft) -> bool:
    """A socket without an earth that somebody ticked as class II: it needs one all the same."""
    circuit = draft.free(lambda c: c.serves == "sockets" and len(c.wiring.walk) >= 2)
    if circuit is None:
        return False
    at = draft.chance.randrange(len(circuit.wiring.walk))
    _put(draft, circuit, MissingCpc(at))
    place = f"{draft.id_of(circuit)}-p{at}"
    draft.after.append(lambda d: _point(d, place).update(class_ii=True, kind="socket"))
    evidence = ((place, "line_cpc_ohm"), (place, "r2_ohm"), (place, "line_neutral_v"))
    draft.add("socket without earth ticked class II", "no-cpc-at-point", {place, draft.id_of(circuit)}, *evidence)
    return True


def notice_over_class_i(draft: Draft) -> bool:
    """Sockets or fixed equipment wired without a cpc, under a notice at the board: it excuses nothing there."""
    if any(cause.key == "circuit-without-cpc" for cause in draft.causes):
        return False  # whose missing notice is its own finding
    circuit = draft.free(lambda c: _radial(c) and c.serves in ("sockets", "fixed"))
    if circuit is None:
        return False
    circuit_id = draft.id_of(circuit)

    def write(document: Document) -> None:
        wire_without_cpc(circuit_of(document, circuit_id))
        board(document)["no_cpc_notice"] = True

    draft.after.append(write)
    draft.add(
        "no cpc to class I under a notice", "circuit-without-cpc", {circuit_id}, (circuit_id, "no_cpc"),
        context=("earth needed",),
    )  # fmt: skip
    return True


def small_tails(draft: Draft) -> bool:
    """Tails of 10 mm² after a fuse of 100 A."""
    if not _once(draft, "tails"):
        return False
    draft.home = replace(draft.home, tails_mm2=10.0, service_fuse_a=100.0)
    draft.after.append(lambda d: board(d).pop("main_switch_a", None) and None)
    draft.add("tails too small", "tails-undersized", {"i"}, ("i", "tails_mm2"))
    return True


def _added(document: Document, circuit_id: str, name: str, **fields: Any) -> None:
    """A circuit of its own beside the others, sound in all that was tested."""
    there = board(document)
    zdb = entered.figure(there.get("zdb_ohm")) or 0.3
    on_tt = document["inspection"]["earthing"] == "TT"
    there["circuits"].append(
        {
            "id": circuit_id, "position": 90, "way": "30", "designation": name, "form": "radial", "serves": "fixed",
            "line_csa_mm2": 6.0, "cpc_csa_mm2": 6.0, "cable_method": "C", "device_standard": "BS EN 60898",
            "device_type": "B", "device_rating_a": 32.0, "r1_r2_ohm": "0.12", "insulation_lne_mohm": "500",
            "polarity": "correct", "zs_ohm": f"{zdb + (0.5 if on_tt else 0.12):.2f}", "points": [],
        }
        | fields
    )  # fmt: skip


_OWN_RCD = {
    "device_standard": "BS EN 61009", "rcd_standard": "BS EN 61009", "rcd_rated_ma": 30.0, "rcd_delay": "none",
    "rcd_trip_ms": "24", "rcd_button": "correct", "rcd_half": "correct",
}  # fmt: skip


def charge_point(draft: Draft) -> bool:
    """A vehicle charge point: without an RCD of its own that was looked for, or outdoors without a guard of the
    neutral."""
    if not _once(draft, "charge point") or draft.said & {"earth lost", "rcds", "board earth"}:
        return False
    tt = draft.home.supply.earthing == "TT"
    kind = draft.chance.choice(("no RCD", "neutral"))
    if kind == "neutral" and draft.home.supply.earthing != "TN-C-S":
        return False
    if kind == "no RCD" and tt:
        return False
    own = {"load": "vehicle", "vehicle_outdoors": True, "dc_detection": True, "rcd_kind": "A"}
    if kind == "no RCD":
        own |= {"own_rcd": "none", "neutral_guard": "device that watches the neutral"}
        own.pop("rcd_kind")
        draft.add("charge point without RCD", "rcd-missing-vehicle", {"ev"}, ("ev", "own_rcd"))
    else:
        own |= _OWN_RCD | {"own_rcd": "30 mA or less", "neutral_guard": "none"}
        draft.add("charge point, broken neutral", "vehicle-broken-neutral", {"ev"}, ("ev", "neutral_guard"))
    draft.after.append(lambda d: _added(d, "ev", "Vehicle charger", **own))
    return True


def on_the_neutral(draft: Draft) -> bool:
    """A hot tub or a caravan hook-up on the earth of the supply's neutral."""
    if draft.home.supply.earthing != "TN-C-S" or draft.said & {"earth lost", "board earth"} or not _once(draft, "tub"):
        return False
    what = draft.chance.choice(("hot tub", "caravan hook-up"))
    key = "hot-tub-on-supply-earth" if what == "hot tub" else "hook-up-on-supply-earth"
    fields = _OWN_RCD | {"appliance": what, "earthed_by": "of the supply", "outdoors": True}
    draft.after.append(lambda d: _added(d, "tub", what.capitalize(), **fields))
    draft.add(f"{what} on the supply's earth", key, {"tub"}, ("tub", "earthed_by"))
    return True


def surge(draft: Draft) -> bool:
    """A spent surge device."""
    if draft.old or draft.home.surge is None or not _once(draft, "surge"):
        return False
    draft.home = replace(draft.home, surge=Surge(275.0, draft.chance.uniform(120, 340), "spent"))
    draft.add("surge device spent", "spd-spent", {"b"}, ("b", "spd_u_dc_v"), ("b", "spd_state"))
    return True


def looked_at(draft: Draft) -> bool:
    """Something seen at the board, told by its check."""
    item = draft.chance.choice(("enclosure", "openings", "heat", "tight", "makes", "chart", "labels"))
    if not _once(draft, f"check {item}"):
        return False
    key, check_id = board_checks.items()[item].observation, f"check-{item}"
    way_out = item == "enclosure" and draft.chance.random() < 0.5

    def write(document: Document) -> None:
        checks = board(document).setdefault("checks", [])
        checks.append({"id": check_id, "item": item, "state": "not good"})
        if item == "enclosure":
            board(document)["only_way_out"] = way_out

    draft.after.append(write)

    def context(document: Document) -> tuple[str, ...]:
        states = {check["item"]: check["state"] for check in board(document).get("checks", [])}
        if "not good" in (states.get("heat"), states.get("tight"), states.get("busbar")):
            return ("heat",)
        return () if way_out else ("elsewhere",)

    draft.add(f"seen: {item}", key, {check_id, "b"}, (check_id, "state"), context=context)
    return True


def small_switch(draft: Draft) -> bool:
    """A main switch of 63 A behind 80 A."""
    if draft.old or not _once(draft, "switch"):
        return False
    draft.after.append(lambda d: board(d).update(main_switch_a=63.0))

    def context(document: Document) -> tuple[str, ...]:
        checks = board(document).get("checks", [])
        return ("heat",) if any(c["item"] == "heat" and c["state"] == "not good" for c in checks) else ()

    draft.add("main switch too small", "switch-underrated", {"b"}, ("b", "main_switch_a"), context=context)
    return True


def hidden_load(draft: Draft) -> bool:
    """A load that nobody could unplug: low line to neutral, which is asked about and never coded."""
    circuit = draft.free()
    if circuit is None:
        return False
    load = Load(draft.chance.randrange(len(circuit.wiring.walk)), 10 ** draft.chance.uniform(1.5, 4.3), hidden=True)
    draft.change(circuit, loads=(*circuit.loads, load))
    return True


#: Every fault by name, and how often it is drawn.
FAULTS: dict[str, tuple[Fault, float]] = {
    "high Ze": (high_ze, 1.0),
    "no earth": (no_earth, 0.4),
    "weak electrode": (weak_electrode, 1.0),
    "TT without RCD": (tt_without_rcd, 0.5),
    "bond": (bond, 1.5),
    "pipe": (by_pipe, 0.3),
    "RCD": (rcd, 1.5),
    "open ring": (open_ring, 1.0),
    "rings joined": (rings_joined, 0.5),
    "loose cpc of a ring": (loose_cpc_of_ring, 0.7),
    "no cpc at a point": (no_cpc_at_a_point, 1.0),
    "cpc lost": (cpc_lost, 1.0),
    "neutral lost": (neutral_lost, 0.7),
    "reversed": (reversed_point, 1.0),
    "damp": (damp, 1.2),
    "borrowed neutral": (borrowed_neutral, 0.5),
    "device too large": (device_too_large, 0.8),
    "ring device": (ring_device, 0.4),
    "high loop": (high_loop, 0.8),
    "failing cpc": (failing_cpc, 0.8),
    "poor earth to the board": (poor_board_earth, 0.5),
    "class II claimed": (claimed_class_ii, 0.5),
    "notice over class I": (notice_over_class_i, 0.4),
    "small tails": (small_tails, 0.3),
    "charge point": (charge_point, 0.5),
    "on the neutral": (on_the_neutral, 0.4),
    "surge": (surge, 0.5),
    "looked at": (looked_at, 1.2),
    "small switch": (small_switch, 0.4),
    "hidden load": (hidden_load, 0.5),
}


def put_in(draft: Draft, count: int) -> int:
    """Put so many faults in, each of another kind where there is a place for it; how many were."""
    chance: random.Random = draft.chance
    names = list(FAULTS)
    done = 0
    for _ in range(count * 4):
        if done == count:
            break
        name = chance.choices(names, [FAULTS[n][1] for n in names])[0]
        if FAULTS[name][0](draft):
            done += 1
    return done
