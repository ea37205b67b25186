"""The register of copies: who got a copy of an issued report or of its confirmation, how, when, and whether they opened
it."""

from dataclasses import dataclass
from datetime import datetime
from typing import Literal

from sqlalchemy import Connection, insert, select, update

from dorrik.core.basics.identifiers import is_id
from dorrik.core.work.duty_states import Role
from dorrik.store.database.account_tables import person
from dorrik.store.database.engine import new_id, now
from dorrik.store.database.follow_up_tables import client_link, report_copy
from dorrik.store.database.mail_tables import outgoing_mail
from dorrik.store.database.tables import issued_report

#: How a copy gets to somebody.
How = Literal["mail", "link", "post", "by hand"]


@dataclass(frozen=True, slots=True)
class SentCopy:
    """One copy. of: kind of the paper ('report', 'confirmation'); number: of its issue; by: who says so, and whether
    somebody of the firm; mail_state: of a mail, '' for another way; opened_at: of the link that went with it."""

    id: str
    of: str
    number: int
    role: Role
    name: str
    how: How
    at: datetime
    by: str
    of_firm: bool
    mail_id: str | None
    mail_state: str
    opened_at: datetime | None

    @property
    def arrived(self) -> bool:
        """Does it count? A mail that has not left or came back is no copy."""
        return self.mail_state in ("", "sent") or self.opened_at is not None


def note(
    connection: Connection, inspection_id: str, report_id: str, role: Role, name: str, how: How, at: datetime, *,
    person_id: str | None = None, link_id: str | None = None, mail_id: str | None = None,
) -> str:  # fmt: skip
    """Note a copy; returns its id."""
    copy_id = new_id()
    connection.execute(
        insert(report_copy).values(
            id=copy_id, inspection_id=inspection_id, report_id=report_id, role=role, name=name[:120], how=how, at=at,
            mail_id=mail_id, link_id=link_id, person_id=person_id,
        )
    )  # fmt: skip
    return copy_id


def of_inspection(connection: Connection, inspection_id: str) -> list[SentCopy]:
    """Every copy that was noted, oldest first."""
    c, link, r, m = report_copy.c, client_link.c, issued_report.c, outgoing_mail.c
    query = (
        select(
            c.id, r.kind, r.number, c.role, c.name, c.how, c.at, person.c.name.label("by"), link.name.label("holder"),
            c.mail_id, m.state, link.first_opened_at, c.person_id,
        )
        .join(issued_report, r.id == c.report_id)
        .outerjoin(person, person.c.id == c.person_id)
        .outerjoin(client_link, link.id == c.link_id)
        .outerjoin(outgoing_mail, m.id == c.mail_id)
        .where(c.inspection_id == inspection_id, c.removed_at.is_(None))
        .order_by(c.at, c.id)
    )  # fmt: skip
    return [
        SentCopy(
            row.id, row.kind, row.number, row.role, row.name, row.how, row.at, row.by or row.holder or "",
            row.person_id is not None, row.mail_id, row.state or "",
            row.first_opened_at if row.person_id is not None else None,
        )
        for row in connection.execute(query)
    ]  # fmt: skip


def remove(connection: Connection, inspection_id: str, copy_id: str) -> bool:
    """Take a copy out of the register; the row stays. False where there is none of that id."""
    if not is_id(copy_id):
        return False
    c = report_copy.c
    changed = connection.execute(
        update(report_copy)
        .where(c.id == copy_id, c.inspection_id == inspection_id, c.removed_at.is_(None))
        .values(removed_at=now())
    )
    return changed.rowcount == 1
