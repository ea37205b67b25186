"""Reminding clients before a legal date, as often as their inspecting firm has settled; each reminder goes once."""

from collections.abc import Iterable
from datetime import date, timedelta

from sqlalchemy import Connection, Engine

from dorrik.core.work.duty_states import DutyState
from dorrik.office import mail_delivery
from dorrik.office.after_report import WORK_DONE, AfterReport, NoReport, after
from dorrik.report import mail, report_mail
from dorrik.store.firm import firm_paper
from dorrik.store.firm.firm_paper import FirmPaper
from dorrik.store.inspections import inspections
from dorrik.store.mail import mail_queue
from dorrik.store.mail.mail_queue import About
from dorrik.store.people import people
from dorrik.store.register import register
from dorrik.store.reports import client_links, report_states


def remind(engine: Engine, today: date, url: str, firm_id: str | None = None) -> int:
    """Queue every reminder whose day has come, of one firm where it is given; returns how many there were. url: where
    people reach the server."""
    with engine.begin() as connection:
        firms = firm_paper.reminding(connection)
    count = 0
    for of_firm, paper in firms.items():
        if firm_id not in (None, of_firm):
            continue
        until = today + timedelta(days=max(paper.remind_days))
        with engine.begin() as connection:
            lines, _ = report_states.open_ones(connection, of_firm, 0, 10_000, until)
        for line in lines:
            with engine.begin() as connection:
                count += _of_report(connection, of_firm, line.inspection_id, paper, today, url)
    return count


def _of_report(
    connection: Connection, firm_id: str, inspection_id: str, paper: FirmPaper, today: date, url: str
) -> int:
    # Held, so that of two servers one reminds.
    if not inspections.hold(connection, inspection_id, firm_id):
        return 0
    client = register.client_of(connection, firm_id, inspection_id)
    place = mail_delivery.server_of(connection, firm_id)
    to = (client.values.get("email") or "") if client is not None else ""
    if client is None or place is None or not to:
        return 0
    try:
        after_report, address = after(connection, firm_id, inspection_id), mail.recipient(to)
    except (NoReport, mail.NotSent):
        return 0
    count = 0
    for duty, about in _due(after_report.duties, paper.remind_days, today):
        if mail_queue.was_put(connection, inspection_id, "reminder", about):
            continue
        name = str(client.values.get("name") or "client")
        _, token = client_links.make(connection, firm_id, None, "client", name, inspection_id=inspection_id)
        firm = people.firm_details(connection, firm_id)
        mail_words = report_mail.reminder(
            after_report.words, duty.duty, duty.due, _left(after_report, duty), url + client_links.path(token),
            firm["name"], paper.texts.get("reminder_mail", ""),
        )  # fmt: skip
        written = mail_delivery.written(
            place, firm_id, firm["name"], firm["email"] or None, address, mail_words.subject, mail_words.text, ()
        )
        mail_queue.put(connection, written, About("reminder", about, inspection_id), None)
        count += 1
    return count


def _due(duties: Iterable[DutyState], days: list[int], today: date) -> Iterable[tuple[DutyState, str]]:
    """Duties to be reminded of, each with what names the reminder: of several days that have come the last one."""
    for duty in duties:
        if duty.due is None or duty.done_on is not None or not duty.shown or duty.due < today:
            continue
        come = [day for day in days if today >= duty.due - timedelta(days=day)]
        if come:
            yield duty, f"{duty.short}, {duty.due.isoformat()}, {min(come)} days before"


def _left(after_report: AfterReport, duty: DutyState) -> str:
    if duty.short != WORK_DONE:
        return "It is not recorded as done yet. If it is, say so on the page."
    open_items = [item for item in after_report.counting if item.standing.state != "cleared"]
    return "\n".join(
        f"- {item.standing.code}: {item.required.title} {item.required.place}".rstrip() for item in open_items
    )
