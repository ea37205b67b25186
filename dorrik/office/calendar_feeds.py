"""What stands in the calendar of an inspector or a client: their visits, and what is due and by which legal day."""

from collections.abc import Iterator
from datetime import date

from sqlalchemy import Connection

from dorrik.office import calendar as firm_calendar
from dorrik.office import visit_situation
from dorrik.office.estimates import minutes_of
from dorrik.office.portfolio import Portfolio
from dorrik.report.calendar import CalendarEntry
from dorrik.store.firm import house_rates
from dorrik.store.planning.feeds import Feed
from dorrik.store.register import portfolio_rows, register
from dorrik.store.reports import report_states

#: What an inspector's program is shown of days that are gone.
_BEFORE_DAYS = 30


def entries(connection: Connection, feed: Feed, today: date, portfolio: Portfolio) -> list[CalendarEntry]:
    """What stands in a feed's calendar. portfolio: of its firm."""
    match feed.whose:
        case "inspector":
            return list(_of_inspector(connection, feed.firm_id, str(feed.of_id), today))
        case "client":
            return list(_of_client(connection, feed.firm_id, str(feed.of_id), portfolio))
        case "firm":
            return firm_calendar.of_firm(connection, feed.firm_id, today)


def _of_inspector(connection: Connection, firm_id: str, week_id: str, today: date) -> Iterator[CalendarEntry]:
    """Visits of the plan: those that nobody has agreed yet say so."""
    here = visit_situation.situation(connection, firm_id, today)
    for visit in here.visits.values():
        kept = visit.kept
        if kept is None or kept.inspector_id != week_id or kept.day is None or kept.begins_min is None:
            continue
        if (today - kept.day).days > _BEFORE_DAYS:
            continue
        home, whole = visit.home.values, round(kept.begins_min)
        note = (
            visit.job.values.get("number"), home.get("occupier_name"), home.get("occupier_phone"), home.get("access"),
            home.get("key_place"), home.get("must_stay_on") and f"stays on: {home['must_stay_on']}",
        )  # fmt: skip
        yield CalendarEntry(
            key=f"visit-{visit.id}",
            title=visit.name if visit.booked else f"{visit.name} (planned, not agreed)",
            on=kept.day,
            at=f"{whole // 60:02d}:{whole % 60:02d}",
            minutes=round(kept.minutes or visit.length.minutes),
            where=str(home.get("address") or ""),
            words=", ".join(str(part) for part in note if part),
        )


def _of_client(connection: Connection, firm_id: str, client_id: str, portfolio: Portfolio) -> Iterator[CalendarEntry]:
    """Booked visits of a client's homes, what has to be put right or sent by when, and when the next ones are due."""
    homes = {home.id: home for home in portfolio.of_client(client_id)}
    rates, _, _ = house_rates.of(connection, firm_id)
    for job, home in register.booked(connection, firm_id, date.max, firm_calendar.MOST):
        if home.id not in homes:
            continue
        yield CalendarEntry(
            key=f"visit-{job.id}", title=f"Inspection: {homes[home.id].address}",
            on=date.fromisoformat(str(job.values["booked_on"])), at=str(job.values.get("booked_at") or ""),
            minutes=round(minutes_of(job.values, rates)), where=homes[home.id].address,
            words=str(job.values.get("number") or ""),
        )  # fmt: skip
    own = portfolio_rows.inspections_of(connection, firm_id, client_id)
    lines, _ = report_states.open_ones(connection, firm_id, 0, firm_calendar.MOST)
    for line in lines:
        if line.inspection_id not in own:
            continue
        for name, on, what in (("work", line.state.due, "Last day to put right"),
                               ("copy", line.state.copy_due, "Last day for a copy")):  # fmt: skip
            if on is not None:
                yield CalendarEntry(f"{name}-{line.inspection_id}", f"{what}: {line.home}", on, words=line.reference)
    for home_line in homes.values():
        if home_line.due_on is not None:
            yield CalendarEntry(
                f"due-{home_line.id}", f"Inspection due: {home_line.address}", home_line.due_on, where=home_line.address
            )


def is_there(connection: Connection, feed: Feed) -> bool:
    """Is whoever the feed is of still in the register?"""
    if feed.whose == "firm":
        return True
    kind = "client" if feed.whose == "client" else "working_week"
    entry = register.get(connection, feed.firm_id, kind, str(feed.of_id))
    return entry is not None and not entry.values.get("removed")
