"""What a report says, as plain data for the template: words chosen here, layout in `condition_report.typ`.

One section a file; each gives its part of the data.
"""

from dataclasses import asdict, dataclass
from datetime import date
from typing import Any

from dorrik.core.basics.text import shortened
from dorrik.core.book import catalogue
from dorrik.core.inspection.records import Inspection
from dorrik.core.judging.judgement import Judgement
from dorrik.core.judging.served.repairs import settled
from dorrik.report import qr_code
from dorrik.report.content import (
    boards,
    cells,
    concerns,
    extent,
    glossary,
    job,
    outcome,
    points,
    rings,
    rules,
    schedule,
    since,
    supply,
)
from dorrik.report.content.photos import Fetch, none_kept
from dorrik.report.content.words import day, shown

__all__ = ["Issue", "content", "day", "shown"]


@dataclass(frozen=True, slots=True)
class Signature:
    """One who signs. says: as what; at: when, in words; drawn: the signature as a drawing, '' for none; typed: was it
    given by typing the name?"""

    says: str
    name: str
    role: str = ""
    at: str = ""
    drawn: str = ""
    typed: bool = False


@dataclass(frozen=True, slots=True)
class Issue:
    """The issue that a document belongs to; number 0 for a draft.

    replaces: number of the issue it corrects; check: a code that the paper can be known by, '' for a draft; check_at:
    where that is looked up; signed: who signed, none where that is still to come.
    """

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
    firm_logo: str = ""
    check: str = ""
    check_at: str = ""
    signed: tuple[Signature, ...] = ()

    @property
    def signatures(self) -> tuple[Signature, ...]:
        """Who signs: as it was done, else with room for a pen. A draft names nobody who has not signed."""
        by = (self.signed_by, self.role, day(self.issued_on)) if self.number else ("", "", "not signed yet")
        return self.signed or (Signature("Inspected, tested and reported by", *by), Signature("Authorised by", ""))

    def letterhead(self) -> dict[str, str]:
        """What stands at the head of the paper."""
        return {
            "name": self.firm_name,
            "address": self.firm_address,
            "phone": self.firm_phone,
            "email": self.firm_email,
            "line": self.firm_line,
            "logo": self.firm_logo,
        }


def content(inspection: Inspection, judgement: Judgement, issue: Issue, photos: Fetch = none_kept) -> dict[str, Any]:
    """Everything the template prints, as JSON data. photos: what is shown of each, by its digest."""
    with catalogue.with_own(inspection.catalogue):
        # Observations that the firm itself put right are told as their repairs stand.
        return _content(settled(inspection, judgement.repairs), judgement, issue, photos)


def _content(inspection: Inspection, judgement: Judgement, issue: Issue, photos: Fetch) -> dict[str, Any]:
    marks = cells.marks(judgement)
    home = ", ".join(p for p in (inspection.installation_name, inspection.property_address) if p)
    return {
        "draft": issue.number == 0,
        "issue": {
            "number": issue.number,
            "on": day(issue.issued_on),
            "replaces": issue.replaces,
            "reason": issue.reason,
        },
        "check": issue.check,
        "check_at": {"address": issue.check_at.partition("#")[0], "svg": qr_code.drawing(issue.check_at)},
        "signatures": [asdict(signature) for signature in issue.signatures],
        "firm": issue.letterhead(),
        "title": judgement.rule_book.report,
        "reference": inspection.reference or "no reference",
        "property": home,
        # At the head of every page there is room for so much of it.
        "property_short": shortened(home, 80),
        "reference_short": shortened(inspection.reference or "no reference", 40),
        "client": {"name": inspection.client_name or "", "address": inspection.client_address or ""},
        "inspected_on": day(inspection.inspected_on),
        **outcome.section(inspection, judgement, photos),
        **concerns.section(inspection),
        **extent.section(inspection, judgement),
        **job.section(inspection, judgement),
        **supply.section(inspection, judgement),
        **schedule.section(judgement),
        **rules.section(inspection, judgement),
        **boards.section(inspection, judgement, marks),
        **points.section(inspection, marks),
        **rings.section(inspection, judgement),
        **since.section(inspection, judgement),
        **glossary.section(judgement.rule_book),
    }
