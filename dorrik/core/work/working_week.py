"""Who makes visits, from where and when: an inspector's week, days off, and where keys are kept (rule 16.2)."""

from collections.abc import Iterable, Mapping
from datetime import date, timedelta
from typing import Any

from dorrik.core.basics.record import record
from dorrik.core.inspection import fields as f
from dorrik.core.work.access_windows import TIMES, WEEKDAYS, minute
from dorrik.core.work.visit_plan import MOST_VISITS, Inspector, Key, Place

#: A day without a lunch that anybody has to skip (minutes on the way and on site).
LONGEST_DAY_MIN = 480
#: The longest that a day off is read day by day.
_LONGEST_LEAVE = 400


@record(kw_only=True)
class WorkingWeek:
    """Somebody who makes visits: of the firm's own people, or somebody who can be asked for a day."""

    id: str
    name: str | None = f.text("Inspector", 120)
    person_id: str | None = f.identity("Account")
    by_request: bool | None = f.flag("Only by request")
    latitude: float | None = f.number("Latitude", "°", -90, 90)
    longitude: float | None = f.number("Longitude", "°", -180, 180)
    starts_at: str | None = f.choice("Leaves home", *TIMES)
    ends_at: str | None = f.choice("Home again by", *TIMES)
    most_visits: int | None = f.integer("Visits a day", 1, MOST_VISITS)
    most_minutes: int | None = f.integer("Longest day in minutes", 60, 720)
    not_monday: bool | None = f.flag("Not on Mondays")
    not_tuesday: bool | None = f.flag("Not on Tuesdays")
    not_wednesday: bool | None = f.flag("Not on Wednesdays")
    not_thursday: bool | None = f.flag("Not on Thursdays")
    not_friday: bool | None = f.flag("Not on Fridays")
    on_saturday: bool | None = f.flag("On Saturdays")
    removed: bool | None = f.flag("Removed")


@record(kw_only=True)
class DayOff:
    """Days on which somebody makes no visits."""

    id: str
    first_day: str | None = f.day("First day", ahead_days=3660)
    last_day: str | None = f.day("Last day", ahead_days=3660)
    reason: str | None = f.text("Reason", 120)
    removed: bool | None = f.flag("Removed")


@record(kw_only=True)
class KeyHolder:
    """Where keys are fetched and brought back, and when somebody is there."""

    id: str
    name: str | None = f.text("Key place", 120)
    address: str | None = f.text("Address", 300)
    phone: str | None = f.text("Phone", 40)
    latitude: float | None = f.number("Latitude", "°", -90, 90)
    longitude: float | None = f.number("Longitude", "°", -180, 180)
    opens_at: str | None = f.choice("Opens", *TIMES)
    closes_at: str | None = f.choice("Closes", *TIMES)
    removed: bool | None = f.flag("Removed")


def weekdays(week: Mapping[str, Any]) -> frozenset[int]:
    """The weekdays that somebody works, 0 for Monday."""
    usual = {at for at, name in enumerate(WEEKDAYS[:5]) if not week.get(f"not_{name.lower()}")}
    return frozenset(usual | ({5} if week.get("on_saturday") else set()))


def days_off(entries: Iterable[Mapping[str, Any]]) -> frozenset[date]:
    """Every day of the days off; one without a last day is a single day."""
    days: set[date] = set()
    for entry in entries:
        if not entry.get("first_day"):
            continue
        first = date.fromisoformat(entry["first_day"])
        last = date.fromisoformat(entry["last_day"]) if entry.get("last_day") else first
        days |= {first + timedelta(days=n) for n in range(min((last - first).days, _LONGEST_LEAVE) + 1)}
    return frozenset(days)


def inspector(week_id: str, week: Mapping[str, Any], off: Iterable[Mapping[str, Any]], home: Place) -> Inspector:
    """An inspector as the planner takes one; what the register does not say is as usual."""
    return Inspector(
        id=week_id,
        home=home,
        start_min=minute(week.get("starts_at"), 8 * 60.0),
        end_min=minute(week.get("ends_at"), 17 * 60.0),
        weekdays=weekdays(week),
        days_off=days_off(off),
        most_visits=week.get("most_visits") or MOST_VISITS,
        most_minutes=float(week.get("most_minutes") or LONGEST_DAY_MIN),
    )


def key(holder_id: str, holder: Mapping[str, Any], place: Place) -> Key:
    """A place of keys as the planner takes it."""
    hours = minute(holder.get("opens_at"), 0.0), minute(holder.get("closes_at"), 24 * 60.0)
    return Key(holder_id, place, *hours, many=True)
