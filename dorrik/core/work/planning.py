"""Planning: how long an inspection takes, what it costs, and spreading a portfolio over days (rules 16.1 and 16.2)."""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import fields, replace
from datetime import date, timedelta
from math import hypot
from statistics import median

from dorrik.core.basics.record import record


@record
class Size:
    """What there is to do: numbers of boards, circuits by kind, points to open and to test."""

    boards: int = 1
    rings: int = 0
    radials: int = 0
    points_opened: int = 0
    points_tested: int = 0


@record
class Rates:
    """House rates in minutes; a firm calibrates them by its recorded visits."""

    arrival: float = 20.0
    intake: float = 20.0
    board: float = 25.0
    ring: float = 14.0
    radial: float = 7.0
    point_opened: float = 4.0
    point_tested: float = 1.5
    writing: float = 30.0


_DEFAULTS = Rates()


def parts_min(size: Size, rates: Rates = _DEFAULTS) -> dict[str, float]:
    """The estimate part by part, in minutes, in the order of the work."""
    return {
        "arrival": rates.arrival,
        "intake": rates.intake,
        "boards": rates.board * size.boards,
        "rings": rates.ring * size.rings,
        "radials": rates.radial * size.radials,
        "points opened": rates.point_opened * size.points_opened,
        "points tested": rates.point_tested * size.points_tested,
        "writing": rates.writing,
    }


def estimate_min(size: Size, rates: Rates = _DEFAULTS) -> float:
    """Time for an inspection (minutes)."""
    return sum(parts_min(size, rates).values())


def on_site_min(size: Size, rates: Rates = _DEFAULTS) -> float:
    """Time at the home alone (minutes): the report is written elsewhere."""
    return estimate_min(size, rates) - rates.writing


def calibrated(rates: Rates, visits: Iterable[Mapping[str, tuple[float, float]]]) -> Rates:
    """Rates multiplied, kind by kind, by the median of actual over estimated time of recorded visits.

    visits: for each visit, by name of a rate, the estimated and the actual minutes. Kinds without a visit stay.
    """
    quotients: dict[str, list[float]] = {}
    for visit in visits:
        for kind, (estimated, actual) in visit.items():
            if estimated > 0:
                quotients.setdefault(kind, []).append(actual / estimated)
    known = {field.name for field in fields(Rates)}
    changed = {
        kind: getattr(rates, kind) * median(kind_quotients)
        for kind, kind_quotients in quotients.items()
        if kind in known
    }
    return replace(rates, **changed)


@record
class Prices:
    """House prices in one currency; circuits_included are covered by the base. A firm puts its own in their place."""

    base: float = 140.0
    circuit: float = 9.0
    circuits_included: int = 8
    travel_per_km: float = 0.6
    return_visit: float = 65.0


@record
class PricePart:
    """One part of a price: what for, how much, and how it comes about."""

    name: str
    value: float
    how: str


def price_parts(size: Size, prices: Prices, travel_km: float = 0.0, return_visits: int = 0) -> tuple[PricePart, ...]:
    """Base, each circuit above those included, travel and return visits; parts that cost nothing are left out."""
    circuits = size.rings + size.radials
    above = max(0, circuits - prices.circuits_included)
    parts = (
        PricePart("base", prices.base, f"up to {prices.circuits_included} circuits"),
        PricePart("further circuits", prices.circuit * above, f"{above} × {prices.circuit:g}"),
        PricePart("travel", prices.travel_per_km * travel_km, f"{travel_km:g} km × {prices.travel_per_km:g}"),
        PricePart("return visits", prices.return_visit * return_visits, f"{return_visits} × {prices.return_visit:g}"),
    )
    return tuple(part for part in parts if part.value or part.name == "base")


def price(size: Size, prices: Prices, travel_km: float = 0.0, return_visits: int = 0) -> float:
    """The whole price (rule 16.1)."""
    return sum(part.value for part in price_parts(size, prices, travel_km, return_visits))


@record
class PlannedVisit:
    """A home to be visited: minutes it takes, where it is (km east and north of anywhere), days on which it can be
    entered (None for any)."""

    name: str
    minutes: float
    east_km: float = 0.0
    north_km: float = 0.0
    days: frozenset[date] | None = None


@record
class Day:
    """One inspector's day: its visits in order and their minutes."""

    day: date
    inspector: str
    visits: tuple[PlannedVisit, ...]
    minutes: float


@record
class Spread:
    """Days in order, and the visits that do not fit before the deadline."""

    days: tuple[Day, ...]
    left_over: tuple[PlannedVisit, ...]


#: Three thorough visits in a day is not honest.
MOST_VISITS = 2


def spread(
    visits: Sequence[PlannedVisit], inspectors: Sequence[str], first: date, deadline: date, minutes_a_day: float = 450.0
) -> Spread:
    """Spread visits over working days up to a slack day before the deadline (rule 16.2).

    Homes with the fewest days of access go first, then the longest; a day is filled with neighbours, without overtime
    and with at most MOST_VISITS. What cannot fit is named, so that it is said early.
    """
    last = deadline - timedelta(days=1)
    open_days = [first + timedelta(days=n) for n in range((last - first).days)] if last > first else []
    slots = [(day, who) for day in open_days if day.weekday() < 5 for who in inspectors]
    left = sorted(visits, key=lambda v: (len(v.days) if v.days is not None else 10**6, -v.minutes, v.name))
    planned = []
    for day, who in slots:
        chosen: list[PlannedVisit] = []
        spent = 0.0
        while len(chosen) < MOST_VISITS:
            fits = [v for v in left if (v.days is None or day in v.days) and spent + v.minutes <= minutes_a_day]
            if not fits:
                break
            best = fits[0] if not chosen else min(fits, key=lambda v: _apart_km(chosen[-1], v))
            chosen.append(best)
            left.remove(best)
            spent += best.minutes
        if chosen:
            planned.append(Day(day, who, tuple(chosen), spent))
    return Spread(tuple(planned), tuple(left))


def _apart_km(visit: PlannedVisit, other: PlannedVisit) -> float:
    return hypot(visit.east_km - other.east_km, visit.north_km - other.north_km)
