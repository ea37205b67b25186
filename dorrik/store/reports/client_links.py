"""Links to a client's page: with a token that nobody guesses, ended at any time, good until a day. Of the token only a
digest is kept."""

import secrets
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Any

from sqlalchemy import Connection, func, insert, select, update

from dorrik.core.basics.identifiers import is_id
from dorrik.store.database.engine import new_id, now
from dorrik.store.database.follow_up_tables import client_link
from dorrik.store.database.tables import ENTRIES, inspection
from dorrik.store.people.sessions import digest

#: How long a link is good where nothing else is said (days), and how long at most: longer than a report is valid nobody
#: needs one.
LASTS_DAYS, LONGEST_DAYS = 180, 1830
#: The page that opens it; the token stands after the '#', which no server or proxy gets to see or to log.
PAGE = "/home-report"


@dataclass(frozen=True, slots=True)
class ClientLink:
    """A link as the firm sees it. inspection_id: of which inspection, None for all of a client's."""

    id: str
    firm_id: str
    inspection_id: str | None
    client_id: str | None
    role: str
    name: str
    made_at: datetime
    expires_at: datetime
    revoked_at: datetime | None
    first_opened_at: datetime | None
    last_opened_at: datetime | None
    opened: int

    @property
    def good(self) -> bool:
        """Does it open the page?"""
        return self.revoked_at is None and self.expires_at > now()


def make(
    connection: Connection, firm_id: str, person_id: str | None, role: str, name: str, *,
    inspection_id: str | None = None, client_id: str | None = None, days: int = LASTS_DAYS,
) -> tuple[str, str]:  # fmt: skip
    """Make a link to one inspection, or to all of a client's; returns its id and its token, which is told once."""
    token, link_id, at = secrets.token_urlsafe(32), new_id(), now().replace(microsecond=0)
    connection.execute(
        insert(client_link).values(
            id=link_id, firm_id=firm_id, token_hash=digest(token), inspection_id=inspection_id, client_id=client_id,
            role=role, name=name[:120], made_at=at, made_by=person_id, expires_at=at + timedelta(days=days), opened=0,
        )
    )  # fmt: skip
    return link_id, token


def path(token: str) -> str:
    """The address of a link, below the server's own."""
    return f"{PAGE}#{token}"


def by_token(connection: Connection, token: str) -> ClientLink | None:
    """The link of a token, if it is good; None else."""
    links = _links(connection, client_link.c.token_hash == digest(token))
    return links[0] if links and links[0].good else None


def opened(connection: Connection, link_id: str) -> None:
    """Somebody has opened the page."""
    c, at = client_link.c, now().replace(microsecond=0)
    connection.execute(
        update(client_link)
        .where(c.id == link_id)
        .values(opened=c.opened + 1, last_opened_at=at, first_opened_at=func.coalesce(c.first_opened_at, at))
    )


def of_inspection(connection: Connection, inspection_id: str) -> list[ClientLink]:
    """The links to one inspection's page, the latest first."""
    return _links(connection, client_link.c.inspection_id == inspection_id)


def of_client(connection: Connection, firm_id: str, client_id: str) -> list[ClientLink]:
    """The links to everything of a client, the latest first."""
    return _links(connection, client_link.c.firm_id == firm_id, client_link.c.client_id == client_id)


def revoke(connection: Connection, firm_id: str, link_id: str) -> bool:
    """End a link; False where the firm has none of that id that is still good."""
    if not is_id(link_id):
        return False
    c = client_link.c
    changed = connection.execute(
        update(client_link)
        .where(c.id == link_id, c.firm_id == firm_id, c.revoked_at.is_(None))
        .values(revoked_at=now().replace(microsecond=0))
    )
    return changed.rowcount == 1


def _links(connection: Connection, *where: Any) -> list[ClientLink]:
    c = client_link.c
    query = select(
        c.id, c.firm_id, c.inspection_id, c.client_id, c.role, c.name, c.made_at, c.expires_at, c.revoked_at,
        c.first_opened_at, c.last_opened_at, c.opened,
    ).where(*where)  # fmt: skip
    return [ClientLink(**row) for row in connection.execute(query.order_by(c.made_at.desc(), c.id.desc())).mappings()]


@dataclass(frozen=True, slots=True)
class SharedHome:
    """A home that a link shows: its property, and the inspection whose report is its latest; None without one."""

    property_id: str | None
    address: str
    inspection_id: str | None
    reference: str
    due_on: Any


def homes(connection: Connection, link: ClientLink) -> list[SharedHome]:
    """The homes that a link shows: one, or every property of a client with its latest report."""
    i = inspection.c
    if link.inspection_id is not None:
        row = connection.execute(
            select(i.id, i.property_id, i.property_address, i.reference, i.due_on).where(
                i.id == link.inspection_id, i.firm_id == link.firm_id, i.erased_at.is_(None)
            )
        ).one_or_none()
        if row is None:
            return []
        return [SharedHome(row.property_id, row.property_address or "", row.id, row.reference or "", row.due_on)]
    p = ENTRIES["property"].c
    properties = connection.execute(
        select(p.id, p.address)
        .where(p.firm_id == link.firm_id, p.parent_id == link.client_id, p.removed.isnot(True))
        .order_by(p.address, p.id)
    ).all()
    issued = connection.execute(
        select(i.id, i.property_id, i.installation_id, i.property_address, i.reference, i.due_on)
        .where(i.firm_id == link.firm_id, i.property_id.in_([home.id for home in properties]))
        .where(i.issued_number.is_not(None), i.erased_at.is_(None))
        .order_by(i.inspected_on, i.id)
    ).all()
    return [home for home_row in properties for home in _of_property(home_row, issued)]


def outcomes(connection: Connection, inspection_ids: Sequence[str]) -> dict[str, str]:
    """The result of the latest issued report of each, by its inspection."""
    i = inspection.c
    rows = connection.execute(
        select(i.id, i.issued_outcome).where(i.id.in_(inspection_ids), i.issued_number.is_not(None))
    )
    return {row.id: row.issued_outcome for row in rows}


def _of_property(home: Any, issued: Sequence[Any]) -> list[SharedHome]:
    # Of each installation the latest: a house and its workshop have a report each.
    latest = {row.installation_id: row for row in issued if row.property_id == home.id}
    if not latest:
        return [SharedHome(home.id, home.address or "", None, "", None)]
    return [
        SharedHome(home.id, row.property_address or home.address or "", row.id, row.reference or "", row.due_on)
        for row in latest.values()
    ]
