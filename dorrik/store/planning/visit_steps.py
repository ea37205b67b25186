"""What happened about a visit, step by step, written once: asked, answered, told, reminded, nobody opened."""

import hashlib
from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date, datetime
from typing import Any, Literal

from sqlalchemy import Connection, func, insert, select

from dorrik.store.database.account_tables import person
from dorrik.store.database.engine import new_id, now
from dorrik.store.database.mail_tables import outgoing_mail
from dorrik.store.database.planning_tables import visit_photo, visit_step

#: asked: times were proposed; taken, declined, proposed: the occupier's answer; gone: a time was taken that is no
#: longer free; told: the power-off notice; reminded: the day before; booked, cancelled: by the office; no access:
#: nobody opened.
StepKind = Literal[
    "asked", "taken", "declined", "proposed", "gone", "told", "reminded", "booked", "cancelled", "no access"
]
#: A photo has so many bytes at most.
LARGEST = 8_000_000


@dataclass(frozen=True, slots=True)
class VisitStep:
    """A step. on_day: the day that it is about; by: who of the firm, '' for the occupier or by itself; letter: how its
    mail stands, None without one; photos: ids."""

    id: str
    visit_id: str
    kind: StepKind
    at: datetime
    on_day: date | None
    what: dict[str, Any]
    by: str
    letter: str | None
    sent_at: datetime | None
    photos: tuple[str, ...]


def note(
    connection: Connection, firm_id: str, visit_id: str, kind: StepKind, *, on_day: date | None = None,
    what: Mapping[str, Any] | None = None, person_id: str | None = None, link_id: str | None = None,
    mail_id: str | None = None,
) -> str:  # fmt: skip
    """Write a step down; returns its id."""
    step_id = new_id()
    connection.execute(
        insert(visit_step).values(
            id=step_id, firm_id=firm_id, visit_id=visit_id, kind=kind, at=now(), on_day=on_day, what=dict(what or {}),
            person_id=person_id, link_id=link_id, mail_id=mail_id,
        )
    )  # fmt: skip
    return step_id


def of_visit(connection: Connection, firm_id: str, visit_id: str) -> list[VisitStep]:
    """The steps about a visit, the first first."""
    s, m = visit_step.c, outgoing_mail.c
    query = (
        select(s.id, s.visit_id, s.kind, s.at, s.on_day, s.what, person.c.name, m.state, m.ended_at)
        .select_from(
            visit_step.outerjoin(person, person.c.id == s.person_id).outerjoin(outgoing_mail, m.id == s.mail_id)
        )
        .where(s.firm_id == firm_id, s.visit_id == visit_id)
        .order_by(s.at, s.id)
    )
    rows = connection.execute(query).all()
    p = visit_photo.c
    photos: dict[str, list[str]] = {}
    for row in connection.execute(select(p.id, p.step_id).where(p.step_id.in_([row.id for row in rows]))):
        photos.setdefault(row.step_id, []).append(row.id)
    return [
        VisitStep(
            row[0], row[1], row[2], row[3], row[4], row[5], row[6] or "", row[7],
            row[8] if row[7] in ("sent", "bounced") else None, tuple(photos.get(row[0], ())),
        )
        for row in rows
    ]  # fmt: skip


def was(connection: Connection, firm_id: str, visit_id: str, kind: StepKind, on_day: date) -> bool:
    """Is there such a step about that day?"""
    s = visit_step.c
    here = (s.firm_id == firm_id, s.visit_id == visit_id, s.kind == kind, s.on_day == on_day)
    return bool(connection.execute(select(func.count()).where(*here)).scalar_one())


def keep_photo(connection: Connection, firm_id: str, step_id: str, name: str, content: bytes) -> str:
    """Keep a photo of a step; returns its id."""
    photo_id = new_id()
    connection.execute(
        insert(visit_photo).values(
            id=photo_id, firm_id=firm_id, step_id=step_id, name=name[:190], content=content,
            sha256=hashlib.sha256(content).hexdigest(), at=now().replace(microsecond=0),
        )
    )  # fmt: skip
    return photo_id


def photo(connection: Connection, firm_id: str, photo_id: str) -> bytes | None:
    """A photo of that firm; None where there is none of that id."""
    p = visit_photo.c
    return connection.execute(select(p.content).where(p.id == photo_id, p.firm_id == firm_id)).scalar()


def step_of(connection: Connection, firm_id: str, step_id: str) -> VisitStep | None:
    """A step of that firm by its id."""
    s = visit_step.c
    visit_id = connection.execute(select(s.visit_id).where(s.id == step_id, s.firm_id == firm_id)).scalar()
    if visit_id is None:
        return None
    return next((step for step in of_visit(connection, firm_id, visit_id) if step.id == step_id), None)
