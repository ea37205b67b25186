"""Whole simulated homes, visited from Ze to the last RCD and judged. Aim: one of 40 points in well under a second."""

import time

from dorrik.core.inspection.document import parse
from dorrik.core.judging.judgement import judge
from dorrik.practice.meter import SimulatedMeter
from dorrik.practice.random_home import random_home
from dorrik.practice.visit import visit

HOMES = 30


def run() -> None:
    """Print homes per second and their size."""
    homes = [random_home(seed) for seed in range(HOMES)]
    points = sum(len(c.wiring.walk) for home in homes for c in home.circuits) / HOMES
    start = time.perf_counter()
    for seed, home in enumerate(homes):
        judge(parse(visit(home, SimulatedMeter(seed))))
    each = (time.perf_counter() - start) / HOMES
    print(f"simulated, visited and judged: {1 / each:.1f} homes a second ({points:.0f} points each)")
