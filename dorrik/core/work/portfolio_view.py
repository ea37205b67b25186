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
    return [home for home in properties if _passes(home, filters, words)]


def _passes(home: ViewedProperty, filters: Filters, words: Sequence[str]) -> bool:
    open_things = (home.line.first, *home.line.also)
    if filters.states and not any(standing.state in filters.states for standing in open_things):
        return False
    if filters.holder and not any(standing.holder == filters.holder for standing in open_things):
        return False
    if filters.late and not any(standing.late for standing in open_things):
        return False
    if filters.nation and home.nation != filters.nation:
        return False
    if filters.due_until is not None and (home.due_on is None or home.due_on > filters.due_until):
        return False
    if words:
        searched = f"{home.address} {home.client} {home.reference}".casefold()
        return all(word in searched for word in words)
    return True


def in_order(properties: Iterable[ViewedProperty], order: Order) -> list[ViewedProperty]:
    """Properties in an order; urgency: what is late first, then by state and its day."""
    keys = {
        "urgency": lambda home: (
            not home.line.first.late, STATES.index(home.line.first.state), home.line.first.on or date.max, home.address,
        ),
        "due": lambda home: (home.due_on or date.max, home.address),
        "address": lambda home: (home.address, home.id),
        "client": lambda home: (home.client, home.address),
    }  # fmt: skip
    return sorted(properties, key=keys[order])


def counts(properties: Iterable[ViewedProperty]) -> Mapping[State, int]:
    """How many properties stand in each state, by the most pressing thing."""
    by_state = Counter(home.line.first.state for home in properties)
    return {state: by_state[state] for state in STATES if by_state[state]}


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
        (home.latitude, home.longitude)
        for home in properties
        if home.latitude is not None and home.longitude is not None
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
    for home in properties:
        if home.latitude is None or home.longitude is None:
            continue
        if not (part.south <= home.latitude <= part.north and part.west <= home.longitude <= part.east):
            continue
        row = int((home.latitude - part.south) / high * ROWS)
        column = int((home.longitude - part.west) / wide * COLUMNS)
        gathered.setdefault((row, column), []).append(home)
    return [_cell(some) for some in gathered.values()]


def _cell(some: Sequence[ViewedProperty]) -> MapCell:
    worst = min(some, key=lambda home: (STATES.index(home.line.first.state), not home.line.first.late))
    return MapCell(
        latitude=sum(home.latitude or 0.0 for home in some) / len(some),
        longitude=sum(home.longitude or 0.0 for home in some) / len(some),
        count=len(some),
        state=worst.line.first.state,
        late=any(home.line.first.late for home in some),
        property_id=some[0].id if len(some) == 1 else "",
    )
