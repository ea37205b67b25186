"""Reports as PDF in a process of their own: plain, and with 40 photos beside the typesetter alone on the same finished
source. Aim: a plain one 0.5 s the first time, 0.15 s after; with photos at most 1.5 × the typesetter alone."""

import io
import resource
import statistics
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from pathlib import Path
from typing import Any

#: Photos of a report, and of how many observations.
PHOTOS, OBSERVATIONS = 40, 20


def run() -> None:
    """Measure in a fresh process, so that the first one is a first one."""
    subprocess.run([sys.executable, "-m", "benchmarks.typesetting"], check=True)


def _measure() -> None:
    from datetime import UTC, datetime

    from benchmarks.homes import document
    from dorrik.core.inspection.document import parse
    from dorrik.core.judging.judgement import judge

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
    for circuits in (12, 96):
        _with_photos(circuits)
    used = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024
    print(f"  most memory of the process {used:.0f} MB")


def _with_photos(circuits: int) -> None:
    from datetime import UTC, datetime

    from benchmarks.homes import document
    from dorrik.core.inspection.document import parse
    from dorrik.core.judging.judgement import judge
    from dorrik.report import pdf
    from dorrik.report.content import Issue, content

    now = datetime.now(UTC)
    home = document(circuits)
    home["inspection"] |= _observed()
    inspection = parse(home)
    issue = Issue(1, now.date(), "Ines Pector", "inspector", "Firm", "1 Quay", "0")
    with tempfile.TemporaryDirectory() as folder:
        whole, alone, size = [], [], 0
        for turn in range(3):
            # Other photos each time: what the typesetter has seen before it remembers.
            jpegs = _photos(Path(folder), 3 * turn)
            start = time.perf_counter()
            report_content = content(inspection, judge(inspection), issue, jpegs)
            size = len(pdf.pdf(report_content, home, now))
            whole.append(time.perf_counter() - start)
            jpegs = _photos(Path(folder), 3 * turn + 1)
            report_content = content(inspection, judge(inspection), issue, jpegs)
            with pdf.drawn(report_content) as finished:
                start = time.perf_counter()
                pdf.compiled(finished, home, now)
                alone.append(time.perf_counter() - start)
    ours, theirs = statistics.median(whole), statistics.median(alone)
    print(f"  {circuits} circuits, {PHOTOS} photos: {ours:.2f} s, {size / 1e6:.1f} MB; ", end="")
    print(f"the typesetter alone {theirs:.2f} s: {ours / theirs:.2f} ×")


def _observed() -> dict[str, Any]:
    codes = ("C2", "C3", "FI", "C3")
    return {
        "observations": [
            {"id": f"o{n}", "code": codes[n % 4], "text": f"Something that was found, number {n}", "place": "Hall"}
            for n in range(OBSERVATIONS)
        ],
        "photos": [
            {"id": f"f{n}", "about_entity": "observation", "about_id": f"o{n % OBSERVATIONS}", "sha256": f"{n:064x}",
             "print_size": "large" if n % 5 == 0 else "small"}
            for n in range(PHOTOS)
        ],
    }  # fmt: skip


def _photos(folder: Path, shade: int) -> Callable[[str, str], str]:
    """Photos as they come from a tablet: 1,600 × 1,200, with the grain of one, and a shade that tells them apart; where
    what is printed of each lies, made when it was sent (`pictures.renditions`)."""
    from PIL import Image

    from dorrik.pictures import renditions

    for n in range(PHOTOS):
        whole = io.BytesIO()
        grain = Image.effect_noise((1600, 1200), 24).convert("RGB")
        plain = Image.new("RGB", (1600, 1200), (90 + n, 120, 100 + shade))
        Image.blend(grain, plain, 0.5).save(whole, "JPEG", quality=82)
        made = renditions.make(whole.getvalue()).by_size
        for size in renditions.PRINTED:
            (folder / f"{n:064x}.{size}.jpg").write_bytes(made[f"printed-{size}"])
    return lambda sha256, size: str(folder / f"{sha256}.{size}.jpg")


if __name__ == "__main__":
    _measure()
