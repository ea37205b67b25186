"""Reminding clients of homes whose inspection is due, as often before it as their firm has settled; each once."""

from collections import defaultdict
from datetime import date, timedelta

from sqlalchemy import Connection, Engine

from dorrik.core.work.portfolio_view import ViewedProperty
from dorrik.office import mail_delivery
from dorrik.office.portfolio import Portfolios
from dorrik.report import mail, report_mail
from dorrik.store.firm import firm_paper
from dorrik.store.firm.firm_paper import FirmPaper
from dorrik.store.mail import mail_queue
from dorrik.store.mail.mail_queue import About
from dorrik.store.people import people
from dorrik.store.planning import visits
from dorrik.store.register import register


def remind(engine: Engine, today: date) -> int:
    """Queue every reminder whose day has come; returns how many letters there were."""
    with engine.begin() as connection:
        firms = firm_paper.reminding(connection)
    count = 0
    for firm_id, paper in firms.items():
        with engine.begin() as connection:
            # The plan's lock: of two servers one reminds.
            visits.head(connection, firm_id, lock=True)
            whole = Portfolios().now(connection, firm_id, today)
            by_client: dict[str, list[ViewedProperty]] = defaultdict(list)
            for home in whole.properties:
                # Who has asked or booked already, or is being inspected, needs no word.
                if home.line.first.state == "due" and home.due_on is not None and home.due_on >= today:
                    by_client[home.client_id].append(home)
            for client_id, some in by_client.items():
                count += _to_client(connection, firm_id, client_id, some, paper, today)
    return count


def _to_client(
    connection: Connection, firm_id: str, client_id: str, some: list[ViewedProperty], paper: FirmPaper, today: date
) -> int:
    client = register.get(connection, firm_id, "client", client_id)
    place = mail_delivery.server_of(connection, firm_id)
    to = (client.values.get("email") or "") if client is not None else ""
    if client is None or place is None or not to:
        return 0
    try:
        address = mail.recipient(to)
    except mail.NotSent:
        return 0
    by_day: dict[date, list[str]] = defaultdict(list)
    for home in some:
        if home.due_on is not None:
            by_day[home.due_on].append(home.address)
    firm = people.firm_details(connection, firm_id)
    count = 0
    for due_on, addresses in sorted(by_day.items()):
        come = [days for days in paper.remind_days if today >= due_on - timedelta(days=days)]
        what = f"due {due_on.isoformat()}, {min(come)} days before" if come else ""
        if not come or mail_queue.was_put_about(connection, client_id, "reminder", what):
            continue
        mail_words = report_mail.due_reminder(sorted(addresses), due_on, firm["name"], firm["phone"] or "")
        written = mail_delivery.written(
            place, firm_id, firm["name"], firm["email"] or None, address, mail_words.subject, mail_words.text, ()
        )
        mail_queue.put(connection, written, About("reminder", what, job_id=client_id), None)
        count += 1
    return count
