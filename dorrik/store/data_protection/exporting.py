"""Everything that is kept of somebody, as plain data: of a client with their homes, or of one of the firm's people."""

from collections.abc import Iterator
from typing import Any

from sqlalchemy import Connection, select

from dorrik.core.work.register import OF_PROPERTY
from dorrik.store.data_protection import retention
from dorrik.store.database.account_tables import audit_entry, person
from dorrik.store.database.tables import ENTITIES, ENTRIES, book_change, inspection, issued_report, review_step
from dorrik.store.database.tables import change as journal
from dorrik.store.inspections import reviews
from dorrik.store.mail import mail_queue
from dorrik.store.people import sessions
from dorrik.store.planning import visit_steps
from dorrik.store.planning import visits as planned_visits
from dorrik.store.register import register
from dorrik.store.reports import client_links, copies, remedials


def of_client(connection: Connection, firm_id: str, client_id: str) -> dict[str, Any]:
    """Entries of the register with their histories, inspections with their journals, and what was issued."""
    homes = retention.properties_of(connection, firm_id, client_id)
    at = retention.inspections_at(connection, firm_id, homes)
    entries = [("client", client_id), *(("property", home) for home in homes)]
    for kind in OF_PROPERTY:
        c = ENTRIES[kind].c
        jobs = connection.execute(select(c.id).where(c.firm_id == firm_id, c.parent_id.in_(homes))).scalars()
        entries += [(kind, job) for job in jobs]
    return {
        "register": [_entry(connection, firm_id, kind, one) for kind, one in entries],
        "inspections": [_inspection(connection, one) for one in at],
    }


def _letter(row: Any) -> dict[str, Any]:
    return {
        "kind": row.kind, "to": row.to_address, "subject": row.subject, "text": row.text, "state": row.state,
        "at": row.made_at.isoformat() + "Z",
    }  # fmt: skip


def _entry(connection: Connection, firm_id: str, kind: str, entry_id: str) -> dict[str, Any]:
    entry = register.get(connection, firm_id, kind, entry_id)
    c = book_change.c
    query = (
        select(c.field, c.value, c.before, c.made_at, person.c.name)
        .join(person, person.c.id == c.author_id)
        .where(c.firm_id == firm_id, c.kind == kind, c.entry_id == entry_id)
        .order_by(c.id)
    )
    history = [_line(row) for row in connection.execute(query)]
    letters = (
        [_letter(row) for row in mail_queue.of_subject(connection, job_id=entry_id)]
        if kind in ("job", "client")
        else []
    )
    values = entry.values if entry else {}
    visits = list(_visits(connection, firm_id, entry_id)) if kind == "job" else []
    return {
        "kind": kind, "id": entry_id, "values": values, "history": history, "letters": letters, "visits": visits,
    }  # fmt: skip


def _visits(connection: Connection, firm_id: str, job_id: str) -> Iterator[dict[str, Any]]:
    """Visits of a job with everything that happened about them."""
    for visit in planned_visits.of_firm(connection, firm_id).values():
        if visit.job_id != job_id:
            continue
        yield {
            "day": visit.day.isoformat() if visit.day else None, "begins_min": visit.begins_min,
            "minutes": visit.minutes,
            "steps": [
                {
                    "kind": step.kind, "at": step.at.isoformat() + "Z", "by": step.by, "what": step.what,
                    "on_day": step.on_day.isoformat() if step.on_day else None, "letter": step.letter,
                    "photos": len(step.photos),
                }
                for step in visit_steps.of_visit(connection, firm_id, visit.id)
            ],
        }  # fmt: skip


def _line(row: Any) -> dict[str, Any]:
    return {
        "field": row.field,
        "value": row.value,
        "before": row.before,
        "at": row.made_at.isoformat() + "Z",
        "by": row.name,
    }


def _inspection(connection: Connection, inspection_id: str) -> dict[str, Any]:
    c, r = journal.c, issued_report.c
    query = (
        select(c.entity, c.entity_id, c.field, c.value, c.before, c.made_at, person.c.name)
        .join(person, person.c.id == c.author_id)
        .where(c.inspection_id == inspection_id)
        .order_by(c.seq)
    )
    reference = connection.execute(select(inspection.c.reference).where(inspection.c.id == inspection_id)).scalar()
    issued = connection.execute(
        select(r.id, r.number, r.issued_at, r.sha256).where(r.inspection_id == inspection_id).order_by(r.number)
    )
    photo = ENTITIES["photo"].c
    photos = connection.execute(
        select(photo.sha256).where(photo.inspection_id == inspection_id, photo.sha256.is_not(None)).distinct()
    )
    letters = mail_queue.of_subject(connection, inspection_id=inspection_id)
    return {
        "id": inspection_id,
        "reference": reference,
        "photos": sorted(photos.scalars()),
        "journal": [{"entity": row.entity, "id": row.entity_id, **_line(row)} for row in connection.execute(query)],
        "review": [
            {"step": step.kind, "at": step.at.isoformat() + "Z", "by": step.name, "words": step.words}
            for step in reviews.steps(connection, inspection_id)
        ],
        "remedials": [
            {
                "observation": step.observation_id,
                "step": step.kind,
                "at": step.at.isoformat() + "Z",
                "by": step.by,
                "what": step.what,
                "files": [{"id": file.id, "name": file.name} for file in step.files],
            }
            for step in remedials.steps(connection, inspection_id)
        ],
        "copies": [
            {"role": copy.role, "name": copy.name, "how": copy.how, "at": copy.at.isoformat() + "Z", "by": copy.by}
            for copy in copies.of_inspection(connection, inspection_id)
        ],
        "links": [
            {"name": link.name, "role": link.role, "made_at": link.made_at.isoformat() + "Z", "opened": link.opened}
            for link in client_links.of_inspection(connection, inspection_id)
        ],
        "letters": [_letter(letter) for letter in letters],
        "reports": [
            {"id": row.id, "number": row.number, "issued_at": row.issued_at.isoformat() + "Z", "sha256": row.sha256}
            for row in issued
        ],
    }


def of_person(connection: Connection, firm_id: str, person_id: str) -> dict[str, Any]:
    """Account, sessions, what the audit log says of them, every change that they made, and every step of theirs with
    a report, with their signature."""
    row = connection.execute(select(person).where(person.c.id == person_id, person.c.firm_id == firm_id)).one()
    a, b, i, c = audit_entry.c, book_change.c, inspection.c, journal.c
    rows = connection.execute(
        select(a.at, a.action, a.subject, a.source).where(a.person_id == person_id).order_by(a.id)
    )
    kept = connection.execute(
        select(b.kind, b.entry_id, b.field, b.value, b.made_at)
        .where(b.firm_id == firm_id, b.author_id == person_id)
        .order_by(b.id)
    )
    made = connection.execute(
        select(
            c.inspection_id,
            i.reference,
            c.entity,
            c.entity_id,
            c.field,
            c.value,
            c.made_at,
            c.device,
            c.instrument_id,
            c.read_at,
            c.read_by,
        )
        .join(inspection, i.id == c.inspection_id)
        .where(i.firm_id == firm_id, c.author_id == person_id)
        .order_by(c.made_at)
    )
    s = review_step.c
    steps = connection.execute(
        select(s.inspection_id, s.kind, s.at, s.words, s.signature).where(s.person_id == person_id).order_by(s.at)
    )
    return {
        "account": {
            "name": row.name,
            "email": row.email,
            "role": row.role,
            "second_factor": row.totp_since is not None,
            "made_at": row.made_at and row.made_at.isoformat() + "Z",
            "ended_at": row.ended_at and row.ended_at.isoformat() + "Z",
        },
        "sessions": [
            {"agent": session.agent, "from": session.source, "made_at": session.made_at.isoformat() + "Z"}
            for session in sessions.of(connection, person_id)
        ],
        "audit": list(_plain(rows)),
        "register": list(_plain(kept)),
        "changes": list(_plain(made)),
        "reviews": list(_plain(steps)),
    }


def _plain(rows: Any) -> Iterator[dict[str, Any]]:
    for row in rows:
        yield {
            name: value.isoformat() + "Z" if hasattr(value, "isoformat") else value
            for name, value in row._mapping.items()
        }
