"""The confirmation that everything that a report required is done: it closes the report without a new inspection (BS
7671 653.4; the law's written confirmation). Words, data and PDF are frozen together."""

import hashlib
import json
from collections.abc import Sequence
from dataclasses import asdict, dataclass
from datetime import datetime
from typing import Any
from urllib.parse import quote

from sqlalchemy import Connection

from dorrik.report import press, qr_code
from dorrik.report.attachment import attachment
from dorrik.report.content import Issue, Signature, plainly
from dorrik.report.content.words import day
from dorrik.store.database.engine import new_id
from dorrik.store.people.people import Person
from dorrik.store.reports import reports
from dorrik.store.reports.reports import CONFIRMATION, Issued

FORMAT, VERSION = "dorrik-confirmation", 1


@dataclass(frozen=True, slots=True)
class Cleared:
    """An item that was cleared. step: number of the step that accepted it; figures: label, before, after and unit of
    each that was tested again; evidence: in words."""

    id: str
    step: int
    code: str
    title: str
    where: str
    done: str
    by: str
    on: str
    figures: Sequence[tuple[str, str, str, str]]
    evidence: Sequence[str]
    accepted_by: str
    accepted_on: str


@dataclass(frozen=True, slots=True)
class ConfirmationCopy:
    """A confirmation before it is typeset."""

    number: int
    at: datetime
    said: dict[str, Any]
    document: str


def copy(
    words: dict[str, Any], cleared: Sequence[Cleared], improvements: int, paper: Issue, number: int, at: datetime,
    signed: Signature, url: str,
) -> ConfirmationCopy:  # fmt: skip
    """What it says. words: of the report (`content.for_client`); improvements: recommended, and still open; number: of
    the confirmation; url: where people reach the server that knows the paper, '' for nowhere."""
    named = f"{words['reference'] or 'report'}-confirmation-{number}"
    inspected = day(words["inspected_on"]) if words["inspected_on"] else "the day of the inspection"
    stays = ""
    if improvements:
        count = plainly.number(improvements).capitalize()
        stays = f"{count} improvement{'s stay' if improvements > 1 else ' stays'} recommended (C3)."
    confirmation_words = {
        "number": named,
        "title": f"Put right: confirmation to {words['reference'] or 'the report'}",
        "home": words["home"],
        "firm": paper.letterhead(),
        "on": day(at.date()),
        "report": {
            "title": words["title"], "number": words["number"], "on": day(words["issued_on"]),
            "outcome": words["outcome"],
        },
        "rule_book": words["rule_book"],
        "caution": words["caution"],
        "items": [
            asdict(item) | {"on": day(item.on) if item.on else "", "accepted_on": day(item.accepted_on)}
            for item in cleared
        ],
        "result": (
            f"Everything for which the report was {words['outcome']} is cleared. It is satisfactory for continued use "
            f"as far as it was inspected and tested on {inspected}. Nothing else was inspected again."
        ),
        "stays": stays,
        "signature": asdict(signed),
    }  # fmt: skip
    frozen = json.dumps({"format": FORMAT, "version": VERSION, "confirmation": confirmation_words}, ensure_ascii=False)
    code = reports.check_code(frozen)
    at_address = f"{url}/check#{quote(words['reference'], safe='')}/{code}" if url and words["reference"] else ""
    paper_says = confirmation_words | {
        "check": code,
        "check_at": {"address": f"{url}/check", "svg": qr_code.drawing(at_address)},
    }
    return ConfirmationCopy(number, at, paper_says, frozen)


def typeset(made: ConfirmationCopy) -> bytes:
    """The confirmation as PDF, with its data inside. Raises press.TypesettingTooLarge or Late."""
    return press.certificate(made.said, attachment(json.loads(made.document)), made.at, "confirmation")


def keep(
    connection: Connection, inspection_id: str, who: Person, made: ConfirmationCopy, pdf: bytes, seq: int
) -> Issued:
    """Keep it in the caller's transaction, which holds the inspection's row. seq: of the report that it closes."""
    earlier = reports.issues(connection, inspection_id, CONFIRMATION)
    issue = Issued(
        id=new_id(),
        number=made.number,
        issued_at=made.at,
        issued_by=who.name,
        outcome="cleared",
        replaces=earlier[-1].number if earlier else None,
        reason=None,
        sha256=hashlib.sha256(pdf).hexdigest(),
        seq=seq,
    )
    reports.keep(connection, inspection_id, who.id, issue, made.document, pdf, CONFIRMATION)
    return issue
