"""Homes from a small readable description (TOML), and back to the objects they are built of.

    name = "3 Lookout Row"
    earthing = "TN-C-S"
    rcds = { A = { rated_ma = 30 } }
    bonds = [{ service = "water", csa_mm2 = 10, length_m = 8 }]

    [[circuit]]
    name = "Sockets"
    cable = "2.5/1.5"
    ring_m = [8, 4, 5, 6, 7]           # board to first point, from point to point, back to the board
    device = "BS EN 60898 B 32"
    rcd = "A"
    spurs = [{ at = 2, length_m = 6 }]
    faults = [{ kind = "open", conductor = "cpc", segment = 3 }]

Radials have `line_m` instead of `ring_m`. Everything left out is as in a sound home.
"""

import tomllib
from collections.abc import Callable, Mapping
from dataclasses import fields
from typing import Any

from dorrik.practice.home import Bond, Circuit, Home, Leak, Link, Load, Rcd, Supply, Surge
from dorrik.practice.radial_circuit import RadialCircuit
from dorrik.practice.ring_circuit import (
    Break,
    DirtyContact,
    Fault,
    LooseJoint,
    MissingCpc,
    ParallelEarth,
    Reversed,
    RingCircuit,
    Spur,
)


class DescriptionError(ValueError):
    """The description cannot be built; the message says where and why."""


#: Wiring faults by the word that a description has for them.
FAULTS: Mapping[str, Callable[..., Fault]] = {
    "open": Break,
    "loose": LooseJoint,
    "dirty": DirtyContact,
    "no-cpc": MissingCpc,
    "parallel-earth": ParallelEarth,
    "reversed": Reversed,
}
_SUPPLY = {f.name for f in fields(Supply)}
_HOME = {"name", "tails_mm2", "earthing_mm2", "service_fuse_a"}
_CIRCUIT = {"serves", "rcd", "method", "leakage_ma"}


def home(description: str) -> Home:
    """Build a home from its description. Raises DescriptionError for what cannot be read or is not known."""
    try:
        given = tomllib.loads(description)
    except tomllib.TOMLDecodeError as error:
        raise DescriptionError(f"The description is not TOML: {error}.") from None
    known = _SUPPLY | _HOME | {"rcds", "bonds", "surge", "circuit", "links", "exchanged"}
    for name in given:
        if name not in known:
            raise DescriptionError(f"{name!r} is not a part of a home.")
    exchanged = given.get("exchanged")
    circuits = tuple(_circuit(one, f"circuit {i}") for i, one in enumerate(given.get("circuit", ()), 1))
    names = [circuit.name for circuit in circuits]
    if len(set(names)) < len(names):
        raise DescriptionError("Two circuits have the same name.")
    built = Home(
        supply=Supply(**{k: v for k, v in given.items() if k in _SUPPLY}),
        circuits=circuits,
        rcds={name: _made(Rcd, one, f"RCD {name}") for name, one in given.get("rcds", {}).items()},
        bonds=tuple(_made(Bond, bond, "bond") for bond in given.get("bonds", ())),
        surge=_made(Surge, given["surge"], "surge device") if "surge" in given else None,
        links=tuple(_link(link) for link in given.get("links", ())),
        exchanged=(exchanged[0], exchanged[1]) if exchanged else None,
        **{k: v for k, v in given.items() if k in _HOME},
    )
    for circuit in circuits:
        if circuit.rcd is not None and circuit.rcd not in built.rcds:
            raise DescriptionError(f"{circuit.name} stands behind {circuit.rcd!r}, which is not among the RCDs.")
    for name in (*(exchanged or ()), *(end[0] for link in built.links for end in (link.one, link.other))):
        if name not in names:
            raise DescriptionError(f"There is no circuit {name!r}.")
    return built


def _circuit(given: Mapping[str, Any], where: str) -> Circuit:
    name = given.get("name", where)
    if ("ring_m" in given) == ("line_m" in given):
        raise DescriptionError(f"{name}: either ring_m or line_m gives its lengths.")
    try:
        line, cpc = (float(part) for part in given.get("cable", "2.5/1.5").split("/"))
    except ValueError:
        raise DescriptionError(f"{name}: the cable is written as 2.5/1.5.") from None
    faults = tuple(_fault(fault, name) for fault in given.get("faults", ()))
    wiring: RingCircuit | RadialCircuit
    if "ring_m" in given:
        spurs = tuple(_made(Spur, spur, f"{name}, spur") for spur in given.get("spurs", ()))
        wiring = RingCircuit(tuple(map(float, given["ring_m"])), line, cpc, spurs, faults)
    else:
        wiring = RadialCircuit(tuple(map(float, given["line_m"])), line, cpc, faults)
    device = str(given.get("device", "BS EN 60898 B 32")).rsplit(" ", 2)
    if len(device) != 3:
        raise DescriptionError(f"{name}: the device is written as BS EN 60898 B 32.")
    more = {k: v for k, v in given.items() if k in _CIRCUIT}
    known = _CIRCUIT | {"name", "cable", "ring_m", "line_m", "spurs", "faults", "device", "loads", "leaks", "points"}
    for part in given:
        if part not in known:
            raise DescriptionError(f"{name}: {part!r} is not a part of a circuit.")
    if "rcd" in more and more["rcd"] == "":
        more["rcd"] = None
    return Circuit(
        name=name,
        wiring=wiring,
        device=(device[0], device[1], float(device[2])),
        loads=tuple(_made(Load, load, f"{name}, load") for load in given.get("loads", ())),
        leaks=tuple(_made(Leak, leak, f"{name}, leak") for leak in given.get("leaks", ())),
        points=tuple(given.get("points", ())),
        **more,
    )


def _fault(given: Mapping[str, Any], name: str) -> Fault:
    kind = str(given.get("kind"))
    if kind not in FAULTS:
        raise DescriptionError(f"{name}: {kind!r} is not a fault known here ({', '.join(FAULTS)}).")
    made: Fault = _made(FAULTS[kind], {k: v for k, v in given.items() if k != "kind"}, f"{name}, {kind}")
    return made


def _link(given: Mapping[str, Any]) -> Link:
    try:
        (one, at), (other, there) = given["one"], given["other"]
    except (KeyError, ValueError, TypeError):
        raise DescriptionError('A link names both ends: one = ["Sockets", 2], other = ["Lights", 0].') from None
    return Link((one, at), (other, there), tuple(given.get("conductors", ("line", "neutral", "cpc"))))


def _made(what: Callable[..., Any], given: Mapping[str, Any], where: str) -> Any:
    try:
        return what(**given)
    except TypeError as error:
        raise DescriptionError(f"{where}: {str(error).rpartition('() ')[2]}.") from None
