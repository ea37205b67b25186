"""What now: the visits of the coming days, what waits for a person, what is due again, and what was not sent yet."""

from dataclasses import dataclass
from datetime import date, timedelta

from sqlalchemy import Connection

from dorrik.core.home.instruments import judge_calibration
from dorrik.core.work import workflow
from dorrik.office.estimates import minutes_of
from dorrik.store.database.engine import now
from dorrik.store.firm import house_rates
from dorrik.store.inspections import agenda, reviews
from dorrik.store.inspections.agenda import OpenJob, Waiting
from dorrik.store.mail import mail_queue
from dorrik.store.people.people import Person
from dorrik.store.register import register
from dorrik.store.register.register import RegisterRecord
from dorrik.store.reports import report_states
from dorrik.store.reports.report_states import ReportLine

#: Booked visits of the coming days stand on the home screen, and return visits.
SOON = timedelta(days=7)
#: So long before it is due, an inspection is spoken of: time enough to ask and to book.
DUE_SOON = timedelta(days=60)


@dataclass(frozen=True, slots=True)
class AgendaVisit:
    """A booked visit: its job and property, how long it takes by the firm's rates (minutes), and how far it is (km)."""

    job: RegisterRecord
    home: RegisterRecord
    minutes: float
    travel_km: float | None


@dataclass(frozen=True, slots=True)
class Agenda:
    """The day as the person finds it; visits by day and hour, those gone by first."""

    today: date
    visits: list[AgendaVisit]
    ready: list[Waiting]
    to_review: list[Waiting]
    sent_back: list[Waiting]
    returns: list[Waiting]
    promises: list[Waiting]
    due: list[Waiting]
    due_count: int
    unsent: list[OpenJob]
    letters_in_trouble: int
    to_clear: list[ReportLine]
    to_clear_count: int
    instruments: list[tuple[RegisterRecord, str]]


def of_day(connection: Connection, me: Person, today: date) -> Agenda:
    """The agenda of a day for somebody of the firm: what their role cannot do does not wait for them."""
    rates, _, _ = house_rates.of(connection, me.firm_id)
    visits = [
        AgendaVisit(job, home, minutes_of(job.values, rates), job.values.get("travel_km"))
        for job, home in register.booked(connection, me.firm_id, today + SOON)
    ]
    due, count = agenda.due(connection, me.firm_id, today + DUE_SOON)
    open_reports, open_count = report_states.open_ones(connection, me.firm_id, 0, agenda.MOST)
    signs, reads = workflow.may(me.role, "submit"), workflow.may(me.role, "review")
    return Agenda(
        today=today,
        visits=visits,
        ready=agenda.ready(connection, me.firm_id) if signs else [],
        to_review=agenda.on_its_way(connection, me.firm_id, reviews.SUBMITTED) if reads else [],
        sent_back=(
            agenda.on_its_way(connection, me.firm_id, reviews.SENT_BACK) + agenda.to_sign_again(connection, me.firm_id)
            if signs
            else []
        ),
        returns=agenda.returns(connection, me.firm_id, today + SOON),
        promises=agenda.promises(connection, me.firm_id, now()),
        due=due,
        due_count=count,
        unsent=agenda.unconfirmed(connection, me.firm_id),
        letters_in_trouble=mail_queue.in_trouble(connection, me.firm_id),
        to_clear=open_reports,
        to_clear_count=open_count,
        instruments=list(_out_of_calibration(connection, me.firm_id, today)),
    )


def _out_of_calibration(connection: Connection, firm_id: str, today: date) -> list[tuple[RegisterRecord, str]]:
    expired = []
    for entry in register.entries(connection, firm_id, "instrument"):
        if entry.values.get("retired"):
            continue
        verdict = judge_calibration(entry.values.get("calibration_due"), today.isoformat())
        if verdict.status in ("fail", "attention"):
            expired.append((entry, verdict.reason))
    return expired
