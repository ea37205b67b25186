"""What the planner goes by: who makes visits and when, where keys are, and a table of travel times."""

from typing import Any

from fastapi import Query, Request
from sqlalchemy import Connection
from starlette.concurrency import run_in_threadpool

from dorrik.api.common_types import Problem
from dorrik.api.papers import A_FILE, read_upload
from dorrik.api.planner_types import ColleagueOut, PlanSettings, TravelOut, WayMistakeOut, WeekOut, WeeksOut
from dorrik.api.problems import RESPONSES, ProblemError
from dorrik.api.register_types import RegisterEntry
from dorrik.api.routing import router as make_router
from dorrik.api.work import work
from dorrik.core.work import travel_table
from dorrik.report.papers import Paper
from dorrik.store.people import people
from dorrik.store.planning import visits
from dorrik.store.register import register

#: By which fields a table can name places, by their kind.
_NAMED_BY = {"property": ("address",), "key_holder": ("name", "address"), "working_week": ("name",)}
#: Rows that are told.
MISTAKES = 200
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
                ColleagueOut(id=person.id, name=person.name)
                for person in people.everybody(connection, me.firm_id)
                if person.state != "ended"
            ],
            travel=len(visits.travel_table(connection, me.firm_id) or {}),
            settings=PlanSettings(**settings),
        )


@router.post("/travel", openapi_extra=A_FILE)
async def take_travel(request: Request, name: str = Query("travel.csv", max_length=200)) -> TravelOut:
    """Take a table of travel times (CSV or a workbook): from, to, minutes. It replaces the one before; with nothing in
    it that can be taken, nothing changes."""
    await run_in_threadpool(_may, request)
    paper = await read_upload(request, name)
    return await run_in_threadpool(_take, request, paper)


def _may(request: Request) -> None:
    with work(request, "keep the register", only_reads=True):
        return


def _take(request: Request, paper: Paper) -> TravelOut:
    with work(request, "keep the register") as (connection, me):
        places = {
            name: entry.id
            for kind, fields in _NAMED_BY.items()
            for entry in register.entries(connection, me.firm_id, kind)
            for field in fields
            if (name := str(entry.values.get(field) or ""))
        }  # fmt: skip
        try:
            if not paper.tables:
                raise ValueError("That file holds no table. Choose a CSV file or a workbook (XLSX).")
            minutes = travel_table.read(paper.tables[0].rows, places)
        except ValueError as error:
            fields = [{"field": "file", "message": str(error)}]
            raise ProblemError(422, "invalid", str(error), fields=fields) from None
        if minutes.ways:
            visits.head(connection, me.firm_id, lock=True)
            visits.set_travel_table(connection, me.firm_id, dict(minutes.ways))
            visits.change_head(connection, me.firm_id)
    mistakes = [WayMistakeOut.model_validate(mistake, from_attributes=True) for mistake in minutes.mistakes[:MISTAKES]]
    return TravelOut(ways=len(minutes.ways), mistakes=mistakes)


@router.delete("/travel", status_code=204)
def end_travel(request: Request) -> None:
    """Go by coordinates again."""
    with work(request, "keep the register") as (connection, me):
        visits.head(connection, me.firm_id, lock=True)
        visits.set_travel_table(connection, me.firm_id, {})
        visits.change_head(connection, me.firm_id)


def _entries(connection: Connection, firm_id: str, kind: str, parent_id: str | None = None) -> list[RegisterEntry]:
    return [_shown(entry) for entry in register.entries(connection, firm_id, kind, parent_id)]


def _shown(entry: Any) -> RegisterEntry:
    return RegisterEntry.model_validate(entry, from_attributes=True)
