"""When somebody can let in: the times that a property's register names, as windows of days (rule 16.2)."""

from collections.abc import Iterable, Iterator, Mapping
from datetime import date
from typing import Any

from dorrik.core.basics.record import record
from dorrik.core.inspection import fields as f
from dorrik.core.work.visit_plan import Window

WEEKDAYS = ("Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday")
#: Times as they can be chosen: every half hour of a day on which anybody is let in.
TIMES = tuple(f"{minute // 60:02d}:{minute % 60:02d}" for minute in range(6 * 60, 22 * 60 + 1, 30))
POSSIBLE, NOT_POSSIBLE = ("possible", "not possible")
_DAY_MIN = 24 * 60.0


@record(kw_only=True)
class AccessWindow:
    """A time in which a property can, or cannot, be entered: every week on a weekday, or on the days from one to
    another. What is empty holds for all: no weekday for every day, no time for the whole day."""

    id: str
    access: str | None = f.choice("Access", POSSIBLE, NOT_POSSIBLE)
    weekday: str | None = f.choice("Weekday", *WEEKDAYS)
    from_time: str | None = f.choice("From", *TIMES)
    until_time: str | None = f.choice("Until", *TIMES)
    first_day: str | None = f.day("First day", ahead_days=3660)
    last_day: str | None = f.day("Last day", ahead_days=3660)
    removed: bool | None = f.flag("Removed")


def minute(time: str | None, otherwise: float) -> float:
    """Minutes since midnight of a time of the day such as `08:30`; `otherwise` where there is none."""
    if not time:
        return otherwise
    hours, _, minutes = time.partition(":")
    return int(hours) * 60.0 + int(minutes or 0)


def windows(entries: Iterable[Mapping[str, Any]], days: Iterable[date]) -> tuple[Window, ...] | None:
    """The windows on those days, by what the register says; None where it says nothing, so that any time will do.

    entries: values of access windows. An empty tuple says that nobody can be let in on any of the days.
    """
    entered = list(entries)
    if not entered:
        return None
    can = [entry for entry in entered if entry.get("access", POSSIBLE) == POSSIBLE]
    cannot = [entry for entry in entered if entry.get("access") == NOT_POSSIBLE]
    windows_left: list[Window] = []
    for day in days:
        free = [(0.0, _DAY_MIN)] if not can else list(_joined(_span(entry) for entry in can if _holds(entry, day)))
        for entry in cannot:
            if _holds(entry, day):
                free = [part for span in free for part in _without(span, _span(entry))]
        windows_left += [Window(day, begin, end) for begin, end in free if end > begin]
    return tuple(windows_left)


def _holds(entry: Mapping[str, Any], day: date) -> bool:
    if entry.get("weekday") and WEEKDAYS[day.weekday()] != entry["weekday"]:
        return False
    return (entry.get("first_day") or "") <= day.isoformat() <= (entry.get("last_day") or "9999")


def _span(entry: Mapping[str, Any]) -> tuple[float, float]:
    return minute(entry.get("from_time"), 0.0), minute(entry.get("until_time"), _DAY_MIN)


def _joined(spans: Iterable[tuple[float, float]]) -> Iterator[tuple[float, float]]:
    """Spans that touch or overlap are one: a visit may go on from one into the other."""
    begin = end = -1.0
    for first, last in sorted(spans):
        if last <= first:
            continue
        if first > end:
            if end > begin:
                yield begin, end
            begin, end = first, last
        else:
            end = max(end, last)
    if end > begin:
        yield begin, end


def _without(span: tuple[float, float], taken: tuple[float, float]) -> Iterator[tuple[float, float]]:
    if taken[1] <= taken[0] or taken[1] <= span[0] or taken[0] >= span[1]:
        yield span
        return
    if taken[0] > span[0]:
        yield span[0], taken[0]
    if taken[1] < span[1]:
        yield taken[1], span[1]
