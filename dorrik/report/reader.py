"""Reads one file from outside in a process of its own, within limits: `python -m dorrik.report.reader`.

The file comes in on standard input, what it holds goes out as JSON on standard output. Nothing else is read or written.
"""

import json
import resource
import signal
import sys
from typing import Any

#: Processor time, time on the clock (s) and memory (bytes) that one file may take.
PROCESSOR_S, CLOCK_S, MEMORY = 20, 40, 448 * 1024 * 1024


def _limit() -> None:
    resource.setrlimit(resource.RLIMIT_CPU, (PROCESSOR_S, PROCESSOR_S + 1))
    resource.setrlimit(resource.RLIMIT_AS, (MEMORY, MEMORY))
    resource.setrlimit(resource.RLIMIT_FSIZE, (0, 0))
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
    # Whoever asked may be gone: the process ends by itself all the same.
    signal.alarm(CLOCK_S)


def _read(name: str) -> dict[str, Any]:
    from dorrik.report import papers

    try:
        paper = papers.read(sys.stdin.buffer.read(), name)
    except papers.UnreadablePaper as error:
        return {"unreadable": str(error)}
    tables = [{"sheet": table.sheet, "rows": table.rows} for table in paper.tables]
    return {"document": paper.document, "tables": tables}


#: Instead of a file's name: only how many pages a PDF has.
PAGES = "/pages"


def _pages() -> dict[str, Any]:
    import io

    import pypdf
    from pypdf.errors import PyPdfError

    content = sys.stdin.buffer.read()
    if not content.startswith(b"%PDF"):
        return {"unreadable": "That is no PDF."}
    try:
        count = len(pypdf.PdfReader(io.BytesIO(content)).pages)
    except (PyPdfError, ValueError, KeyError, TypeError, AttributeError, OSError, NotImplementedError):
        return {"unreadable": "That PDF is damaged or locked with a password: it cannot be opened."}
    return {"pages": count} if count else {"unreadable": "That PDF has no pages."}


def main() -> None:
    """Read one file."""
    _limit()
    try:
        result = _pages() if sys.argv[1:] == [PAGES] else _read(sys.argv[1] if len(sys.argv) > 1 else "")
    except (MemoryError, RecursionError):
        result = {"unreadable": "The file takes far more memory than a chart or a report does; it was not read."}
    sys.stdout.write(json.dumps(result))


if __name__ == "__main__":
    main()
