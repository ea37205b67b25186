"""Planning in a process of its own: it says how far it is, can be stopped with the best so far, and its end is told."""

import time
from datetime import date, timedelta

import pytest

from dorrik.core.work.plan_rules import broken
from dorrik.core.work.visit_plan import Inspector, Place, PlanProblem, WantedVisit
from dorrik.planner import process
from dorrik.planner.process import PlanningFailed, PlanTask, run

MONDAY = date(2026, 11, 30)


def problem(count):
    return PlanProblem(
        visits=tuple(WantedVisit(id=f"v{n}", minutes=180, place=Place(f"v{n}", n % 7, n % 5)) for n in range(count)),
        inspectors=(Inspector(id="ruth", home=Place("home", 0, 0)), Inspector(id="idris", home=Place("far", 9, 3))),
        first=MONDAY,
        last=MONDAY + timedelta(days=40),
    )


def test_a_plan_comes_back_whole_and_how_far_it_is_only_grows():
    heard = []
    asked = problem(20)
    found = run(PlanTask(asked, None, 0.6), lambda part: heard.append(part) or False)
    assert broken(asked, found.plan) == () and found.plan.left == ()
    assert heard[0] == 0.0 and heard == sorted(heard) and len(heard) > 2


def test_who_asks_to_stop_gets_the_best_so_far_soon():
    asked, began = problem(60), time.monotonic()
    found = run(PlanTask(asked, None, 60.0), lambda part: part > 0)
    assert broken(asked, found.plan) == () and found.plan.routes
    assert time.monotonic() - began < 30


def test_planning_again_moves_nothing_that_holds():
    asked = problem(10)
    plan = run(PlanTask(asked, None, 0.3), lambda _: False).plan
    assert run(PlanTask(asked, plan, 0.3), lambda _: False).moved == ()


def test_a_process_that_ends_without_a_plan_is_told(monkeypatch):
    monkeypatch.setattr(process.sys, "executable", "/bin/false")
    with pytest.raises(PlanningFailed):
        run(PlanTask(problem(2), None, 0.2), lambda _: False)
