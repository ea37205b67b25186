"""Planning in a process of its own: `python -m dorrik.planner.process`, started and listened to by `run`.

What is to be planned comes in on standard input. Lines on standard output say how much of the time is over; the plan
follows the last of them. Both ends are ours, so that objects go over the pipe as they are. The signal to terminate has
it take the best plan so far.
"""

import pickle
import signal
import subprocess
import sys
from collections.abc import Callable
from typing import Any

from dorrik.core.basics.record import record
from dorrik.core.work.visit_plan import PlanProblem, VisitPlan
from dorrik.planner.replan import Replanned, replan
from dorrik.planner.solver import solve

_PLAN = b"plan\n"
#: How often a line says how far it is (of 1).
_STEP = 0.02


@record
class PlanTask:
    """What is to be planned: from nothing, or again after `old` with as little moved as can be. seconds: at most."""

    problem: PlanProblem
    old: VisitPlan | None
    seconds: float


class PlanningFailed(RuntimeError):
    """The process ended without a plan."""


def run(task: PlanTask, report_progress: Callable[[float], bool]) -> Replanned:
    """Plan in another process. report_progress: is given the share of the time that is over, returns whether to stop
    with the best plan so far. Raises PlanningFailed."""
    process = subprocess.Popen(
        [sys.executable, "-m", "dorrik.planner.process"],
        stdin=subprocess.PIPE, stdout=subprocess.PIPE, stderr=subprocess.DEVNULL,
    )  # fmt: skip
    if process.stdin is None or process.stdout is None:
        raise PlanningFailed("No pipe.")
    try:
        process.stdin.write(pickle.dumps(task))
        process.stdin.close()
        while (line := process.stdout.readline()) not in (_PLAN, b""):
            if report_progress(float(line)):
                process.terminate()
        content = process.stdout.read()
    except OSError as error:
        raise PlanningFailed("The process that plans has ended.") from error
    finally:
        process.stdout.close()
        if process.poll() is None:
            process.kill()
        process.wait()
    if not content:
        raise PlanningFailed("The process that plans has ended.")
    replanned: Replanned = pickle.loads(content)
    return replanned


def planned(task: PlanTask, progress: Callable[[float], bool]) -> Replanned:
    """The plan of a task, in this process."""
    if task.old is not None:
        return replan(task.problem, task.old, task.seconds, progress)
    return Replanned(solve(task.problem, task.seconds, progress), ())


class _Told:
    """Says on standard output how far it is, and whether somebody has asked to stop."""

    def __init__(self) -> None:
        self._stop, self._last = False, -1.0
        signal.signal(signal.SIGTERM, self._asked)

    def _asked(self, *_: Any) -> None:
        self._stop = True

    def __call__(self, part: float) -> bool:
        if part - self._last >= _STEP or part >= 1:
            self._last = part
            sys.stdout.buffer.write(f"{part:.3f}\n".encode())
            sys.stdout.buffer.flush()
        return self._stop


def main() -> None:
    """Plan one task."""
    progress = _Told()
    task: PlanTask = pickle.loads(sys.stdin.buffer.read())
    progress(0.0)
    replanned = planned(task, progress)
    sys.stdout.buffer.write(_PLAN + pickle.dumps(replanned))


if __name__ == "__main__":
    main()
