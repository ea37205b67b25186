"""Why a visit is where it is: what binds it is named, with its figures."""

from datetime import date, timedelta

from dorrik.core.work.plan_reasons import reasons
from dorrik.core.work.visit_lengths import ExpectedLength
from dorrik.core.work.visit_plan import Inspector, Key, Pin, Place, PlanProblem, VisitPlan, WantedVisit, Window, timed

MONDAY = date(2026, 11, 30)
WEDNESDAY = MONDAY + timedelta(days=2)
RUTH = Inspector(id="ruth", home=Place("home", 0, 0))
NAMES = {"a": "7 Slip Road", "b": "9 Slip Road", "ruth": "Ruth Pellow", "agent": "Sorrel Lettings"}


def visit(name, east=1.0, **more):
    return WantedVisit(id=name, minutes=180, place=Place(name, east, 0), **more)


def told(*visits, name="a", keys=(), length=None, booked=False):
    problem = PlanProblem(
        visits=visits, inspectors=(RUTH,), first=MONDAY, last=MONDAY + timedelta(days=11), keys=keys
    )  # fmt: skip
    route = timed(problem, RUTH, WEDNESDAY, visits)
    return reasons(problem, VisitPlan((route,)), name, NAMES, length, booked=booked)


def test_keys_of_two_homes_are_fetched_in_one_way_and_when_they_are_back():
    said = told(visit("a", key="agent"), visit("b", 1.1, key="agent"), keys=(Key("agent", Place("agent", 0.5, 0)),))
    assert any("those of 9 Slip Road come from Sorrel Lettings in one way, back by 14:" in one for one in said)


def test_the_only_day_on_which_somebody_lets_in():
    only = (Window(WEDNESDAY, 480, 1020),)
    assert "The only day on which somebody can let in." in told(visit("a", windows=only))
    two = (*only, Window(WEDNESDAY + timedelta(days=1), 480, 1020))
    assert "Somebody can let in on 2 days before its last day." in told(visit("a", windows=two))


def test_a_deadline_near_says_how_many_working_days_are_left():
    # Wednesday to the Monday after: Thursday, Friday, Monday.
    assert any("3 working days before its last day, 7 Dec 2026." in one
               for one in told(visit("a", last_day=date(2026, 12, 7))))  # fmt: skip


def test_what_was_put_there_by_hand_and_what_the_occupier_was_told_are_two_things():
    pinned = visit("a", pin=Pin("ruth", WEDNESDAY, 540))
    assert "Kept here by hand: planning does not move it." in told(pinned)
    assert told(pinned, booked=True)[0].startswith("Booked: the occupier was told.")


def test_a_length_says_what_it_rests_on():
    assert "2 h 55 on site: half of 12 visits of this firm took 2 h 30 to 3 h 20." in told(
        visit("a"), length=ExpectedLength(175, 150, 200, 12)
    )
    assert any(
        "no visit has been recorded yet" in one for one in told(visit("a"), length=ExpectedLength(60, 45, 75, 0))
    )


def test_a_visit_without_a_place_has_no_reason_to_be_there():
    problem = PlanProblem(visits=(visit("a"),), inspectors=(RUTH,), first=MONDAY, last=MONDAY)
    assert reasons(problem, VisitPlan(()), "a", NAMES) == ()
