"""The plan as it goes over the wire: a week drawn out, every visit with its place or why it has none."""

from collections.abc import Iterable, Mapping
from datetime import date, timedelta
from itertools import pairwise
from typing import Any

from dorrik.api.planner_types import (
    MovedOut,
    PlanChangedOut,
    PlanDayOut,
    PlanInspectorOut,
    PlannerOut,
    PlanRunOut,
    PlanSettings,
    PlanStopOut,
    PlanVisitOut,
)
from dorrik.core.work.plan_reasons import reasons
from dorrik.core.work.visit_plan import DayRoute, Inspector, Place, WantedVisit, works_on
from dorrik.office.kept_plan import KeptPlan, PlanChange, short
from dorrik.office.visit_situation import OpenVisit, Situation
from dorrik.planner.replan import Moment, moments
from dorrik.store.planning.plan_runs import PlanRun


def planner_out(
    here: Situation, kept: KeptPlan, monday: date, today: date, run: PlanRun | None, asked: Mapping[str, str]
) -> PlannerOut:
    """The whole plan, and the week that begins on a Monday."""
    days = [monday + timedelta(days=number) for number in range(7)]
    shown = {visit for route in kept.plan.routes if route.day in days for visit in route.visits}
    left = {left.visit_id: left.why for left in kept.plan.left}
    places = moments(kept.plan)
    wanted = {visit.id: visit for visit in here.problem.visits}
    settings = {name: value for name, value in here.head.settings.items() if name in PlanSettings.model_fields}
    return PlannerOut(
        version=here.head.version,
        planned_at=here.head.planned_at,
        planned_s=here.head.planned_s,
        monday=monday,
        earliest=here.problem.first,
        last=here.problem.last,
        today=today,
        inspectors=[_inspector(here, kept, inspector, days, today) for inspector in here.problem.inspectors],
        visits=[
            _visit(
                here,
                kept,
                visit,
                wanted.get(visit.id),
                places,
                left.get(visit.id),
                visit.id in shown,
                asked.get(visit.id),
            )
            for visit in here.visits.values()
        ],
        by_hand=sum(visit.pin is not None and not here.visits[visit.id].booked for visit in here.problem.visits),
        left=len(left),
        moved=[_moved_plain(moved, here.names) for moved in here.head.moved],
        notes=list(here.notes),
        run=PlanRunOut.model_validate(run, from_attributes=True) if run is not None else None,
        settings=PlanSettings(**settings),
        has_travel_table=here.problem.travel.table is not None,
    )


def _inspector(
    here: Situation, kept: KeptPlan, inspector: Inspector, days: list[date], today: date
) -> PlanInspectorOut:
    routes = {route.day: route for route in kept.plan.routes if route.inspector == inspector.id}
    drawn = [_day(here, kept, inspector, day, routes.get(day), today) for day in days]
    # A weekend that nobody works is not drawn.
    shown = [
        drawn_day for drawn_day in drawn if drawn_day.stops or drawn_day.day.weekday() < 5 or drawn_day.off is None
    ]
    return PlanInspectorOut(
        id=inspector.id, name=here.names[inspector.id], starts=inspector.start_min, ends=inspector.end_min,
        most_visits=inspector.most_visits, worked=sum(any(s.task == "visit" for s in day.stops) for day in shown),
        of=sum(day.off is None for day in shown), east_km=inspector.home.east_km, north_km=inspector.home.north_km,
        days=shown,
    )  # fmt: skip


def _day(
    here: Situation, kept: KeptPlan, inspector: Inspector, day: date, route: DayRoute | None, today: date
) -> PlanDayOut:
    off = None if works_on(inspector, day) else ("day off" if day in inspector.days_off else "not a working day")
    if route is not None:
        return _timed_day(here, inspector, route, off)
    # What no longer fits together, and today: as they are kept, without the ways.
    stops = [
        _bare(open_visit, here, kept.broken.get(open_visit.id))
        for open_visit in (*here.today, *here.visits.values())
        if open_visit.kept is not None and (open_visit.kept.inspector_id, open_visit.kept.day) == (inspector.id, day)
        and (day == today or open_visit.id in kept.broken)
    ]  # fmt: skip
    unique = list({stop.id: stop for stop in stops}.values())
    return PlanDayOut(
        day=day, off=off, leaves=None, back=None, km=0.0, stops=sorted(unique, key=lambda stop: stop.begins)
    )


def _timed_day(here: Situation, inspector: Inspector, route: DayRoute, off: str | None) -> PlanDayOut:
    visits = {visit.id: visit for visit in here.problem.visits}
    keys = {key.id: key for key in here.problem.keys}
    travel = here.problem.travel
    at: Place = inspector.home
    stops = []
    for stop in route.stops:
        place = visits[stop.id].place if stop.task == "visit" else keys[stop.id].place
        open_visit = here.visits.get(stop.id)
        stops.append(
            PlanStopOut(
                task=stop.task, id=stop.id, name=here.names[stop.id], begins=stop.begins, ends=stop.ends,
                way_min=travel.minutes(at, place), east_km=place.east_km, north_km=place.north_km,
                pinned=stop.task == "visit" and open_visit is not None and open_visit.pinned,
                booked=stop.task == "visit" and open_visit is not None and open_visit.booked,
            )
        )  # fmt: skip
        at = place
    way = [inspector.home, *_places(stops), inspector.home]
    return PlanDayOut(
        day=route.day, off=off, leaves=route.leaves, back=route.back,
        km=sum(travel.km(first, second) for first, second in pairwise(way)), stops=stops,
    )  # fmt: skip


def _places(stops: Iterable[PlanStopOut]) -> list[Place]:
    return [Place(stop.id, stop.east_km, stop.north_km) for stop in stops]


def _bare(open_visit: OpenVisit, here: Situation, wrong: str | None) -> PlanStopOut:
    begins = (
        open_visit.kept.begins_min
        if open_visit.kept is not None and open_visit.kept.begins_min is not None
        else 8 * 60.0
    )
    minutes = (open_visit.kept.minutes if open_visit.kept is not None else None) or open_visit.length.minutes
    return PlanStopOut(
        task="visit", id=open_visit.id, name=here.names[open_visit.id], begins=begins, ends=begins + minutes,
        way_min=None, pinned=open_visit.pinned, booked=open_visit.booked, wrong=wrong, east_km=None, north_km=None,
    )  # fmt: skip


def _visit(
    here: Situation, kept: KeptPlan, open_visit: OpenVisit, wanted: WantedVisit | None, places: Mapping[str, Moment],
    why: str | None, drawn: bool, asked: str | None,
) -> PlanVisitOut:  # fmt: skip
    moment = places.get(open_visit.id)
    place = (moment.day, moment.begins, moment.inspector) if moment is not None else None
    known = open_visit.kept
    if place is None and known is not None and known.day is not None and why is None:
        place = (known.day, known.begins_min or 0.0, known.inspector_id or "")
    return PlanVisitOut(
        id=open_visit.id,
        job_id=open_visit.job.id,
        property_id=open_visit.home.id,
        name=open_visit.name,
        client=open_visit.client,
        inspection_id=open_visit.inspection_id,
        minutes=wanted.minutes if wanted is not None else open_visit.length.minutes,
        low=open_visit.length.low,
        high=open_visit.length.high,
        rests_on=open_visit.length.visits,
        deadline=open_visit.deadline,
        day=place[0] if place else None,
        begins=place[1] if place else None,
        inspector_id=place[2] if place else None,
        pinned=known is not None and known.pinned,
        booked=open_visit.booked,
        version=known.version if known is not None else 0,
        why=why,
        wrong=kept.broken.get(open_visit.id),
        reasons=list(
            reasons(here.problem, kept.plan, open_visit.id, here.names, open_visit.length, booked=open_visit.booked)
        )
        if drawn
        else [],
        asked=asked,
    )


def changed_out(change: PlanChange, names: Mapping[str, str]) -> PlanChangedOut:
    """What came of a change by hand."""
    moved = [
        MovedOut(
            visit_id=moved.visit_id, name=names.get(moved.visit_id, ""), was=_where(moved.was, names),
            now=_where(moved.now, names), why=moved.why,
        )
        for moved in change.moved
    ]  # fmt: skip
    return PlanChangedOut(version=change.version, moved=moved, left=change.left)


def _where(moment: Any, names: Mapping[str, str]) -> str:
    if moment is None:
        return "no place"
    return _said(moment.day, moment.begins, names.get(moment.inspector, "another inspector"))


def _said(day: date, begins: float, who: str) -> str:
    return f"{short(day)} {round(begins) // 60:02d}:{round(begins) % 60:02d}, {who}"


def _moved_plain(moved: Mapping[str, Any], names: Mapping[str, str]) -> MovedOut:
    def where(moment: Mapping[str, Any] | None) -> str:
        if moment is None:
            return "no place"
        day = date.fromisoformat(moment["day"])
        return _said(day, moment["begins"], names.get(moment["inspector"], "another inspector"))

    return MovedOut(
        visit_id=moved["visit_id"], name=names.get(moved["visit_id"], "A visit that is gone"), was=where(moved["was"]),
        now=where(moved["now"]), why=moved["why"],
    )  # fmt: skip
