"""What stands out among a firm's inspections and jobs on a day: lines for the home screen, few and quick."""

from dataclasses import dataclass
from datetime import date, datetime

from sqlalchemy import ColumnElement, Connection, Subquery, exists, func, select

from dorrik.store.database.tables import ENTITIES, ENTRIES, change, inspection, review_step
from dorrik.store.inspections import reviews

#: Lines of each kind that are shown; more of them stand in their lists.
MOST = 12


@dataclass(frozen=True, slots=True)
class Waiting:
    """An inspection that waits for somebody: its id, reference and address, the day that counts, and why."""

    id: str
    reference: str | None
    property_address: str | None
    on: date | None
    reason: str | None


@dataclass(frozen=True, slots=True)
class OpenJob:
    """A job without what comes next: its id and number, the property's address, and the day it is booked for."""

    id: str
    number: str | None
    property_address: str | None
    on: date | None


def _last_step() -> Subquery:
    """The last step of each report on its way."""
    s = review_step.c
    later = select(s.inspection_id, func.max(s.number).label("number")).group_by(s.inspection_id).subquery()
    joined = review_step.join(later, (s.inspection_id == later.c.inspection_id) & (s.number == later.c.number))
    return select(s.inspection_id, s.kind, s.at, s.words, s.seq).select_from(joined).subquery()


def on_its_way(connection: Connection, firm_id: str, kind: reviews.Kind) -> list[Waiting]:
    """Inspections whose report was submitted and is as it was signed for, or was sent back, and nothing came of it yet;
    the one that waits longest first."""
    i, last = inspection.c, _last_step()
    query = (
        select(i.id, i.reference, i.property_address, last.c.at, last.c.words)
        .join(last, last.c.inspection_id == i.id)
        .where(i.firm_id == firm_id, i.erased_at.is_(None), last.c.kind == kind)
        .order_by(last.c.at, i.id)
        .limit(MOST)
    )
    if kind == reviews.SUBMITTED:
        query = query.where(~_changed_since(last))
    rows = connection.execute(query)
    return [Waiting(row.id, row.reference, row.property_address, row.at.date(), row.words) for row in rows]


def to_sign_again(connection: Connection, firm_id: str) -> list[Waiting]:
    """Inspections that were signed for and changed since: nobody reviews them until they are signed for again."""
    i, last = inspection.c, _last_step()
    query = (
        select(i.id, i.reference, i.property_address, last.c.at)
        .join(last, last.c.inspection_id == i.id)
        .where(i.firm_id == firm_id, i.erased_at.is_(None), last.c.kind == reviews.SUBMITTED, _changed_since(last))
        .order_by(last.c.at, i.id)
        .limit(MOST)
    )
    rows = connection.execute(query)
    return [Waiting(row.id, row.reference, row.property_address, row.at.date(), SIGN_AGAIN) for row in rows]


#: Why an inspection waits that was changed after its signature.
SIGN_AGAIN = "changed since it was signed: sign again"


def _changed_since(last: Subquery) -> ColumnElement[bool]:
    """Was anything changed since that step that a signature stands for?"""
    c = change.c
    later = (c.inspection_id == last.c.inspection_id, c.seq > last.c.seq, c.entity.not_in(reviews.APART))
    return exists(select(c.seq).where(*later))


def ready(connection: Connection, firm_id: str) -> list[Waiting]:
    """Inspections in hand with nothing left to do that nobody signed for yet, the one changed last first."""
    i, last = inspection.c, _last_step()
    on_the_way = select(last.c.inspection_id).where(last.c.kind != reviews.AUTHORISED)
    query = (
        select(i.id, i.reference, i.property_address, i.inspected_on)
        .where(i.firm_id == firm_id, i.issued_number.is_(None), i.held_at.is_(None))
        .where(i.judged_seq == i.seq, i.left_count == 0, i.id.not_in(on_the_way))
        .order_by(i.changed_at.desc())
        .limit(MOST)
    )
    return [
        Waiting(row.id, row.reference, row.property_address, row.inspected_on, None)
        for row in connection.execute(query)
    ]


def returns(connection: Connection, firm_id: str, until: date) -> list[Waiting]:
    """Inspections on hold whose return visit is on that day or before, or on no day yet."""
    i = inspection.c
    query = (
        select(i.id, i.reference, i.property_address, i.return_on, i.held_reason)
        .where(i.firm_id == firm_id, i.issued_number.is_(None), i.held_at.is_not(None))
        .where(i.return_on.is_(None) | (i.return_on <= until))
        .order_by(i.return_on.is_(None), i.return_on, i.id)
        .limit(MOST)
    )
    return [Waiting(*row) for row in connection.execute(query)]


def promises(connection: Connection, firm_id: str, at: datetime) -> list[Waiting]:
    """What the network operator promised by a moment that has gone by, and nothing came of it; the oldest first."""
    i, c = inspection.c, ENTITIES["operator_call"].c
    query = (
        select(i.id, i.reference, i.property_address, c.promised_by, c.reference.label("theirs"))
        .join(ENTITIES["operator_call"], c.inspection_id == i.id)
        .where(i.firm_id == firm_id, i.erased_at.is_(None), c.removed.isnot(True))
        .where(c.closed_at.is_(None), c.promised_by < at)
        .order_by(c.promised_by, c.id)
        .limit(MOST)
    )
    return [
        Waiting(row.id, row.reference, row.property_address, row.promised_by.date(), row.theirs)
        for row in connection.execute(query)
    ]


def due(connection: Connection, firm_id: str, until: date, most: int = MOST) -> tuple[list[Waiting], int]:
    """Issued inspections that are due again on that day or before, the first ones of them, and how many there are."""
    i = inspection.c
    here = (i.firm_id == firm_id, i.issued_number.is_not(None), i.due_on.is_not(None), i.due_on <= until)
    query = select(i.id, i.reference, i.property_address, i.due_on, i.client_name).where(*here)
    rows = connection.execute(query.order_by(i.due_on, i.id).limit(most))
    count = connection.execute(select(func.count()).select_from(inspection).where(*here)).scalar_one()
    return [Waiting(*row) for row in rows], count


def unconfirmed(connection: Connection, firm_id: str) -> list[OpenJob]:
    """Jobs that are asked for or booked and whose confirmation was not mailed, those with a day first."""
    j, p = ENTRIES["job"].c, ENTRIES["property"].c
    query = (
        select(j.id, j.number, p.address, j.booked_on)
        .select_from(ENTRIES["job"])
        .join(ENTRIES["property"], (p.firm_id == j.firm_id) & (p.id == j.parent_id))
        .where(j.firm_id == firm_id, j.removed.isnot(True))
        .where(j.state.in_(("asked", "booked")), j.confirmation_sent.is_(None))
        .order_by(j.booked_on.is_(None), j.booked_on, j.id)
        .limit(MOST)
    )
    return [OpenJob(*row) for row in connection.execute(query)]
