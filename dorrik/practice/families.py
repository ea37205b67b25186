"""Families of faults of a ring, each drawn at random from a seed, and what an analysis should call them."""

import random
from collections.abc import Callable
from dataclasses import dataclass, replace

from dorrik.core.electrical.ring import RingAnalysis, analyse
from dorrik.practice.meter import SimulatedMeter
from dorrik.practice.random_home import healthy_ring as healthy
from dorrik.practice.ring_circuit import (
    CONDUCTORS,
    Break,
    DirtyContact,
    LooseJoint,
    MissingCpc,
    ParallelEarth,
    RingCircuit,
    Spur,
)
from dorrik.practice.ring_tests import measure


@dataclass(frozen=True, slots=True)
class Case:
    """A ring with a fault: what it should be called (None: nothing), at which point (None where it speaks of none), how
    long a spur is (m), and whether the inspector joined the wrong ends; or_kind: another name that says it as well."""

    circuit: RingCircuit
    kind: str | None
    point: str | None = None
    spur_m: float | None = None
    same_ends: bool = False
    or_kind: str | None = None

    def analysis(self, seed: int) -> RingAnalysis:
        """What the rules say of the readings that an instrument of that seed gives."""
        return analyse(measure(self.circuit, SimulatedMeter(seed), same_ends=self.same_ends))


def _sound(chance: random.Random) -> Case:
    return Case(healthy(chance), None)


def _break(chance: random.Random) -> Case:
    ring = healthy(chance)
    fault = Break(chance.choice(CONDUCTORS), chance.randrange(len(ring.segments_m)))
    return Case(replace(ring, faults=(fault,)), "open-conductor")


def _two_radials(chance: random.Random) -> Case:
    ring = healthy(chance)
    segment = chance.randrange(1, len(ring.segments_m) - 1)
    return Case(replace(ring, faults=tuple(Break(c, segment) for c in CONDUCTORS)), "not-a-ring")


def _loose_joint(chance: random.Random) -> Case:
    """0.15 to 1 Ω in line or neutral: from about twice what two conductors may be apart."""
    ring = healthy(chance)
    where = chance.randrange(len(ring.segments_m))
    fault = LooseJoint(chance.choice(("line", "neutral")), where, chance.uniform(0.15, 1.0))
    return Case(replace(ring, faults=(fault,)), "loose-joint")


def _other_cable(chance: random.Random) -> Case:
    """2.5/1.0 taken for 2.5/1.5, on rings long enough that the difference exceeds the tolerance."""
    ring = healthy(chance)
    longer = [length * max(1.0, 45 / ring.length_m) for length in ring.segments_m]
    return Case(replace(ring, segments_m=longer, cpc_csa_mm2=1.0), "other-cable")


def _parallel_earth(chance: random.Random) -> Case:
    """Pipework of 0.02 to 0.1 Ω between two appliances at least a third of the ring apart."""
    ring = healthy(chance)
    points = len(ring.segments_m) - 1
    one = chance.randrange(points // 3 + 1)
    other = min(points - 1, one + points // 2 + 1)
    faults = (ParallelEarth(one, other, chance.uniform(0.02, 0.1)),)
    # Where the cpc happens to read what the line does, a cpc as thick as the line is asked about first.
    return Case(replace(ring, faults=faults), "parallel-earth", or_kind="equal-cpc")


def _spur(chance: random.Random) -> Case:
    """One point on 5 to 20 m of cable."""
    ring = healthy(chance)
    at, length = chance.randrange(1, len(ring.segments_m)), chance.uniform(5, 20)
    return Case(replace(ring, spurs=(Spur(at, length),)), "spur", f"point {at}", length)


def _spur_off_spur(chance: random.Random) -> Case:
    """A second point 4 to 10 m beyond the first, which is 5 to 10 m off the ring."""
    ring = healthy(chance)
    at = chance.randrange(1, len(ring.segments_m))
    first, beyond = chance.uniform(5, 10), chance.uniform(4, 10)
    spurs = (Spur(at, first), Spur(at + 1, beyond, off=at))
    return Case(replace(ring, spurs=spurs), "spur-off-spur", f"point {at + 1}", first + beyond)


def _contact(chance: random.Random) -> Case:
    """A dirty contact of 0.15 to 1 Ω in one pin."""
    ring = healthy(chance)
    at = chance.randrange(len(ring.segments_m) - 1)
    fault = DirtyContact(at, chance.choice(CONDUCTORS), chance.uniform(0.15, 1.0))
    return Case(replace(ring, faults=(fault,)), "contact", f"point {at}")


def _missing_cpc(chance: random.Random) -> Case:
    ring = healthy(chance)
    at = chance.randrange(len(ring.segments_m) - 1)
    return Case(replace(ring, faults=(MissingCpc(at),)), "cpc-open-at-point", f"point {at}")


def _wrong_pairing(chance: random.Random) -> Case:
    """Rings from 40 m: shorter ones read so little that the pattern drowns."""
    ring = healthy(chance)
    longer = [length * max(1.0, 40 / ring.length_m) for length in ring.segments_m]
    return Case(replace(ring, segments_m=longer), "wrong-pairing", same_ends=True)


#: Every family by the name it has in the table, and how a case of it is drawn.
FAMILIES: dict[str, Callable[[random.Random], Case]] = {
    "sound ring": _sound,
    "one conductor open": _break,
    "two radials": _two_radials,
    "loose joint, 0.15 Ω and more": _loose_joint,
    "other cable (2.5/1.0), 45 m and more": _other_cable,
    "parallel earth": _parallel_earth,
    "spur, 5 m and more": _spur,
    "spur off a spur, 4 m beyond and more": _spur_off_spur,
    "dirty contact, 0.15 Ω and more": _contact,
    "no cpc at a point": _missing_cpc,
    "same ends joined, 40 m and more": _wrong_pairing,
}


def draw(family: str, seed: int) -> Case:
    """A case of a family. The same seed gives the same case."""
    return FAMILIES[family](random.Random(f"{family}{seed}"))
