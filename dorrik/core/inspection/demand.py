"""Assessed demand of a group of circuits by the usual allowances of one dwelling (rule 3.10; `data/diversity.csv`).

Guidance, no rule: an opinion beside what a clamp measures. It never leads to a code by itself.
"""

from collections.abc import Iterable, Sequence
from math import fsum

from dorrik.core.basics.record import record
from dorrik.core.book.reference import cached, number, rows
from dorrik.core.inspection.circuit import Circuit

_BY_APPLIANCE = {
    "cooker": "cooking appliance",
    "hob": "cooking appliance",
    "shower": "instantaneous water heater or shower",
    "immersion heater": "water heater with storage",
    "heater": "storage or floor heating",
    "heat pump": "heat pump",
}
_SOCKETS, _LIGHTING, _VEHICLE, _REST = (
    "sockets on standard circuits",
    "lighting",
    "vehicle charge point",
    "heating and power not elsewhere",
)
#: Loads of which the two largest count in full.
_TWO_IN_FULL = ("instantaneous water heater or shower",)


@record
class Allowance:
    """What of a kind of load counts: first_a at first_share (the largest circuit where None), the rest at
    rest_share."""

    first_a: float | None
    first_share: float
    rest_share: float
    extra_a: float


@cached
def allowances() -> dict[str, Allowance]:
    """Every allowance by its kind of load."""
    return {
        row["load"]: Allowance(
            number(row["first_a"]),
            float(row["first_share"]),
            float(row["rest_share"]),
            number(row["extra_a"]) or 0.0,
        )
        for row in rows("diversity")
    }


def kind_of(circuit: Circuit) -> str:
    """The kind of load of a circuit, by the name that the table has for it."""
    if circuit.load == "vehicle":
        return _VEHICLE
    if circuit.appliance in _BY_APPLIANCE:
        return _BY_APPLIANCE[circuit.appliance]
    if circuit.serves == "sockets":
        return _SOCKETS
    return _LIGHTING if circuit.serves == "lighting" else _REST


@record
class DemandShare:
    """What of a kind of load counts. load: its name in the table; connected_a: all of it; counted_a: of that."""

    load: str
    connected_a: float
    counted_a: float


def connected(circuit: Circuit) -> float | None:
    """The most that a circuit can draw (A): its design current, else the rating of its device; None for neither."""
    return circuit.design_current_a or circuit.device_rating_a


def shares(circuits: Iterable[Circuit], wanted: Iterable[tuple[str, float]] = ()) -> tuple[DemandShare, ...]:
    """What each kind of load counts for, in the table's order. wanted: loads and currents (A) that would be added.
    Circuits whose load is not known count nothing."""
    by_kind, extra = _by_kind(circuits)
    for kind, current in wanted:
        by_kind.setdefault(kind, []).append(current)
    shares_so_far = []
    for kind in allowances():
        if kind in by_kind:
            counted = _of_kind(kind, sorted(by_kind[kind], reverse=True)) + extra.get(kind, 0)
            shares_so_far.append(DemandShare(kind, fsum(by_kind[kind]), round(counted, 2)))
    return tuple(shares_so_far)


def _by_kind(circuits: Iterable[Circuit]) -> tuple[dict[str, list[float]], dict[str, float]]:
    """Connected loads by their kind, and what is added once for an outlet with a socket: the largest of them."""
    by_kind: dict[str, list[float]] = {}
    extra: dict[str, float] = {}
    for circuit in circuits:
        load, kind = connected(circuit), kind_of(circuit)
        if load is not None:
            by_kind.setdefault(kind, []).append(load)
            if circuit.outlet_with_socket:
                extra[kind] = max(extra.get(kind, 0.0), allowances()[kind].extra_a)
    once = max(extra, key=lambda kind: extra[kind], default=None)
    return by_kind, {} if once is None else {once: extra[once]}


def assess(circuits: Iterable[Circuit]) -> float | None:
    """Assessed demand (A) of some circuits; None where the load of one is not known at all.

    A circuit's load is its design current where that was entered, else the rating of its device, which is the most
    that it can draw.
    """
    every = list(circuits)
    if any(connected(circuit) is None for circuit in every):
        return None
    by_kind, extra = _by_kind(every)
    parts = [_of_kind(kind, sorted(loads, reverse=True)) for kind, loads in by_kind.items()]
    return fsum([*parts, *extra.values()])


def _of_kind(kind: str, loads: Sequence[float]) -> float:
    allowance = allowances()[kind]
    if allowance.first_a is None:
        full = 2 if kind in _TWO_IN_FULL else 1
        return fsum(loads[:full]) * allowance.first_share + fsum(loads[full:]) * allowance.rest_share
    total = fsum(loads)
    first = min(total, allowance.first_a)
    return first * allowance.first_share + (total - first) * allowance.rest_share
