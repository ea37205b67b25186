"""Planning again touches the least: what holds stays to the minute, and what moves says why."""

from dataclasses import replace
from datetime import date, timedelta

from hypothesis import given, settings
from hypothesis import strategies as st

from dorrik.core.work.plan_rules import broken
from dorrik.core.work.visit_plan import Inspector, Pin, Place, PlanProblem, WantedVisit, Window
from dorrik.planner.replan import moments, replan
from dorrik.planner.solver import solve
from tests.examples import examples
from tests.planner.test_solver import portfolios

MONDAY, TUESDAY, THURSDAY = (date(2026, 11, 30) + timedelta(days=n) for n in (0, 1, 3))
TOWN = Place("town", 0, 0)
RUTH, IDRIS = Inspector(id="ruth", home=TOWN), Inspector(id="idris", home=TOWN)


def visit(name, minutes=180, *days, **more):
    windows = tuple(Window(day, 480, 1020) for day in days) or None
    return WantedVisit(id=name, minutes=minutes, place=Place(name, 1, 0), windows=windows, **more)


def problem(*visits, inspectors=(RUTH, IDRIS), days=4):
    return PlanProblem(visits=visits, inspectors=inspectors, first=MONDAY, last=MONDAY + timedelta(days=days))


def without(asked, name):
    return replace(asked, visits=tuple(one for one in asked.visits if one.id != name))


def test_a_cancellation_moves_nobody_and_makes_room_for_who_had_none():
    asked = problem(
        *(visit(name, 220, MONDAY) for name in "abcd"), visit("ropery", 220, MONDAY), visit("e", 220, TUESDAY)
    )
    plan = solve(asked, 0.3)
    (left,) = plan.left
    gone = next(name for name in "abcde" if name not in (left.visit_id, "e"))
    now = without(asked, gone)
    found = replan(now, plan, 0)
    assert [(one.visit_id, one.was, one.why) for one in found.moved] == [(left.visit_id, None, "new in the plan")]
    assert found.plan.left == () and broken(now, found.plan) == ()


def test_a_day_off_moves_the_visits_of_that_day_and_no_others():
    asked = problem(*(visit(f"v{n}", 200) for n in range(8)))
    plan = solve(asked, 0.3)
    ill = plan.routes[0]
    away = tuple(
        replace(one, days_off=frozenset({ill.day})) if one.id == ill.inspector else one for one in asked.inspectors
    )
    now = replace(asked, inspectors=away)
    found = replan(now, plan, 0)
    assert {one.visit_id for one in found.moved} == set(ill.visits)
    assert all(one.why == f"{ill.inspector} does not work on {ill.day.isoformat()}" for one in found.moved)
    assert found.plan.left == () and broken(now, found.plan) == ()


def test_one_gives_way_to_who_has_no_other_day():
    free, bound = visit("free", 220, MONDAY, THURSDAY), visit("bound", 220, MONDAY)
    asked = problem(free, bound, inspectors=(RUTH,))
    plan = solve(asked, 0.3)
    moved_in = visit("ropery", 220, MONDAY)
    now = replace(asked, visits=(*asked.visits, moved_in))
    on_monday = replan(now, plan, 0)
    told = {one.visit_id: one for one in on_monday.moved}
    assert on_monday.plan.left == () and broken(now, on_monday.plan) == ()
    assert told["free"].now.day == THURSDAY and "make room for ropery" in told["free"].why
    pinned = replace(now, visits=(replace(free, pin=Pin("ruth", MONDAY)), bound, moved_in))
    stays = replan(pinned, plan, 0)
    assert [left.visit_id for left in stays.plan.left] == ["ropery"]


def test_what_was_dragged_goes_where_it_was_put_and_the_rest_stays():
    asked = problem(*(visit(f"v{n}", 200) for n in range(4)))
    plan = solve(asked, 0.3)
    dragged = next(one for one in asked.visits if moments(plan)[one.id].day != THURSDAY)
    now = replace(
        asked, visits=tuple(replace(v, pin=Pin("ruth", THURSDAY, 600)) if v is dragged else v for v in asked.visits)
    )
    found = replan(now, plan, 0)
    (moved,) = [one for one in found.moved if one.visit_id == dragged.id]
    assert (moved.now.inspector, moved.now.day, moved.now.begins) == ("ruth", THURSDAY, 600)
    assert moved.why == "it was moved by hand"
    assert [one.visit_id for one in found.moved] == [dragged.id]


@settings(max_examples=examples(400))
@given(portfolios(), st.integers(0, 8))
def test_a_cancellation_of_any_plan_moves_nothing_that_had_a_place(asked, which):
    plan = solve(asked, 0.1)
    placed = [name for route in plan.routes for name in route.visits]
    if not placed:
        return
    gone = next(one for one in asked.visits if one.id == placed[which % len(placed)])
    now = without(asked, gone.id)
    found = replan(now, plan, 0)
    assert broken(now, found.plan) == ()
    had = moments(plan)
    touched = {one.visit_id for one in found.moved if one.was is not None and one.visit_id in had}
    # What went together with it, or shared its day, may begin sooner; only who makes room for others moves.
    assert all("make room" in one.why for one in found.moved if one.visit_id in touched)
    assert len(found.plan.left) <= len(plan.left)


@settings(max_examples=examples(400))
@given(portfolios(), portfolios())
def test_whatever_changes_no_plan_breaks_a_hard_rule(one, other):
    """The plan of one portfolio against another with the same names: everything about a visit may have changed."""
    found = replan(other, solve(one, 0.1), 0)
    assert broken(other, found.plan) == ()
    assert all(len(moved.why) > 10 for moved in found.moved)
