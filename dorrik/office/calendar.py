"""A firm's calendar: booked visits, the legal last days of what is open, and when inspections are due again."""

from datetime import date, timedelta

from sqlalchemy import Connection

from dorrik.office.estimates import minutes_of
from dorrik.report.calendar import CalendarEntry
from dorrik.store.firm import house_rates
from dorrik.store.inspections import agenda
from dorrik.store.register import register
from dorrik.store.reports import report_states

#: How far ahead it looks, and how much of each kind it holds.
AHEAD, MOST = timedelta(days=500), 2_000


def of_firm(connection: Connection, firm_id: str, today: date) -> list[CalendarEntry]:
    """Its entries, by kind."""
    rates, _, _ = house_rates.of(connection, firm_id)
    entries = [
        CalendarEntry(
            key=f"visit-{job.id}",
            title=f"{job.values.get('work') or 'Inspection'}: {home.values.get('address') or 'no address'}",
            on=date.fromisoformat(str(job.values["booked_on"])),
            at=str(job.values.get("booked_at") or ""),
            minutes=round(minutes_of(job.values, rates)),
            where=str(home.values.get("address") or ""),
            words=", ".join(str(part) for part in (job.values.get("number"), home.values.get("key_place")) if part),
        )
        for job, home in register.booked(connection, firm_id, today + AHEAD, MOST)
    ]
    open_reports, _ = report_states.open_ones(connection, firm_id, 0, MOST)
    for line in open_reports:
        for on, what in ((line.state.due, "Last day to put right"), (line.state.copy_due, "Last day for a copy")):
            if on is not None:
                key = f"{'work' if on is line.state.due else 'copy'}-{line.inspection_id}"
                entries.append(CalendarEntry(key, f"{what}: {line.home}", on, where=line.home, words=line.reference))
        if line.state.next_visit is not None:
            key = f"return-{line.inspection_id}"
            entries.append(
                CalendarEntry(
                    key, f"Work booked: {line.home}", line.state.next_visit, where=line.home, words=line.reference
                )
            )
    due, _ = agenda.due(connection, firm_id, today + AHEAD, MOST)
    entries += [
        CalendarEntry(
            f"due-{waiting_inspection.id}",
            f"Inspection due: {waiting_inspection.property_address or ''}",
            waiting_inspection.on,
            words=waiting_inspection.reference or "",
        )
        for waiting_inspection in due
        if waiting_inspection.on is not None
    ]
    return entries
