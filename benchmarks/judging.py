"""A home judged from nothing, and judged again after one change, at growing sizes.

Cold is `judge`. Warm is a `LastingJudge` that is told of one new reading after another, as the server is: the aims are
1 ms for 12 circuits, 2 ms for 60 circuits or 60 points and 5 ms for 1,000 circuits.
"""

import statistics
import time
from collections.abc import Callable
from dataclasses import replace
from typing import Any

from benchmarks.homes import document, walked
from dorrik.core.basics.readings import Reading
from dorrik.core.inspection.document import parse
from dorrik.core.inspection.records import Inspection
from dorrik.core.judging.judgement import judge
from dorrik.core.judging.lasting_judge import LastingJudge
from dorrik.core.judging.wire.judgement import as_json

HOMES: tuple[tuple[str, dict[str, Any], int], ...] = (
    ("12 circuits", document(12), 200),
    ("60 circuits", document(60), 60),
    ("60 points", walked(60), 60),
    ("1,000 circuits", document(1000), 8),
)


def run() -> None:
    """Print the least and the median of several runs for each home: what else the machine does only adds to them."""
    for name, home, repeats in HOMES:
        inspection = parse(home)
        cold = _times(lambda _, one=inspection: judge(one), [None] * repeats)  # type: ignore[misc]
        for what, change in (("Zs of a circuit", _zs), ("reading at a point", _at_point)):
            states = [inspection]
            for n in range(3 * repeats):
                states.append(change(states[-1], n))
            if states[-1] is inspection:
                continue
            lasting = LastingJudge()
            lasting.judge(inspection)
            warm = _times(lasting.judge, states[1:])
            written = LastingJudge()
            both = _times(lambda one, by=written: as_json(by.judge(one), kept=by.written), states)  # type: ignore[misc]
            print(f"judge, {name}: cold {_least(cold)}; after a {what} {_least(warm)}, with its JSON {_least(both)}")


def _least(times: list[float]) -> str:
    return f"{min(times) * 1e3:6.2f} ms (median {statistics.median(times) * 1e3:6.2f})"


def _times(do: Callable[[Any], object], things: list[Any]) -> list[float]:
    taken = []
    for thing in things:
        start = time.perf_counter()
        do(thing)
        taken.append(time.perf_counter() - start)
    return taken


def _zs(inspection: Inspection, n: int) -> Inspection:
    """One circuit after the other reads something else."""
    board = inspection.boards[0]
    circuits = list(board.circuits)
    at = n % len(circuits)
    circuits[at] = replace(circuits[at], zs_ohm=Reading.parse(f"0.{40 + n % 50}"))
    return replace(inspection, boards=(replace(board, circuits=tuple(circuits)),))


def _at_point(inspection: Inspection, n: int) -> Inspection:
    """One point after the other reads something else."""
    board = inspection.boards[0]
    circuits = list(board.circuits)
    at = n % len(circuits)
    points = list(circuits[at].points)
    if not points:
        return inspection
    which = n // len(circuits) % len(points)
    points[which] = replace(points[which], line_cpc_ohm=Reading.parse(f"0.{30 + n % 20}"))
    circuits[at] = replace(circuits[at], points=tuple(points))
    return replace(inspection, boards=(replace(board, circuits=tuple(circuits)),))
