"""Runs of the solver as they are kept: how far each is, whether it is to stop, and what came of it."""

from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Any, Literal

from sqlalchemy import Connection, insert, select, update

from dorrik.core.basics.identifiers import is_id
from dorrik.store.database.account_tables import person
from dorrik.store.database.engine import new_id, now
from dorrik.store.database.planning_tables import plan_run

RunState = Literal["running", "done", "stopped", "failed"]
#: A run of which nothing was heard for so long has ended with its process.
SILENT = timedelta(seconds=20)


@dataclass(frozen=True, slots=True)
class PlanRun:
    """A run: progress of 1; visits: how many it plans; told: what came of it, in words; by: who started it."""

    id: str
    state: RunState
    progress: float
    visits: int
    stop_asked: bool
    told: str | None
    made_at: datetime
    beat_at: datetime
    by: str


def begin(connection: Connection, firm_id: str, person_id: str, visits: int) -> str:
    """Write down that a run begins; returns its id. The caller holds the plan's lock."""
    run_id, at = new_id(), now()
    connection.execute(
        insert(plan_run).values(
            id=run_id, firm_id=firm_id, state="running", progress=0.0, visits=visits, stop_asked=False, made_at=at,
            made_by=person_id, beat_at=at,
        )
    )  # fmt: skip
    return run_id


def latest(connection: Connection, firm_id: str) -> PlanRun | None:
    """The last run of a firm; one that fell silent has failed."""
    c = plan_run.c
    query = (
        select(
            c.id, c.state, c.progress, c.visits, c.stop_asked, c.told, c.made_at, c.beat_at, person.c.name.label("by")
        )
        .join(person, person.c.id == c.made_by)
        .where(c.firm_id == firm_id)
        .order_by(c.made_at.desc(), c.id.desc())
        .limit(1)
    )
    row = connection.execute(query).one_or_none()
    if row is None:
        return None
    run = PlanRun(**row._mapping)
    if run.state == "running" and now() - run.beat_at > SILENT:
        message = "Planning ended before it was done: the server was restarted. The plan is as it was."
        return PlanRun(**{**row._mapping, "state": "failed", "told": message})
    return run


def beat(connection: Connection, run_id: str, progress: float) -> bool:
    """Say how far a run is; returns whether somebody has asked to stop it."""
    c = plan_run.c
    connection.execute(update(plan_run).where(c.id == run_id).values(progress=progress, beat_at=now()))
    return bool(connection.execute(select(c.stop_asked).where(c.id == run_id)).scalar())


def stop(connection: Connection, firm_id: str, run_id: str) -> bool:
    """Ask a run to stop with the best plan so far; False where none of that id is running."""
    c = plan_run.c
    if not is_id(run_id):
        return False
    here = (c.id == run_id, c.firm_id == firm_id, c.state == "running")
    return connection.execute(update(plan_run).where(*here).values(stop_asked=True)).rowcount == 1


def end(connection: Connection, run_id: str, state: RunState, message: str) -> None:
    """Write down what came of a run."""
    values: dict[str, Any] = {
        "state": state,
        "told": message[:300],
        "progress": 1.0,
        "ended_at": now(),
        "beat_at": now(),
    }
    connection.execute(update(plan_run).where(plan_run.c.id == run_id).values(**values))
