"""What a report says, as plain data for the template: words chosen here, layout in `condition_report.typ`.

One section a file; each gives its part of the data.
"""

from dataclasses import dataclass
from datetime import date
from typing import Any

from dorrik.core import catalogue
from dorrik.core.inspection import Inspection
from dorrik.core.judgement import Judgement
from dorrik.core.topics.repairs import settled
from dorrik.report.content import boards, concerns, extent, job, outcome, rules, schedule, supply
from dorrik.report.content.photos import Fetch, none_kept
from dorrik.report.content.words import day, shown

__all__ = ["Issue", "content", "day", "shown"]


@dataclass(frozen=True, slots=True)
class Issue:
    """The issue that a document belongs to; number 0 for a draft. replaces: number of the issue it corrects."""

    number: int
    issued_on: date
    signed_by: str
    role: str
    firm_name: str
    firm_address: str
    firm_phone: str
    replaces: int | None = None
    reason: str | None = None
    firm_email: str = ""
    firm_line: str = ""

    def letterhead(self) -> dict[str, str]:
        """What stands at the head of the paper."""
        return {
            "name": self.firm_name,
            "address": self.firm_address,
            "phone": self.firm_phone,
            "email": self.firm_email,
            "line": self.firm_line,
        }


def content(inspection: Inspection, judgement: Judgement, issue: Issue, photos: Fetch = none_kept) -> dict[str, Any]:
    """Everything the template prints, as JSON data. photos: what is shown of each, by its digest."""
    with catalogue.with_own(inspection.catalogue):
        # Observations that the firm itself put right are told as their repairs stand.
        return _content(settled(inspection, judgement.repairs), judgement, issue, photos)


def _content(inspection: Inspection, judgement: Judgement, issue: Issue, photos: Fetch) -> dict[str, Any]:
    return {
        "draft": issue.number == 0,
        "issue": {
            "number": issue.number,
            "on": day(issue.issued_on),
            "signed_by": issue.signed_by,
            "role": issue.role,
            "replaces": issue.replaces,
            "reason": issue.reason,
        },
        "firm": issue.letterhead(),
        "title": judgement.rule_book.report,
        "reference": inspection.reference or "no reference",
        "property": ", ".join(p for p in (inspection.installation_name, inspection.property_address) if p),
        "client": {"name": inspection.client_name or "", "address": inspection.client_address or ""},
        "inspected_on": day(inspection.inspected_on),
        **outcome.section(inspection, judgement, photos),
        **concerns.section(inspection),
        **extent.section(inspection, judgement),
        **job.section(inspection, judgement),
        **supply.section(inspection, judgement),
        **schedule.section(judgement),
        **rules.section(inspection, judgement),
        **boards.section(inspection, judgement),
    }
