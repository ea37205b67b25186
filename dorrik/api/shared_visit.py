"""The occupier's own page: when we could come, to be taken, declined, or answered with other times. Whoever has the
link; its token goes along as a header and never stands in an address."""

from collections.abc import Iterator
from contextlib import contextmanager

from fastapi import Request
from sqlalchemy import Connection

from dorrik.api.bearer import bearer
from dorrik.api.common_types import Problem
from dorrik.api.occupier_types import DeclineIn, OccupierPage, OfferedTime, ProposeIn, TakeIn
from dorrik.api.problems import ProblemError
from dorrik.api.routing import router as make_router
from dorrik.api.work import count_bad_link
from dorrik.office import occupiers
from dorrik.office.occupiers import Answered, Asked, NoVisit
from dorrik.store.database.engine import again_after_deadlock, now
from dorrik.store.people import people
from dorrik.store.planning import visit_links
from dorrik.store.planning.visit_links import VisitLink

ENDED = "This link has ended. Call us, or ask for a new one."
router = make_router(
    "/api/shared/visit", "shared", {401: {"model": Problem, "description": "The link is not good"},
                                    409: {"model": Problem}}
)  # fmt: skip


@contextmanager
def _opened(request: Request, *, lock: bool = False) -> Iterator[tuple[Connection, VisitLink]]:
    """A transaction in which the link is known. Raises ProblemError (401, and 429 after many that are not good)."""
    engine = request.app.state.engine
    token = bearer(request.headers)
    with engine.begin() as connection:
        link = visit_links.by_token(connection, token, lock=lock) if token is not None else None
        if link is not None:
            yield connection, link
            return
    count_bad_link(request)
    raise ProblemError(401, "link", ENDED)


@router.get("")
def page(request: Request) -> OccupierPage:
    """What the link shows now."""
    with _opened(request) as (connection, link):
        visit_links.opened(connection, link.id)
        return _page(connection, link)


@router.post("/take")
def take(request: Request, given: TakeIn) -> OccupierPage:
    """Take one of the times: the visit is booked. One that was given away meanwhile is told, and the others stay."""

    def do() -> tuple[str | None, OccupierPage]:
        with _opened(request, lock=True) as (connection, link):
            try:
                gone = occupiers.take(connection, link, now().date(), given.number)
            except NoVisit:
                raise ProblemError(409, "over", "This visit is not needed any more.") from None
            except Answered as error:
                raise ProblemError(409, "answered", str(error)) from None
            return gone, _page(connection, _again(connection, request, link))

    gone, occupier_page = again_after_deadlock(do)
    if gone is not None:
        raise ProblemError(409, "gone", gone)
    return occupier_page


@router.post("/decline")
def decline(request: Request, given: DeclineIn) -> OccupierPage:
    """Take none of the times."""
    with _opened(request, lock=True) as (connection, link):
        try:
            occupiers.decline(connection, link, given.words)
        except Answered as error:
            raise ProblemError(409, "answered", str(error)) from None
        return _page(connection, _again(connection, request, link))


@router.post("/propose")
def propose(request: Request, given: ProposeIn) -> OccupierPage:
    """Propose other times."""
    if not given.words and not given.days:
        message = "Choose days, or say when it suits you."
        raise ProblemError(422, "invalid", message, fields=[{"field": "words", "message": message}])
    with _opened(request, lock=True) as (connection, link):
        try:
            occupiers.propose(connection, link, given.words, given.days)
        except Answered as error:
            raise ProblemError(409, "answered", str(error)) from None
        return _page(connection, _again(connection, request, link))


def _again(connection: Connection, request: Request, link: VisitLink) -> VisitLink:
    return visit_links.by_token(connection, bearer(request.headers) or "") or link


def _page(connection: Connection, link: VisitLink) -> OccupierPage:
    asked = occupiers.asked(connection, link, now().date())
    firm = people.firm_details(connection, link.firm_id)
    visit = asked.visit
    home = visit.home.values if visit is not None else {}
    times = [_time(asked, number) for number in range(len(link.times))]
    minutes = times[0].ends - times[0].begins if times else 0.0
    taken = (link.answer_words or {}).get("number") if link.answer == "taken" else None
    state, says = _state(asked)
    return OccupierPage(
        firm=firm["name"],
        firm_phone=firm["phone"] or "",
        firm_email=firm["email"] or "",
        address=str(home.get("address") or ""),
        name=str(home.get("occupier_name") or ""),
        hours=round(minutes / 30) / 2,
        power_off=str(visit.job.values.get("power_off") or "") if visit is not None else "",
        must_stay_on=str(home.get("must_stay_on") or ""),
        state=state,  # type: ignore[arg-type]
        says=says,
        times=times,
        taken=times[taken] if isinstance(taken, int) and taken < len(times) else None,
    )


def _time(offered: Asked, number: int) -> OfferedTime:
    time = offered.link.times[number]
    return OfferedTime(
        number=number, day=time["day"], begins=time["begins"], ends=time["ends"],
        inspector=offered.here.names.get(time["inspector_id"], ""), free=offered.free[number],
    )  # fmt: skip


def _state(asked: Asked) -> tuple[str, str]:
    link, visit = asked.link, asked.visit
    if link.answer == "taken" and visit is not None and not visit.booked:
        return "ended", "The day that you took was called off. A new letter follows, or call us."
    if link.answer is not None:
        return link.answer, ""
    if visit is None:
        return "over", "This visit is not needed any more."
    if visit.booked:
        return "ended", "A time is agreed already. Call us to change it."
    if link.ended_at is not None:
        return "ended", link.ended_why or ""
    return "open", "" if any(asked.free) else "None of these times is free any more. Please propose another."
