"""Erasing what follows reports: letters, remedial steps, evidence, links and copies lose every word; that they were,
when, and with which figures stays."""

from collections.abc import Sequence
from typing import Any

from sqlalchemy import Connection, delete, or_, select, update

from dorrik.store.database.engine import now
from dorrik.store.database.follow_up_tables import client_link, evidence_file, remedial_step, report_copy
from dorrik.store.database.mail_tables import outgoing_file, outgoing_mail
from dorrik.store.database.planning_tables import (
    calendar_feed,
    planned_visit,
    visit_link,
    visit_photo,
    visit_step,
)

#: What of a step tells of nobody: figures, fields, codes, days, and digests.
_STAYS = ("on", "own", "code", "entity_id", "field", "unit", "before", "after", "status", "limit", "raises", "of")


def erase(connection: Connection, firm_id: str, client_id: str, at: Sequence[str], jobs: Sequence[str]) -> int:
    """Erase what follows the reports of these inspections, and the letters of these jobs; returns how many rows lost
    words. Links of the client, or of one of the inspections, open nothing any more."""
    rows = (
        _letters(connection, at, [*jobs, client_id])
        + _steps(connection, at)
        + _visits(connection, firm_id, client_id, jobs)
    )
    f, c, link = evidence_file.c, report_copy.c, client_link.c
    of_files = (f.inspection_id.in_(at), f.erased_at.is_(None))
    gone = {"name": "", "content": b"", "erased_at": now()}
    rows += connection.execute(update(evidence_file).where(*of_files).values(**gone)).rowcount
    rows += connection.execute(
        update(report_copy).where(c.inspection_id.in_(at), c.name != "").values(name="")
    ).rowcount  # fmt: skip
    of_links = or_(link.inspection_id.in_(at), (link.firm_id == firm_id) & (link.client_id == client_id))
    connection.execute(update(client_link).where(of_links, link.revoked_at.is_(None)).values(revoked_at=now()))
    rows += connection.execute(update(client_link).where(of_links, link.name != "").values(name="")).rowcount
    return rows


def _letters(connection: Connection, at: Sequence[str], jobs: Sequence[str]) -> int:
    c, f = outgoing_mail.c, outgoing_file.c
    here = (or_(c.inspection_id.in_(at), c.job_id.in_(jobs)), c.erased_at.is_(None))
    connection.execute(delete(outgoing_file).where(f.mail_id.in_(select(c.id).where(*here))))
    connection.execute(update(outgoing_mail).where(*here, c.state == "waiting").values(state="withdrawn"))
    gone: dict[str, Any] = {
        "about": "", "to_address": "", "reply_to": None, "subject": "", "text": "", "told": None, "erased_at": now()
    }  # fmt: skip
    return connection.execute(update(outgoing_mail).where(*here).values(**gone)).rowcount


def _steps(connection: Connection, at: Sequence[str]) -> int:
    c = remedial_step.c
    rows = 0
    for row in connection.execute(select(c.id, c.what).where(c.inspection_id.in_(at))).all():
        stays = {name: row.what[name] for name in _STAYS if name in row.what}
        if row.what.get("label"):
            # A figure still names itself, and no circuit by the words that somebody chose for it.
            stays["label"] = row.what["label"].rpartition(": ")[2]
        if stays != row.what:
            connection.execute(update(remedial_step).where(c.id == row.id).values(what=stays))
            rows += 1
    return rows


def _visits(connection: Connection, firm_id: str, client_id: str, jobs: Sequence[str]) -> int:
    """What occupiers said about visits, where letters to them went, photos of their doors, and calendars of the client;
    that there were visits, on which days and how long, stays."""
    v, s, link = planned_visit.c, visit_step.c, visit_link.c
    of_jobs = select(v.id).where(v.firm_id == firm_id, v.job_id.in_(jobs))
    steps = select(s.id).where(s.firm_id == firm_id, s.visit_id.in_(of_jobs))
    rows = connection.execute(delete(visit_photo).where(visit_photo.c.step_id.in_(steps))).rowcount
    here = (s.firm_id == firm_id, s.visit_id.in_(of_jobs))
    for row in connection.execute(select(s.id, s.what).where(*here)).all():
        stays = {name: row.what[name] for name in ("at", "handed_at", "times", "days") if name in row.what}
        if stays != row.what:
            connection.execute(update(visit_step).where(s.id == row.id).values(what=stays))
            rows += 1
    links = (link.firm_id == firm_id, link.visit_id.in_(of_jobs))
    gone = {"to_address": "", "answer_words": None, "expires_at": now()}
    rows += connection.execute(update(visit_link).where(*links).values(**gone)).rowcount
    connection.execute(update(planned_visit).where(v.firm_id == firm_id, v.job_id.in_(jobs)).values(why=None))
    f = calendar_feed.c
    of_client = (f.firm_id == firm_id, f.whose == "client", f.of_id == client_id)
    connection.execute(update(calendar_feed).where(*of_client, f.revoked_at.is_(None)).values(revoked_at=now()))
    return rows + connection.execute(update(calendar_feed).where(*of_client).values(name="")).rowcount
