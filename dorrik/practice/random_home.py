"""A sound home drawn at random from a seed: a board of seven to eleven circuits with about 40 points."""

import random
from dataclasses import dataclass

from dorrik.practice.home import Bond, Circuit, Home, Load, Rcd, Supply, Surge
from dorrik.practice.radial_circuit import RadialCircuit
from dorrik.practice.ring_circuit import RingCircuit

_ROOMS = ("hall", "kitchen", "front room", "back room", "landing", "large bedroom", "small bedroom", "loft", "utility")


@dataclass(frozen=True, slots=True)
class _Kind:
    """A usual radial: cable, device, what it serves, points, metres of cable in all."""

    name: str
    cable: tuple[float, float]
    rating_a: float
    serves: str
    points: tuple[int, int]
    metres: tuple[float, float]


_RADIALS = (
    _Kind("Cooker", (6.0, 2.5), 32, "fixed", (1, 1), (7, 16)),
    _Kind("Shower", (10.0, 4.0), 40, "fixed", (1, 1), (8, 18)),
    _Kind("Lights down", (1.5, 1.0), 6, "lighting", (6, 9), (25, 45)),
    _Kind("Lights up", (1.5, 1.0), 6, "lighting", (5, 8), (25, 45)),
    _Kind("Immersion heater", (2.5, 1.5), 16, "fixed", (1, 1), (8, 15)),
    _Kind("Boiler", (1.5, 1.0), 6, "fixed", (1, 2), (6, 14)),
    _Kind("Outbuilding sockets", (4.0, 1.5), 20, "sockets", (2, 3), (15, 25)),
    _Kind("Alarms", (1.5, 1.0), 6, "fixed", (3, 4), (20, 35)),
)


def healthy_ring(chance: random.Random) -> RingCircuit:
    """A sound ring of 4 to 13 points on 30 to 95 m of 2.5/1.5, points unevenly apart."""
    points = chance.randint(4, 13)
    return RingCircuit(shared_out(chance, chance.uniform(30, 95), points + 1))


def shared_out(chance: random.Random, metres: float, segments: int) -> list[float]:
    """A length cut into uneven segments."""
    shares = [chance.uniform(0.4, 1.6) for _ in range(segments)]
    return [metres * share / sum(shares) for share in shares]


def random_home(seed: int | str, earthing: str | None = None) -> Home:
    """A sound home. The same seed gives the same home; earthing: TN-S, TN-C-S or TT instead of the drawn one."""
    chance = random.Random(f"home {seed}")
    drawn = chance.choices(("TN-C-S", "TN-S", "TT"), (6, 3, 1))[0]
    arrangement = earthing or drawn
    rcds = {"RCD 1": _rcd(chance), "RCD 2": _rcd(chance)}
    circuits = [_ring(chance, "Sockets down", "RCD 1"), _ring(chance, "Sockets up", "RCD 2")]
    for kind in chance.sample(_RADIALS, chance.randint(5, len(_RADIALS))):
        circuits.append(_radial(chance, kind, chance.choice(("RCD 1", "RCD 2"))))
    bonds = [Bond("water", 10.0, chance.uniform(3, 15), chance.uniform(0.001, 0.006), chance.uniform(8, 40))]
    if chance.random() < 0.7:
        bonds.append(Bond("gas", 10.0, chance.uniform(3, 12), chance.uniform(0.001, 0.006), chance.uniform(30, 200)))
    return Home(
        supply=_supply(chance, arrangement),
        circuits=tuple(circuits),
        rcds=rcds,
        bonds=tuple(bonds),
        surge=Surge(275.0, chance.uniform(400, 480)) if chance.random() < 0.5 else None,
    )


def _supply(chance: random.Random, earthing: str) -> Supply:
    return Supply(
        earthing,
        line_ohm=chance.uniform(0.04, 0.12),
        neutral_ohm=chance.uniform(0.04, 0.12),
        earth_ohm=chance.uniform(0.08, 0.4),
        electrode_ohm=chance.uniform(20, 120),
        star_electrode_ohm=chance.uniform(1, 8),
    )


def _rcd(chance: random.Random) -> Rcd:
    return Rcd(30.0, "BS EN 61008", chance.uniform(0.65, 0.9), chance.uniform(18, 90), chance.uniform(8, 25))


def _insulation(chance: random.Random) -> tuple[float, float, float]:
    """Spread over a decade, as circuits of one age are."""
    middle = chance.uniform(300, 900)
    return (middle * chance.uniform(0.8, 1.5), middle * chance.uniform(0.7, 1.3), middle * chance.uniform(0.7, 1.3))


def _loads(chance: random.Random, points: int) -> tuple[Load, ...]:
    at = chance.sample(range(points), min(points, chance.randint(1, 3)))
    return tuple(Load(n, chance.uniform(30, 2000), electronic=chance.random() < 0.5) for n in at)


def _names(chance: random.Random, serves: str, points: int) -> tuple[str, ...]:
    word = {"sockets": "socket", "lighting": "light"}.get(serves, "outlet")
    return tuple(f"{chance.choice(_ROOMS)} {word} {n + 1}" for n in range(points))


def _ring(chance: random.Random, name: str, rcd: str) -> Circuit:
    wiring = healthy_ring(chance)
    points = len(wiring.walk)
    return Circuit(
        name,
        wiring,
        ("BS EN 60898", "B", 32.0),
        "sockets",
        rcd,
        insulation_mohm=_insulation(chance),
        loads=_loads(chance, points),
        leakage_ma=chance.uniform(0.2, 1.5),
        points=_names(chance, "sockets", points),
    )


def _radial(chance: random.Random, kind: _Kind, rcd: str) -> Circuit:
    points = chance.randint(*kind.points)
    wiring = RadialCircuit(shared_out(chance, chance.uniform(*kind.metres), points), *kind.cable)
    return Circuit(
        kind.name,
        wiring,
        ("BS EN 60898", "B", float(kind.rating_a)),
        kind.serves,
        rcd,
        insulation_mohm=_insulation(chance),
        loads=_loads(chance, points),
        leakage_ma=chance.uniform(0.0, 0.5),
        points=_names(chance, kind.serves, points),
    )
