"""Booking a visit where the plan has it, and taking a booking back: the job gets the day, the hour and who comes."""

from collections.abc import Mapping
from datetime import date

from sqlalchemy import Connection

from dorrik.office import visit_situation
from dorrik.office.kept_plan import PlanChange, as_kept, keep_row
from dorrik.office.plan_by_hand import CannotBeThere
from dorrik.office.visit_situation import OpenVisit
from dorrik.store.people.people import Person
from dorrik.store.planning import visit_links, visit_steps, visits
from dorrik.store.planning.visit_links import VisitLink
from dorrik.store.planning.visits import KeptPlace
from dorrik.store.register import register


def book(connection: Connection, me: Person, today: date, visit_id: str) -> PlanChange:
    """Book a visit where the plan has it. Raises KeyError for no such visit, CannotBeThere where it has no place,
    or one that does not hold."""
    here = visit_situation.situation(connection, me.firm_id, today, lock=True)
    open_visit = here.visits[visit_id]
    kept = as_kept(here)
    if visit_id in kept.broken:
        raise CannotBeThere(f"{kept.broken[visit_id]} Replan before you book it.")
    placed = open_visit.kept
    if placed is None or placed.day is None or placed.begins_min is None or placed.inspector_id is None:
        raise CannotBeThere("It has no place in the plan. Plan it before you book it.")
    visit_links.end(connection, me.firm_id, visit_id, "A time was agreed with us.")
    visit_steps.note(connection, me.firm_id, visit_id, "booked", on_day=placed.day, person_id=me.id)
    return book_at(connection, me, open_visit, placed.inspector_id, placed.day, placed.begins_min)


def book_at(
    connection: Connection, me: Person, open_visit: OpenVisit, inspector_id: str, day: date, begins: float
) -> PlanChange:
    """Book a visit there, whose place the caller has checked and whose plan it holds."""
    minutes = (open_visit.kept.minutes if open_visit.kept is not None else None) or open_visit.length.minutes
    # A return visit has no booking of its own: it is kept there.
    pinned = open_visit.inspection_id is not None
    place = KeptPlace(
        open_visit.id, open_visit.job.id, open_visit.inspection_id, inspector_id, day, begins, minutes, pinned
    )
    visits.place(connection, me.firm_id, me.id, [place])
    if open_visit.inspection_id is None:
        whole = round(begins)
        values = {
            "booked_on": day.isoformat(), "booked_at": f"{whole // 60:02d}:{whole % 60:02d}",
            "booked_with": inspector_id, "state": "booked",
        }  # fmt: skip
        register.change(connection, me.firm_id, me.id, "job", open_visit.job.id, values)
    return PlanChange(visits.change_head(connection, me.firm_id), (), 0)


def cancel(connection: Connection, me: Person, today: date, visit_id: str) -> PlanChange:
    """Take a booking back; the visit stays where the plan has it. Raises KeyError, CannotBeThere where nothing was
    booked."""
    here = visit_situation.situation(connection, me.firm_id, today, lock=True)
    open_visit = here.visits[visit_id]
    if not open_visit.booked:
        raise CannotBeThere("It was not booked.")
    keep_row(connection, me, open_visit)
    visit_links.end(connection, me.firm_id, visit_id, "The visit was called off.")
    on_day = date.fromisoformat(open_visit.job.values["booked_on"])
    visit_steps.note(connection, me.firm_id, visit_id, "cancelled", on_day=on_day, person_id=me.id)
    values = {"booked_on": None, "booked_at": None, "booked_with": None, "state": "confirmed"}
    register.change(connection, me.firm_id, me.id, "job", open_visit.job.id, values)
    return PlanChange(visits.change_head(connection, me.firm_id), (), 0)


def asked(connection: Connection, firm_id: str) -> Mapping[str, str]:
    """How it stands with the occupier of each visit that was asked about, in a few words, by the visit."""
    return {visit_id: _said(link) for visit_id, link in visit_links.of_visits(connection, firm_id).items()}


def _said(link: VisitLink) -> str:
    words = str((link.answer_words or {}).get("words") or "")
    match link.answer:
        case "taken":
            return "taken by the occupier"
        case "declined":
            return f"declined{f': {words}' if words else ''}"
        case "proposed":
            days = ", ".join((link.answer_words or {}).get("days") or ())
            return f"proposes {' · '.join(part for part in (days, words) if part)}"
    if link.ended_at is not None:
        return link.ended_why or "asked before"
    return "asked, opened" if link.opened else "asked"
