"""A report on its way to being issued: its steps, and up to where each reviewer has read."""

from dataclasses import dataclass
from datetime import datetime
from typing import Any, Literal

from sqlalchemy import Connection, func, insert, select
from sqlalchemy.dialects.mysql import insert as upsert

from dorrik.store.database.account_tables import person
from dorrik.store.database.engine import new_id, now
from dorrik.store.database.tables import change, review_look, review_step
from dorrik.store.people.people import Person

Kind = Literal["submitted", "sent back", "authorised"]
SUBMITTED: Kind = "submitted"
SENT_BACK: Kind = "sent back"
AUTHORISED: Kind = "authorised"
#: What belongs to the review itself: a question, its answer, a second opinion. It changes nothing that was signed for.
APART = ("come_back", "opinion")


@dataclass(frozen=True, slots=True)
class ReviewStep:
    """One step: who took it, in which role, when, what they had before them (seq), their words and their signature."""

    number: int
    kind: Kind
    at: datetime
    person_id: str
    name: str
    role: str
    seq: int
    words: str | None
    signature: dict[str, Any] | None


def steps(connection: Connection, inspection_id: str) -> list[ReviewStep]:
    """Every step, oldest first. The caller has checked whose inspection it is."""
    c = review_step.c
    query = (
        select(c.number, c.kind, c.at, c.person_id, person.c.name, person.c.role, c.seq, c.words, c.signature)
        .join(person, person.c.id == c.person_id)
        .where(c.inspection_id == inspection_id)
        .order_by(c.number)
    )
    return [ReviewStep(*row) for row in connection.execute(query)]


def take(
    connection: Connection, inspection_id: str, who: Person, kind: Kind, seq: int, *,
    words: str | None = None, signature: dict[str, Any] | None = None,
) -> None:  # fmt: skip
    """Take a step, in the caller's transaction, which holds the inspection's row."""
    c = review_step.c
    last = connection.execute(select(func.max(c.number)).where(c.inspection_id == inspection_id)).scalar()
    connection.execute(
        insert(review_step).values(
            id=new_id(), inspection_id=inspection_id, number=(last or 0) + 1, kind=kind,
            at=now().replace(microsecond=0), person_id=who.id, seq=seq, words=words, signature=signature,
        )
    )  # fmt: skip


def changed_since(connection: Connection, inspection_id: str, seq: int) -> bool:
    """Was anything changed since that a signature stands for?"""
    c = change.c
    query = select(c.seq).where(c.inspection_id == inspection_id, c.seq > seq, c.entity.not_in(APART)).limit(1)
    return connection.execute(query).first() is not None


def is_only(connection: Connection, inspection_id: str, seq: int, ids: frozenset[str]) -> bool:
    """Is what was written since just what these changes are, each of them kept? What belongs to the review itself may
    have come beside them."""
    c = change.c
    query = select(c.change_id, c.entity).where(c.inspection_id == inspection_id, c.seq > seq)
    kinds = {str(row.change_id): row.entity for row in connection.execute(query)}
    return ids <= set(kinds) and all(kinds[change_id] in APART for change_id in set(kinds) - ids)


def in_review(connection: Connection, inspection_id: str) -> bool:
    """Is it submitted, and as it was then?"""
    c = review_step.c
    query = select(c.kind, c.seq).where(c.inspection_id == inspection_id).order_by(c.number.desc()).limit(1)
    last = connection.execute(query).one_or_none()
    return last is not None and last.kind == SUBMITTED and not changed_since(connection, inspection_id, last.seq)


def looked(connection: Connection, inspection_id: str, person_id: str) -> int | None:
    """Up to where somebody has read; None where they have not."""
    c = review_look.c
    query = select(c.seq).where(c.inspection_id == inspection_id, c.person_id == person_id)
    return connection.execute(query).scalar_one_or_none()


def look(connection: Connection, inspection_id: str, person_id: str, seq: int) -> None:
    """Somebody has read up to there."""
    insertion = upsert(review_look).values(inspection_id=inspection_id, person_id=person_id, seq=seq, at=now())
    connection.execute(insertion.on_duplicate_key_update(seq=insertion.inserted.seq, at=insertion.inserted.at))
