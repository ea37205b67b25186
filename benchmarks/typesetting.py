"""The PDF of the demo's issued flat, in a process of its own. Aim: 0.5 s the first time, 0.15 s after."""

import statistics
import subprocess
import sys
import time


def run() -> None:
    """Measure in a fresh process, so that the first one is a first one."""
    subprocess.run([sys.executable, "-m", "benchmarks.typesetting"], check=True)


def _measure() -> None:
    from datetime import UTC, datetime

    from benchmarks.homes import document
    from dorrik.core.document import parse
    from dorrik.core.judgement import judge

    start = time.perf_counter()
    from dorrik.report import pdf
    from dorrik.report.content import Issue, content

    loaded = time.perf_counter() - start
    home = document(12)
    inspection = parse(home)
    now = datetime.now(UTC)
    taken = []
    size = 0
    for number in range(1, 21):
        issue = Issue(number, now.date(), "Ines Pector", "inspector", "Firm", "1 Quay", "0")
        start = time.perf_counter()
        size = len(pdf.pdf(content(inspection, judge(inspection), issue), home, now))
        taken.append(time.perf_counter() - start)
    first, after = taken[0] * 1e3, statistics.median(taken[1:]) * 1e3
    print(f"PDF, 12 circuits, {size // 1000} kB: loading the typesetter {loaded * 1e3:.0f} ms")
    print(f"  first {first:.0f} ms, after {after:.0f} ms (median of {len(taken) - 1})")


if __name__ == "__main__":
    _measure()
