"""Runs of the solver: each in a process of its own, followed by a thread that notes how far it is and keeps its plan.

A run takes its time: what it found is fitted to whatever changed meanwhile.
"""

import threading
from datetime import date

from sqlalchemy import Connection, Engine

from dorrik.office import visit_situation
from dorrik.office.kept_plan import PlanChange, keep
from dorrik.office.plan_by_hand import PlanConflict
from dorrik.planner import process
from dorrik.planner.process import PlanningFailed, PlanTask
from dorrik.planner.replan import Replanned, replan
from dorrik.store.database.engine import again_after_deadlock, now
from dorrik.store.people.people import Person
from dorrik.store.planning import plan_runs

#: So long is looked for a better plan (s): for few visits a moment is enough.
_SECONDS, _SECONDS_A_VISIT, _LONGEST_S = 1.0, 0.01, 8.0


def begin(engine: Engine, me: Person, today: date, *, anew: bool) -> str:
    """Begin a run of the solver in a process of its own; returns its id. anew: everything that nobody put there by hand
    is free to move. Raises PlanConflict where one is running."""
    with engine.begin() as connection:
        here = visit_situation.situation(connection, me.firm_id, today, lock=True)
        latest = plan_runs.latest(connection, me.firm_id)
        if latest is not None and latest.state == "running":
            raise PlanConflict(f"{latest.by} is planning at this moment. Wait for the plan, or stop it.")
        run_id = plan_runs.begin(connection, me.firm_id, me.id, len(here.problem.visits))
    seconds = min(_LONGEST_S, _SECONDS + _SECONDS_A_VISIT * len(here.problem.visits))
    old = None if anew or not here.old.routes else here.old
    task = PlanTask(here.problem, old, seconds)
    threading.Thread(target=_run, args=(engine, me, today, run_id, task), name=f"plan-{run_id}", daemon=True).start()
    return run_id


def _run(engine: Engine, me: Person, today: date, run_id: str, task: PlanTask) -> None:
    """Follow a run to its end, and keep what it found."""
    stopped = False

    def heard(part: float) -> bool:
        nonlocal stopped
        with engine.begin() as connection:
            stopped = plan_runs.beat(connection, run_id, part)
        return stopped

    began = now()
    try:
        replanned = process.run(task, heard)
        seconds = (now() - began).total_seconds()

        def finish() -> None:
            with engine.begin() as connection:
                change = _keep_run(connection, me, today, task, replanned, seconds)
                message = "Stopped: the best plan so far was taken." if stopped else ""
                plan_runs.end(connection, run_id, "stopped" if stopped else "done", _told(change, message))

        again_after_deadlock(finish)
    except Exception as error:
        # Whatever went wrong, whoever waits is told; the plan is as it was.
        message = "Planning failed; the plan is as it was. Try again."
        with engine.begin() as connection:
            plan_runs.end(connection, run_id, "failed", message)
        if not isinstance(error, PlanningFailed):
            raise


def _keep_run(
    connection: Connection, me: Person, today: date, task: PlanTask, replanned: Replanned, seconds: float
) -> PlanChange:
    """Keep what a run found; where something changed meanwhile, fitted to that."""
    here = visit_situation.situation(connection, me.firm_id, today, lock=True)
    if here.problem != task.problem:
        replanned = replan(here.problem, replanned.plan, 0)
    return keep(connection, me, here, replanned.plan, planned_s=seconds)


def _told(change: PlanChange, before: str) -> str:
    moved = len(change.moved)
    parts = [before, f"{moved} {'visit' if moved == 1 else 'visits'} moved." if moved else "Nothing moved."]
    if change.left:
        parts.append(f"{change.left} {'does' if change.left == 1 else 'do'} not fit.")
    return " ".join(part for part in parts if part)
