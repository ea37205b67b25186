"""Families of faults of a whole home, each drawn at random from a seed, and what a judgement should call them."""

import random
from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Any

from dorrik.practice.home import Circuit, Home, Leak, Link, Load, Surge
from dorrik.practice.radial_circuit import RadialCircuit
from dorrik.practice.random_home import random_home
from dorrik.practice.ring_circuit import CONDUCTORS, Break, MissingCpc, Reversed


@dataclass(frozen=True, slots=True)
class HomeCase:
    """A home with a fault, and what names it: an observation of the catalogue or, where none is raised, a field; at one
    of the entities in `places` (ids as `visit` gives them). A sound home has neither. everywhere: its consequences show
    in every circuit."""

    home: Home
    observation: str | None = None
    field: str | None = None
    places: frozenset[str] = frozenset()
    everywhere: bool = False


def _changed(home: Home, name: str, **changes: Any) -> Home:
    """The home with one circuit changed."""
    circuits = tuple(replace(c, **changes) if c.name == name else c for c in home.circuits)
    return replace(home, circuits=circuits)


def _id(home: Home, circuit: Circuit) -> str:
    return f"c{[c.name for c in home.circuits].index(circuit.name)}"


def _behind(home: Home, rcd: str) -> frozenset[str]:
    return frozenset(_id(home, c) for c in home.circuits if c.rcd == rcd)


def _faulty(home: Home, circuit: Circuit, *faults: Any) -> Home:
    wiring = replace(circuit.wiring, faults=(*circuit.wiring.faults, *faults))
    return _changed(home, circuit.name, wiring=wiring)


def _radials(home: Home, least_points: int = 1) -> list[Circuit]:
    return [c for c in home.circuits if isinstance(c.wiring, RadialCircuit) and len(c.wiring.walk) >= least_points]


def _sound(home: Home, chance: random.Random) -> HomeCase:
    return HomeCase(home)


def _exchanged(home: Home, chance: random.Random) -> HomeCase:
    names = (home.circuits[0].name, home.circuits[1].name)
    return HomeCase(replace(home, exchanged=names), "rings-bridged", places=frozenset(("c0", "c1")))


def _bridged(home: Home, chance: random.Random) -> HomeCase:
    one, other = (c.wiring.junction(chance.randrange(len(c.wiring.walk))) for c in home.circuits[:2])
    link = Link((home.circuits[0].name, one), (home.circuits[1].name, other), CONDUCTORS)
    return HomeCase(replace(home, links=(link,)), "rings-bridged", places=frozenset(("c0", "c1")))


def _reversed(home: Home, chance: random.Random) -> HomeCase:
    circuit = chance.choice(home.circuits)
    at = chance.randrange(len(circuit.wiring.walk))
    place = frozenset((f"{_id(home, circuit)}-p{at}",))
    return HomeCase(_faulty(home, circuit, Reversed(at)), "socket-polarity", places=place)


def _no_cpc(home: Home, chance: random.Random) -> HomeCase:
    circuit = chance.choice(home.circuits)
    at = chance.randrange(len(circuit.wiring.walk))
    place = frozenset((f"{_id(home, circuit)}-p{at}",))
    return HomeCase(_faulty(home, circuit, MissingCpc(at)), "no-cpc-at-point", places=place)


def _damp(home: Home, chance: random.Random) -> HomeCase:
    """0.02 to 0.9 MΩ from line or neutral to cpc."""
    circuit = chance.choice(home.circuits)
    leak = Leak(chance.choice(("line", "neutral")), "cpc", chance.uniform(0.02, 0.9))
    spoilt = _changed(home, circuit.name, leaks=(leak,))
    return HomeCase(spoilt, "insulation-below-minimum", places=frozenset((_id(home, circuit),)))


def _damp_leg(home: Home, chance: random.Random) -> HomeCase:
    """0.02 to 0.9 MΩ in one leg of a ring, named by leg."""
    circuit = home.circuits[chance.randrange(2)]
    last = len(circuit.wiring.segments_m) - 1
    middle = (last + 1) // 2
    first = chance.random() < 0.5
    junction = chance.randrange(0, middle) if first else chance.randrange(middle, last)
    spoilt = _changed(home, circuit.name, leaks=(Leak("line", "cpc", chance.uniform(0.02, 0.9), junction),))
    field = "insulation_leg_one_mohm" if first else "insulation_leg_two_mohm"
    return HomeCase(spoilt, field=field, places=frozenset((_id(home, circuit),)))


def _hidden_load(home: Home, chance: random.Random) -> HomeCase:
    """30 Ω to 20 kΩ that nobody could unplug."""
    circuit = chance.choice(home.circuits)
    load = Load(chance.randrange(len(circuit.wiring.walk)), 10 ** chance.uniform(1.5, 4.3), hidden=True)
    spoilt = _changed(home, circuit.name, loads=(*circuit.loads, load))
    return HomeCase(spoilt, field="insulation_ln_mohm", places=frozenset((_id(home, circuit),)))


def _lost_neutral(home: Home, chance: random.Random) -> HomeCase:
    circuit = chance.choice(_radials(home))
    segment = chance.randrange(len(circuit.wiring.segments_m))
    beyond = range(segment, len(circuit.wiring.walk))
    places = frozenset(f"{_id(home, circuit)}-p{n}" for n in beyond)
    return HomeCase(_faulty(home, circuit, Break("neutral", segment)), "neutral-lost", places=places)


def _borrowed_neutral(home: Home, chance: random.Random) -> HomeCase:
    circuit, other = chance.sample(_radials(home), 2)
    ends = [(c.name, chance.randrange(len(c.wiring.walk))) for c in (circuit, other)]
    places = frozenset((_id(home, circuit), _id(home, other)))
    return HomeCase(replace(home, links=(Link(ends[0], ends[1], ("neutral",)),)), "shared-neutral", places=places)


def _weak_electrode(home: Home, chance: random.Random) -> HomeCase:
    """230 to 1500 Ω on TT."""
    supply = replace(home.supply, earthing="TT", electrode_ohm=chance.uniform(230, 1500))
    return HomeCase(replace(home, supply=supply), "electrode-above-200", places=frozenset(("i",)))


def _high_ze(home: Home, chance: random.Random) -> HomeCase:
    """Ze 0.1 to 1.5 Ω above what is usually declared."""
    above = chance.uniform(0.1, 1.5)
    if home.supply.earthing == "TN-S":
        supply = replace(home.supply, earth_ohm=0.8 + above - home.supply.line_ohm)
    else:
        supply = replace(home.supply, earthing="TN-C-S", neutral_ohm=0.35 + above - home.supply.line_ohm)
    return HomeCase(replace(home, supply=supply), "ze-above-maximum", places=frozenset(("i",)), everywhere=True)


def _with_rcd(home: Home, rcd: str, **changes: Any) -> Home:
    return replace(home, rcds=home.rcds | {rcd: replace(home.rcds[rcd], **changes)})


def _slow_rcd(home: Home, chance: random.Random) -> HomeCase:
    """315 to 900 ms."""
    spoilt = _with_rcd(home, "RCD 1", trip_ms=chance.uniform(315, 900))
    return HomeCase(spoilt, "rcd-slow", places=_behind(home, "RCD 1"))


def _dead_rcd(home: Home, chance: random.Random) -> HomeCase:
    spoilt = _with_rcd(home, "RCD 2", stuck=True, button=False)
    return HomeCase(spoilt, "rcd-no-trip", places=_behind(home, "RCD 2"))


def _eager_rcd(home: Home, chance: random.Random) -> HomeCase:
    """Trips at 0.2 to 0.48 of its rating: on the loop test, or at half its current."""
    spoilt = _with_rcd(home, "RCD 1", trips_at=chance.uniform(0.2, 0.48))
    return HomeCase(spoilt, "rcd-trips-on-test", places=_behind(home, "RCD 1"))


def _leaky_equipment(home: Home, chance: random.Random) -> HomeCase:
    """10 to 14 mA of standing leakage behind one RCD."""
    circuit = home.circuits[0]
    spoilt = _changed(home, circuit.name, leakage_ma=chance.uniform(10, 14))
    return HomeCase(spoilt, "leakage-high", places=_behind(home, "RCD 1"))


def _spent_surge(home: Home, chance: random.Random) -> HomeCase:
    """A varistor whose voltage has sunk by a fifth or more, or opened."""
    u_dc = chance.choice((chance.uniform(120, 350), chance.uniform(560, 990)))
    return HomeCase(replace(home, surge=Surge(275.0, u_dc)), "spd-spent", places=frozenset(("b",)))


def _oversize_device(home: Home, chance: random.Random) -> HomeCase:
    circuit = chance.choice([c for c in _radials(home) if c.wiring.line_csa_mm2 <= 2.5])
    spoilt = _changed(home, circuit.name, device=("BS EN 60898", "B", chance.choice((32.0, 40.0))))
    return HomeCase(spoilt, "breaker-too-large", places=frozenset((_id(home, circuit),)))


def _undersize_bond(home: Home, chance: random.Random) -> HomeCase:
    bonds = (replace(home.bonds[0], csa_mm2=chance.choice((2.5, 4.0, 6.0)), length_m=4.0), *home.bonds[1:])
    return HomeCase(replace(home, bonds=bonds), "bond-undersized", places=frozenset(("bond0",)))


def _loose_clamp(home: Home, chance: random.Random) -> HomeCase:
    """A clamp of 0.06 to 0.8 Ω on a painted pipe."""
    bonds = (replace(home.bonds[0], clamp_ohm=chance.uniform(0.06, 0.8)), *home.bonds[1:])
    return HomeCase(replace(home, bonds=bonds), "bond-high", places=frozenset(("bond0",)))


#: Every family by the name it has in the table, and how a case of it is made of a sound home.
HOME_FAMILIES: dict[str, Callable[[Home, random.Random], HomeCase]] = {
    "sound home": _sound,
    "two rings exchanged": _exchanged,
    "two rings bridged": _bridged,
    "line and neutral exchanged at a point": _reversed,
    "no cpc at a point": _no_cpc,
    "damp to earth, 0.02 to 0.9 MΩ": _damp,
    "damp in one leg of a ring, named by leg": _damp_leg,
    "hidden load, 30 Ω to 20 kΩ": _hidden_load,
    "neutral lost": _lost_neutral,
    "neutral borrowed": _borrowed_neutral,
    "weak electrode, 230 to 1500 Ω": _weak_electrode,
    "Ze high by 0.1 Ω and more": _high_ze,
    "slow RCD, 315 ms and more": _slow_rcd,
    "dead RCD": _dead_rcd,
    "eager RCD, 0.48 × IΔn and less": _eager_rcd,
    "leakage of 10 mA and more behind 30 mA": _leaky_equipment,
    "varistor out by a fifth and more": _spent_surge,
    "device too large": _oversize_device,
    "bond too small": _undersize_bond,
    "loose or painted bond clamp, 0.06 Ω and more": _loose_clamp,
}


def draw_home(family: str, seed: int) -> HomeCase:
    """A case of a family. The same seed gives the same case."""
    return HOME_FAMILIES[family](random_home(f"{family}{seed}"), random.Random(f"{family} {seed}"))
