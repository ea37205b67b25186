"""Issued reports as they are kept: frozen document and PDF together, never changed."""

from dataclasses import dataclass
from datetime import datetime

from sqlalchemy import Connection, insert, select

from dorrik.store.account_tables import person
from dorrik.store.engine import is_id
from dorrik.store.listing import keep_issue
from dorrik.store.tables import inspection, issued_report


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


def keep(connection: Connection, inspection_id: str, person_id: str, issued: Issued, document: str, pdf: bytes) -> None:
    """Keep an issue with its document (JSON text) and its PDF, and note it at the inspection."""
    connection.execute(
        insert(issued_report).values(
            id=issued.id,
            inspection_id=inspection_id,
            number=issued.number,
            issued_at=issued.issued_at,
            issued_by=person_id,
            seq=issued.seq,
            outcome=issued.outcome,
            replaces=issued.replaces,
            reason=issued.reason,
            document=document,
            pdf=pdf,
            sha256=issued.sha256,
        )
    )
    keep_issue(connection, inspection_id, issued.number, issued.outcome)


def issues(connection: Connection, inspection_id: str) -> list[Issued]:
    """Every issue of an inspection, oldest first. The caller has checked whose inspection it is."""
    c = issued_report.c
    query = (
        select(c.id, c.number, c.issued_at, person.c.name, c.outcome, c.replaces, c.reason, c.sha256, c.seq)
        .join(person, person.c.id == c.issued_by)
        .where(c.inspection_id == inspection_id)
        .order_by(c.number)
    )
    return [Issued(*row) for row in connection.execute(query)]


def frozen_pdf(connection: Connection, report_id: str, firm_id: str) -> tuple[str, bytes] | None:
    """File name and bytes of an issue of that firm, exactly as it was frozen; None where the firm has none."""
    if not is_id(report_id):
        return None
    c = issued_report.c
    row = connection.execute(
        select(c.pdf, c.number, inspection.c.reference)
        .join(inspection, inspection.c.id == c.inspection_id)
        .where(c.id == report_id, inspection.c.firm_id == firm_id, c.erased_at.is_(None))
    ).one_or_none()
    if row is None:
        return None
    return f"{row.reference or 'report'}-issue-{row.number}.pdf", row.pdf
