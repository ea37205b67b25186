"""Whole homes: an ordinary home of some kind and age, no to six things wrong with it at once, tested by either school,
wholly or in part, with the inspector's own slips; and the truth of it, cause by cause.

The truth is what was put in and what `opinions` says of it, never what the rules make of the readings.
"""

import random
from collections.abc import Callable
from dataclasses import dataclass, field, replace
from typing import Any

from dorrik.practice import opinions
from dorrik.practice.entered import Document
from dorrik.practice.home import Bond, Circuit, Home, Rcd
from dorrik.practice.meter import SimulatedMeter
from dorrik.practice.radial_circuit import RadialCircuit
from dorrik.practice.random_home import random_home, shared_out
from dorrik.practice.visit import visit

#: Devices of an old board by what the new one would have (A).
_REWIRABLE = {6.0: 5.0, 16.0: 15.0, 20.0: 20.0, 32.0: 30.0, 40.0: 45.0}


@dataclass(frozen=True, slots=True)
class Cause:
    """One thing that is wrong.

    key: what it is in the catalogue, None for a slip of the inspector's, which is asked about and never coded; places:
    ids of the things it may be raised at; code: the mainstream view in its context; evidence: figures (entity, field)
    each of which alone shows it; fields: for a slip, where it is to be asked about; context: what moves its code, by
    the document as it was entered in the end.
    """

    name: str
    key: str | None
    places: frozenset[str]
    code: str
    evidence: tuple[tuple[str, str], ...]
    fields: frozenset[str] = frozenset()
    context: Callable[[Document], tuple[str, ...]] | None = None

    def settled(self, document: Document) -> "Cause":
        """With the code that it has in the home as it was entered."""
        if self.key is None or self.context is None:
            return self
        return replace(self, code=opinions.mainstream(self.key, *self.context(document)))


@dataclass(frozen=True, slots=True)
class WholeHome:
    """A home as it was inspected, and the truth of it. doubtful: readings made while the leads were in doubt."""

    seed: int
    kind: str
    document: Document
    causes: tuple[Cause, ...]
    doubtful: frozenset[tuple[str, str]] = frozenset()

    @property
    def measured_at(self) -> dict[tuple[str, str], str]:
        """When readings were made: those in doubt after the bad null of the log, the others nobody knows."""
        return dict.fromkeys(self.doubtful, "2026-11-03T10:00:00Z")

    @property
    def detectable(self) -> tuple[Cause, ...]:
        """The causes that what was entered can show."""
        # A figure measured with the leads in doubt is to be measured again: it shows nothing yet.
        known = _figures(self.document) - self.doubtful
        return tuple(c for c in self.causes if any(figure in known for figure in c.evidence))


def _figures(document: Document) -> set[tuple[str, str]]:
    """Every figure that says something: neither empty nor a limitation."""
    figures: set[tuple[str, str]] = set()

    def look(entity: dict[str, Any]) -> None:
        for name, value in entity.items():
            if isinstance(value, list):
                for child in value:
                    if isinstance(child, dict):
                        look(child)
            elif value is not None and not (isinstance(value, str) and value.startswith(("LIM", "N/"))):
                figures.add((entity["id"], name))

    look(document["inspection"])
    return figures


@dataclass(slots=True)
class Draft:
    """A home while things are put into it. after: what is done to the document once it was visited."""

    chance: random.Random
    home: Home
    protection: str
    old: bool
    causes: list[Cause] = field(default_factory=list)
    after: list[Callable[[Document], None]] = field(default_factory=list)
    taken: set[str] = field(default_factory=set)
    said: set[str] = field(default_factory=set)

    def id_of(self, circuit: Circuit) -> str:
        """The id that the visit gives a circuit."""
        return f"c{[c.name for c in self.home.circuits].index(circuit.name)}"

    def free(self, wanted: Callable[[Circuit], bool] = lambda _: True) -> Circuit | None:
        """A circuit that nothing is wrong with yet; taken from now on. None where there is none of that kind."""
        circuits = [c for c in self.home.circuits if c.name not in self.taken and wanted(c)]
        if not circuits:
            return None
        circuit = self.chance.choice(circuits)
        self.taken.add(circuit.name)
        return circuit

    def change(self, circuit: Circuit, **changes: Any) -> None:
        """Change a circuit."""
        circuits = tuple(replace(c, **changes) if c.name == circuit.name else c for c in self.home.circuits)
        self.home = replace(self.home, circuits=circuits)

    def put(self, circuit: Circuit, *faults: Any) -> None:
        """Put faults into the wiring of a circuit, beside those it has."""
        self.change(circuit, wiring=replace(circuit.wiring, faults=(*circuit.wiring.faults, *faults)))

    def once(self, word: str) -> bool:
        """Is this the first fault of its kind? Of the origin there is one of each."""
        first = word not in self.said
        self.said.add(word)
        return first

    def add(
        self,
        name: str,
        key: str,
        places: set[str],
        *evidence: tuple[str, str],
        context: tuple[str, ...] | Callable[[Document], tuple[str, ...]] = (),
    ) -> None:
        """Add to the truth. context: what moves its code, or how to read it from the document in the end."""
        later = context if callable(context) else None
        code = opinions.mainstream(key, *(() if callable(context) else context))
        self.causes.append(Cause(name, key, frozenset(places), code, tuple(sorted(evidence)), context=later))

    @property
    def rcd_throughout(self) -> bool:
        """Has every circuit an RCD in front?"""
        return all(c.rcd is not None for c in self.home.circuits if c.serves != "distribution")


def is_radial(circuit: Circuit, least: int = 1) -> bool:
    """Is it a radial with at least so many points?"""
    return isinstance(circuit.wiring, RadialCircuit) and len(circuit.wiring.walk) >= least


def board(document: Document) -> Document:
    """The first board of a document."""
    first_board: Document = document["inspection"]["boards"][0]
    return first_board


def circuit_of(document: Document, circuit_id: str) -> Document:
    """A circuit of a document."""
    return next(c for b in document["inspection"]["boards"] for c in b["circuits"] if c["id"] == circuit_id)


def point_of(document: Document, point_id: str) -> Document:
    """A point of a document."""
    circuit = circuit_of(document, point_id.partition("-")[0])
    return next(p for p in circuit["points"] if p["id"] == point_id)


def base(seed: int, kind: str) -> Draft:
    """A sound home of a kind: 'TN-C-S', 'TN-S' or 'TT', old where the kind says so."""
    chance = random.Random(f"whole {kind} {seed}")
    old = "old" in kind
    earthing = next(word for word in ("TN-C-S", "TN-S", "TT") if word in kind)
    home = random_home(f"whole {kind} {seed}", earthing)
    bathroom = {"Shower"}
    circuits = [replace(c, leakage_ma=c.leakage_ma / 3) for c in home.circuits]
    home = replace(home, circuits=tuple(circuits), surge=None if old else home.surge)
    protection = _protection(chance, earthing, old)
    draft = Draft(chance, _protected(_aged(home, chance) if old else home, protection), protection, old)
    draft.after.append(lambda d: _describe(d, draft, bathroom))
    if old:
        _age_notes(draft)
    _missing_rcds(draft)
    return draft


def _protection(chance: random.Random, earthing: str, old: bool) -> str:
    if old:
        return "none" if earthing != "TT" else "two RCDs"
    choices = ("two RCDs", "RCBOs") if earthing == "TT" else ("two RCDs", "RCBOs", "sockets only")
    return chance.choice(choices)


def _protected(home: Home, protection: str) -> Home:
    if protection == "RCBOs":
        rcds = {f"own {c.name}": Rcd(30.0, "BS EN 61009", trip_ms=20.0 + 3 * n) for n, c in enumerate(home.circuits)}
        circuits = tuple(
            replace(c, rcd=f"own {c.name}", device=("BS EN 61009", "B", c.device[2])) for c in home.circuits
        )
        return replace(home, rcds=rcds, circuits=circuits)
    if protection == "sockets only":
        return replace(
            home, circuits=tuple(c if c.serves == "sockets" else replace(c, rcd=None) for c in home.circuits)
        )
    if protection == "none":
        return replace(home, rcds={}, circuits=tuple(replace(c, rcd=None) for c in home.circuits))
    return home


def _aged(home: Home, chance: random.Random) -> Home:
    """Rewirable fuses, thinner bonds, insulation of decades."""
    middle = chance.uniform(40, 120)

    def aged(circuit: Circuit) -> Circuit:
        spread = chance.uniform(0.7, 1.4) * middle
        return replace(
            circuit,
            device=("BS 3036", "rewirable", _REWIRABLE[circuit.device[2]]),
            insulation_mohm=(spread * 2, spread, spread * 1.2),
        )

    bonds = tuple(Bond(b.service, b.csa_mm2, min(b.length_m, 9.0), b.clamp_ohm, b.pipe_ohm) for b in home.bonds)
    return replace(home, circuits=tuple(aged(c) for c in home.circuits), bonds=bonds)


def _age_notes(draft: Draft) -> None:
    """What is old, and what of it is a recommendation at most."""
    chance = draft.chance
    if chance.random() < 0.5:
        lights = [c for c in draft.home.circuits if c.serves == "lighting"]
        if lights:
            _wired_without_cpc(draft, chance.choice(lights), notice=chance.random() < 0.5)
    if chance.random() < 0.5:
        draft.after.append(lambda d: board(d).update(spd_state="none"))
        draft.add("no surge protection", "no-surge-protection", {"b"}, ("b", "spd_state"))


def _wired_without_cpc(draft: Draft, circuit: Circuit, *, notice: bool) -> None:
    draft.taken.add(circuit.name)
    circuit_id = draft.id_of(circuit)

    def write(document: Document) -> None:
        circuit = circuit_of(document, circuit_id)
        wire_without_cpc(circuit)
        for outlet in circuit["points"]:
            outlet |= {"class_ii": True} if outlet["position"] % 2 else {"front": "insulating"}
        if notice:
            board(document)["no_cpc_notice"] = True

    draft.after.append(write)
    if not notice:
        draft.add("lighting without cpc, no notice", "circuit-without-cpc", {circuit_id}, (circuit_id, "no_cpc"))


def wire_without_cpc(circuit: Document) -> None:
    """Write a circuit as one without a cpc: what would be measured to it is not there."""
    for name in ("cpc_csa_mm2", "r1_r2_ohm", "long_lead_r2_ohm"):
        circuit.pop(name, None)
    circuit |= {"no_cpc": True, "zs_ohm": "N/A"}
    for outlet in circuit["points"]:
        for name in ("line_cpc_ohm", "r2_ohm", "line_neutral_v", "line_earth_v", "neutral_earth_v"):
            outlet.pop(name, None)


def _missing_rcds(draft: Draft) -> None:
    """A board without additional protection is one cause, with the gravest of its circuits' needs."""
    bare = [c for c in draft.home.circuits if c.rcd is None]
    if not bare:
        return
    bonding = draft.chance.choices(("proved", "ticked", "missing", "refuted"), (5, 2, 2, 1))[0]
    flat = draft.chance.random() < 0.3
    needs = [need for c in bare if (need := _need(c)) is not None]
    if not needs:
        return
    order = ("rcd-missing-outdoor", "rcd-missing-bathroom", "rcd-missing-sockets", "rcd-missing-hidden")
    key = min(needs, key=order.index)
    # Ticked alone it is neither proved nor refuted: what would make it more serious is asked.
    moved = {"proved": ("supplementary bonding proved",), "ticked": ("supplementary bonding not measured",)}
    context: tuple[str, ...] = moved.get(bonding, ())
    context += ("upper floor flat",) if flat else ()
    places = {"b", *(draft.id_of(c) for c in bare)}
    evidence = tuple((draft.id_of(c), "device_standard") for c in bare if _need(c) is not None)
    draft.add("no 30 mA protection", key, places, *evidence, context=context)
    draft.said.update({"flat"} if flat else ())

    def write(document: Document) -> None:
        document["inspection"]["storey"] = "upper floor flat" if flat else "house or ground floor"
        for circuit in board(document)["circuits"]:
            if circuit.get("bathroom"):
                circuit["supplementary_bonding"] = "missing" if bonding == "missing" else "present"
                if bonding in ("proved", "refuted"):
                    # 0.12 Ω is within 50 V at 5 s of every device that serves a shower here; 900 Ω is no bond at all.
                    shown = "0.12" if bonding == "proved" else draft.chance.choice(("900", "OL"))
                    circuit["points"][0] |= {"bathroom": True, "supplementary_ohm": shown, "accessible_with": "tap"}

    draft.after.append(write)
    shower = next((c for c in bare if c.name == "Shower"), None)
    if bonding == "refuted" and shower is not None:
        point = f"{draft.id_of(shower)}-p0"
        draft.add(
            "supplementary bond refuted by its reading", "supplementary-bonding-missing", {point},
            (point, "supplementary_ohm"),
        )  # fmt: skip


def _need(circuit: Circuit) -> str | None:
    if circuit.name == "Outbuilding sockets":
        return "rcd-missing-outdoor"
    if circuit.name == "Shower":
        return "rcd-missing-bathroom"
    if circuit.serves == "sockets":
        return "rcd-missing-sockets"
    return "rcd-missing-hidden" if circuit.serves == "lighting" else None


def _describe(document: Document, draft: Draft, bathroom: set[str]) -> None:
    """What is seen and written beside the figures."""
    inspection = document["inspection"]
    inspection |= {"service_fuse_standard": "BS 1361", "tenure": "let dwelling", "nation": "England"}
    board(document).update(main_switch_a=100.0, main_switch_kind="switch")
    for circuit in board(document)["circuits"]:
        if circuit["designation"] in bathroom:
            circuit["bathroom"] = True
        if circuit["designation"] == "Outbuilding sockets":
            circuit["outdoors"] = True
        sort = {"sockets": "socket", "lighting": "light"}.get(circuit["serves"], "fixed equipment")
        for outlet in circuit["points"]:
            outlet.setdefault("kind", sort)
    if draft.old:
        board(document).pop("conditional_ka", None)
        for name in ("main_switch_a", "main_switch_kind"):
            board(document).pop(name)


def as_devices(document: Document) -> None:
    """RCDs written as devices of their boards instead of at each circuit."""
    fields = ("standard", "rated_ma", "delay", "trip_ms", "button", "half", "five_ms")
    for written_board in document["inspection"]["boards"]:
        made: dict[tuple[Any, ...], str] = {}
        written_board["rcds"] = written_board.get("rcds", [])
        for circuit in written_board["circuits"]:
            if "rcd_rated_ma" not in circuit:
                continue
            own = "61009" in circuit.get("rcd_standard", "")
            key = (circuit["id"],) if own else tuple(circuit.get(f"rcd_{name}") for name in fields)
            if key not in made:
                made[key] = f"{written_board['id']}-r{len(made)}"
                device = {name: circuit[f"rcd_{name}"] for name in fields if f"rcd_{name}" in circuit}
                place = "one circuit" if own else "its circuits"
                written_board["rcds"].append({"id": made[key], "name": f"RCD {len(made)}", "place": place, **device})
            for name in fields:
                circuit.pop(f"rcd_{name}", None)
            circuit["rcd_id"] = made[key]
            if "leakage_ma" in circuit:
                next(r for r in written_board["rcds"] if r["id"] == made[key])["leakage_ma"] = circuit.pop("leakage_ma")


def inspected(draft: Draft, seed: int, kind: str, *, long_lead: bool) -> Document:
    """The home visited, and everything done that stands in `after`."""
    document = visit(draft.home, SimulatedMeter(seed), long_lead=long_lead)
    for act in draft.after:
        act(document)
    return document


def outbuilding(draft: Draft, seed: int, *, own_electrode: bool, trouble: str | None) -> None:
    """An outbuilding with a board of its own, fed from a way of the house: on its own electrode or on the supply's
    earth. trouble: 'weak electrode', 'no RCD', 'metal unbonded' or None."""
    chance = draft.chance
    supply = draft.home.supply
    feed = Circuit(
        "Outbuilding supply", RadialCircuit((chance.uniform(12, 25),), 6.0, 2.5), ("BS EN 60898", "B", 32.0),
        "distribution", None, loads=(), points=("outbuilding board",),
    )  # fmt: skip
    if supply.earthing == "TT":
        # On an electrode the way itself needs an RCD too.
        feed = replace(feed, rcd="RCD F")
        device = Rcd(100.0, "BS EN 61008", trip_ms=180.0)
        draft.home = replace(draft.home, rcds=draft.home.rcds | {"RCD F": device})
    draft.home = replace(draft.home, circuits=(*draft.home.circuits, feed))
    draft.taken.add(feed.name)
    feed_id = draft.id_of(feed)
    ohm = feed.wiring.length_m * 0.00308
    electrode = chance.uniform(260, 900) if trouble == "weak electrode" else chance.uniform(20, 140)
    back = feed.wiring.length_m * 0.00741
    there = replace(
        supply,
        earthing="TT" if own_electrode else "TN-S",
        line_ohm=supply.line_ohm + ohm,
        neutral_ohm=supply.neutral_ohm + ohm,
        electrode_ohm=electrode,
        earth_ohm=(supply.neutral_ohm if supply.earthing == "TN-C-S" else supply.earth_ohm) + back,
    )
    rcd = None if trouble == "no RCD" else "RCD 1"
    circuits = (
        Circuit("Bench sockets", RadialCircuit(shared_out(chance, chance.uniform(8, 16), 3)),
                ("BS EN 60898", "B", 16.0), "sockets", rcd, points=("bench 1", "bench 2", "door")),
        Circuit("Shed lights", RadialCircuit(shared_out(chance, chance.uniform(8, 14), 2), 1.5, 1.0),
                ("BS EN 60898", "B", 6.0), "lighting", rcd, points=("light 1", "light 2")),
    )  # fmt: skip
    shed = Home(supply=there, circuits=circuits, rcds={"RCD 1": Rcd(30.0, trip_ms=chance.uniform(18, 90))})
    _outbuilding_truth(draft, own_electrode, trouble)
    draft.after.append(lambda d: _join_outbuilding(d, shed, seed, feed_id, own_electrode, trouble))


def _outbuilding_truth(draft: Draft, own_electrode: bool, trouble: str | None) -> None:
    places = {"xb", "xc0", "xc1"}
    if trouble == "weak electrode":
        draft.add("weak electrode of an outbuilding", "electrode-above-200", {"xb"}, ("xb", "electrode_ohm"))
    elif trouble == "no RCD" and draft.home.supply.earthing == "TT":
        # The way that feeds it has 100 mA: no 30 mA for the sockets there.
        draft.add("outbuilding without 30 mA", "rcd-missing-outdoor", places, ("xc0", "device_standard"))
    elif trouble == "no RCD" and own_electrode:
        draft.add("outbuilding on its electrode without RCD", "tt-without-rcd", places, ("xc0", "device_standard"))
    elif trouble == "no RCD":
        context = ("upper floor flat",) if "flat" in draft.said else ()
        draft.add(
            "outbuilding without 30 mA", "rcd-missing-outdoor", places, ("xc0", "device_standard"), context=context
        )  # fmt: skip
    elif trouble == "metal unbonded":
        draft.add(
            "supply earth exported to unbonded metal", "earth-exported", {"xb"}, ("xb", "extraneous"),
            context=("metal there unbonded",),
        )  # fmt: skip


def _join_outbuilding(
    document: Document, shed: Home, seed: int, feed_id: str, own_electrode: bool, trouble: str | None
) -> None:
    other = visit(shed, SimulatedMeter(seed + 7), prefix="x")["inspection"]
    there: Document = other["boards"][0] | {
        "name": "Outbuilding", "position": 2, "fed_by": feed_id, "outbuilding": True,
        "earthing": "own electrode" if own_electrode else "of the supply", "main_switch_a": 63.0,
    }  # fmt: skip
    if own_electrode:
        there |= {"electrode_ohm": other["ze_ohm"], "electrode_alone": True}
    there["circuits"][0]["outdoors"] = True
    for circuit in there["circuits"]:
        for outlet in circuit["points"]:
            outlet["kind"] = "socket" if circuit["serves"] == "sockets" else "light"
    there["extraneous"] = "not bonded" if trouble == "metal unbonded" else "none"
    document["inspection"]["boards"].append(there)
    # The way that feeds it is measured up to the board there.
    feed = circuit_of(document, feed_id)
    if own_electrode:
        feed["zs_ohm"] = feed.get("zs_ohm", "N/A")


def three_phases(document: Document) -> None:
    """The board of a three-phase intake: circuits spread over the phases, several to a way."""
    document["inspection"]["phases"] = "3"
    board(document)["phases"] = "3"
    for n, circuit in enumerate(board(document)["circuits"]):
        circuit |= {"phase": f"L{n % 3 + 1}", "way": str(n // 3 + 1)}
