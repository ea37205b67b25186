"""The planner: the plan with a week of it, runs of the solver, moves by hand, and ways out for what does not fit."""

from collections.abc import Iterator
from contextlib import contextmanager
from datetime import date, timedelta
from typing import Any

from fastapi import Request

from dorrik.api.common_types import Problem
from dorrik.api.planner_out import changed_out, planner_out
from dorrik.api.planner_types import (
    HoldIn,
    MoveIn,
    PlanChangedOut,
    PlannerOut,
    PlanRunOut,
    PlanSettings,
    RunIn,
    WayOutIn,
    WayOutOut,
)
from dorrik.api.problems import RESPONSES, ProblemError, not_found
from dorrik.api.routing import router as make_router
from dorrik.api.work import work
from dorrik.core.work.visit_plan import Pin
from dorrik.core.work.ways_out import WayOut, WayOutPrices
from dorrik.office import booking, plan_by_hand, plan_running, visit_situation
from dorrik.office.kept_plan import as_kept, short
from dorrik.office.plan_by_hand import CannotBeThere, PlanConflict
from dorrik.office.visit_situation import Situation
from dorrik.store.database.engine import again_after_deadlock, now
from dorrik.store.firm import house_rates
from dorrik.store.planning import plan_runs, visits

router = make_router("/api/planner", "planner", {**RESPONSES, 409: {"model": Problem}, 422: {"model": Problem}})


@contextmanager
def _refusals(field: str = "day") -> Iterator[None]:
    """What cannot be done with the plan, as a Problem."""
    try:
        yield
    except PlanConflict as error:
        raise ProblemError(409, "planned-meanwhile", str(error)) from None
    except CannotBeThere as error:
        raise ProblemError(422, "invalid", str(error), fields=[{"field": field, "message": str(error)}]) from None
    except KeyError:
        raise not_found("visit") from None


@router.get("")
def plan(request: Request, week: date | None = None) -> PlannerOut:
    """The plan as it is kept, with the week of that day."""
    today = now().date()
    with work(request) as (connection, me):
        here = visit_situation.situation(connection, me.firm_id, today)
        run = plan_runs.latest(connection, me.firm_id)
        asked = booking.asked(connection, me.firm_id)
    day = week or _first_week(here, today)
    monday = day - timedelta(days=day.weekday())
    return planner_out(here, as_kept(here), monday, today, run, asked)


def _first_week(here: Situation, today: date) -> date:
    """This week while anything is left to come in it; else the week of the first visit that is."""
    coming = min((route.day for route in here.old.routes), default=today)
    return today if today.weekday() < 4 or coming == today else max(today, coming)


@router.post("/runs", status_code=201)
def begin(request: Request, given: RunIn) -> PlanRunOut:
    """Have everything planned in a process of its own; told by the run how far it is."""
    with work(request, "keep the register") as (_, me):
        pass
    with _refusals():
        plan_running.begin(request.app.state.engine, me, now().date(), anew=given.anew)
    return _run(request)


@router.get("/runs/latest")
def latest(request: Request) -> PlanRunOut | None:
    """The last run, running or ended."""
    with work(request) as (connection, me):
        run = plan_runs.latest(connection, me.firm_id)
    return PlanRunOut.model_validate(run, from_attributes=True) if run is not None else None


def _run(request: Request) -> PlanRunOut:
    run = latest(request)
    if run is None:
        raise not_found("run")
    return run


@router.post("/runs/{run_id}/stop")
def stop(request: Request, run_id: str) -> PlanRunOut:
    """Stop a run with the best plan so far."""
    with work(request, "keep the register") as (connection, me):
        if not plan_runs.stop(connection, me.firm_id, run_id):
            raise not_found("run that is under way")
    return _run(request)


@router.post("/visits/{visit_id}/move")
def move(request: Request, visit_id: str, given: MoveIn) -> PlanChangedOut:
    """Put a visit somewhere by hand; it stays there. What has to give way moves as little as it can, and is told."""
    to = Pin(given.inspector_id, given.day, given.begins)

    def do() -> PlanChangedOut:
        with work(request, "keep the register") as (connection, me), _refusals():
            today = now().date()
            change = plan_by_hand.move(connection, me, today, visit_id, given.version, to)
            return changed_out(change, visit_situation.situation(connection, me.firm_id, today).names)

    return again_after_deadlock(do)


@router.post("/visits/{visit_id}/hold")
def hold(request: Request, visit_id: str, given: HoldIn) -> PlanChangedOut:
    """Keep a visit where the plan has it, or let planning move it again."""

    def do() -> PlanChangedOut:
        with work(request, "keep the register") as (connection, me), _refusals("pinned"):
            change = plan_by_hand.hold(connection, me, now().date(), visit_id, given.version, pinned=given.pinned)
            return changed_out(change, {})

    return again_after_deadlock(do)


@router.get("/visits/{visit_id}/ways-out")
def ways_out(request: Request, visit_id: str) -> list[WayOutOut]:
    """The cheapest ways to fit in a visit that has no place, one of each kind."""
    with work(request) as (connection, me), _refusals():
        here = visit_situation.situation(connection, me.firm_id, now().date())
        _, _, currency = house_rates.of(connection, me.firm_id)
        if visit_id not in here.visits:
            raise not_found("visit")
        kept = here.visits[visit_id].kept
        # What nobody has tried to plan needs no way out.
        suggestions = (
            ()
            if kept is None or kept.why is None
            else plan_by_hand.ways(here, visit_id, as_kept(here).plan, WayOutPrices())
        )
    return [_way(way, here, currency) for way in suggestions]


def _way(way: WayOut, here: Situation, currency: str) -> WayOutOut:
    who, day = here.names.get(way.inspector, "Somebody"), short(way.day)
    if way.kind == "earlier start":
        says = f"{who} leaves {way.earlier_min:.0f} min earlier on {day}"
    elif way.kind == "another inspector":
        says = f"{who} comes for the day on {day}"
    else:
        route = next(route for route in way.routes if way.moved in route.visits)
        says = f"{here.names[way.moved]} goes to {short(route.day)} with {here.names[route.inspector]}"
    return WayOutOut(
        kind=way.kind, says=says, price=f"{currency}{way.price:.0f}", inspector_id=way.inspector, day=way.day,
        earlier_min=way.earlier_min, moved=way.moved,
    )  # fmt: skip


@router.post("/visits/{visit_id}/ways-out")
def take_way_out(request: Request, visit_id: str, given: WayOutIn) -> PlanChangedOut:
    """Take a way out that was offered."""
    way = WayOut(given.kind, "", 0.0, given.inspector_id, given.day, (), given.earlier_min, given.moved)

    def do() -> PlanChangedOut:
        with work(request, "keep the register") as (connection, me), _refusals():
            today = now().date()
            change = plan_by_hand.take_way(connection, me, today, visit_id, way, WayOutPrices())
            return changed_out(change, visit_situation.situation(connection, me.firm_id, today).names)

    return again_after_deadlock(do)


@router.post("/visits/{visit_id}/booking")
def book(request: Request, visit_id: str) -> PlanChangedOut:
    """Say that the occupier knows when somebody comes: the visit is booked where the plan has it."""
    return _booked(request, visit_id, booked=True)


@router.delete("/visits/{visit_id}/booking")
def cancel(request: Request, visit_id: str) -> PlanChangedOut:
    """Take a booking back: the visit stays in the plan and can be moved."""
    return _booked(request, visit_id, booked=False)


def _booked(request: Request, visit_id: str, *, booked: bool) -> PlanChangedOut:
    def do() -> PlanChangedOut:
        with work(request, "keep the register") as (connection, me), _refusals():
            today = now().date()
            change: Any = (booking.book if booked else booking.cancel)(connection, me, today, visit_id)
            return changed_out(change, {})

    return again_after_deadlock(do)


@router.put("/settings")
def settle(request: Request, given: PlanSettings) -> PlanSettings:
    """Settle what the plan goes by; the next planning takes it."""
    with work(request, "keep the register") as (connection, me):
        head = visits.head(connection, me.firm_id, lock=True)
        visits.change_head(connection, me.firm_id, settings={**head.settings, **given.model_dump()})
    return given
