"""Links by which an occupier takes, declines or proposes a time: of the token only a digest is kept."""

import secrets
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Any, Literal

from sqlalchemy import Connection, func, insert, select, update

from dorrik.store.database.engine import new_id, now
from dorrik.store.database.planning_tables import visit_link
from dorrik.store.people.sessions import digest

Answer = Literal["taken", "declined", "proposed"]
#: The page that opens it; the token stands after the '#', which no server or proxy gets to see or to log.
PAGE = "/visit"
LASTS = timedelta(days=60)


@dataclass(frozen=True, slots=True)
class VisitLink:
    """A link as the firm sees it. times: as they were proposed; answer: the last one, answer_words: what it said."""

    id: str
    firm_id: str
    visit_id: str
    made_by: str
    times: list[dict[str, Any]]
    to_address: str
    made_at: datetime
    expires_at: datetime
    ended_at: datetime | None
    ended_why: str | None
    opened: int
    answer: Answer | None
    answered_at: datetime | None
    answer_words: dict[str, Any] | None

    @property
    def good(self) -> bool:
        """Does it still open the page?"""
        return self.expires_at > now()

    @property
    def open(self) -> bool:
        """Is an answer still waited for?"""
        return self.good and self.ended_at is None and self.answer is None


def make(
    connection: Connection, firm_id: str, person_id: str, visit_id: str, times: Sequence[Mapping[str, Any]], to: str
) -> tuple[str, str]:
    """Make a link; returns its id and its token, which is told once. Earlier ones of the visit end."""
    end(connection, firm_id, visit_id, "A newer letter has other times.")
    token, link_id, at = secrets.token_urlsafe(32), new_id(), now().replace(microsecond=0)
    connection.execute(
        insert(visit_link).values(
            id=link_id, firm_id=firm_id, visit_id=visit_id, token_hash=digest(token),
            times=[dict(one) for one in times], to_address=to, made_at=at,
            made_by=person_id, expires_at=at + LASTS, opened=0,
        )
    )  # fmt: skip
    return link_id, token


def by_token(connection: Connection, token: str, *, lock: bool = False) -> VisitLink | None:
    """The link of a token while it is good; None else. lock: hold it until the transaction ends."""
    query = _query().where(visit_link.c.token_hash == digest(token))
    row = connection.execute(query.with_for_update() if lock else query).one_or_none()
    link = VisitLink(**row._mapping) if row is not None else None
    return link if link is not None and link.good else None


def of_visits(connection: Connection, firm_id: str) -> dict[str, VisitLink]:
    """The latest link of each visit of a firm, by the visit."""
    query = _query().where(visit_link.c.firm_id == firm_id).order_by(visit_link.c.made_at, visit_link.c.id)
    return {row.visit_id: VisitLink(**row._mapping) for row in connection.execute(query)}


def opened(connection: Connection, link_id: str) -> None:
    """Somebody has opened the page."""
    c = visit_link.c
    first = func.coalesce(c.first_opened_at, now().replace(microsecond=0))
    connection.execute(update(visit_link).where(c.id == link_id).values(opened=c.opened + 1, first_opened_at=first))


def answered(connection: Connection, link_id: str, answer: Answer, words: Mapping[str, Any]) -> None:
    """Write down what the occupier said."""
    at = now().replace(microsecond=0)
    values = {"answer": answer, "answered_at": at, "answer_words": dict(words)}
    connection.execute(update(visit_link).where(visit_link.c.id == link_id).values(**values))


def sent_by(connection: Connection, link_id: str, mail_id: str) -> None:
    """The letter that brings the link."""
    connection.execute(update(visit_link).where(visit_link.c.id == link_id).values(mail_id=mail_id))


def end(connection: Connection, firm_id: str, visit_id: str, why: str) -> None:
    """End every link of a visit that nobody has answered yet."""
    c = visit_link.c
    here = (c.firm_id == firm_id, c.visit_id == visit_id, c.ended_at.is_(None), c.answer.is_(None))
    values = {"ended_at": now().replace(microsecond=0), "ended_why": why[:200]}
    connection.execute(update(visit_link).where(*here).values(**values))


def _query() -> Any:
    return select(*(visit_link.c[name] for name in VisitLink.__dataclass_fields__))
