"""The speed of the machine at this moment, by a fixed loop, so that figures of two days can be compared."""

import time

#: What the loop takes on the machine that the aims were written for (ms).
USUAL_MS = 100.0


def loop_ms(rounds: int = 3) -> float:
    """Milliseconds that a fixed loop of plain Python takes: the least of some rounds, since others only add to it."""
    return min(_once() for _ in range(rounds)) * 1000


def _once() -> float:
    began = time.perf_counter()
    total, seen = 0, {}
    for number in range(400_000):
        total = (total * 31 + number) % 1_000_003
        seen[total % 997] = number
    assert len(seen) == 997
    return time.perf_counter() - began


def in_words() -> str:
    """The speed of the machine in a line."""
    taken = loop_ms()
    return f"Speed of the machine: the fixed loop takes {taken:.0f} ms ({USUAL_MS / taken:.2f} of the usual machine)."
