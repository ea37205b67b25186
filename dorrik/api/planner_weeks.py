"""What the planner goes by: who makes visits and when, where keys are, and a table of travel times."""

from typing import Any

from fastapi import Request
from sqlalchemy import Connection

from dorrik.api.common_types import Problem
from dorrik.api.planner_types import ColleagueOut, PlanSettings, WeekOut, WeeksOut
from dorrik.api.problems import RESPONSES
from dorrik.api.register_types import RegisterEntry
from dorrik.api.routing import router as make_router
from dorrik.api.work import work
from dorrik.store.people import people
from dorrik.store.planning import visits
from dorrik.store.register import register

router = make_router("/api/planner/weeks", "planner", {**RESPONSES, 422: {"model": Problem}})


@router.get("")
def weeks(request: Request) -> WeeksOut:
    """Working weeks with their days off, key places, and what the plan goes by."""
    with work(request) as (connection, me):
        head = visits.head(connection, me.firm_id)
        settings = {name: value for name, value in head.settings.items() if name in PlanSettings.model_fields}
        return WeeksOut(
            weeks=[
                WeekOut(entry=_shown(week), days_off=_entries(connection, me.firm_id, "day_off", week.id))
                for week in register.entries(connection, me.firm_id, "working_week")
            ],
            key_holders=_entries(connection, me.firm_id, "key_holder"),
            people=[
                ColleagueOut(id=one.id, name=one.name)
                for one in people.everybody(connection, me.firm_id)
                if one.state != "ended"
            ],
            travel=len(visits.travel_table(connection, me.firm_id) or {}),
            settings=PlanSettings(**settings),
        )


def _entries(connection: Connection, firm_id: str, kind: str, parent_id: str | None = None) -> list[RegisterEntry]:
    return [_shown(entry) for entry in register.entries(connection, firm_id, kind, parent_id)]


def _shown(entry: Any) -> RegisterEntry:
    return RegisterEntry.model_validate(entry, from_attributes=True)
