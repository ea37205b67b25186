"""Labels to fit at the boards, a page each: when the next inspection is due, and how an RCD is tested."""

from datetime import date
from typing import Any

from dorrik.core.book.intervals import CAUTION
from dorrik.core.inspection.records import Inspection
from dorrik.core.judging.judgement import Judgement
from dorrik.report import press
from dorrik.report.content import Issue, day


class NoDate(Exception):
    """The inspection does not say yet when the next one is due; the message says where to."""


def words(inspection: Inspection, judgement: Judgement, issue: Issue, due: date | None) -> dict[str, Any]:
    """What the labels say. due: when the next inspection is due. Raises NoDate."""
    if due is None or inspection.inspected_on is None:
        raise NoDate("Choose the next inspection under Report, then print its label.")
    labels = []
    for board in inspection.boards:
        name = board.name or "Board"
        labels.append(
            {
                "title": "Next inspection",
                "figure": f"{due:%B %Y}",
                "lines": [
                    f"Last inspected {day(inspection.inspected_on)}",
                    f"Report {inspection.reference or ''}".strip(),
                ],
                "board": name,
            }
        )
        wanted = {label.kind for label in judgement.labels if label.entity_id == board.id and label.needed}
        if "rcd-test" in wanted:
            labels.append(
                {
                    "title": "Test the RCD every six months",
                    "figure": "Press the button T",
                    "lines": ["The power it protects must go off.", "If it stays on, call an electrician."],
                    "board": name,
                }
            )
    return {"firm": issue.letterhead(), "labels": labels, "caution": CAUTION, "subject": "Labels for the boards"}


def sheet(sheet_words: dict[str, Any], on: date) -> bytes:
    """The labels as PDF, 90 by 55 mm each. Raises press.TypesettingTooLarge or Late."""
    return press.letter("labels", sheet_words, on)
