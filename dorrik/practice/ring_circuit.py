"""A simulated ring final circuit: real lengths of cable, joints and accessories, and faults that were put into it."""

from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import Literal

from dorrik.core.electrical.conductors import per_metre_ohm
from dorrik.practice.network import Network

Conductor = Literal["line", "neutral", "cpc"]
CONDUCTORS: tuple[Conductor, ...] = ("line", "neutral", "cpc")
#: A sound contact and a sound joint (Ω).
CONTACT_OHM = 0.002


@dataclass(frozen=True, slots=True)
class Spur:
    """A point that hangs off another: at which point of the walk it stands, off which point (None: off a joint in the
    cable before the next ring point), by how much cable (m)."""

    at: int
    length_m: float
    off: int | None = None


@dataclass(frozen=True, slots=True)
class Break:
    """A conductor open in the segment before a ring point (0 is the segment that leaves the board)."""

    conductor: Conductor
    segment: int


@dataclass(frozen=True, slots=True)
class LooseJoint:
    """Extra resistance (Ω) of a conductor in a segment."""

    conductor: Conductor
    segment: int
    ohm: float


@dataclass(frozen=True, slots=True)
class DirtyContact:
    """Extra resistance (Ω) of one contact of the point at that place in the walk; gone once the switch was worked."""

    at: int
    conductor: Conductor
    ohm: float


@dataclass(frozen=True, slots=True)
class MissingCpc:
    """No earth at the point at that place in the walk."""

    at: int


@dataclass(frozen=True, slots=True)
class ParallelEarth:
    """A path (Ω) between the cpcs of two ring points outside the cable: pipework between two bonded appliances."""

    one: int
    other: int
    ohm: float


@dataclass(frozen=True, slots=True)
class Reversed:
    """Two conductors exchanged at the terminals of the point at that place in the walk."""

    at: int
    one: Conductor = "line"
    other: Conductor = "neutral"


Fault = Break | LooseJoint | DirtyContact | MissingCpc | ParallelEarth | Reversed


def broken_segments(faults: Sequence[Fault], conductor: Conductor) -> frozenset[int]:
    """Segments in which a conductor is open."""
    return frozenset(f.segment for f in faults if isinstance(f, Break) and f.conductor == conductor)


def loose_segments(faults: Sequence[Fault], conductor: Conductor) -> dict[int, float]:
    """Extra resistance (Ω) of a conductor by segment."""
    return {f.segment: f.ohm for f in faults if isinstance(f, LooseJoint) and f.conductor == conductor}


def lay_contacts(
    net: Network,
    prefix: tuple[str, ...],
    n: int,
    root: tuple[object, ...],
    faults: Sequence[Fault],
    worked: frozenset[int],
) -> None:
    """The contacts of the n-th point, from the place where its conductors end; shared by rings and radials."""
    swapped: dict[Conductor, Conductor] = {}
    dirty: dict[Conductor, float] = {}
    earthed = True
    for fault in faults:
        match fault:
            case Reversed(at=at, one=one, other=other) if at == n:
                swapped |= {one: other, other: one}
            case DirtyContact(at=at, conductor=conductor, ohm=ohm) if at == n and n not in worked:
                dirty[conductor] = ohm
            case MissingCpc(at=at) if at == n:
                earthed = False
    for conductor in CONDUCTORS:
        if conductor != "cpc" or earthed:
            behind = swapped.get(conductor, conductor)
            ohm = CONTACT_OHM + dirty.get(conductor, 0.0)
            net.add((*prefix, behind, *root), (*prefix, conductor, "point", n), ohm)


@dataclass(frozen=True, slots=True)
class RingCircuit:
    """A ring as it was built.

    segments_m: cable from the board to the first ring point, from point to point, and back to the board (m);
    line_csa_mm2, cpc_csa_mm2: its real cable (mm²); spurs and faults: see their classes. Points of the walk are the
    ring points and the spur points, numbered together from 0 as they are met.
    """

    segments_m: Sequence[float]
    line_csa_mm2: float = 2.5
    cpc_csa_mm2: float = 1.5
    spurs: Sequence[Spur] = ()
    faults: Sequence[Fault] = field(default_factory=tuple)

    @property
    def length_m(self) -> float:
        """Cable round the ring, spurs left out (m)."""
        return sum(self.segments_m)

    @property
    def walk(self) -> list[int | Spur]:
        """What is met on the walk: indices of ring points, and spurs."""
        at = {spur.at: spur for spur in self.spurs}
        ring = iter(range(len(self.segments_m) - 1))
        return [at[n] if n in at else next(ring) for n in range(len(self.segments_m) - 1 + len(self.spurs))]

    def network(self, *, worked: frozenset[int] = frozenset()) -> Network:
        """The circuit disconnected at the board, by itself; see `lay` for its nodes."""
        net = Network()
        self.wire_into(net, worked=worked)
        return net

    def wire_into(self, net: Network, prefix: tuple[str, ...] = (), *, worked: frozenset[int] = frozenset()) -> None:
        """Lay the circuit into a network. Nodes, behind the prefix: (conductor, 'a') and (conductor, 'b') for the two
        ends, (conductor, n) for ring points, (conductor, 'point', n) for the contacts of the n-th point of the walk.

        worked: points whose switch was worked.
        """
        for conductor in CONDUCTORS:
            self._lay_ring(net, prefix, conductor)
        self._lay_points(net, prefix, worked)
        for fault in self.faults:
            if isinstance(fault, ParallelEarth):
                net.add((*prefix, "cpc", fault.one), (*prefix, "cpc", fault.other), fault.ohm)

    def junction(self, n: int) -> int:
        """The ring point at which the n-th point of the walk stands, or off which its spur leaves."""
        before = 0
        for met in self.walk[: n + 1]:
            before = met if isinstance(met, int) else before
        return before

    def _per_metre(self, conductor: Conductor) -> float:
        return per_metre_ohm(self.cpc_csa_mm2 if conductor == "cpc" else self.line_csa_mm2)

    def _lay_ring(self, net: Network, prefix: tuple[str, ...], conductor: Conductor) -> None:
        last = len(self.segments_m) - 1
        broken = broken_segments(self.faults, conductor)
        loose = loose_segments(self.faults, conductor)
        for index, length in enumerate(self.segments_m):
            if index in broken:
                continue
            start = (*prefix, conductor, "a" if index == 0 else index - 1)
            end = (*prefix, conductor, "b" if index == last else index)
            net.add(start, end, length * self._per_metre(conductor) + loose.get(index, 0.0) + CONTACT_OHM)

    def _lay_points(self, net: Network, prefix: tuple[str, ...], worked: frozenset[int]) -> None:
        ring_before = -1
        for n, met in enumerate(self.walk):
            for conductor in CONDUCTORS:
                if isinstance(met, Spur):
                    # A spur without another to hang off leaves from the back of the ring point before it.
                    at: tuple[object, ...] = (*prefix, conductor, "spur", n)
                    off = ("spur", met.off) if met.off is not None else (max(ring_before, 0),)
                    net.add((*prefix, conductor, *off), at, met.length_m * self._per_metre(conductor))
            root: tuple[object, ...] = ("spur", n) if isinstance(met, Spur) else (met,)
            lay_contacts(net, prefix, n, root, self.faults, worked)
            if isinstance(met, int):
                ring_before = met
