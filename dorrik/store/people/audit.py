"""What was done about rights, settings, exports and issues, and who came in or did not: written once, never changed."""

from dataclasses import dataclass
from datetime import datetime
from typing import Any, Literal

from sqlalchemy import Connection, func, insert, select

from dorrik.store.database.account_tables import audit_entry, person
from dorrik.store.database.engine import now

Action = Literal[
    "signed in", "sign-in failed", "signed out", "session ended", "password changed", "password reset",
    "reset asked", "second factor on", "second factor off", "recovery code used",
    "firm set up", "letterhead changed", "rules settled", "rates settled", "table corrected", "correction withdrawn",
    "catalogue changed",
    "retention settled", "person invited", "person joined", "role changed", "person renamed", "person ended",
    "person resumed", "report submitted",
    "report sent back", "report issued", "report read", "certificate issued", "data exported", "data erased",
    "mail sent", "mail sent again", "mail withdrawn", "mail set up", "audit exported",
    "remedial step", "work confirmed", "client link made", "client link ended", "copy noted", "letters settled",
    "data taken in", "offer made", "offer accepted", "inspection rules changed", "verdicts differed",
    "device known", "device ended", "handed over",
]  # fmt: skip


@dataclass(frozen=True, slots=True)
class AuditEntry:
    """One thing done: when, by whom ('' where nobody was signed in), on what, with what details, from where."""

    id: int
    at: datetime
    person: str
    action: str
    subject: str
    detail: dict[str, Any] | None
    source: str


def note(
    connection: Connection, action: Action, *, firm_id: str | None, person_id: str | None = None, subject: str = "",
    source: str = "", **detail: Any,
) -> None:  # fmt: skip
    """Write down that something was done. detail: what a reader needs to understand it; no passwords, no readings."""
    connection.execute(
        insert(audit_entry).values(
            firm_id=firm_id, at=now(), person_id=person_id, action=action, subject=subject[:300],
            detail=detail or None, source=source[:60],
        )
    )  # fmt: skip


def lines(
    connection: Connection, firm_id: str, *, before: int | None = None, action: str | None = None, limit: int = 100
) -> list[AuditEntry]:
    """What was done in a firm, the latest first. before: the number of the last line seen; action: only such."""
    c = audit_entry.c
    query = (
        select(c.id, c.at, func.coalesce(person.c.name, ""), c.action, c.subject, c.detail, c.source)
        .outerjoin(person, person.c.id == c.person_id)
        .where(c.firm_id == firm_id)
    )
    if before is not None:
        query = query.where(c.id < before)
    if action is not None:
        query = query.where(c.action == action)
    return [AuditEntry(*row) for row in connection.execute(query.order_by(c.id.desc()).limit(limit))]


def count(connection: Connection, firm_id: str) -> int:
    """How many lines there are."""
    return connection.execute(select(func.count()).where(audit_entry.c.firm_id == firm_id)).scalar_one()
