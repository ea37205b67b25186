"""Typesets in a process of its own, within limits, one job after another: `python -m dorrik.report.typesetter`.

A job comes in as a line of JSON on standard input. Out goes a line of JSON: what was made, or why not; behind a
document follows its content. The process ends when nothing comes for a while, when it has grown, or with whoever
started it.
"""

import errno
import json
import os
import re
import resource
import select
import signal
import sys
from datetime import date, datetime
from pathlib import Path
from typing import Any

#: Time on the clock and processor time (s) that one job may take, memory that the process may have (bytes).
CLOCK_S, PROCESSOR_S, MEMORY = 120, 80, 1536 * 1024 * 1024
#: Largest file that it may write: a page that holds nothing but photos, packed or not (bytes).
LARGEST_FILE = 64 * 1024 * 1024
#: It ends after so long without a job (s), and when it keeps more memory than that (bytes).
IDLE_S, MOST_KEPT = 120.0, 160 * 1024 * 1024


def main() -> None:
    """Typeset what comes, until nothing comes any more."""
    # Whoever asks for anything else comes first.
    os.nice(10)
    resource.setrlimit(resource.RLIMIT_AS, (MEMORY, MEMORY))
    resource.setrlimit(resource.RLIMIT_FSIZE, (LARGEST_FILE, LARGEST_FILE))
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
    asked, answered = sys.stdin.buffer, sys.stdout.buffer
    while select.select([asked], [], [], IDLE_S)[0] and (line := asked.readline()):
        _begin_clock()
        answer, made = _done(json.loads(line))
        answered.write(json.dumps(answer).encode() + b"\n" + made)
        answered.flush()
        signal.alarm(0)
        if _kept() > MOST_KEPT:
            break


def _begin_clock() -> None:
    used = resource.getrusage(resource.RUSAGE_SELF)
    resource.setrlimit(resource.RLIMIT_CPU, (int(used.ru_utime + used.ru_stime) + PROCESSOR_S, resource.RLIM_INFINITY))
    # Whoever asked may be gone: the process ends by itself all the same.
    signal.alarm(CLOCK_S)


def _done(job: dict[str, Any]) -> tuple[dict[str, Any], bytes]:
    """What is told of a job, and its document."""
    from dorrik.report import pdf

    try:
        match job["what"]:
            case "pages":
                return {"pages": pdf.pages(job["content"], Path(job["folder"]))}, b""
            case "report":
                made = pdf.pdf(job["content"], job["document"], datetime.fromisoformat(job["at"]))
            case "certificate":
                at = datetime.fromisoformat(job["at"])
                made = pdf.certificate(job["content"], job["document"], at, job["name"])
            case "letter":
                made = pdf.letter(job["name"], job["content"], date.fromisoformat(job["on"]))
            case what:
                return {"error": f"There is no such job: {what}"}, b""
    except MemoryError:
        return {"too_much": True}, b""
    except Exception as error:
        # The typesetter tells what the system refused in words, Python by number.
        if (refused := _REFUSED.search(str(error)) or _REFUSED.search(repr(error))) is not None:
            return {"errno": int(refused[1] or refused[2])}, b""
        return {"error": f"{type(error).__name__}: {error}"}, b""
    return {"length": len(made)}, made


#: A system's error within another one's words: no room on the disk, or a file over its limit.
_REFUSED = re.compile(rf"\(os error ({errno.ENOSPC}|{errno.EFBIG}|{errno.EDQUOT})\)"
                      rf"|OSError\(({errno.ENOSPC}|{errno.EFBIG}|{errno.EDQUOT}),")  # fmt: skip


def _kept() -> int:
    """What the process keeps in memory by itself, without the fonts, which lie in files (bytes)."""
    _, resident, shared, *_ = Path("/proc/self/statm").read_text().split()
    return (int(resident) - int(shared)) * resource.getpagesize()


if __name__ == "__main__":
    main()
