"""A simulated home: supply, earthing and bonds, residual current devices, circuits, loads, and what is wrong with it.

Everything is as it was built; the state that somebody brings it into (isolated, unplugged, ends joined) is a `Site`.
"""

from collections.abc import Sequence
from dataclasses import dataclass, field

from dorrik.practice.radial_circuit import RadialCircuit
from dorrik.practice.ring_circuit import Conductor, RingCircuit


@dataclass(frozen=True, slots=True)
class Supply:
    """The network operator's side (Ω): line, neutral and earth from the transformer; electrode_ohm: the installation's
    own electrode, on TT; earthing: TN-S, TN-C-S or TT, where the earth is the neutral or there is none."""

    earthing: str = "TN-C-S"
    line_ohm: float = 0.09
    neutral_ohm: float = 0.09
    earth_ohm: float = 0.12
    electrode_ohm: float = 60.0
    #: Earth at the transformer.
    star_electrode_ohm: float = 4.0


@dataclass(frozen=True, slots=True)
class Bond:
    """A main bond: size (mm²), length (m), the contact of its clamp (Ω), and the pipe's own way to earth (Ω)."""

    service: str
    csa_mm2: float = 10.0
    length_m: float = 6.0
    clamp_ohm: float = 0.004
    pipe_ohm: float = 25.0


@dataclass(frozen=True, slots=True)
class Rcd:
    """A residual current device: what it is rated for and how it really behaves.

    trips_at: residual current at which it trips, as a share of its rating; trip_ms, five_ms: its time at one and
    at five times the rating; stuck: it never trips; button: its test button works.
    """

    rated_ma: float = 30.0
    standard: str = "BS EN 61008"
    trips_at: float = 0.75
    trip_ms: float = 28.0
    five_ms: float = 14.0
    stuck: bool = False
    button: bool = True


@dataclass(frozen=True, slots=True)
class Load:
    """Something that draws current between line and neutral of a point (Ω). hidden: a switch nobody found feeds it, so
    it stays in when everything is unplugged; electronic: 500 V would harm it."""

    point: int
    ohm: float
    hidden: bool = False
    electronic: bool = False


@dataclass(frozen=True, slots=True)
class Leak:
    """Poor insulation between two conductors at a junction (MΩ)."""

    one: Conductor
    other: Conductor
    mohm: float
    junction: int | str = "a"


@dataclass(frozen=True, slots=True)
class Circuit:
    """A circuit of the board.

    wiring: its cable, points and wiring faults; device: standard, type, rating (A); rcd: name of the RCD in front
    of it, or None; insulation_mohm: between line and neutral, line and cpc, neutral and cpc when sound; leakage_ma:
    what its equipment leaks in use; points: a name for each point of the walk.
    """

    name: str
    wiring: RingCircuit | RadialCircuit
    device: tuple[str, str, float] = ("BS EN 60898", "B", 32.0)
    serves: str = "sockets"
    rcd: str | None = "RCD 1"
    method: str = "C"
    insulation_mohm: tuple[float, float, float] = (900.0, 700.0, 800.0)
    leaks: Sequence[Leak] = ()
    loads: Sequence[Load] = ()
    leakage_ma: float = 0.3
    points: Sequence[str] = ()

    @property
    def is_ring(self) -> bool:
        """A ring final circuit, rather than a radial."""
        return isinstance(self.wiring, RingCircuit)

    def point_name(self, n: int) -> str:
        """What the n-th point of the walk is called."""
        return self.points[n] if n < len(self.points) else f"{self.name} {n + 1}"


@dataclass(frozen=True, slots=True)
class Surge:
    """A surge protective device: marked Uc (V a.c.) and the direct voltage at which it really conducts 1 mA."""

    uc_v: float = 275.0
    u_dc_v: float = 440.0
    indicator: str = "sound"


@dataclass(frozen=True, slots=True)
class Link:
    """Two circuits joined where they should not be: each by circuit and junction, by which conductors."""

    one: tuple[str, int]
    other: tuple[str, int]
    conductors: tuple[Conductor, ...]


@dataclass(frozen=True, slots=True)
class Home:
    """One home with one board."""

    supply: Supply = field(default_factory=Supply)
    circuits: Sequence[Circuit] = ()
    rcds: dict[str, Rcd] = field(default_factory=dict)
    bonds: Sequence[Bond] = ()
    surge: Surge | None = None
    tails_mm2: float = 25.0
    earthing_mm2: float = 16.0
    service_fuse_a: float = 80.0
    #: What it is called.
    name: str = ""
    #: Circuits or points joined by mistake, and rings whose second ends were exchanged at the board.
    links: Sequence[Link] = ()
    exchanged: tuple[str, str] | None = None

    def circuit(self, name: str) -> Circuit:
        """The circuit of that name. Raises KeyError for none."""
        for circuit in self.circuits:
            if circuit.name == name:
                return circuit
        raise KeyError(name)
