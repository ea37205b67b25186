"""How long visits really take, by those that were recorded: what an estimate is worth, and its spread (rule 16.1)."""

from collections.abc import Callable, Hashable, Iterable, Mapping
from datetime import datetime
from statistics import median, quantiles
from typing import TypeVar

from dorrik.core.basics.record import record

_K = TypeVar("_K", bound=Hashable)

#: A visit that is recorded as shorter or longer was not timed: somebody forgot to leave (minutes).
SHORTEST_MIN, LONGEST_MIN = 15.0, 16 * 60.0
#: So many visits of one kind weigh as much as all the others of the firm together.
WEIGHT = 4
#: How far an estimate spreads that no visit was held against: a quarter less, a quarter more.
UNKNOWN = 0.25


@record(kw_only=True)
class RecordedVisit:
    """A visit that was made: minutes as they were estimated and as they were, and whose and what it was."""

    estimated_min: float
    actual_min: float
    kind: str = ""
    client_id: str = ""
    inspector_id: str = ""


@record
class Factor:
    """Actual over estimated time: the middle of all, what a quarter is below and what a quarter is above; of how many
    visits."""

    middle: float
    low: float
    high: float
    visits: int


@record
class ExpectedLength:
    """How long a visit is expected to take (minutes), half of all between low and high; visits: of the firm's own that
    it rests on, 0 where it is the estimate alone."""

    minutes: float
    low: float
    high: float
    visits: int


#: Homes are of one kind by how many circuits they have: up to so many, and more than the last.
_SIZES = (6, 12, 20)


def kind_of(circuits: int) -> str:
    """Which kind of visit it is, by the size of the home."""
    if not circuits:
        return "size not known"
    smaller = 0
    for most in _SIZES:
        if circuits <= most:
            return f"{smaller + 1} to {most} circuits"
        smaller = most
    return f"more than {_SIZES[-1]} circuits"


def on_site_min(spans: Iterable[tuple[datetime, datetime]]) -> float:
    """How long anybody was there (minutes): arrived and left of each person; two at once count once."""
    total, until = 0.0, datetime.min
    for arrived, left in sorted(spans):
        begins = max(arrived, until)
        if left > begins:
            total += (left - begins).total_seconds() / 60
            until = left
    return total


def usable(visits: Iterable[RecordedVisit]) -> list[RecordedVisit]:
    """Those that were estimated and timed."""
    return [v for v in visits if v.estimated_min > 0 and SHORTEST_MIN <= v.actual_min <= LONGEST_MIN]


def factor(visits: Iterable[RecordedVisit]) -> Factor | None:
    """What the visits say of the firm's estimates; None without one that was timed."""
    quotients = [visit.actual_min / visit.estimated_min for visit in usable(visits)]
    if not quotients:
        return None
    low, _, high = quantiles(quotients, n=4, method="inclusive") if len(quotients) > 1 else (quotients[0],) * 3
    return Factor(median(quotients), low, high, len(quotients))


def factors(visits: Iterable[RecordedVisit], by: Callable[[RecordedVisit], _K]) -> Mapping[_K, Factor]:
    """The same apart by what they were: by kind, client or inspector."""
    groups: dict[_K, list[RecordedVisit]] = {}
    for visit in usable(visits):
        groups.setdefault(by(visit), []).append(visit)
    return {name: factor_of_group for name, group in groups.items() if (factor_of_group := factor(group)) is not None}


def expected(estimated_min: float, of_kind: Factor | None, of_firm: Factor | None) -> ExpectedLength:
    """How long a visit takes that is estimated so (minutes).

    What visits of its kind say counts the more, the more of them there are; the rest is what all of the firm's say.
    """
    if of_firm is None:
        low, high = estimated_min * (1 - UNKNOWN), estimated_min * (1 + UNKNOWN)
        return ExpectedLength(estimated_min, low, high, 0)
    share = of_kind.visits / (of_kind.visits + WEIGHT) if of_kind is not None else 0.0
    kind = of_kind or of_firm

    def at(one: float, other: float) -> float:
        return estimated_min * (share * one + (1 - share) * other)

    middle = at(kind.middle, of_firm.middle)
    # Few visits show little spread: they are no reason to trust an estimate more than one that nobody has tried.
    few = middle * UNKNOWN * WEIGHT / (WEIGHT + of_firm.visits)
    low, high = at(kind.low, of_firm.low), at(kind.high, of_firm.high)
    return ExpectedLength(middle, min(low, middle - few), max(high, middle + few), of_firm.visits)


#: Fewer visits say little of a middle.
_FEW = 5
#: Estimates that are so close need no change.
_CLOSE = 0.05


def in_words(factor: Factor) -> str:
    """What visits say of the estimates, in a sentence."""
    if factor.visits < _FEW:
        return f"{factor.visits} {'visit' if factor.visits == 1 else 'visits'}: too few to go by."
    percent = abs(factor.middle - 1) * 100
    if percent <= _CLOSE * 100:
        return "As estimated."
    return f"{percent:.0f}% {'longer' if factor.middle > 1 else 'shorter'} than estimated."
