"""A client's own page: for whoever has its link, which goes along as a header and never stands in an address."""

from collections.abc import Iterator
from contextlib import contextmanager
from datetime import date
from typing import Any, Literal

from fastapi import Path, Query, Request, Response
from sqlalchemy import Connection
from starlette.concurrency import run_in_threadpool

from dorrik.api import evidence
from dorrik.api.after_out import duties_out
from dorrik.api.after_types import FileOut
from dorrik.api.bearer import bearer
from dorrik.api.common_types import Problem
from dorrik.api.fair_pool import FairPool
from dorrik.api.files import download
from dorrik.api.pictures import shown
from dorrik.api.problems import ProblemError, not_found
from dorrik.api.remedial_steps import day_given, file_answer, price_sheet_of, take
from dorrik.api.routing import router as make_router
from dorrik.api.shared_types import (
    SharedCopyIn,
    SharedCopyOut,
    SharedDoneIn,
    SharedHomeOut,
    SharedItemOut,
    SharedOut,
    SharedReportOut,
    SharedStepOut,
)
from dorrik.api.work import count_bad_link
from dorrik.core.book import intervals
from dorrik.office import after_report
from dorrik.office.after_report import AfterReport, RemedialItem, inspection_of
from dorrik.pictures import marked
from dorrik.report.content.words import short_day
from dorrik.store.database.engine import now, snapshots
from dorrik.store.files.photos import PhotoStore
from dorrik.store.inspections import inspections
from dorrik.store.people import people
from dorrik.store.reports import client_links, copies, remedials, report_states, reports
from dorrik.store.reports.client_links import ClientLink, SharedHome
from dorrik.store.reports.remedials import By, TakenStep
from dorrik.store.reports.report_states import ReportState
from dorrik.store.reports.reports import CONFIRMATION

ENDED = "This link has ended. Ask the sender for a new one."
#: Who may say that something was done, and gave copies; everybody else reads.
REPORTS = ("client", "landlord", "agent", "contractor")
router = make_router(
    "/api/shared", "shared", {401: {"model": Problem, "description": "The link is not good"}, 404: {"model": Problem}}
)
_PDF: dict[int | str, dict[str, Any]] = {200: {"content": {"application/pdf": {}}}}
_AT_FIELD: dict[int | str, dict[str, Any]] = {409: {"model": Problem}, 422: {"model": Problem}}
_A_FILE = {"application/octet-stream": {"schema": {"type": "string", "format": "binary"}}}
_SHA256 = Path(pattern="^[0-9a-f]{64}$")


@contextmanager
def opened(request: Request, *, writes: bool = False) -> Iterator[tuple[Connection, ClientLink]]:
    """A transaction in which the link is known. Raises ProblemError (401, and 429 after many that are not good)."""
    engine = request.app.state.engine
    token = bearer(request.headers)
    with (engine if writes else snapshots(engine)).begin() as connection:
        link = client_links.by_token(connection, token) if token is not None else None
        if link is not None:
            yield connection, link
            return
    count_bad_link(request)
    raise ProblemError(401, "link", ENDED)


def _shared_report(connection: Connection, link: ClientLink, inspection_id: str, *, hold: bool = False) -> AfterReport:
    """What follows the report of one of the link's homes. Raises ProblemError (404, 409)."""
    if inspection_id not in {home.inspection_id for home in client_links.homes(connection, link)}:
        raise not_found("report")
    if hold and not inspections.hold(connection, inspection_id, link.firm_id):
        raise not_found("report")
    try:
        return after_report.after(connection, link.firm_id, inspection_id)
    except after_report.NoReport:
        raise not_found("report") from None


def _must_report(link: ClientLink) -> None:
    if link.role not in REPORTS:
        raise ProblemError(403, "not-yours", "This link is for reading.")


@router.get("")
def page(request: Request) -> SharedOut:
    """What the link shows, and how each home stands."""
    with opened(request, writes=True) as (connection, link):
        client_links.opened(connection, link.id)
        shared_homes = client_links.homes(connection, link)
        states = report_states.of(connection, [home.inspection_id for home in shared_homes if home.inspection_id])
        outcomes = _outcomes(connection, shared_homes)
        firm = people.firm_details(connection, link.firm_id)
    return SharedOut(
        firm=firm["name"], firm_phone=firm["phone"] or "", firm_email=firm["email"] or "", name=link.name,
        role=link.role,  # type: ignore[arg-type]
        one=link.inspection_id is not None, may_report=link.role in REPORTS, expires_at=link.expires_at,
        today=now().date(), homes=sorted(
            (_home(home, states.get(home.inspection_id or ""), outcomes) for home in shared_homes), key=_urgency
        ),
    )  # fmt: skip


def _urgency(home: SharedHomeOut) -> tuple[int, date, str]:
    """What has to be done first comes first, by its day."""
    order = ("to put right", "to be looked at", "to be confirmed", "satisfactory", "put right", "no report")
    return order.index(home.state), home.due or home.copy_due or date.max, home.address


def _outcomes(connection: Connection, shared_homes: list[SharedHome]) -> dict[str, str]:
    return client_links.outcomes(connection, [home.inspection_id for home in shared_homes if home.inspection_id])


def _home(home: SharedHome, state: ReportState | None, outcomes: dict[str, str]) -> SharedHomeOut:
    shown_state: Literal["no report", "satisfactory", "to put right", "to be looked at", "to be confirmed", "put right"]
    outcome = outcomes.get(home.inspection_id or "")
    if outcome is None:
        shown_state = "no report"
    elif state is not None and state.confirmed_on is not None:
        shown_state = "put right"
    elif outcome == "satisfactory" and (state is None or not state.counting):
        shown_state = "satisfactory"
    elif state is not None and state.counting and state.cleared == state.counting:
        shown_state = "to be confirmed"
    elif state is not None and state.counting and state.cleared + state.reported == state.counting:
        shown_state = "to be looked at"
    else:
        shown_state = "to put right"
    return SharedHomeOut(
        id=home.inspection_id if outcome is not None else None, address=home.address, reference=home.reference,
        state=shown_state, cleared=state.cleared if state else 0, counting=state.counting if state else 0,
        worst=state.worst if state else "", due=state.due if state else None,
        copy_due=state.copy_due if state else None, next_due=home.due_on,
    )  # fmt: skip


@router.get("/homes/{inspection_id}")
def report(request: Request, inspection_id: str) -> SharedReportOut:
    """A home's page."""
    with opened(request) as (connection, link):
        return _out(link, inspection_id, _shared_report(connection, link, inspection_id))


def _out(link: ClientLink, inspection_id: str, shared: AfterReport) -> SharedReportOut:
    words, reports_too = shared.words, link.role in REPORTS
    return SharedReportOut(
        id=inspection_id,
        home=words["home"],
        reference=words["reference"],
        number=words["number"],
        issued_on=words["issued_on"],
        inspected_on=words["inspected_on"],
        firm=words["firm"]["name"],
        outcome=words["outcome"],
        sentence=words["sentence"],
        reason=words["reason"],
        rests_on=words["rests_on"],
        timeline=words["timeline"],
        next_by=words["next"]["by"],
        meaning=words["meaning"],
        items=[_item(item, words) for item in shared.items],
        cleared=shared.cleared,
        counting=len(shared.counting),
        due=shared.due,
        # What a landlord owes by law, and whom they gave copies, is theirs and their agent's.
        duties=duties_out(shared) if reports_too and link.role != "contractor" else [],
        copies=[_copy(copy) for copy in shared.copies] if reports_too and link.role != "contractor" else [],
        caution=intervals.CAUTION,
        confirmed_on=shared.confirmed.issued_at.date() if shared.confirmed else None,
        rule_book=words["rule_book"],
        may_report=reports_too,
    )


def _copy(copy: copies.SentCopy) -> SharedCopyOut:
    return SharedCopyOut(of=copy.of, role=copy.role, name=copy.name, how=copy.how, at=copy.at, arrived=copy.arrived)  # type: ignore[arg-type]


def _item(item: RemedialItem, words: Any) -> SharedItemOut:
    required = item.required
    return SharedItemOut(
        id=required.id, code=required.code, title=required.title, text=required.text, place=required.place,
        todo=required.todo, counts=required.counts, state=item.standing.state, said=_said(item),
        photos=[one["sha256"] for one in words["photos"].get(required.id, []) if one["sha256"]],
        steps=[_step(step) for step in item.steps],
    )  # fmt: skip


def _said(item: RemedialItem) -> str:
    """How an item stands, in a few words."""
    standing = item.standing
    match standing.state:
        case "cleared":
            return "done, improvement recommended" if standing.code == "C3" != item.required.code else "done"
        case "done":
            return "reported, to be checked"
        case "booked":
            return f"booked {short_day(standing.booked_on)}" if standing.booked_on else "booked"
    return f"found: {standing.code}" if standing.code != item.required.code else "open"


def _step(step: TakenStep) -> SharedStepOut:
    what = step.what
    retests = ""
    if step.kind == "retest":
        retests = f"{what['label']}: {what['before'] or '–'} → {what['after']} {what['unit']}".rstrip()
    return SharedStepOut(
        kind=step.kind, at=step.at, on=str(what.get("on", "")), by=str(what.get("by", "") or step.by),
        words=str(what.get("words", "")), retests=retests,
        files=[FileOut.model_validate(file, from_attributes=True) for file in step.files],
    )  # fmt: skip


# Papers and pictures


@router.get("/homes/{inspection_id}/report.pdf", response_class=Response, responses=_PDF)
def paper(request: Request, inspection_id: str) -> Response:
    """The report as it was issued."""
    with opened(request) as (connection, link):
        shared = _shared_report(connection, link, inspection_id)
        return _frozen(connection, link, shared.issued.id)


@router.get("/homes/{inspection_id}/confirmation.pdf", response_class=Response, responses=_PDF)
def confirmation(request: Request, inspection_id: str) -> Response:
    """The confirmation that closes the report; 404 while there is none."""
    with opened(request) as (connection, link):
        shared = _shared_report(connection, link, inspection_id)
        if shared.confirmed is None:
            raise not_found(CONFIRMATION)
        return _frozen(connection, link, shared.confirmed.id)


def _frozen(connection: Connection, link: ClientLink, report_id: str) -> Response:
    frozen = reports.frozen_pdf(connection, report_id, link.firm_id)
    if frozen is None:
        raise not_found("report")
    name, pdf = frozen
    return download(pdf, name, "application/pdf")


@router.get("/homes/{inspection_id}/price-request.pdf", response_class=Response, responses=_PDF)
def price_request(request: Request, inspection_id: str) -> Response:
    """A sheet on which any contractor writes prices."""
    with opened(request) as (connection, link):
        shared = _shared_report(connection, link, inspection_id)
    return download(price_sheet_of(shared), f"price-request-{shared.words['reference']}.pdf", "application/pdf")


@router.get(
    "/homes/{inspection_id}/photos/{sha256}",
    response_class=Response,
    responses={200: {"content": {"image/svg+xml": {}}}},
)
async def photo(
    request: Request, inspection_id: str, sha256: str = _SHA256, size: Literal["small", "large"] = "small"
) -> Response:
    """A photo of an item as it is printed: what nobody is to read is unreadable in the picture itself."""
    link, marks = await run_in_threadpool(_photo_of, request, inspection_id, sha256)
    store: PhotoStore = request.app.state.photos
    pool: FairPool = request.app.state.decoding

    def drawn() -> str | None:
        jpeg = shown(store, link.firm_id, sha256, f"printed-{size}")
        return marked.svg(jpeg, marks, size, "photo") if jpeg is not None else None

    drawing = await pool.run(link.id, drawn)
    if drawing is None:
        raise not_found("photo")
    headers = {"Content-Security-Policy": "default-src 'none'; img-src data:", "Cache-Control": "private, no-store"}
    return Response(drawing, media_type="image/svg+xml", headers=headers)


def _photo_of(request: Request, inspection_id: str, sha256: str) -> tuple[ClientLink, Any]:
    """The link, and what was marked on the photo when the report was issued. Raises ProblemError (404)."""
    with opened(request) as (connection, link):
        shared = _shared_report(connection, link, inspection_id)
        listed = {picture["sha256"] for photos in shared.words["photos"].values() for picture in photos}
        latest = reports.latest(connection, inspection_id)
    if sha256 not in listed or latest is None:
        raise not_found("photo")
    pinned = [picture for picture in inspection_of(latest).photos if picture.sha256 == sha256]
    # Pinned twice, every mark counts: what is unreadable in one place is so in both.
    return link, [mark for picture in pinned for mark in picture.marks or ()]


@router.get("/homes/{inspection_id}/files/{file_id}", response_class=Response)
def file(request: Request, inspection_id: str, file_id: str) -> Response:
    """A file of evidence that belongs to a step."""
    with opened(request) as (connection, link):
        _shared_report(connection, link, inspection_id)
        files = remedials.content(connection, inspection_id, file_id)
    return file_answer(files if files is not None and files[0].step_id is not None else None)


# What its holder says


@router.post(
    "/homes/{inspection_id}/files",
    status_code=201,
    responses=_AT_FIELD,
    openapi_extra={"requestBody": {"content": _A_FILE, "required": True}},
)
async def send_file(
    request: Request, inspection_id: str, kind: Literal["certificate", "photo"], name: str = Query(max_length=190)
) -> FileOut:
    """Send a certificate or a photo of what was done."""

    def may() -> ClientLink:
        with opened(request, writes=True) as (connection, link):
            _must_report(link)
            _shared_report(connection, link, inspection_id, hold=True)
            return link

    link = await run_in_threadpool(may)
    file_id = await evidence.taken(request, inspection_id, kind, name, By(link_id=link.id))
    return FileOut(id=file_id, kind=kind, name=name or kind, media_type="")


@router.post("/homes/{inspection_id}/done", responses=_AT_FIELD)
def done(request: Request, inspection_id: str, given: SharedDoneIn) -> SharedReportOut:
    """Say that something was put right; somebody of the firm looks at it and accepts it."""
    with opened(request, writes=True) as (connection, link):
        _must_report(link)
        shared = _shared_report(connection, link, inspection_id, hold=True)
        what = given.model_dump(include={"by", "on", "words", "certificate"})
        for at, observation_id in enumerate(dict.fromkeys(given.items)):
            _take(connection, shared, inspection_id, observation_id, what, link, [] if at else given.files)
        after_report.remember(connection, link.firm_id, inspection_id)
        return _out(link, inspection_id, _shared_report(connection, link, inspection_id))


def _take(
    connection: Connection, shared: AfterReport, inspection_id: str, observation_id: str, what: dict[str, Any],
    link: ClientLink, files: list[str],
) -> None:  # fmt: skip
    if _said_already(shared, observation_id, what, link):
        return
    take(connection, shared, inspection_id, observation_id, "done", what, By(link_id=link.id), files)


def _said_already(shared: AfterReport, observation_id: str, what: dict[str, Any], link: ClientLink) -> bool:
    """Was the same said last? A broken connection sends it twice."""
    item = next((item for item in shared.items if item.required.id == observation_id), None)
    last = item.steps[-1] if item is not None and item.steps else None
    return last is not None and last.kind == "done" and not last.of_firm and last.what == what


@router.post("/homes/{inspection_id}/copies", responses=_AT_FIELD)
def gave_copy(request: Request, inspection_id: str, given: SharedCopyIn) -> SharedReportOut:
    """Say that a copy was given to an occupier or an authority."""
    with opened(request, writes=True) as (connection, link):
        _must_report(link)
        shared = _shared_report(connection, link, inspection_id, hold=True)
        of = shared.issued if given.of == "report" else shared.confirmed
        if of is None:
            raise ProblemError(409, "not-confirmed", "There is no confirmation yet.")
        at = day_given(given.on)
        same = (given.of, given.role, given.name, given.how, at)
        if same not in {(copy.of, copy.role, copy.name, copy.how, copy.at) for copy in shared.copies}:
            copies.note(connection, inspection_id, of.id, given.role, given.name, given.how, at, link_id=link.id)
        after_report.remember(connection, link.firm_id, inspection_id)
        return _out(link, inspection_id, _shared_report(connection, link, inspection_id))
