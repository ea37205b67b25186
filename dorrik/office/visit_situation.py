"""What is to be planned now: open work as visits with their windows, keys and deadlines; who can make them; the plan as
it is kept (rule 16.2)."""

import re
from collections import Counter, defaultdict
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta
from typing import Any

from sqlalchemy import Connection

from dorrik.core.work import access_windows, working_week
from dorrik.core.work.coordinates import MapSpot, doubts, places
from dorrik.core.work.register import REPAIRS
from dorrik.core.work.short_address import short_address
from dorrik.core.work.visit_lengths import ExpectedLength
from dorrik.core.work.visit_plan import (
    DayRoute,
    Inspector,
    Left,
    Pin,
    Place,
    PlanProblem,
    Stop,
    Travel,
    VisitPlan,
    WantedVisit,
    Window,
)
from dorrik.office import recorded_visits
from dorrik.store.firm import house_rates
from dorrik.store.planning import open_work, visit_links, visits
from dorrik.store.planning.open_work import HeldInspection, JobToVisit
from dorrik.store.planning.visit_links import VisitLink
from dorrik.store.planning.visits import KeptVisit, PlanHead
from dorrik.store.register import register
from dorrik.store.register.register import RegisterRecord

#: How far ahead is planned (days), where the firm has settled nothing, and the most.
AHEAD, MOST_AHEAD = 120, 370
#: Visits begin, and last, by whole multiples of this: nobody tells an occupier 08:52.
GRID_MIN = 5.0
#: A return visit takes so long where nobody says otherwise (minutes).
RETURN_MIN = 90.0


@dataclass(frozen=True, slots=True)
class OpenVisit:
    """A visit that somebody has to make. inspection_id, reason: of a return visit; deadline: by law or as agreed;
    return_on: the day that was agreed for a return visit; booked: the occupier knows of it; asked: they can still
    take the time that it has in the plan; kept: its place in the plan."""

    id: str
    job: RegisterRecord
    home: RegisterRecord
    client_id: str
    client: str
    name: str
    inspection_id: str | None
    reason: str
    length: ExpectedLength
    deadline: date | None
    return_on: date | None
    booked: bool
    asked: bool
    kept: KeptVisit | None

    @property
    def pinned(self) -> bool:
        """Was its time set by hand, so that planning keeps it?"""
        return self.kept is not None and self.kept.pinned


@dataclass(frozen=True, slots=True)
class Situation:
    """Everything that a plan is made from. names: of visits, inspectors and key places by id; guests: who can be asked;
    today: visits of today, which planning leaves alone; old: the plan as it is kept; notes: what is missing or cannot
    be right, in words."""

    problem: PlanProblem
    old: VisitPlan
    head: PlanHead
    visits: Mapping[str, OpenVisit]
    names: Mapping[str, str]
    guests: tuple[Inspector, ...]
    today: tuple[OpenVisit, ...]
    notes: tuple[str, ...]


def visit_id(firm_id: str, job_id: str, inspection_id: str | None) -> str:
    """The id of a job's visit, or of the return visit of an inspection: the same whoever makes it."""
    return register.derived_id(firm_id, job_id, inspection_id, "visit")


def situation(connection: Connection, firm_id: str, today: date, *, lock: bool = False) -> Situation:
    """What is to be planned as of a day. lock: hold the plan until the transaction ends."""
    head = visits.head(connection, firm_id, lock=lock)
    first = today + timedelta(days=1)
    last = first + timedelta(days=min(int(head.settings.get("ahead_days", AHEAD)), MOST_AHEAD))
    gathered = _gather(connection, firm_id)
    weeks = register.entries(connection, firm_id, "working_week")
    holders = register.entries(connection, firm_id, "key_holder")
    spots = [
        *(
            MapSpot(open_visit.home.id, *_degrees(open_visit.home), str(open_visit.home.values.get("nation", "")))
            for open_visit in gathered
        ),
        *(MapSpot(week.id, *_degrees(week)) for week in (*weeks, *holders)),
    ]
    unique = list({spot.name: spot for spot in spots}.values())
    where = places(unique)
    inspectors, guests = _inspectors(connection, firm_id, weeks, where, head)
    windows = _windows(connection, firm_id, first, last)
    now_made = tuple(
        open_visit for open_visit in gathered if open_visit.kept is not None and open_visit.kept.day == today
    )
    ahead = [open_visit for open_visit in gathered if open_visit not in now_made]
    known = {holder.id for holder in holders}
    together = _together(ahead)
    wanted = tuple(
        _wanted(
            open_visit,
            where,
            windows.get(open_visit.home.id),
            first,
            known,
            open_visit.home.id if open_visit.home.id in together else "",
        )
        for open_visit in ahead
    )
    problem = PlanProblem(
        visits=wanted,
        inspectors=inspectors,
        first=first,
        last=last,
        keys=tuple(working_week.key(holder.id, holder.values, where[holder.id]) for holder in holders),
        travel=_travel(connection, firm_id, head),
        slack_days=int(head.settings.get("slack_days", 1)),
        grid_min=GRID_MIN,
    )
    names = {open_visit.id: open_visit.name for open_visit in gathered}
    names |= {week.id: str(week.values.get("name") or "Inspector") for week in weeks}
    names |= {holder.id: str(holder.values.get("name") or "the key place") for holder in holders}
    wrong = doubts(unique)
    return Situation(
        problem, _old(ahead, first, {inspector.id for inspector in inspectors}), head,
        {open_visit.id: open_visit for open_visit in gathered}, names, guests, now_made,
        tuple(_notes(gathered, weeks, wrong)),
    )  # fmt: skip


def _degrees(entry: RegisterRecord) -> tuple[float | None, float | None]:
    return entry.values.get("latitude"), entry.values.get("longitude")


def _gather(connection: Connection, firm_id: str) -> list[OpenVisit]:
    """Open work as visits: of each job its own, and a return visit for each of its inspections that waits."""
    jobs = open_work.jobs(connection, firm_id)
    begun = open_work.begun(connection, firm_id)
    held: dict[str, list[HeldInspection]] = defaultdict(list)
    for waiting in open_work.held(connection, firm_id):
        held[waiting.job_id].append(waiting)
    kept = visits.of_firm(connection, firm_id)
    links = visit_links.of_visits(connection, firm_id)
    rates, _, _ = house_rates.of(connection, firm_id)
    by_kind, of_firm = recorded_visits.factors(connection, firm_id, rates)
    open_visits: list[OpenVisit] = []
    for open_job in jobs:
        length = recorded_visits.expected(open_job.job, rates, by_kind, of_firm)
        if open_job.job.id not in begun:
            open_visits.append(_visit(firm_id, open_job, None, length, kept, links))
        for waiting in held[open_job.job.id]:
            minutes = ExpectedLength(RETURN_MIN, RETURN_MIN / 2, RETURN_MIN * 1.5, 0)
            open_visits.append(_visit(firm_id, open_job, waiting, minutes, kept, links))
    return open_visits


def _visit(
    firm_id: str, open_job: JobToVisit, waiting: HeldInspection | None, length: ExpectedLength,
    kept: Mapping[str, KeptVisit], links: Mapping[str, VisitLink],
) -> OpenVisit:  # fmt: skip
    job, home = open_job.job, open_job.home
    name = short_address(str(home.values.get("address") or ""))
    key = visit_id(firm_id, job.id, waiting.id if waiting else None)
    day = job.values.get("last_day") or (home.values.get("due_on") if job.values.get("work") != REPAIRS else None)
    return OpenVisit(
        id=key, job=job, home=home, client_id=open_job.client_id, client=open_job.client,
        name=f"return: {name}" if waiting else name, inspection_id=waiting.id if waiting else None,
        reason=waiting.reason if waiting else "", length=length,
        deadline=date.fromisoformat(day) if day and waiting is None else None,
        return_on=waiting.return_on if waiting else None,
        booked=waiting is None and job.values.get("state") == "booked" and bool(job.values.get("booked_on")),
        asked=_is_asked(links.get(key), kept.get(key)),
        kept=kept.get(key),
    )  # fmt: skip


def _is_asked(link: VisitLink | None, kept: KeptVisit | None) -> bool:
    """Does somebody decide just now whether to take the time that a visit has in the plan?"""
    if link is None or not link.open or kept is None or kept.day is None:
        return False
    here = (kept.inspector_id, kept.day.isoformat(), kept.begins_min)
    return any((time["inspector_id"], time["day"], time["begins"]) == here for time in link.times)


def _together(ahead: Sequence[OpenVisit]) -> frozenset[str]:
    """Properties whose two jobs are made on one day; what is booked or was put somewhere by hand stays by itself."""
    free = Counter(
        open_visit.home.id
        for open_visit in ahead
        if open_visit.inspection_id is None and not open_visit.booked and not open_visit.pinned
    )
    all_of_it = Counter(open_visit.home.id for open_visit in ahead)
    return frozenset(home for home, count in free.items() if count == 2 == all_of_it[home])


def _wanted(
    open_visit: OpenVisit, where: Mapping[str, Place], windows: tuple[Window, ...] | None, first: date, known: set[str],
    together: str,
) -> WantedVisit:  # fmt: skip
    minutes = _rounded(open_visit.length.minutes)
    pin, last_day = None, open_visit.deadline
    kept = open_visit.kept
    booked_on = _booked_on(open_visit)
    # While an occupier decides, the time that was proposed is not given away.
    stays = kept is not None and (kept.pinned or open_visit.asked)
    if kept is not None and stays and kept.inspector_id and kept.day and kept.day >= first:
        pin = Pin(kept.inspector_id, kept.day, kept.begins_min)
        minutes = kept.minutes or minutes
    if booked_on is not None and booked_on >= first:
        # What was agreed with the occupier is when somebody can let in.
        begins = access_windows.minute(open_visit.job.values.get("booked_at"), -1.0) if _has_time(open_visit) else -1.0
        with_whom = open_visit.job.values.get("booked_with")
        if with_whom and begins >= 0:
            pin, windows = Pin(str(with_whom), booked_on, begins), None
        else:
            span = (begins, begins + minutes) if begins >= 0 else (0.0, 24 * 60.0)
            windows = (Window(booked_on, *span),)
        last_day = None if last_day is not None and booked_on > last_day else last_day
    elif open_visit.return_on is not None and open_visit.return_on >= first:
        whole = (Window(open_visit.return_on, 0.0, 24 * 60.0),)
        windows = (
            whole if windows is None else tuple(window for window in windows if window.day == open_visit.return_on)
        )
    holder = str(open_visit.home.values.get("key_holder_id") or "")
    return WantedVisit(
        id=open_visit.id, minutes=minutes, place=where[open_visit.home.id], windows=windows, last_day=last_day,
        key=holder if holder in known else "", together=together, pin=pin,
    )  # fmt: skip


_TIME = re.compile(r"([01]?\d|2[0-3]):[0-5]\d")


def _has_time(open_visit: OpenVisit) -> bool:
    """Is the hour of the visit one that a clock shows? It is a field for words."""
    return _TIME.fullmatch(str(open_visit.job.values.get("booked_at") or "").strip()) is not None


def _booked_on(open_visit: OpenVisit) -> date | None:
    return date.fromisoformat(open_visit.job.values["booked_on"]) if open_visit.booked else None


def _rounded(minutes: float) -> float:
    return max(GRID_MIN, GRID_MIN * round(minutes / GRID_MIN))


def _inspectors(
    connection: Connection, firm_id: str, weeks: Sequence[RegisterRecord], where: Mapping[str, Place], head: PlanHead
) -> tuple[tuple[Inspector, ...], tuple[Inspector, ...]]:
    """Who makes visits, and who can be asked. Days that somebody was asked for, and days that begin earlier, stand in
    the plan's settings."""
    own, guests = [], []
    for week in weeks:
        off = [entry.values for entry in register.entries(connection, firm_id, "day_off", week.id)]
        made = working_week.inspector(week.id, week.values, off, where[week.id])
        earlier = tuple(
            (date.fromisoformat(day), float(minutes))
            for day, minutes in head.settings.get("earlier", {}).get(week.id, {}).items()
        )
        asked = frozenset(date.fromisoformat(day) for day in head.settings.get("asked", {}).get(week.id, ()))
        if week.values.get("by_request"):
            guests.append(made)
            if asked:
                own.append(replace(made, weekdays=frozenset(), extra_days=asked, earlier=earlier))
        else:
            own.append(replace(made, earlier=earlier))
    return tuple(own), tuple(guests)


def _windows(connection: Connection, firm_id: str, first: date, last: date) -> dict[str, tuple[Window, ...]]:
    """When each property that says so can be entered, by its id."""
    windows: dict[str, list[Mapping[str, Any]]] = defaultdict(list)
    for entry in register.entries(connection, firm_id, "access_window"):
        windows[entry.parent_id].append(entry.values)
    days = [first + timedelta(days=number) for number in range((last - first).days + 1)]
    return {home: access_windows.windows(entries, days) or () for home, entries in windows.items()}


def _travel(connection: Connection, firm_id: str, head: PlanHead) -> Travel:
    usual = Travel()
    return Travel(
        speed_kmh=float(head.settings.get("speed_kmh", usual.speed_kmh)),
        detour=float(head.settings.get("detour", usual.detour)),
        table=visits.travel_table(connection, firm_id),
    )


def _old(ahead: Sequence[OpenVisit], first: date, inspectors: set[str]) -> VisitPlan:
    """The plan as it is kept, from the first day on; a place with nobody, or on a day that is gone, is none."""
    days: dict[tuple[str, date], list[Stop]] = defaultdict(list)
    left = []
    for open_visit in ahead:
        kept = open_visit.kept
        if kept is None or kept.day is None or kept.inspector_id is None or kept.begins_min is None:
            if kept is not None and kept.why:
                left.append(Left(open_visit.id, kept.why))
        elif kept.day >= first and kept.inspector_id in inspectors:
            ends = kept.begins_min + (kept.minutes or open_visit.length.minutes)
            days[kept.inspector_id, kept.day].append(Stop("visit", open_visit.id, kept.begins_min, ends))
    routes = []
    for (who, day), stops in sorted(days.items(), key=lambda item: (item[0][1], item[0][0])):
        stops.sort(key=lambda stop: stop.begins)
        routes.append(DayRoute(who, day, stops[0].begins, tuple(stops), stops[-1].ends))
    return VisitPlan(tuple(routes), tuple(left))


def _notes(gathered: Sequence[OpenVisit], weeks: Sequence[RegisterRecord], wrong: Mapping[str, str]) -> Iterator[str]:
    """What planning misses or does not believe."""
    if not [week for week in weeks if not week.values.get("by_request")]:
        yield "No inspector has a working week yet. Add one first: nobody can be planned without it."
    for week in weeks:
        name = week.values.get("name") or "Inspector"
        if week.id in wrong:
            yield f"{name}: {wrong[week.id]} The way from home counts as not known."
        elif week.values.get("latitude") is None:
            yield f"{name} has no coordinates: the way from home counts as 30 min."
    homes = {visit.home.id: visit for visit in gathered}
    unplaced = sum(home.home.values.get("latitude") is None for home in homes.values())
    if unplaced:
        count = "1 property has" if unplaced == 1 else f"{unplaced} properties have"
        yield f"{count} no coordinates: the way there counts as 30 min."
    for home_id, open_visit in homes.items():
        if home_id in wrong:
            yield f"{open_visit.name}: {wrong[home_id]} The way there counts as not known."
