"""A simulated radial circuit: cable from the board from point to point, and the faults that were put into it."""

from collections.abc import Sequence
from dataclasses import dataclass, field

from dorrik.core.electrical.conductors import per_metre_ohm
from dorrik.practice.network import Network
from dorrik.practice.ring_circuit import (
    CONDUCTORS,
    CONTACT_OHM,
    Conductor,
    Fault,
    broken_segments,
    lay_contacts,
    loose_segments,
)


@dataclass(frozen=True, slots=True)
class RadialCircuit:
    """A radial as it was built.

    segments_m: cable from the board to the first point, and from point to point (m); line_csa_mm2, cpc_csa_mm2: its
    cable (mm²); faults: see their classes; a ring's own kinds have no effect here.
    """

    segments_m: Sequence[float]
    line_csa_mm2: float = 2.5
    cpc_csa_mm2: float = 1.5
    faults: Sequence[Fault] = field(default_factory=tuple)

    @property
    def length_m(self) -> float:
        """Cable from the board to the last point (m)."""
        return sum(self.segments_m)

    @property
    def walk(self) -> list[int]:
        """The points, in the order of the line."""
        return list(range(len(self.segments_m)))

    def junction(self, n: int) -> int:
        """Where the n-th point stands: every point is its own junction."""
        return n

    def wire_into(self, net: Network, prefix: tuple[str, ...] = (), *, worked: frozenset[int] = frozenset()) -> None:
        """Lay the circuit into a network. Nodes, behind the prefix: (conductor, 'a') at the board, (conductor, n) where
        the cable ends at a point, (conductor, 'point', n) for its contacts."""
        for conductor in CONDUCTORS:
            per_metre = per_metre_ohm(self._csa(conductor))
            broken, loose = broken_segments(self.faults, conductor), loose_segments(self.faults, conductor)
            for n, length in enumerate(self.segments_m):
                if n not in broken:
                    start = (*prefix, conductor, "a" if n == 0 else n - 1)
                    net.add(start, (*prefix, conductor, n), length * per_metre + loose.get(n, 0.0) + CONTACT_OHM)
        for n in self.walk:
            lay_contacts(net, prefix, n, (n,), self.faults, worked)

    def _csa(self, conductor: Conductor) -> float:
        return self.cpc_csa_mm2 if conductor == "cpc" else self.line_csa_mm2
