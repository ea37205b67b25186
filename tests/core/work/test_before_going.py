"""What is missing before somebody can go: what stops the visit first, and nothing hidden by what is there."""

from dataclasses import fields, replace
from datetime import date

import pytest

from dorrik.core.work.before_going import GoingFacts, missing

READY = GoingFacts(
    booked_on=date(2026, 12, 3), inspector="Ruth", last_day=date(2026, 12, 10), occupier="Joss", reachable=True,
    told=True, keys=True, access=True, extent=True, agreed_with=True, power_off=True, circuits=8, confirmed=True,
    placed=True,
)  # fmt: skip


def whats(facts):
    return [one.what for one in missing(facts)]


def test_nothing_is_missing_where_everything_is_there():
    assert missing(READY) == ()


@pytest.mark.parametrize(
    ("change", "what", "stops"),
    [
        ({"booked_on": None}, "No day yet", True),
        ({"booked_on": date(2026, 12, 11)}, "Booked after its last day", True),
        ({"inspector": ""}, "Nobody is to go", True),
        ({"extent": False}, "Extent not agreed", True),
        ({"agreed_with": False}, "Scope agreed with nobody", True),
        ({"left_out": True}, "Left out without a reason", True),
        ({"instruments_due": ("Loop tester",)}, "Loop tester: calibration ends before", True),
        ({"told": False}, "Occupier not told of the power-off", False),
        ({"power_off": False}, "Power-off time not agreed", False),
        ({"circuits": 0}, "Size not known", False),
        ({"confirmed": False}, "Client has no confirmation", False),
        ({"placed": False}, "No coordinates", False),
    ],
)
def test_each_thing_that_is_missing_is_named_by_itself(change, what, stops):
    (found,) = missing(replace(READY, **change))
    assert (found.what, found.stops) == (what, stops) and found.next_step.endswith(".")


def test_one_way_in_is_enough_and_none_stops_the_visit():
    for way in ("keys", "access", "reachable"):
        only = replace(READY, **({"keys": False, "access": False, "reachable": False} | {way: True}))
        assert whats(only) == []
    assert whats(replace(READY, keys=False, access=False, reachable=False)) == ["No way in"]


def test_what_stops_the_visit_stands_first():
    stops = [one.stops for one in missing(GoingFacts())]
    assert stops == sorted(stops, reverse=True) and len(stops) > 8


def test_taking_one_fact_away_never_makes_the_list_shorter():
    for field in fields(GoingFacts):
        if field.name not in ("last_day", "left_out", "left_out_reason", "instruments_due", "occupier"):
            base = replace(READY, told=False)
            worse = missing(replace(base, **{field.name: field.default}))
            assert set(whats(base)) <= {one.what for one in worse}, field.name
