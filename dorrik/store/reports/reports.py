"""Issued reports as they are kept: frozen document and PDF together, never changed."""

import hashlib
import json
from dataclasses import dataclass
from datetime import date, datetime
from typing import Any

from sqlalchemy import Connection, func, insert, select

from dorrik.core.basics.identifiers import is_id
from dorrik.store.database.account_tables import firm, person
from dorrik.store.database.follow_up_tables import report_state
from dorrik.store.database.tables import inspection, issued_report
from dorrik.store.inspections.listing import keep_issue

#: What is issued: a condition report, the certificate of a repair, an offer for repairs, or the confirmation that what
#: a report required is done.
REPORT, MINOR_WORKS, OFFER, CONFIRMATION = "report", "minor works", "offer", "confirmation"


@dataclass(frozen=True, slots=True)
class Issued:
    """One frozen issue, without its PDF. issued_by: the person's name; seq: of the inspection as it was frozen."""

    id: str
    number: int
    issued_at: datetime
    issued_by: str
    outcome: str
    replaces: int | None
    reason: str | None
    sha256: str
    seq: int
    repair_id: str | None = None


def check_code(document: str) -> str:
    """What a paper is known by: twelve digits of the SHA-256 of the data it was made of, as it is kept (JSON text)."""
    digits = hashlib.sha256(document.encode()).hexdigest()[:12].upper()
    return "-".join((digits[:4], digits[4:8], digits[8:]))


@dataclass(frozen=True, slots=True)
class Checked:
    """What is said of a paper to whoever holds it: by which firm it was issued, when and with which result, and the
    issue that replaces it, None where it is the last. of: REPORT or CONFIRMATION; confirmed_on: when it was confirmed
    that everything a report required is done, None where it was not, or that is no longer so."""

    of: str
    firm: str
    reference: str
    number: int
    issued_at: datetime
    outcome: str
    replaced_by: int | None
    confirmed_on: date | None


def checked(connection: Connection, reference: str, code: str) -> Checked | None:
    """The report or confirmation with that reference and check code; None where there is none."""
    c, last = issued_report.c, issued_report.alias("last")
    newest = (
        select(func.max(last.c.number))
        .where(last.c.inspection_id == c.inspection_id, last.c.kind == c.kind)
        .scalar_subquery()
    )
    row = connection.execute(
        select(
            c.kind,
            firm.c.name,
            inspection.c.reference,
            c.number,
            c.issued_at,
            c.outcome,
            newest.label("newest"),
            report_state.c.confirmed_on,
        )
        .join(inspection, inspection.c.id == c.inspection_id)
        .join(firm, firm.c.id == inspection.c.firm_id)
        .outerjoin(report_state, report_state.c.inspection_id == c.inspection_id)
        .where(c.check_code == code, c.kind.in_((REPORT, CONFIRMATION)), inspection.c.reference == reference)
    ).first()
    if row is None:
        return None
    replaced_by = row.newest if row.newest > row.number else None
    return Checked(
        row.kind, row.name, row.reference, row.number, row.issued_at, row.outcome, replaced_by, row.confirmed_on
    )


def keep(
    connection: Connection, inspection_id: str, person_id: str, issued: Issued, document: str, pdf: bytes,
    kind: str = REPORT, client_words: str | None = None,
) -> None:  # fmt: skip
    """Keep an issue with its document (JSON text) and its PDF, and what its client's page says (JSON text); one of a
    report is noted at the inspection."""
    connection.execute(
        insert(issued_report).values(
            id=issued.id,
            inspection_id=inspection_id,
            kind=kind,
            repair_id=issued.repair_id,
            number=issued.number,
            issued_at=issued.issued_at,
            issued_by=person_id,
            seq=issued.seq,
            outcome=issued.outcome,
            replaces=issued.replaces,
            reason=issued.reason,
            document=document,
            client_words=client_words,
            pdf=pdf,
            sha256=issued.sha256,
            check_code=check_code(document),
        )
    )
    if kind == REPORT:
        keep_issue(connection, inspection_id, issued.number, issued.outcome)


def issues(connection: Connection, inspection_id: str, kind: str = REPORT) -> list[Issued]:
    """Every issue of an inspection of that kind, oldest first. The caller has checked whose inspection it is."""
    c = issued_report.c
    query = (
        select(
            c.id,
            c.number,
            c.issued_at,
            person.c.name.label("issued_by"),
            c.outcome,
            c.replaces,
            c.reason,
            c.sha256,
            c.seq,
            c.repair_id,
        )
        .join(person, person.c.id == c.issued_by)
        .where(c.inspection_id == inspection_id, c.kind == kind)
        .order_by(c.number)
    )
    return [Issued(**row) for row in connection.execute(query).mappings()]


def documents(connection: Connection, inspection_id: str, kind: str) -> dict[str, dict[str, Any]]:
    """What was frozen with each issue of that kind as data, by its id; erased ones are left out. The caller has checked
    whose inspection it is."""
    c = issued_report.c
    query = select(c.id, c.document).where(c.inspection_id == inspection_id, c.kind == kind, c.erased_at.is_(None))
    return {row.id: json.loads(row.document) for row in connection.execute(query)}


@dataclass(frozen=True, slots=True)
class Latest:
    """The latest issue of a report that is not erased. client_words: None where it was issued before they were kept."""

    issued: Issued
    document: dict[str, Any]
    client_words: dict[str, Any] | None


def latest(connection: Connection, inspection_id: str) -> Latest | None:
    """The latest issue of an inspection's report; None without one. The caller has checked whose inspection it is."""
    issued = issues(connection, inspection_id)
    if not issued:
        return None
    c = issued_report.c
    row = connection.execute(
        select(c.document, c.client_words).where(c.id == issued[-1].id, c.erased_at.is_(None))
    ).one_or_none()
    if row is None:
        return None
    return Latest(issued[-1], json.loads(row.document), json.loads(row.client_words) if row.client_words else None)


def frozen_pdf(connection: Connection, report_id: str, firm_id: str) -> tuple[str, bytes] | None:
    """File name and bytes of an issue of that firm, exactly as it was frozen; None where the firm has none."""
    if not is_id(report_id):
        return None
    c = issued_report.c
    row = connection.execute(
        select(c.pdf, c.number, c.kind, inspection.c.reference)
        .join(inspection, inspection.c.id == c.inspection_id)
        .where(c.id == report_id, inspection.c.firm_id == firm_id, c.erased_at.is_(None))
    ).one_or_none()
    if row is None:
        return None
    name = {MINOR_WORKS: "M", OFFER: "Q", CONFIRMATION: "confirmation-"}.get(row.kind, "issue-") + str(row.number)
    return f"{row.reference or 'report'}-{name}.pdf", row.pdf
