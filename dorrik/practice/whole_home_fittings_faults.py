"""What can be wrong with devices, boards and accessories of a home, and with what is claimed of them.

Each is put into a draft that may have other things wrong already; one that finds no place left returns False.
"""

from dataclasses import replace
from typing import Any

from dorrik.core.book import board_checks
from dorrik.practice import entered
from dorrik.practice.entered import Document
from dorrik.practice.home import Load
from dorrik.practice.ring_circuit import MissingCpc
from dorrik.practice.whole_home import Draft, board, circuit_of, is_radial, point_of, wire_without_cpc


def rcd(draft: Draft) -> bool:
    """An RCD of several circuits: slow, dead, its button dead, too eager, or with leaking equipment behind it.

    That only the button fails shows by the time of the test.
    """
    if "RCD 1" not in draft.home.rcds or not any(c.rcd == "RCD 1" for c in draft.home.circuits):
        return False
    if not draft.once("RCD 1"):
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


def device_too_large(draft: Draft) -> bool:
    """A device that is too large for its cable, with several points on it so that nothing downstream protects it."""
    circuit = draft.free(lambda c: is_radial(c, 2) and c.wiring.line_csa_mm2 <= 4 and c.serves != "lighting")
    if circuit is None or draft.old:
        return False
    standard, type_, _ = circuit.device
    draft.change(circuit, device=(standard, type_, 50.0))
    circuit_id = draft.id_of(circuit)
    draft.add("device too large", "breaker-too-large", {circuit_id}, (circuit_id, "device_rating_a"))
    return True


def ring_device(draft: Draft) -> bool:
    """A 40 A device on a ring."""
    circuit = draft.free(lambda c: c.is_ring)
    if circuit is None or draft.old:
        return False
    standard, type_, _ = circuit.device
    draft.change(circuit, device=(standard, type_, 40.0))
    circuit_id = draft.id_of(circuit)
    draft.add("ring on 40 A", "ring-device-too-large", {circuit_id}, (circuit_id, "device_rating_a"))
    return True


def claimed_class_ii(draft: Draft) -> bool:
    """A socket without an earth that somebody ticked as class II: it needs one all the same."""
    circuit = draft.free(lambda c: c.serves == "sockets" and len(c.wiring.walk) >= 2)
    if circuit is None:
        return False
    at = draft.chance.randrange(len(circuit.wiring.walk))
    draft.put(circuit, MissingCpc(at))
    place = f"{draft.id_of(circuit)}-p{at}"
    draft.after.append(lambda d: point_of(d, place).update(class_ii=True, kind="socket"))
    evidence = ((place, "line_cpc_ohm"), (place, "r2_ohm"), (place, "line_neutral_v"))
    draft.add("socket without earth ticked class II", "no-cpc-at-point", {place, draft.id_of(circuit)}, *evidence)
    return True


def notice_over_class_i(draft: Draft) -> bool:
    """Sockets or fixed equipment wired without a cpc, under a notice at the board: it excuses nothing there."""
    if any(cause.key == "circuit-without-cpc" for cause in draft.causes):
        return False  # whose missing notice is its own finding
    circuit = draft.free(lambda c: is_radial(c) and c.serves in ("sockets", "fixed"))
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
    if not draft.once("charge point") or draft.said & {"earth lost", "rcds", "board earth"}:
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
    if draft.home.supply.earthing != "TN-C-S" or draft.said & {"earth lost", "board earth"} or not draft.once("tub"):
        return False
    what = draft.chance.choice(("hot tub", "caravan hook-up"))
    key = "hot-tub-on-supply-earth" if what == "hot tub" else "hook-up-on-supply-earth"
    fields = _OWN_RCD | {"appliance": what, "earthed_by": "of the supply", "outdoors": True}
    draft.after.append(lambda d: _added(d, "tub", what.capitalize(), **fields))
    draft.add(f"{what} on the supply's earth", key, {"tub"}, ("tub", "earthed_by"))
    return True


def looked_at(draft: Draft) -> bool:
    """Something seen at the board, told by its check."""
    item = draft.chance.choice(("enclosure", "openings", "heat", "tight", "makes", "chart", "labels"))
    if not draft.once(f"check {item}"):
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
    if draft.old or not draft.once("switch"):
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
