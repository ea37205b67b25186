"""Typesetting: a report as tagged PDF (PDF/A-3, PDF/UA-1) with its data inside or as pages to look at, and letters."""

import json
from datetime import date, datetime
from functools import cache
from pathlib import Path
from threading import Lock
from typing import Any

import typst

HERE = Path(__file__).parent
TEMPLATE = HERE / "condition_report.typ"
STANDARDS = ["a-3a", "ua-1"]

#: One compiler serves all: it holds the fonts and what it has laid out before, but takes one call at a time.
_lock = Lock()


@cache
def _compiler(template: Path = TEMPLATE) -> typst.Compiler:
    return typst.Compiler(str(template), root=str(HERE), font_paths=[str(HERE / "fonts")], ignore_system_fonts=True)


def _inputs(content: dict[str, Any], document: dict[str, Any]) -> dict[str, str]:
    return {
        "data": json.dumps(content, ensure_ascii=False),
        "attachment": json.dumps(document, ensure_ascii=False, indent=1),
    }


def pdf(content: dict[str, Any], document: dict[str, Any], at: datetime) -> bytes:
    """The report as PDF. content: see `content.content`; document: attached as inspection.json; at: its date."""
    with _lock:
        return _compiler().compile(
            sys_inputs=_inputs(content, document), format="pdf", pdf_standards=STANDARDS, timestamp=int(at.timestamp())
        )


def pages(content: dict[str, Any], document: dict[str, Any]) -> list[str]:
    """The report's pages as SVG text, to look at before it is issued."""
    with _lock:
        found = _compiler().compile(sys_inputs=_inputs(content, document), format="svg")
    return [page.decode() for page in (found if isinstance(found, list) else [found])]


def letter(name: str, content: dict[str, Any], on: date) -> bytes:
    """A letter on the firm's paper as PDF. name: of its template; content: its words; on: its date."""
    at = datetime(on.year, on.month, on.day)
    with _lock:
        return _compiler(HERE / f"{name}.typ").compile(
            sys_inputs={"data": json.dumps(content, ensure_ascii=False)},
            format="pdf",
            pdf_standards=["ua-1"],
            timestamp=int(at.timestamp()),
        )
