"""Looking at a portfolio: which of its properties, in which order, and as cells of a map.

Works on any number of properties: 20,000 take part of a second, so that nothing is kept that could be out of date.
"""

from collections import Counter
from collections.abc import Iterable, Mapping, Sequence
from datetime import date
from typing import Literal, get_args

from dorrik.core.basics.record import record
from dorrik.core.work.portfolio import STATES, Holder, PortfolioLine, State

Order = Literal["urgency", "due", "address", "client"]
ORDERS: tuple[Order, ...] = get_args(Order)
#: A map has so many cells side by side, and so many on top of each other.
COLUMNS, ROWS = 24, 28


@record
class ViewedProperty:
    """A property of a portfolio with what it is looked for by."""

    id: str
    address: str
    client: str
    client_id: str
    reference: str
    nation: str
    latitude: float | None
    longitude: float | None
    due_on: date | None
    line: PortfolioLine


@record(kw_only=True)
class Filters:
    """What is looked for; empty for everything. states: any of a property's open things is one of these; late: a day
    has passed; text: words that address, client or reference hold, in any part of a word."""

    states: frozenset[State] = frozenset()
    holder: Holder | None = None
    nation: str = ""
    late: bool = False
    due_until: date | None = None
    text: str = ""


def passing(properties: Iterable[ViewedProperty], filters: Filters) -> list[ViewedProperty]:
    """The properties that all of the filters let through."""
    words = filters.text.casefold().split()
    return [one for one in properties if _passes(one, filters, words)]


def _passes(one: ViewedProperty, filters: Filters, words: Sequence[str]) -> bool:
    open_things = (one.line.first, *one.line.also)
    if filters.states and not any(standing.state in filters.states for standing in open_things):
        return False
    if filters.holder and not any(standing.holder == filters.holder for standing in open_things):
        return False
    if filters.late and not any(standing.late for standing in open_things):
        return False
    if filters.nation and one.nation != filters.nation:
        return False
    if filters.due_until is not None and (one.due_on is None or one.due_on > filters.due_until):
        return False
    if words:
        said = f"{one.address} {one.client} {one.reference}".casefold()
        return all(word in said for word in words)
    return True


def in_order(properties: Iterable[ViewedProperty], order: Order) -> list[ViewedProperty]:
    """Properties in an order; urgency: what is late first, then by state and its day."""
    keys = {
        "urgency": lambda one: (
            not one.line.first.late, STATES.index(one.line.first.state), one.line.first.on or date.max, one.address,
        ),
        "due": lambda one: (one.due_on or date.max, one.address),
        "address": lambda one: (one.address, one.id),
        "client": lambda one: (one.client, one.address),
    }  # fmt: skip
    return sorted(properties, key=keys[order])


def counts(properties: Iterable[ViewedProperty]) -> Mapping[State, int]:
    """How many properties stand in each state, by the most pressing thing."""
    found = Counter(one.line.first.state for one in properties)
    return {state: found[state] for state in STATES if found[state]}


@record
class Bounds:
    """A part of the map (degrees)."""

    south: float
    north: float
    west: float
    east: float


@record
class MapCell:
    """A cell of the map: the middle of what lies in it, how many properties, the most pressing state of them, whether
    one is late, and which property where it is a single one."""

    latitude: float
    longitude: float
    count: int
    state: State
    late: bool
    property_id: str


def bounds(properties: Iterable[ViewedProperty]) -> Bounds | None:
    """What holds all of the properties, with some room around; None where none has coordinates."""
    spots = [
        (one.latitude, one.longitude) for one in properties if one.latitude is not None and one.longitude is not None
    ]
    if not spots:
        return None
    north, south = max(spot[0] for spot in spots), min(spot[0] for spot in spots)
    east, west = max(spot[1] for spot in spots), min(spot[1] for spot in spots)
    room = max((north - south) * 0.06, (east - west) * 0.06, 0.002)
    return Bounds(south - room, north + room, west - room, east + room)


def cells(properties: Iterable[ViewedProperty], part: Bounds) -> list[MapCell]:
    """The properties in a part of the map, gathered in cells, so that any number can be drawn."""
    high, wide = max(part.north - part.south, 1e-9), max(part.east - part.west, 1e-9)
    gathered: dict[tuple[int, int], list[ViewedProperty]] = {}
    for one in properties:
        if one.latitude is None or one.longitude is None:
            continue
        if not (part.south <= one.latitude <= part.north and part.west <= one.longitude <= part.east):
            continue
        row = int((one.latitude - part.south) / high * ROWS)
        column = int((one.longitude - part.west) / wide * COLUMNS)
        gathered.setdefault((row, column), []).append(one)
    return [_cell(some) for some in gathered.values()]


def _cell(some: Sequence[ViewedProperty]) -> MapCell:
    worst = min(some, key=lambda one: (STATES.index(one.line.first.state), not one.line.first.late))
    return MapCell(
        latitude=sum(one.latitude or 0.0 for one in some) / len(some),
        longitude=sum(one.longitude or 0.0 for one in some) / len(some),
        count=len(some),
        state=worst.line.first.state,
        late=any(one.line.first.late for one in some),
        property_id=some[0].id if len(some) == 1 else "",
    )
