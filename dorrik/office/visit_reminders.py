"""The day before a visit, who lives there is reminded by mail, once; where a firm has a mail server and an address."""

from datetime import date, timedelta

from sqlalchemy import Connection, Engine

from dorrik.office import mail_delivery, visit_situation
from dorrik.report import mail, visit_mail
from dorrik.store.mail import mail_queue
from dorrik.store.mail.mail_queue import About
from dorrik.store.people import people
from dorrik.store.planning import visit_steps, visits
from dorrik.store.planning.visits import KeptPlace
from dorrik.store.register import register
from dorrik.store.register.register import RegisterRecord


def remind(engine: Engine, today: date) -> int:
    """Queue the reminders of tomorrow's visits; returns how many there were."""
    with engine.begin() as connection:
        firms = [firm.id for firm in people.firms(connection, demo=None)]
    count = 0
    for firm_id in firms:
        with engine.begin() as connection:
            booked = register.booked(connection, firm_id, today + timedelta(days=1), 1_000)
        for job, home in booked:
            if job.values.get("booked_on") == (today + timedelta(days=1)).isoformat():
                with engine.begin() as connection:
                    count += _of_visit(connection, firm_id, job, home, today + timedelta(days=1))
    return count


def _of_visit(connection: Connection, firm_id: str, job: RegisterRecord, home: RegisterRecord, on_day: date) -> int:
    # The plan's lock: of two servers one reminds.
    visits.head(connection, firm_id, lock=True)
    visit_id = visit_situation.visit_id(firm_id, job.id, None)
    if visit_steps.was(connection, firm_id, visit_id, "reminded", on_day):
        return 0
    place = mail_delivery.server_of(connection, firm_id)
    to = str(home.values.get("occupier_email") or "")
    if place is None or not to:
        return 0
    try:
        address = mail.recipient(to)
    except mail.NotSent:
        return 0
    if visits.one(connection, firm_id, visit_id) is None:
        empty = KeptPlace(visit_id, job.id, None, None, None, None, 0.0, pinned=False)
        visits.place(connection, firm_id, None, [empty])
    firm = people.firm_details(connection, firm_id)
    mail_words = visit_mail.reminder(home.values, job.values, firm["name"], firm["phone"] or "")
    written = mail_delivery.written(
        place, firm_id, firm["name"], firm["email"] or None, address, mail_words.subject, mail_words.text, ()
    )
    about = About("visit reminder", f"reminder of {on_day.isoformat()}", job_id=job.id)
    mail_id = mail_queue.put(connection, written, about, None)
    visit_steps.note(connection, firm_id, visit_id, "reminded", on_day=on_day, mail_id=mail_id)
    return 1
