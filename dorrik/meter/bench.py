"""The bench: a simulated home, an instrument with two leads, and what a person does with both.

What is done comes as a command (`{"do": "touch", "at": [...]}`); its state goes to the page as data. A
terminal is a list: `["end", circuit, conductor, "a"]`, `["point", circuit, conductor, 3]`, `["clamp", service]`,
`["pipe", service]`, `["earth bar"]`, `["origin", conductor]`, `["way", circuit]`, `["rcd", name]`, `["surge"]`.
Another of the homes that come with Dorrik is gone to with `{"do": "home", "home": "sail_loft"}`.
"""

import uuid
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from datetime import UTC, datetime
from typing import Any, cast

from dorrik.core.inspection.instrument_functions import FUNCTIONS
from dorrik.practice import homes
from dorrik.practice.home import Circuit, Home
from dorrik.practice.meter import MeterRefusal, SimulatedMeter, Tripped
from dorrik.practice.network import Node
from dorrik.practice.ring_circuit import CONDUCTORS, Conductor
from dorrik.practice.site import EARTH_BAR, ORIGIN, Danger, Site

#: What a bad contact between the tips adds to a null (Ω).
BAD_CONTACT_OHM = 0.19
#: Functions that need one place only.
_ONE_PLACE = ("leakage", "varistor")
#: Functions that the knob has; the leads are nulled by a key.
_CHOSEN = tuple(function for function in FUNCTIONS.values() if function.key != "null")
_JOINS = ("line-neutral", "line-cpc")

Terminal = list[Any]


class BenchError(ValueError):
    """The command cannot be done; the message says why."""


@dataclass(frozen=True, slots=True)
class Shown:
    """What the display shows after a measurement; volts: of an insulation test."""

    id: str
    function: str
    value: str
    unit: str
    at: str
    volts: int | None = None


class MeterBench:
    """A home, an instrument and its leads. `do` carries a command out and returns a reading where one was taken."""

    def __init__(self, home: Home, name: str, seed: int = 1) -> None:
        self._meter = SimulatedMeter(seed)
        self._function = "continuity"
        self._volts = 500
        self._arrive(home, name)
        self.says = "Leads not nulled yet."

    def _arrive(self, home: Home, name: str) -> None:
        """At the door of a home, as it stands when nobody has touched it; the instrument is as it was."""
        self.name = name
        self._site = Site(home)
        self._leads: list[Terminal] = []
        self._out: set[str] = set()
        self._off: set[str] = set()
        self._joined: dict[str, str] = {}
        self._tripped: set[str] = set()
        self._unplugged = False
        self.shown: Shown | None = None

    @property
    def function(self) -> str:
        """What the instrument is set to."""
        return self._function

    def measures(self, command: Mapping[str, Any]) -> bool:
        """Does a command end with a reading, if all goes well?"""
        if command.get("do") == "touch":
            return self._function in _ONE_PLACE or len(self._leads) == 1
        return command.get("do") in ("measure", "null")

    def do(self, command: Mapping[str, Any]) -> Shown | None:
        """Carry out one command. Raises BenchError for what cannot be done; what stood is then as it was."""
        act = _ACTS.get(str(command.get("do")))
        if act is None:
            raise BenchError(f"“{str(command.get('do'))[:40]}” is nothing that can be done here.")
        try:
            return act(self, command)
        except (Danger, MeterRefusal) as refused:
            self.shown = None
            self.says = str(refused)
            raise BenchError(str(refused)) from None
        except Tripped as trip:
            self._tripped.add(trip.rcd)
            self.shown = None
            self.says = str(trip)
            raise BenchError(str(trip)) from None

    def state(self) -> dict[str, Any]:
        """Everything that the page draws."""
        home = self._site.home
        return {
            "name": self.name,
            "homes": [{"key": key, "name": name} for key, name in homes.called().items()],
            "function": self._function,
            "volts": self._volts,
            "functions": [{"key": choice.key, "label": choice.label, "unit": choice.units[0]} for choice in _CHOSEN],
            "leads": self._leads,
            "shown": None if self.shown is None else {"value": self.shown.value, "unit": self.shown.unit},
            "says": self.says,
            "main_on": self._site.main_on,
            "earth_parted": not self._site.earth_parallel,
            "unplugged": self._unplugged,
            "surge": None if home.surge is None else {"in": self._site.surge_in},
            "bonds": [bond.service for bond in home.bonds],
            "rcds": [
                {"name": name, "rated_ma": device.rated_ma, "tripped": name in self._tripped}
                for name, device in home.rcds.items()
            ],
            "circuits": [self._told(circuit) for circuit in home.circuits],
        }

    def _told(self, circuit: Circuit) -> dict[str, Any]:
        standard, type_, rating = circuit.device
        return {
            "name": circuit.name,
            "ring": circuit.is_ring,
            "device": f"{type_}{rating:g}",
            "standard": standard,
            "cable": f"{circuit.wiring.line_csa_mm2:g}/{circuit.wiring.cpc_csa_mm2:g}",
            "rcd": circuit.rcd,
            "points": [circuit.point_name(n) for n in range(len(circuit.wiring.walk))],
            "out": circuit.name in self._out,
            "off": circuit.name in self._off,
            "joined": self._joined.get(circuit.name),
        }

    # What a person does at the home

    def _go(self, command: Mapping[str, Any]) -> None:
        key = str(command.get("home"))
        if key not in homes.called():
            raise BenchError("There is no such home.")
        self._arrive(homes.load(key), homes.called()[key])
        self.says = f"At {self.name}."

    def _isolate(self, _: Mapping[str, Any]) -> None:
        self._site.isolate()
        self.says = "Main switch off and locked. Prove it dead."

    def _restore(self, _: Mapping[str, Any]) -> None:
        self._site.restore()
        self._out, self._off, self._joined, self._tripped = set(), set(), {}, set()
        self._unplugged = False
        self.says = "Everything back in its place and on."

    def _take_out(self, command: Mapping[str, Any]) -> None:
        name = self._circuit(command).name
        self._site.disconnect(name)
        self._out.add(name)

    def _put_in(self, command: Mapping[str, Any]) -> None:
        name = self._circuit(command).name
        self._release(command)
        self._site.reconnect(name)
        self._out.discard(name)

    def _join(self, command: Mapping[str, Any]) -> None:
        circuit, pair = self._circuit(command), command.get("pair")
        if pair not in _JOINS:
            raise BenchError("Line is joined with neutral, or with cpc.")
        if circuit.name not in self._out:
            raise BenchError(f"Take {circuit.name} out of its terminals before its ends are joined.")
        self._joined[circuit.name] = str(pair)
        self._clip()

    def _release(self, command: Mapping[str, Any]) -> None:
        self._joined.pop(self._circuit(command).name, None)
        self._clip()

    def _clip(self) -> None:
        """Clips as they are noted: the site knows them only all together."""
        self._site.release()
        for name, pair in self._joined.items():
            other = cast(Conductor, pair.removeprefix("line-"))
            ends = ("a", "b") if self._site.home.circuit(name).is_ring else ("a", "a")
            pairs = [(self._site.end(name, "line", ends[0]), self._site.end(name, other, ends[1]))]
            if ends[0] != ends[1]:
                pairs.append((self._site.end(name, "line", ends[1]), self._site.end(name, other, ends[0])))
            self._site.join(*pairs)

    def _switch(self, command: Mapping[str, Any]) -> None:
        name = self._circuit(command).name
        self._site.switch_off(name)
        self._off.add(name)

    def _unplug(self, _: Mapping[str, Any]) -> None:
        self._site.unplug_all()
        self._unplugged = True
        self.says = "Everything out of the sockets, switches off."

    def _part_earth(self, _: Mapping[str, Any]) -> None:
        self._site.part_earth()
        self.says = "The earthing conductor is off the earth bar."

    def _rejoin_earth(self, _: Mapping[str, Any]) -> None:
        self._site.rejoin_earth()
        self.says = "The earthing conductor is back."

    def _surge_out(self, _: Mapping[str, Any]) -> None:
        self._site.remove_surge_device()
        self.says = "The surge device's modules are out."

    def _replug(self, command: Mapping[str, Any]) -> None:
        circuit = self._circuit(command)
        self._site.work(circuit.name, _number(command.get("point"), len(circuit.wiring.walk)))
        self.says = "Re-plugged and its switch worked."

    def _reset(self, command: Mapping[str, Any]) -> None:
        name = self._rcd(command)
        self._site.reset(name)
        self._tripped.discard(name)

    def _button(self, command: Mapping[str, Any]) -> None:
        name = self._rcd(command)
        if self._site.home.rcds[name].button:
            self._site.trip(name)
            self._tripped.add(name)
            self.says = f"{name} tripped at its button."
        else:
            self.says = f"{name} did nothing at its button."

    # What a person does with the instrument

    def _choose(self, command: Mapping[str, Any]) -> None:
        to = str(command.get("to"))
        if to not in {choice.key for choice in _CHOSEN}:
            raise BenchError("The instrument has no such function.")
        self._volts = 250 if command.get("volts") == 250 else 500
        self._function, self._leads, self.shown = to, [], None
        self.says = FUNCTIONS[to].label.capitalize()

    def _null(self, command: Mapping[str, Any]) -> Shown:
        """Tips pressed together; what it shows is told, for whoever notes it."""
        value = self._meter.null(BAD_CONTACT_OHM if command.get("bad") else 0.0)
        self.says = f"Leads nulled at {value} Ω."
        self.shown = _now("null", value)
        return self.shown

    def _touch(self, command: Mapping[str, Any]) -> Shown | None:
        at = command.get("at")
        self._node(at)
        if self._function in _ONE_PLACE:
            self._leads = [cast(Terminal, at)]
            return self._measure(command)
        self._leads = [*self._leads, cast(Terminal, at)] if len(self._leads) == 1 else [cast(Terminal, at)]
        self.shown = None
        if len(self._leads) < 2:
            self.says = "Touch the other terminal."
            return None
        return self._measure(command)

    def _measure(self, _: Mapping[str, Any]) -> Shown:
        value = _MEASURES[self._function](self, [tuple(lead) for lead in self._leads])
        self._mark_tripped()
        self.shown = _now(self._function, value, self._volts if self._function == "insulation" else None)
        self.says = FUNCTIONS[self._function].label.capitalize()
        return self.shown

    def _mark_tripped(self) -> None:
        if self._function in ("rcd", "rcd-five") and self._leads:
            rcd = self._site.rcd_of(str(self._leads[0][1])) if self._leads[0][0] == "point" else None
            if rcd is not None and not self._site.is_live(str(self._leads[0][1])):
                self._tripped.add(rcd)

    def _continuity(self, leads: list[Any]) -> str:
        one, other = self._pair(leads)
        return self._meter.low_ohms(self._site, one, other)

    def _insulation(self, leads: list[Any]) -> str:
        one, other = self._pair(leads)
        return self._meter.insulation(self._site, one, other, self._volts)

    def _voltage(self, leads: list[Any]) -> str:
        one, other = self._pair(leads)
        return self._meter.voltage(self._site, one, other)

    def _loop(self, leads: list[Any]) -> str:
        kinds = {lead[0] for lead in leads}
        if kinds == {"origin"}:
            return self._meter.ze(self._site)
        if kinds == {"way", "earth bar"}:
            return self._meter.zdb(self._site, next(lead[1] for lead in leads if lead[0] == "way"))
        circuit, point = self._at_point(leads)
        return self._meter.zs(self._site, circuit, point)

    def _fault_current(self, leads: list[Any]) -> str:
        conductors = {lead[1] for lead in leads if lead[0] == "origin"}
        if "line" not in conductors or len(conductors) != 2:
            raise MeterRefusal("Fault current is measured at the origin, between line and neutral or line and earth.")
        return self._meter.fault_current_ka(self._site, next(iter(conductors - {"line"})))

    def _trip_time(self, leads: list[Any]) -> str:
        return self._meter.rcd_time(self._site, *self._at_point(leads), 5 if self._function == "rcd-five" else 1)

    def _leakage(self, leads: list[Any]) -> str:
        if leads[0][0] != "rcd":
            raise MeterRefusal("The clamp goes round line and neutral behind an RCD: touch one.")
        return self._meter.leakage(self._site, leads[0][1])

    def _varistor(self, leads: list[Any]) -> str:
        if leads[0][0] != "surge":
            raise MeterRefusal("Touch the surge device: its module is tested out of the board.")
        return self._meter.varistor(self._site)

    def _at_point(self, leads: list[Any]) -> tuple[str, int]:
        """The point whose line and cpc are touched."""
        places = {(lead[1], lead[3]) for lead in leads if lead[0] == "point"}
        if len(places) != 1 or {lead[2] for lead in leads if lead[0] == "point"} != {"line", "cpc"}:
            raise MeterRefusal("This test goes between line and earth of one point.")
        return cast(tuple[str, int], places.pop())

    # Terminals

    def _pair(self, leads: list[Any]) -> tuple[Node, Node]:
        if len(leads) != 2:
            raise MeterRefusal("Touch two terminals.")
        return self._node(leads[0]), self._node(leads[1])

    def _node(self, at: Any) -> Node:
        """The terminal of the site. Raises BenchError where there is none."""
        try:
            return self._node_at(list(at))
        except (TypeError, ValueError, KeyError, IndexError):
            raise BenchError("There is no such terminal.") from None

    def _node_at(self, at: list[Any]) -> Node:
        kind, *rest = at
        home = self._site.home
        if kind == "end":
            name, conductor, end = rest
            if conductor not in CONDUCTORS or end not in ("a", "b") or (end == "b" and not home.circuit(name).is_ring):
                raise KeyError(conductor)
            return self._site.end(home.circuit(name).name, conductor, end)
        if kind == "point":
            name, conductor, n = rest
            if conductor not in CONDUCTORS or not 0 <= int(n) < len(home.circuit(name).wiring.walk):
                raise KeyError(conductor)
            return self._site.contact(name, conductor, int(n))
        if kind == "way":
            return ("way", home.circuit(rest[0]).name)
        if kind == "origin":
            return ORIGIN[rest[0]]
        if kind in ("clamp", "pipe"):
            service = next(bond.service for bond in home.bonds if bond.service == rest[0])
            return self._site.clamp(service) if kind == "clamp" else self._site.pipe(service)
        if kind == "rcd":
            return ("rcd", rest[0]) if rest[0] in home.rcds else _none()
        return {"earth bar": EARTH_BAR, "surge": ("surge",)}[kind]

    def _circuit(self, command: Mapping[str, Any]) -> Circuit:
        try:
            return self._site.home.circuit(str(command.get("circuit")))
        except KeyError:
            raise BenchError("There is no such circuit.") from None

    def _rcd(self, command: Mapping[str, Any]) -> str:
        name = str(command.get("rcd"))
        if name not in self._site.home.rcds:
            raise BenchError("There is no such RCD.")
        return name


def _none() -> Node:
    raise KeyError


def _number(given: Any, below: int) -> int:
    if isinstance(given, bool) or not isinstance(given, int) or not 0 <= given < below:
        raise BenchError("There is no such point.")
    return given


def _now(function: str, value: str, volts: int | None = None) -> Shown:
    at = datetime.now(UTC).isoformat(timespec="milliseconds").replace("+00:00", "Z")
    return Shown(str(uuid.uuid4()), function, value, FUNCTIONS[function].units[0], at, volts)


_MEASURES: dict[str, Callable[[MeterBench, list[Any]], str]] = {
    "continuity": MeterBench._continuity,
    "insulation": MeterBench._insulation,
    "loop": MeterBench._loop,
    "fault-current": MeterBench._fault_current,
    "rcd": MeterBench._trip_time,
    "rcd-five": MeterBench._trip_time,
    "leakage": MeterBench._leakage,
    "varistor": MeterBench._varistor,
    "voltage": MeterBench._voltage,
}
_ACTS: dict[str, Callable[[MeterBench, Mapping[str, Any]], Shown | None]] = {
    "home": MeterBench._go,
    "isolate": MeterBench._isolate,
    "restore": MeterBench._restore,
    "out": MeterBench._take_out,
    "in": MeterBench._put_in,
    "join": MeterBench._join,
    "release": MeterBench._release,
    "off": MeterBench._switch,
    "unplug": MeterBench._unplug,
    "part earth": MeterBench._part_earth,
    "rejoin earth": MeterBench._rejoin_earth,
    "surge out": MeterBench._surge_out,
    "replug": MeterBench._replug,
    "reset": MeterBench._reset,
    "button": MeterBench._button,
    "function": MeterBench._choose,
    "null": MeterBench._null,
    "touch": MeterBench._touch,
    "measure": MeterBench._measure,
}
