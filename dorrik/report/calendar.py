"""A calendar (ICS, RFC 5545) of visits, legal dates and next inspections, for any calendar program."""

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from zoneinfo import ZoneInfo

from icalendar import Calendar, Event

PRODUCT = "-//Dorrik//calendar//EN"
#: Visits are at hours on the wall.
ZONE = ZoneInfo("Europe/London")


@dataclass(frozen=True, slots=True)
class CalendarEntry:
    """One entry. key: the same each time, so that a program knows it again; at: hour and minute, '' for the whole day;
    minutes: how long, 0 for the whole day; where: an address."""

    key: str
    title: str
    on: date
    at: str = ""
    minutes: float = 0
    where: str = ""
    words: str = ""


def write(name: str, entries: Iterable[CalendarEntry], made_at: datetime) -> bytes:
    """The calendar. name: whose it is; made_at: universal time."""
    calendar = Calendar()
    calendar.add("prodid", PRODUCT)
    calendar.add("version", "2.0")
    calendar.add("x-wr-calname", name)
    for entry in entries:
        calendar.add_component(_event(entry, made_at))
    return bytes(calendar.to_ical())


def _event(entry: CalendarEntry, made_at: datetime) -> Event:
    event = Event()
    event.add("uid", f"{entry.key}@dorrik")
    event.add("dtstamp", made_at.replace(tzinfo=ZoneInfo("UTC")))
    event.add("summary", entry.title)
    begins = _moment(entry)
    if begins is None:
        event.add("dtstart", entry.on)
        event.add("dtend", entry.on + timedelta(days=1))
    else:
        event.add("dtstart", begins)
        event.add("dtend", begins + timedelta(minutes=entry.minutes or 60))
    if entry.where:
        event.add("location", entry.where)
    if entry.words:
        event.add("description", entry.words)
    return event


def _moment(entry: CalendarEntry) -> datetime | None:
    hour, _, minute = entry.at.partition(":")
    if not (hour.isdecimal() and minute.isdecimal()):
        return None
    return datetime(entry.on.year, entry.on.month, entry.on.day, int(hour), int(minute), tzinfo=ZONE)


def read(content: bytes) -> list[CalendarEntry]:
    """The entries of a calendar that `write` made, with the same content. Raises ValueError for what is none."""
    entries = []
    for event in Calendar.from_ical(content).walk("VEVENT"):
        start, end = event.decoded("dtstart"), event.decoded("dtend")
        timed = isinstance(start, datetime)
        here = start.astimezone(ZONE) if timed else None
        entries.append(
            CalendarEntry(
                key=str(event["uid"]).removesuffix("@dorrik"),
                title=str(event["summary"]),
                on=here.date() if here is not None else start,
                at=f"{here:%H:%M}" if here is not None else "",
                minutes=(end - start).total_seconds() / 60 if timed else 0,
                where=str(event.get("location", "")),
                words=str(event.get("description", "")),
            )
        )
    return entries
