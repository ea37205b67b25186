"""A home as it stands at this moment: live or isolated, what is disconnected, joined, plugged in, worked or tripped.

Terminals are nodes of the network: `end` gives a conductor at the board, `contact` one at a point, `pipe` and
`clamp` a bond's; EARTH_BAR and ORIGIN are fixed. A bar belongs to an RCD, or to none.
"""

from collections.abc import Hashable, Iterator
from dataclasses import dataclass, field, replace
from math import inf

from dorrik.core.electrical.conductors import per_metre_ohm
from dorrik.core.electrical.devices import U0_V
from dorrik.practice.home import Circuit, Home
from dorrik.practice.network import Network, Node
from dorrik.practice.ring_circuit import CONDUCTORS, Break, Conductor

EARTH_BAR: Node = ("earth bar",)
STAR: Node = ("star",)
ORIGIN: dict[str, Node] = {c: ("origin", c) for c in CONDUCTORS}
GROUND: Node = ("ground",)
#: A link, a busbar, a closed switch (Ω).
LINK_OHM = 0.001
#: Share of the mains that a conductor connected to nothing shows to earth.
FLOATING = 0.4


class Danger(Exception):
    """What was asked of the site would be dangerous; the message says why."""


@dataclass(frozen=True, slots=True)
class PluggedIn:
    """A load where it stands: circuit and its number among the circuit's loads."""

    circuit: str
    number: int


@dataclass(slots=True)
class _Known:
    """What was worked out for one state of a site: networks by the circuits in them, voltages, the network at rest."""

    networks: dict[frozenset[str] | None, Network] = field(default_factory=dict)
    volts: dict[Node, float] | None = None
    at_rest: Network | None = None


class Site:
    """The state of a home; what changes it is a method, what is measured goes by `resistance` and `voltage`."""

    def __init__(self, home: Home) -> None:
        self.home = home
        self.main_on = True
        self.surge_in = home.surge is not None
        self.earth_parallel = True
        self._switched_off: set[str] = set()
        self._out: set[str] = set()
        self._joined: list[tuple[Node, Node]] = []
        self._worked: dict[str, frozenset[int]] = {}
        self._unplugged: set[PluggedIn] = set()
        self._tripped: set[str] = set()
        self._known: dict[Hashable, _Known] = {}
        self._linked = _linked(home)
        self._open_rings: frozenset[str] = frozenset()
        self._change()

    # What a person does

    def isolate(self) -> None:
        """Main switch off and locked."""
        self._change(main_on=False)

    def restore(self) -> None:
        """Everything back in its place and on."""
        self._switched_off, self._out, self._joined, self._tripped = set(), set(), [], set()
        self._unplugged = set()
        self._change(main_on=True, surge_in=self.home.surge is not None, earth_parallel=True)

    def switch_off(self, circuit: str) -> None:
        """A circuit's device off."""
        self._switched_off.add(circuit)
        self._change()

    def disconnect(self, *circuits: str) -> None:
        """A circuit's conductors out of the board's terminals. Raises Danger on a live board."""
        if self.main_on:
            raise Danger("The board is live: isolate it and prove it dead before conductors come out.")
        self._out.update(circuits)
        self._change()

    def reconnect(self, *circuits: str) -> None:
        """A circuit's conductors back where they were."""
        self._out.difference_update(circuits)
        self._change()

    def join(self, *pairs: tuple[Node, Node]) -> None:
        """Join terminals with clips or connectors. Raises Danger where either is live."""
        for pair in pairs:
            danger = self.danger(*pair)
            if danger:
                raise Danger(danger)
        self._joined.extend(pairs)
        self._change()

    def release(self) -> None:
        """All clips off."""
        self._joined = []
        self._change()

    def opened(self, circuit: str, segment: int) -> "Site":
        """A ring opened at a point, before a segment: its two legs apart, everything else as it is now."""
        one = self.home.circuit(circuit)
        breaks = tuple(Break(conductor, segment) for conductor in CONDUCTORS)
        wiring = replace(one.wiring, faults=(*one.wiring.faults, *breaks))
        # Insulation belongs to the leg whose end it is measured from; poor insulation to the leg it lies in.
        circuits = [replace(c, wiring=wiring) if c.name == circuit else c for c in self.home.circuits]
        other = Site(replace(self.home, circuits=tuple(circuits)))
        other.main_on, other.surge_in = self.main_on, self.surge_in
        other._out, other._unplugged, other._worked = set(self._out), set(self._unplugged), dict(self._worked)
        other._open_rings = self._open_rings | {circuit}
        other._change()
        return other

    def work(self, circuit: str, point: int) -> None:
        """Re-plug and work the switch of a point: dirt goes, damage stays."""
        self._worked[circuit] = self._worked.get(circuit, frozenset()) | {point}
        self._change()

    def unplug_all(self) -> None:
        """Everything out of the sockets, every switch that was found off; what is hidden stays in."""
        for circuit in self.home.circuits:
            unplugged = (PluggedIn(circuit.name, i) for i, load in enumerate(circuit.loads) if not load.hidden)
            self._unplugged.update(unplugged)
        self._change()

    def part_earth(self) -> None:
        """The earthing conductor off the earth bar, for Ze. Raises Danger on a live installation."""
        if self.main_on:
            raise Danger("The installation must be isolated before its earth is disconnected.")
        self._change(earth_parallel=False)

    def rejoin_earth(self) -> None:
        """The earthing conductor back."""
        self._change(earth_parallel=True)

    def remove_surge_device(self) -> None:
        """The surge device's modules out."""
        self._change(surge_in=False)

    def trip(self, rcd: str) -> None:
        """An RCD has tripped."""
        self._tripped.add(rcd)
        self._change()

    def reset(self, rcd: str) -> None:
        """An RCD closed again."""
        self._tripped.discard(rcd)
        self._change()

    # Terminals

    def end(self, circuit: str, conductor: Conductor, end: str = "a") -> Node:
        """A conductor of a circuit at the board, by the marking it carries there; rings have ends a and b."""
        exchanged = self.home.exchanged
        if end == "b" and exchanged and circuit in exchanged:
            circuit = exchanged[1 - exchanged.index(circuit)]
        return (circuit, conductor, end)

    def contact(self, circuit: str, conductor: Conductor, point: int) -> Node:
        """A terminal of a point, by its marking."""
        return (circuit, conductor, "point", point)

    @staticmethod
    def pipe(service: str) -> Node:
        """The metal of a service, where it enters."""
        return ("pipe", service)

    @staticmethod
    def clamp(service: str) -> Node:
        """The clamp of a bond, before its contact with the pipe."""
        return ("clamp", service)

    # What can be told

    def is_live(self, circuit: str) -> bool:
        """Can a dangerous voltage stand on a circuit's conductors?"""
        return any(self._fed(self.home.circuit(name)) for name in self._linked[circuit])

    def danger(self, *terminals: Node) -> str | None:
        """Why a dead test between these terminals would be dangerous, or None."""
        for terminal in terminals:
            circuit = terminal[0] if isinstance(terminal, tuple) else None
            if circuit in self._linked:
                if self.is_live(circuit):
                    return f"{circuit} is live: isolate it and prove it dead before this test."
            elif self.main_on:
                return "The installation is live: isolate it and prove it dead before this test."
        return None

    def circuits_at(self, *terminals: Node) -> set[str]:
        """The circuits that terminals belong to, with those linked to them; for one of the board, all that are in."""
        names: set[str] = set()
        for terminal in terminals:
            linked = self._linked.get(str(terminal[0]) if isinstance(terminal, tuple) else "")
            names |= linked or {c.name for c in self.home.circuits if c.name not in self._out}
        return names

    def is_connected(self, terminal: Node) -> bool:
        """Is a terminal connected with the board's bars?"""
        return not self.circuits_at(terminal) <= self._out

    def resistance(self, a: Node, b: Node) -> float:
        """Resistance between two terminals (Ω) with every source at rest."""
        if self._apart(a, b):
            return inf
        return self._network(a, b).resistance(a, b)

    def insulation_mohm(self, a: Node, b: Node) -> float:
        """Insulation between two terminals (MΩ), everything in the state it is in."""
        net = self._network(a, b)
        if net.island(a) == net.island(b):
            return net.resistance(a, b) / 1e6
        leaky = Network()
        for one, other, mohm in self._leaks():
            leaky_pair = net.island(one), net.island(other)
            if leaky_pair[0] != leaky_pair[1]:
                leaky.add(*leaky_pair, mohm)
        return leaky.resistance(net.island(a), net.island(b))

    def voltage(self, a: Node, b: Node) -> float | None:
        """Voltage between two terminals (V) on a meter of high resistance; None where neither is connected to a supply.

        A conductor that is connected to nothing floats at a share of the mains, by way of the cable's own capacitance.
        """
        net = self._live_network()
        if self._now.volts is None:
            self._now.volts = net.potentials({("source",): U0_V, STAR: 0.0})
        one, other = (self._now.volts.get(net.stands_for(terminal)) for terminal in (a, b))
        if one is None and other is None:
            return None
        floating = FLOATING * U0_V
        return abs((floating if one is None else one) - (floating if other is None else other))

    def loop_ohm(self, a: Node, b: Node) -> float:
        """Impedance of the loop that feeds two live terminals (Ω): the source at rest, everything connected."""
        self._live_network()
        return self._at_rest().resistance(a, b)

    def loop_at_origin_ohm(self, to: Conductor) -> float:
        """Impedance between the incoming line and another conductor of the supply (Ω); it is always live."""
        return self._at_rest().resistance(ORIGIN["line"], ORIGIN[to])

    def _at_rest(self) -> Network:
        """The whole network with the source's voltage taken away, as a loop is seen from outside."""
        if self._now.at_rest is None:
            self._now.at_rest = self._network(EARTH_BAR).copy()
            self._now.at_rest.join(("source",), STAR)
        return self._now.at_rest

    def rcd_of(self, circuit: str) -> str | None:
        """The RCD in front of a circuit."""
        return self.home.circuit(circuit).rcd

    def leakage_ma(self, rcd: str) -> float:
        """What the equipment behind an RCD leaks in use (mA)."""
        fed = (c for c in self.home.circuits if c.rcd == rcd and self._fed(c))
        return sum(c.leakage_ma for c in fed)

    def plugged_in(self, circuit: str) -> Iterator[tuple[int, float, bool]]:
        """Loads that are in: point, resistance (Ω), electronic."""
        for i, load in enumerate(self.home.circuit(circuit).loads):
            if PluggedIn(circuit, i) not in self._unplugged:
                yield load.point, load.ohm, load.electronic

    # The network

    def _change(self, **state: bool) -> None:
        for name, value in state.items():
            setattr(self, name, value)
        # What was worked out for a state serves again when the home is back in it: an RCD that is reset, clips that are
        # off again.
        if len(self._known) > 32:
            self._known.clear()
        self._now = self._known.setdefault(self._state(), _Known())

    def _state(self) -> Hashable:
        return (
            (self.main_on, self.surge_in, self.earth_parallel),
            frozenset(self._switched_off),
            frozenset(self._out),
            frozenset(self._tripped),
            frozenset(self._unplugged),
            tuple(self._joined),
            frozenset(self._worked.items()),
        )

    def _fed(self, circuit: Circuit) -> bool:
        return (
            self.main_on
            and circuit.name not in self._out
            and circuit.name not in self._switched_off
            and circuit.rcd not in self._tripped
        )

    def _apart(self, a: Node, b: Node) -> bool:
        """Two circuits that are out, have nothing to do with each other and are not clipped together."""
        one, other = (self._linked.get(str(n[0]) if isinstance(n, tuple) else "") for n in (a, b))
        return bool(one and other and one != other and one | other <= self._out and not self._joined)

    def _network(self, *terminals: Node) -> Network:
        """The network that the terminals need: circuits that are out stand alone, with those they are linked to."""
        circuits: set[str] | None = set()
        for terminal in terminals:
            name = terminal[0] if isinstance(terminal, tuple) else None
            linked = self._linked.get(str(name))
            if linked is None or not linked <= self._out:
                circuits = None
                break
            circuits = (circuits or set()) | linked
        key = None if circuits is None else frozenset(circuits)
        if key not in self._now.networks:
            self._now.networks[key] = self._build(key)
        return self._now.networks[key]

    def _live_network(self) -> Network:
        if not self.main_on:
            raise Danger("Nothing is live here: the main switch is off.")
        return self._network(EARTH_BAR)

    def _build(self, only: frozenset[str] | None) -> Network:
        net = Network()
        for circuit in self.home.circuits:
            if only is None or circuit.name in only:
                circuit.wiring.wire_into(net, (circuit.name,), worked=self._worked.get(circuit.name, frozenset()))
                for point, ohm, _ in self.plugged_in(circuit.name):
                    net.add((circuit.name, "line", "point", point), (circuit.name, "neutral", "point", point), ohm)
                if only is None and circuit.name not in self._out:
                    self._connect(net, circuit)
        for link in self.home.links:
            if only is None or link.one[0] in only:
                for conductor in link.conductors:
                    net.add((link.one[0], conductor, link.one[1]), (link.other[0], conductor, link.other[1]), LINK_OHM)
        if only is None:
            self._lay_supply(net)
        for a, b in self._joined:
            if only is None or {a[0], b[0]} <= only:  # type: ignore[index]
                net.join(a, b)
        return net

    def _connect(self, net: Network, circuit: Circuit) -> None:
        """A circuit's ends in the board's terminals, its device closed where it is on."""
        ends = ("a", "b") if circuit.is_ring else ("a",)
        way = ("way", circuit.name)
        for end in ends:
            net.add(self.end(circuit.name, "line", end), way, LINK_OHM)
            net.add(self.end(circuit.name, "neutral", end), ("neutral bar", circuit.rcd), LINK_OHM)
            net.add(self.end(circuit.name, "cpc", end), EARTH_BAR, LINK_OHM)
        if circuit.name not in self._switched_off:
            net.add(way, ("line bus", circuit.rcd), LINK_OHM)

    def _lay_supply(self, net: Network) -> None:
        supply = self.home.supply
        net.add(("source",), ORIGIN["line"], supply.line_ohm)
        net.add(STAR, ORIGIN["neutral"], supply.neutral_ohm)
        net.add(STAR, GROUND, supply.star_electrode_ohm)
        if supply.earthing == "TN-S":
            net.add(STAR, ORIGIN["cpc"], supply.earth_ohm)
        elif supply.earthing == "TN-C-S":
            net.add(ORIGIN["neutral"], ORIGIN["cpc"], LINK_OHM)
        else:
            net.add(GROUND, ORIGIN["cpc"], supply.electrode_ohm)
        if self.earth_parallel:
            net.add(ORIGIN["cpc"], EARTH_BAR, LINK_OHM)
        for bond in self.home.bonds:
            net.add(EARTH_BAR, self.clamp(bond.service), bond.length_m * per_metre_ohm(bond.csa_mm2) + LINK_OHM)
            net.add(self.clamp(bond.service), self.pipe(bond.service), bond.clamp_ohm)
            net.add(self.pipe(bond.service), GROUND, bond.pipe_ohm)
        if self.main_on:
            for rcd in {circuit.rcd for circuit in self.home.circuits} - self._tripped:
                net.add(ORIGIN["line"], ("line bus", rcd), LINK_OHM)
                net.add(ORIGIN["neutral"], ("neutral bar", rcd), LINK_OHM)

    def _leaks(self) -> Iterator[tuple[Node, Node, float]]:
        """Insulation of every circuit, sound and otherwise (MΩ)."""
        for circuit in self.home.circuits:
            ends = ("a", "b") if circuit.name in self._open_rings else ("a",)
            for (one, other), mohm in zip(_PAIRS, circuit.insulation_mohm, strict=True):
                for end in ends:
                    # Each leg of an opened ring has its half of the cable, and so twice the insulation.
                    yield (circuit.name, one, end), (circuit.name, other, end), mohm * len(ends)
            for leak in circuit.leaks:
                yield (circuit.name, leak.one, leak.junction), (circuit.name, leak.other, leak.junction), leak.mohm


_PAIRS: tuple[tuple[Conductor, Conductor], ...] = (("line", "neutral"), ("line", "cpc"), ("neutral", "cpc"))


def _linked(home: Home) -> dict[str, frozenset[str]]:
    """Every circuit with those that its conductors meet, itself among them."""
    together = {circuit.name: {circuit.name} for circuit in home.circuits}
    pairs = [(link.one[0], link.other[0]) for link in home.links]
    if home.exchanged:
        pairs.append(home.exchanged)
    for one, other in pairs:
        merged = together[one] | together[other]
        for name in merged:
            together[name] = merged
    return {name: frozenset(members) for name, members in together.items()}
