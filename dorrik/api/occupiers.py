"""Agreeing a visit with who lives there: times proposed by mail, the power-off notice, doors that stayed shut."""

from datetime import date, datetime
from typing import Any

from fastapi import Query, Request, Response
from sqlalchemy import Connection
from starlette.concurrency import run_in_threadpool

from dorrik.api import letters_out
from dorrik.api.common_types import Problem
from dorrik.api.fair_pool import FairPool
from dorrik.api.files import download
from dorrik.api.occupier_types import (
    AccessOut,
    AskedOut,
    AskIn,
    FreeTimeOut,
    NoAccessIn,
    NoAccessOut,
    OccupierOut,
    ToldIn,
    ToldOut,
    TryOut,
    VisitStepOut,
)
from dorrik.api.papers import A_FILE
from dorrik.api.problems import RESPONSES, ProblemError, not_found
from dorrik.api.routing import router as make_router
from dorrik.api.work import note, work
from dorrik.core.basics.text import tidy
from dorrik.core.work import access_tries
from dorrik.core.work.visit_plan import Pin
from dorrik.office import jobs, occupiers, visit_situation
from dorrik.office.kept_plan import short
from dorrik.office.plan_by_hand import CannotBeThere
from dorrik.office.visit_situation import OpenVisit
from dorrik.pictures import subprocess_reader as pictures
from dorrik.pictures.renditions import Unshowable
from dorrik.report import mail, visit_mail
from dorrik.report.calendar import ZONE
from dorrik.store.database.engine import now
from dorrik.store.mail.mail_queue import About
from dorrik.store.people import people
from dorrik.store.people.people import Person
from dorrik.store.planning import visit_links, visit_steps
from dorrik.store.planning.visit_steps import VisitStep

router = make_router("/api/visits", "occupiers", {**RESPONSES, 409: {"model": Problem}, 422: {"model": Problem}})


def _at(field: str, message: str) -> ProblemError:
    return ProblemError(422, "invalid", message, fields=[{"field": field, "message": message}])


def _visit(connection: Connection, me: Person, visit_id: str, *, lock: bool = False) -> tuple[Any, OpenVisit]:
    here = visit_situation.situation(connection, me.firm_id, now().date(), lock=lock)
    open_visit = here.visits.get(visit_id)
    if open_visit is None:
        raise not_found("visit")
    return here, open_visit


@router.get("/{visit_id}")
def occupier(request: Request, visit_id: str) -> OccupierOut:
    """What has happened about a visit with who lives there, and where the tries to get in stand."""
    with work(request) as (connection, me):
        _, open_visit = _visit(connection, me, visit_id)
        return _out(connection, me, open_visit)


def _out(connection: Connection, me: Person, open_visit: OpenVisit) -> OccupierOut:
    steps = visit_steps.of_visit(connection, me.firm_id, open_visit.id)
    link = visit_links.of_visits(connection, me.firm_id).get(open_visit.id)
    access = occupiers.access(steps)
    home, booked_on = open_visit.home.values, open_visit.job.values.get("booked_on") if open_visit.booked else None
    return OccupierOut(
        visit_id=open_visit.id,
        name=str(home.get("occupier_name") or ""),
        email=str(home.get("occupier_email") or ""),
        phone=str(home.get("occupier_phone") or ""),
        link_open=link is not None and link.open,
        opened=link.opened if link is not None else 0,
        steps=[_step(step) for step in steps],
        access=AccessOut(
            tries=[
                TryOut(on=day_tried.on, counts=day_tried.counts, missing=list(day_tried.missing))
                for day_tried in access.tries
            ],
            counting=access.counting, of=access.of, complete=access.complete, next_step=access.next_step,
            source=access_tries.SOURCE,
        ),
        booked=open_visit.booked,
        told=any(step.kind == "told" and step.on_day and step.on_day.isoformat() == booked_on for step in steps),
    )  # fmt: skip


def _step(step: VisitStep) -> VisitStepOut:
    return VisitStepOut(
        id=step.id, kind=step.kind, at=step.at, on_day=step.on_day, says=_says(step), by=step.by, letter=step.letter,
        photos=list(step.photos),
    )  # fmt: skip


def _says(step: VisitStep) -> str:
    words = str(step.what.get("words") or "")
    day = f" {short(step.on_day)}" if step.on_day else ""
    match step.kind:
        case "asked":
            count = len(step.what.get("times") or ())
            return f"{count} {'time' if count == 1 else 'times'} proposed to {step.what.get('to') or 'the occupier'}"
        case "taken":
            return f"Occupier took{day}"
        case "declined":
            return f"Occupier declined{f': {words}' if words else ''}"
        case "proposed":
            days = ", ".join(step.what.get("days") or ())
            return f"Occupier proposes {' · '.join(part for part in (days, words) if part) or 'another time'}"
        case "gone":
            return f"Occupier chose{day}, which was not free any more"
        case "told":
            how = "handed over" if step.what.get("handed_at") else f"to {step.what.get('to') or ''}"
            return f"Power-off notice for{day}, {how}"
        case "reminded":
            return f"Reminder for{day}"
        case "booked":
            return f"Booked for{day}"
        case "cancelled":
            return f"Booking of{day} cancelled"
        case "no access":
            return f"No access{day}, {step.what.get('at', '')[11:]}{f': {words}' if words else ''}"


@router.get("/{visit_id}/times")
def times(request: Request, visit_id: str) -> list[FreeTimeOut]:
    """Times at which the visit could be without moving anything else: where the plan has it first."""
    with work(request) as (connection, me):
        here, open_visit = _visit(connection, me, visit_id)
        if visit_id not in {visit.id for visit in here.problem.visits}:
            return []
        minutes = next(visit.minutes for visit in here.problem.visits if visit.id == visit_id)
        kept = open_visit.kept
        return [
            FreeTimeOut(
                inspector_id=pin.inspector, day=pin.day, begins=pin.start_min or 0.0,
                ends=(pin.start_min or 0.0) + minutes, inspector=here.names[pin.inspector],
                own=kept is not None and (kept.inspector_id, kept.day) == (pin.inspector, pin.day),
            )
            for pin in occupiers.free_times(here, visit_id)
        ]  # fmt: skip


@router.post("/{visit_id}/ask")
def ask(request: Request, visit_id: str, given: AskIn) -> AskedOut:
    """Mail times to the occupier, with a link to take one, decline or propose others. Earlier links end."""
    to = letters_out.recipient(given.to)
    with work(request, "send letters") as (connection, me):
        here, open_visit = _visit(connection, me, visit_id, lock=True)
        if open_visit.booked:
            raise _at("times", "A time is booked already. Cancel the booking before you propose others.")
        if visit_id not in {visit.id for visit in here.problem.visits}:
            raise _at("times", "A visit of today is not moved any more.")
        try:
            pins = [Pin(time.inspector_id, time.day, time.begins) for time in given.times]
            link_id, token = occupiers.ask(connection, me, here, visit_id, pins, to)
        except CannotBeThere as error:
            raise _at("times", str(error)) from None
        firm = people.firm_details(connection, me.firm_id)
        hours = round(next(v.minutes for v in here.problem.visits if v.id == visit_id) / 30) / 2
        address = f"{request.app.state.url}{visit_links.PAGE}#{token}"
        mail_words = visit_mail.times(open_visit.home.values, hours, address, firm["name"], firm["phone"] or "")
        about = About("visit times", f"times for {open_visit.name}", job_id=open_visit.job.id)
        letter = letters_out.Letter(firm["name"], to, mail_words.subject, mail_words.text)
        mail_id = letters_out.queue(request, connection, me, about, letter)
        visit_links.sent_by(connection, link_id, mail_id)
        what = {"to": to, "times": [occupiers.written(pin, 0.0) for pin in pins]}
        visit_steps.note(
            connection, me.firm_id, visit_id, "asked", what=what, person_id=me.id, link_id=link_id, mail_id=mail_id
        )
        note(request, connection, me, "mail sent", f"job {open_visit.job.id}")
    sent = letters_out.leave(request, me, mail_id)
    return AskedOut(sent=sent, occupier=occupier(request, visit_id))


@router.post("/{visit_id}/told")
def tell(request: Request, visit_id: str, given: ToldIn) -> ToldOut:
    """Give the occupier the power-off notice of the booked day: by mail, or note when it was handed over."""
    to = letters_out.recipient(given.to) if given.to else None
    if to is None and given.handed_at is None:
        raise _at("to", "Enter an email address, or when the notice was handed over.")
    mail_id = None
    with work(request, "send letters") as (connection, me):
        _, open_visit = _visit(connection, me, visit_id)
        if not open_visit.booked:
            raise _at("to", "No day is booked yet. Book the visit first.")
        day = date.fromisoformat(open_visit.job.values["booked_on"])
        what: dict[str, Any] = {"to": to} if to is not None else {"handed_at": _moment(given.handed_at or "")}
        if to is not None:
            made = jobs.letters(connection, me, open_visit.job.id)
            if made is None:
                raise not_found("job")
            firm = people.firm_details(connection, me.firm_id)
            mail_words = visit_mail.notice(
                open_visit.home.values, open_visit.job.values, firm["name"], firm["phone"] or ""
            )
            attached = [mail.Attachment("power-off-notice.pdf", made.pdf("power-off"))]
            about = About("power-off notice", f"notice for {open_visit.name}", job_id=open_visit.job.id)
            letter = letters_out.Letter(firm["name"], to, mail_words.subject, mail_words.text, attached)
            mail_id = letters_out.queue(request, connection, me, about, letter)
            note(request, connection, me, "mail sent", f"job {open_visit.job.id}")
        visit_steps.note(
            connection, me.firm_id, visit_id, "told", on_day=day, what=what, person_id=me.id, mail_id=mail_id
        )
    sent = letters_out.leave(request, me, mail_id) if mail_id is not None else None
    return ToldOut(sent=sent, occupier=occupier(request, visit_id))


def _moment(text: str, field: str = "handed_at") -> str:
    """A moment that has come, on the clock there. Raises ProblemError at the field."""
    try:
        at = datetime.fromisoformat(text)
    except ValueError:
        raise _at(field, "Enter a day and a time, such as 29 Nov 2026, 15:30.") from None
    if at > datetime.now(ZONE).replace(tzinfo=None):
        raise _at(field, "That moment is still to come.")
    return text


@router.post("/{visit_id}/no-access", status_code=201)
def no_access(request: Request, visit_id: str, given: NoAccessIn) -> NoAccessOut:
    """Write down that nobody opened. The booking ends, and the visit is planned again."""
    at = datetime.fromisoformat(_moment(given.at, "at"))
    with work(request, "keep the register") as (connection, me):
        _visit(connection, me, visit_id, lock=True)
        step_id = occupiers.no_access(connection, me, now().date(), visit_id, at, given.words)
    return NoAccessOut(step_id=step_id, occupier=occupier(request, visit_id))


@router.post("/{visit_id}/steps/{step_id}/photos", status_code=201, openapi_extra=A_FILE)
async def add_photo(
    request: Request, visit_id: str, step_id: str, name: str = Query("photo", max_length=190)
) -> OccupierOut:
    """A photo that shows that somebody was at the door; what it says of place and camera does not stay in it."""
    me = await run_in_threadpool(_may_add, request, visit_id, step_id)
    content = bytearray()
    async for part in request.stream():
        content += part
        if len(content) > visit_steps.LARGEST:
            raise ProblemError(413, "too-large", f"A photo has at most {visit_steps.LARGEST // 1_000_000} MB.")
    pool: FairPool = request.app.state.decoding
    try:
        made = await pool.run(me.id, lambda: pictures.make(bytes(content)))
    except Unshowable as error:
        raise _at("file", str(error)) from None
    try:
        named = tidy(name) or "photo"
    except ValueError as error:
        raise _at("file", str(error)) from None

    def keep() -> OccupierOut:
        with work(request, "keep the register") as (connection, me):
            _may(connection, me, visit_id, step_id)
            visit_steps.keep_photo(connection, me.firm_id, step_id, named, made.by_size["large"])
        return occupier(request, visit_id)

    return await run_in_threadpool(keep)


def _may_add(request: Request, visit_id: str, step_id: str) -> Person:
    with work(request, "keep the register", only_reads=True) as (connection, me):
        _may(connection, me, visit_id, step_id)
        return me


def _may(connection: Connection, me: Person, visit_id: str, step_id: str) -> None:
    step = visit_steps.step_of(connection, me.firm_id, step_id)
    if step is None or step.visit_id != visit_id or step.kind != "no access":
        raise not_found("step")


@router.get("/photos/{photo_id}", response_class=Response, responses={200: {"content": {"image/jpeg": {}}}})
def photo(request: Request, photo_id: str) -> Response:
    """A photo of a try to get in."""
    with work(request) as (connection, me):
        content = visit_steps.photo(connection, me.firm_id, photo_id)
    if content is None:
        raise not_found("photo")
    return download(content, "no-access.jpg", "image/jpeg")
