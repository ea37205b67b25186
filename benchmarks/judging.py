"""`judge` on boards of growing length. Aim: 1 ms at 12 circuits, 40 ms at 480, in proportion."""

import statistics
import time

from benchmarks.homes import document
from dorrik.core.inspection.document import parse
from dorrik.core.judging.judgement import judge


def run() -> None:
    """Print the median of several runs for each length."""
    for circuits, repeats in ((12, 400), (120, 60), (480, 25), (1000, 10)):
        inspection = parse(document(circuits))
        taken = []
        for _ in range(repeats):
            start = time.perf_counter()
            judge(inspection)
            taken.append(time.perf_counter() - start)
        median = statistics.median(taken)
        print(f"judge, {circuits:5} circuits: {median * 1e3:7.2f} ms  ({median / circuits * 1e6:.0f} µs a circuit)")
