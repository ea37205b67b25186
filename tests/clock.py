"""Time in the machine's own measure: one that is slower, or busy, has as much longer."""

import contextlib
import time

from benchmarks import machine


@contextlib.contextmanager
def within(seconds):
    """What is done inside takes less than so long on the usual machine (s)."""
    before, began = machine.loop_ms(1), time.perf_counter()
    yield
    taken = time.perf_counter() - began
    slower = max(machine.USUAL_MS, before, machine.loop_ms(1)) / machine.USUAL_MS
    assert taken < seconds * slower, f"{taken:.1f} s on a machine {slower:.1f} times slower than the usual one"
