"""How long the core takes to start, in a fresh interpreter whose byte code is there. Aim: 60 ms."""

import os
import statistics
import subprocess
import sys
import tempfile

SCRIPT = "import time; t = time.perf_counter(); import dorrik.core; print((time.perf_counter() - t) * 1000)"


def run() -> None:
    """Print the median and the least of several starts."""
    with tempfile.TemporaryDirectory() as folder:
        # Byte code is written on the first start, as an installed package has it.
        environment = os.environ | {"PYTHONDONTWRITEBYTECODE": "", "PYTHONPYCACHEPREFIX": folder}
        taken = []
        for _ in range(16):
            done = subprocess.run([sys.executable, "-c", SCRIPT], env=environment, capture_output=True, check=True)
            taken.append(float(done.stdout))
    print(f"core starts in {statistics.median(taken[1:]):.0f} ms (least {min(taken):.0f} ms of {len(taken)})")
