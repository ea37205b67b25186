"""Agreeing a visit with who lives there: times by a link, what they say to it, and doors that stayed shut."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import UTC, date, datetime
from typing import Any

from sqlalchemy import Connection

from dorrik.core.work import access_tries
from dorrik.core.work.access_tries import AccessStanding, AccessTry
from dorrik.core.work.visit_plan import Pin
from dorrik.office import booking, visit_situation
from dorrik.office.kept_plan import as_kept, keep_row, nowhere, short
from dorrik.office.plan_by_hand import CannotBeThere, put
from dorrik.office.visit_situation import OpenVisit, Situation
from dorrik.planner.placing import Placing
from dorrik.planner.units import Unit
from dorrik.report.calendar import ZONE
from dorrik.store.people.people import Person
from dorrik.store.planning import visit_links, visit_steps, visits
from dorrik.store.planning.visit_links import VisitLink
from dorrik.store.planning.visit_steps import VisitStep
from dorrik.store.register import register

#: So many times are proposed, and offered to choose from.
PROPOSED, OFFERED = 3, 8


class NoVisit(Exception):
    """The visit is not to be made any more: its inspection has begun, or its job is done or gone."""


class Answered(Exception):
    """The link was answered before, in another way; the message says how."""


# Times


def free_times(here: Situation, visit_id: str, most: int = OFFERED) -> list[Pin]:
    """When a visit could be beside what the plan has, without moving anything: its own place first, then a time of each
    day. Raises KeyError for no such visit."""
    wanted = {visit.id: visit for visit in here.problem.visits}
    visit = wanted[visit_id]
    free = Unit((replace(visit, pin=None),))
    placing = Placing(here.problem)
    own: list[Pin] = []
    for route in as_kept(here).plan.routes:
        some = []
        for stop in route.stops:
            if stop.task != "visit":
                continue
            if stop.id == visit_id:
                own.append(Pin(route.inspector, route.day, stop.begins))
            else:
                pin = Pin(route.inspector, route.day, stop.begins)
                some.append(Unit((replace(wanted[stop.id], pin=pin),)))
        placing.set((route.inspector, route.day), some)
    chosen = own[:1]
    for slot in placing.slots:
        if len(chosen) >= most:
            break
        timed_day = placing.day(slot, [*placing.at(slot), free])
        # One a day: who lives there chooses the day, and does not care whose it is.
        if timed_day is None or any(pin.day == slot[1] for pin in chosen):
            continue
        begins = next(stop.begins for stop in timed_day.stops if stop.id == visit_id)
        chosen.append(Pin(slot[0], slot[1], begins))
    return chosen


def is_free(here: Situation, visit_id: str, to: Pin) -> bool:
    """Can the visit be exactly there, beside what the plan has?"""
    wanted = {visit.id: visit for visit in here.problem.visits}
    if visit_id not in wanted:
        return False
    placing = Placing(here.problem)
    for route in as_kept(here).plan.routes:
        some = [
            Unit((replace(wanted[stop.id], pin=Pin(route.inspector, route.day, stop.begins)),))
            for stop in route.stops
            if stop.task == "visit" and stop.id != visit_id
        ]
        placing.set((route.inspector, route.day), some)
    return placing.put((to.inspector, to.day), Unit((replace(wanted[visit_id], pin=to),)))


def written(to: Pin, minutes: float) -> dict[str, Any]:
    """A time as a link keeps it."""
    return {
        "inspector_id": to.inspector, "day": to.day.isoformat(), "begins": to.start_min or 0.0,
        "ends": (to.start_min or 0.0) + minutes,
    }  # fmt: skip


def pin_of(time: Mapping[str, Any]) -> Pin:
    """A kept time as a place."""
    return Pin(str(time["inspector_id"]), date.fromisoformat(str(time["day"])), float(time["begins"]))


def ask(
    connection: Connection, me: Person, here: Situation, visit_id: str, times: Sequence[Pin], to: str
) -> tuple[str, str]:
    """Make a link with times to choose from; returns the ids of its step and its token. Raises KeyError, CannotBeThere
    where one of the times is not free."""
    open_visit = here.visits[visit_id]
    for time in times:
        if not is_free(here, visit_id, time):
            raise CannotBeThere(f"{short(time.day)} is not free any more. Choose other times.")
    keep_row(connection, me, open_visit)
    minutes = _minutes(here, open_visit)
    link_id, token = visit_links.make(
        connection, me.firm_id, me.id, visit_id, [written(time, minutes) for time in times], to
    )
    return link_id, token


def _minutes(here: Situation, open_visit: OpenVisit) -> float:
    return next(
        (visit.minutes for visit in here.problem.visits if visit.id == open_visit.id), open_visit.length.minutes
    )


# Answers


@dataclass(frozen=True, slots=True)
class Asked:
    """What an occupier's link is about: the visit, None where it is not to be made any more, and which of the times are
    free still."""

    link: VisitLink
    here: Situation
    visit: OpenVisit | None
    free: tuple[bool, ...]


def asked(connection: Connection, link: VisitLink, today: date, *, lock: bool = False) -> Asked:
    """What a link is about now."""
    here = visit_situation.situation(connection, link.firm_id, today, lock=lock)
    visit = here.visits.get(link.visit_id)
    wanted = visit is not None and not visit.booked and link.open
    free = tuple(wanted and is_free(here, link.visit_id, pin_of(time)) for time in link.times)
    return Asked(link, here, visit, free)


def _must_answer(link: VisitLink) -> None:
    if link.answer is not None:
        raise Answered("You have answered already. Please call us to change it.")
    if link.ended_at is not None:
        raise Answered(f"{link.ended_why or 'This letter is out of date.'} Please use the newest letter, or call us.")


def take(connection: Connection, link: VisitLink, today: date, number: int) -> str | None:
    """The occupier takes one of the times: the visit is booked there. Returns None, or why that time is gone.

    The caller holds the link. Raises NoVisit, Answered; the same time taken twice is taken once.
    """
    if link.answer == "taken" and (link.answer_words or {}).get("number") == number:
        return None
    _must_answer(link)
    me = _for_the_firm(link)
    here = visit_situation.situation(connection, link.firm_id, today, lock=True)
    open_visit = here.visits.get(link.visit_id)
    if open_visit is None or not 0 <= number < len(link.times):
        raise NoVisit
    if open_visit.booked:
        raise Answered("A time is booked already. Please call us to change it.")
    to = pin_of(link.times[number])
    try:
        if not is_free(here, open_visit.id, to):
            raise CannotBeThere("That time has been given away meanwhile.")
        put(connection, me, here, open_visit.id, to, "chosen by the occupier")
    except CannotBeThere:
        visit_steps.note(connection, link.firm_id, open_visit.id, "gone", on_day=to.day, link_id=link.id)
        return "That time is not free any more. Choose another, or propose one."
    after = visit_situation.situation(connection, link.firm_id, today, lock=True).visits[open_visit.id]
    booking.book_at(connection, me, after, to.inspector, to.day, to.start_min or 0.0)
    visit_links.answered(connection, link.id, "taken", {"number": number})
    visit_steps.note(
        connection, link.firm_id, open_visit.id, "taken", on_day=to.day, link_id=link.id, what=link.times[number]
    )  # fmt: skip
    return None


def decline(connection: Connection, link: VisitLink, words: str) -> None:
    """The occupier takes none of the times. The caller holds the link. Raises Answered."""
    if link.answer == "declined":
        return
    _must_answer(link)
    visit_links.answered(connection, link.id, "declined", {"words": words})
    visit_steps.note(
        connection, link.firm_id, link.visit_id, "declined", link_id=link.id, what={"words": words}
    )  # fmt: skip


def propose(connection: Connection, link: VisitLink, words: str, days: Sequence[str]) -> None:
    """The occupier proposes other times. The caller holds the link. Raises Answered."""
    values = {"words": words, "days": list(days)}
    if link.answer == "proposed" and link.answer_words == values:
        return
    _must_answer(link)
    visit_links.answered(connection, link.id, "proposed", values)
    visit_steps.note(connection, link.firm_id, link.visit_id, "proposed", link_id=link.id, what=values)


def _for_the_firm(link: VisitLink) -> Person:
    """Whoever sent the letter: what is booked by it is booked in their name."""
    return Person(link.made_by, link.firm_id, "", "", "", "office")


# Doors that stayed shut


def no_access(connection: Connection, me: Person, today: date, visit_id: str, at: datetime, words: str) -> str:
    """Write down that nobody opened; the visit is to be planned again. at: on the clock there. Returns the step's id.
    Raises KeyError."""
    here = visit_situation.situation(connection, me.firm_id, today, lock=True)
    open_visit = here.visits[visit_id]
    keep_row(connection, me, open_visit)
    what = {"at": at.strftime("%Y-%m-%dT%H:%M"), "words": words}
    step = visit_steps.note(
        connection, me.firm_id, visit_id, "no access", on_day=at.date(), what=what, person_id=me.id
    )  # fmt: skip
    why = f"Nobody opened on {short(at.date())}."
    visits.place(connection, me.firm_id, me.id, [nowhere(open_visit, open_visit.length.minutes, why)])
    if open_visit.booked:
        values = {"booked_on": None, "booked_at": None, "booked_with": None, "state": "confirmed"}
        register.change(connection, me.firm_id, me.id, "job", open_visit.job.id, values)
    visit_links.end(connection, me.firm_id, visit_id, "Nobody opened; other times follow.")
    visits.change_head(connection, me.firm_id)
    return step


def access(steps: Sequence[VisitStep]) -> AccessStanding:
    """Where the tries to get in stand, by what is written down."""
    tries = []
    for step in steps:
        if step.kind != "no access":
            continue
        at = datetime.fromisoformat(step.what["at"])
        letters = [
            sent
            for other in steps
            if other.kind in ("told", "reminded") and other.on_day == at.date()
            and (sent := _left_at(other)) is not None and sent < at
        ]  # fmt: skip
        # The first letter is what gave notice.
        tries.append(AccessTry(at, min(letters, default=None), bool(step.photos)))
    return access_tries.standing(tries)


def _left_at(step: VisitStep) -> datetime | None:
    """When a letter left, on the clock of the place: a mail once it was sent, one by hand as it was written down."""
    if step.letter is None:
        handed_at = step.what.get("handed_at")
        return datetime.fromisoformat(handed_at) if handed_at else None
    if step.letter != "sent" or step.sent_at is None:
        return None
    return step.sent_at.replace(tzinfo=UTC).astimezone(ZONE).replace(tzinfo=None)
