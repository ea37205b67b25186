"""After a report, for the firm: items with their steps and evidence, copies, links, the confirmation."""

from typing import Any, Literal

from fastapi import Query, Request, Response
from sqlalchemy import Connection
from starlette.concurrency import run_in_threadpool

from dorrik.api import evidence, letters_out
from dorrik.api.after_out import after_out, open_report_out
from dorrik.api.after_types import (
    AfterOut,
    ClientLinkIn,
    ClientLinkOut,
    ConfirmIn,
    CopyIn,
    FileOut,
    MadeClientLinkOut,
    MailReportIn,
    OpenReports,
    RetestedOut,
    RetestIn,
    StepsIn,
    TryRetestIn,
)
from dorrik.api.common_types import Problem
from dorrik.api.files import download
from dorrik.api.mail_types import Sent
from dorrik.api.once import do_once
from dorrik.api.problems import RESPONSES, ProblemError, not_found
from dorrik.api.remedial_steps import at_fields, day_given, file_answer, price_sheet_of, take
from dorrik.api.report_types import IssuedOut
from dorrik.api.routing import router as make_router
from dorrik.api.work import must, note, work
from dorrik.core.work.remedials import DECIDED, Retested
from dorrik.office import after_report, clearing
from dorrik.office.after_report import AfterReport
from dorrik.report import confirmation, mail, report_mail
from dorrik.report.issue import on_paper
from dorrik.store.database.engine import now
from dorrik.store.firm import firm_paper
from dorrik.store.inspections import inspections
from dorrik.store.mail.mail_queue import About
from dorrik.store.people.people import Person
from dorrik.store.register import register
from dorrik.store.reports import client_links, copies, remedials, report_states, reports
from dorrik.store.reports.remedials import By

router = make_router("/api", "after", {**RESPONSES, 409: {"model": Problem}})
_AT_FIELD: dict[int | str, dict[str, Any]] = {422: {"model": Problem}}
_PDF: dict[int | str, dict[str, Any]] = {200: {"content": {"application/pdf": {}}}}
_A_FILE = {"application/octet-stream": {"schema": {"type": "string", "format": "binary"}}}


def after_report_of(connection: Connection, me: Person, inspection_id: str, *, hold: bool = False) -> AfterReport:
    """What follows the report. Raises ProblemError: 404 where the firm has no such inspection, or it has no report."""
    if inspections.sequence(connection, inspection_id, me.firm_id) is None:
        raise not_found()
    if hold and not inspections.hold(connection, inspection_id, me.firm_id):
        raise ProblemError(409, "erased", "The data of this client were erased; nothing is added any more.")
    try:
        return after_report.after(connection, me.firm_id, inspection_id)
    except after_report.NoReport:
        raise not_found("report") from None


@router.get("/to-put-right")
def open_reports(request: Request, start: int = Query(0, ge=0, le=1_000_000)) -> OpenReports:
    """Reports with something left to clear, to confirm or to send, by their last day."""
    with work(request) as (connection, me):
        lines, count = report_states.open_ones(connection, me.firm_id, start)
    return OpenReports(
        count=count,
        reports=[open_report_out(line) for line in lines],
    )


@router.get("/inspections/{inspection_id}/after")
def after(request: Request, inspection_id: str) -> AfterOut:
    """What follows the latest report of an inspection; 404 while none was issued."""
    with work(request) as (connection, me):
        return after_out(connection, me, inspection_id, after_report_of(connection, me, inspection_id))


@router.post("/inspections/{inspection_id}/after/retest", responses=_AT_FIELD)
def try_retest(request: Request, inspection_id: str, given: TryRetestIn) -> RetestedOut:
    """How a figure would be judged after the work; nothing is written down."""
    with work(request, only_reads=True) as (connection, me):
        after_report_of(connection, me, inspection_id)
        return _retested_out(_retested(connection, inspection_id, given))


def _retested(connection: Connection, inspection_id: str, given: TryRetestIn | RetestIn) -> Retested:
    try:
        return clearing.retest(connection, inspection_id, given.entity_id, given.field, given.reading)
    except clearing.CannotTake as error:
        raise at_fields(error, "step." if isinstance(given, RetestIn) else "") from None
    except clearing.NoItem:
        raise not_found("report") from None


def _retested_out(retest: Retested) -> RetestedOut:
    return RetestedOut(
        label=retest.figure.label, unit=retest.figure.unit, before=retest.figure.value, after=retest.after,
        status=retest.status, says=retest.says, limit=retest.limit,
    )  # fmt: skip


@router.post("/inspections/{inspection_id}/after/steps", responses=_AT_FIELD)
def take_steps(request: Request, inspection_id: str, given: StepsIn) -> AfterOut:
    """Take a step about one item or several, all or none."""

    def do(connection: Connection) -> dict[str, Any]:
        state = after_report_of(connection, me, inspection_id, hold=True)
        must(me, "decide" if given.step.kind in DECIDED else "write")
        step = given.step.model_dump(exclude={"kind", "files"})
        files = list(getattr(given.step, "files", []))
        if isinstance(given.step, RetestIn):
            retested = _retested(connection, inspection_id, given.step)
            step = clearing.as_step(retested, given.step.on, given.step.words)
        for at, observation_id in enumerate(dict.fromkeys(given.items)):
            # A file belongs to one step; what it shows of the others is said by its number or its words.
            take(
                connection,
                state,
                inspection_id,
                observation_id,
                given.step.kind,
                step,
                By(me.id),
                [] if at else files,
                "step.",
            )
        after_report.remember(connection, me.firm_id, inspection_id)
        note(request, connection, me, "remedial step", state.words["reference"], kind=given.step.kind)
        return {"taken": True}

    with work(request, only_reads=True) as (connection, me):
        after_report_of(connection, me, inspection_id)
    do_once(request, me, "remedial step", (inspection_id, given.model_dump(mode="json")), do)
    with work(request, only_reads=True) as (connection, me):
        return after_out(connection, me, inspection_id, after_report_of(connection, me, inspection_id))


@router.post(
    "/inspections/{inspection_id}/after/files",
    status_code=201,
    responses=_AT_FIELD,
    openapi_extra={"requestBody": {"content": _A_FILE, "required": True}},
)
async def send_file(
    request: Request, inspection_id: str, kind: Literal["certificate", "photo"], name: str = Query(max_length=190)
) -> FileOut:
    """Send a file of evidence; it belongs to the step that names it."""
    me = await run_in_threadpool(_may_add, request, inspection_id)
    file_id = await evidence.taken(request, inspection_id, kind, name, By(me.id))
    return await run_in_threadpool(_file_out, request, inspection_id, file_id)


def _may_add(request: Request, inspection_id: str) -> Person:
    with work(request) as (connection, me):
        must(me, "write")
        after_report_of(connection, me, inspection_id, hold=True)
        return me


def _file_out(request: Request, inspection_id: str, file_id: str) -> FileOut:
    with request.app.state.engine.begin() as connection:
        files = remedials.content(connection, inspection_id, file_id)
    if files is None:
        raise not_found("file")
    return FileOut.model_validate(files[0], from_attributes=True)


@router.get("/inspections/{inspection_id}/after/files/{file_id}", response_class=Response)
def file(request: Request, inspection_id: str, file_id: str) -> Response:
    """A file of evidence as it was kept."""
    with work(request) as (connection, me):
        if inspections.sequence(connection, inspection_id, me.firm_id) is None:
            raise not_found()
        files = remedials.content(connection, inspection_id, file_id)
    return file_answer(files)


# The confirmation


@router.post("/inspections/{inspection_id}/after/confirmation", status_code=201, responses=_AT_FIELD)
def confirm(request: Request, inspection_id: str, given: ConfirmIn) -> IssuedOut:
    """Confirm in writing that everything is cleared: words, data and PDF are frozen. Asked for again it is the same."""

    def ready(connection: Connection, me: Person, *, hold: bool = False) -> clearing.ReadyCopy:
        must(me, "certify")
        after_report_of(connection, me, inspection_id, hold=hold)
        try:
            return clearing.confirmation_copy(
                connection,
                me.firm_id,
                inspection_id,
                me,
                given.signature.of(me),
                now().replace(microsecond=0),
                request.app.state.url,
            )
        except clearing.NotCleared as error:
            raise ProblemError(422, "not-cleared", str(error)) from None

    with work(request, only_reads=True) as (connection, me):
        copy, state = ready(connection, me)
    if state.confirmed is not None:
        return IssuedOut.model_validate(state.confirmed, from_attributes=True)
    # Nobody waits while it is typeset; what came since is told.
    pdf = confirmation.typeset(copy)
    with work(request) as (connection, me):
        again, state_now = ready(connection, me, hold=True)
        if state_now.confirmed is not None:
            return IssuedOut.model_validate(state_now.confirmed, from_attributes=True)
        if (again.number, again.said["items"]) != (copy.number, copy.said["items"]):
            raise ProblemError(409, "moved", "Something was entered meanwhile. Look at the list again.")
        issued = confirmation.keep(connection, inspection_id, me, copy, pdf, state.issued.seq)
        after_report.remember(connection, me.firm_id, inspection_id)
        note(request, connection, me, "work confirmed", copy.said["number"], sha256=issued.sha256)
    return IssuedOut.model_validate(issued, from_attributes=True)


@router.get("/inspections/{inspection_id}/after/price-request.pdf", response_class=Response, responses=_PDF)
def price_sheet(request: Request, inspection_id: str) -> Response:
    """What is to be put right as a sheet on which any contractor writes prices."""
    with work(request) as (connection, me):
        state = after_report_of(connection, me, inspection_id)
    return download(price_sheet_of(state), f"price-request-{state.words['reference']}.pdf", "application/pdf")


# Copies


@router.post("/inspections/{inspection_id}/after/copies", responses=_AT_FIELD)
def note_copy(request: Request, inspection_id: str, given: CopyIn) -> AfterOut:
    """Note that somebody got a copy by post, by hand or by a link that was passed on."""
    with work(request) as (connection, me):
        must(me, "send letters")
        state = after_report_of(connection, me, inspection_id, hold=True)
        at = day_given(given.on)
        paper = _paper(state, given.of)
        copies.note(connection, inspection_id, paper.id, given.role, given.name, given.how, at, person_id=me.id)
        after_report.remember(connection, me.firm_id, inspection_id)
        note(request, connection, me, "copy noted", state.words["reference"], role=given.role)
        return after_out(connection, me, inspection_id, after_report_of(connection, me, inspection_id))


def _paper(state: AfterReport, of: str) -> reports.Issued:
    if of == "report":
        return state.issued
    if state.confirmed is None:
        raise ProblemError(409, "not-confirmed", "There is no confirmation that covers everything yet.")
    return state.confirmed


@router.delete("/inspections/{inspection_id}/after/copies/{copy_id}")
def remove_copy(request: Request, inspection_id: str, copy_id: str) -> AfterOut:
    """Take out a copy that was noted by mistake; that it was noted stays in the audit log."""
    with work(request) as (connection, me):
        must(me, "send letters")
        after_report_of(connection, me, inspection_id, hold=True)
        if not copies.remove(connection, inspection_id, copy_id):
            raise not_found("copy")
        after_report.remember(connection, me.firm_id, inspection_id)
        return after_out(connection, me, inspection_id, after_report_of(connection, me, inspection_id))


@router.post("/inspections/{inspection_id}/after/mail", responses=_AT_FIELD)
def mail_report(request: Request, inspection_id: str, given: MailReportIn) -> Sent:
    """Mail report or confirmation as PDF, with a link to its page; it is noted as a copy."""
    to = letters_out.recipient(given.to)

    def leave(connection: Connection) -> dict[str, Any]:
        state = after_report_of(connection, me, inspection_id, hold=True)
        paper = _paper(state, given.of)
        frozen = reports.frozen_pdf(connection, paper.id, me.firm_id)
        if frozen is None:
            raise not_found("report")
        firm = on_paper(connection, me, 1, now().date())
        link_id, token = client_links.make(
            connection, me.firm_id, me.id, given.role, given.name, inspection_id=inspection_id
        )
        address = request.app.state.url + client_links.path(token)
        texts = firm_paper.of(connection, me.firm_id).texts
        mail_words = report_mail.words(
            state.words, given.of, given.name, given.words, address, me.name, firm.firm_name, texts
        )
        kind: Literal["report", "completion"] = "report" if given.of == "report" else "completion"
        belongs = About(kind, f"{given.of} {state.words['reference']}", inspection_id)
        letter = letters_out.Letter(firm.firm_name, to, mail_words.subject, mail_words.text, [mail.Attachment(*frozen)])
        mail_id = letters_out.queue(request, connection, me, belongs, letter)
        copies.note(
            connection, inspection_id, paper.id, given.role, given.name, "mail", now().replace(microsecond=0),
            person_id=me.id, link_id=link_id, mail_id=mail_id,
        )  # fmt: skip
        note(request, connection, me, "mail sent", f"{given.of} {state.words['reference']}", inspection=inspection_id)
        return {"mail": mail_id}

    with work(request, only_reads=True) as (connection, me):
        must(me, "send letters")
        paper = _paper(after_report_of(connection, me, inspection_id), given.of)
    asked = (inspection_id, paper.id, to, given.model_dump())
    answer = do_once(request, me, "report mail", asked, leave)
    sent = letters_out.leave(request, me, answer["mail"])
    with work(request) as (connection, me):
        after_report.remember(connection, me.firm_id, inspection_id)
    return sent


# Links


@router.post("/inspections/{inspection_id}/after/links", status_code=201, responses=_AT_FIELD)
def make_link(request: Request, inspection_id: str, given: ClientLinkIn) -> MadeClientLinkOut:
    """Make a link to the report's page for somebody; its address is told this once."""
    with work(request) as (connection, me):
        must(me, "send letters")
        state = after_report_of(connection, me, inspection_id, hold=True)
        link_id, token = client_links.make(
            connection, me.firm_id, me.id, given.role, given.name, inspection_id=inspection_id, days=given.days
        )
        note(request, connection, me, "client link made", state.words["reference"], role=given.role)
        return _made(request, client_links.of_inspection(connection, inspection_id), link_id, token)


def _made(request: Request, links: list[client_links.ClientLink], link_id: str, token: str) -> MadeClientLinkOut:
    made = next(link for link in links if link.id == link_id)
    address = request.app.state.url + client_links.path(token)
    return MadeClientLinkOut(link=ClientLinkOut.model_validate(made, from_attributes=True), address=address)


@router.get("/clients/{client_id}/links")
def client_links_of(request: Request, client_id: str) -> list[ClientLinkOut]:
    """The links to everything of a client."""
    with work(request) as (connection, me):
        _client(connection, me, client_id)
        links = client_links.of_client(connection, me.firm_id, client_id)
    return [ClientLinkOut.model_validate(link, from_attributes=True) for link in links]


@router.post("/clients/{client_id}/links", status_code=201, responses=_AT_FIELD)
def make_client_link(request: Request, client_id: str, given: ClientLinkIn) -> MadeClientLinkOut:
    """Make a link to all homes of a client, for them or their agent."""
    with work(request) as (connection, me):
        must(me, "send letters")
        _client(connection, me, client_id)
        link_id, token = client_links.make(
            connection, me.firm_id, me.id, given.role, given.name, client_id=client_id, days=given.days
        )
        note(request, connection, me, "client link made", f"client {client_id}", role=given.role)
        return _made(request, client_links.of_client(connection, me.firm_id, client_id), link_id, token)


def _client(connection: Connection, me: Person, client_id: str) -> None:
    entry = register.get(connection, me.firm_id, "client", client_id)
    if entry is None or entry.values.get("removed"):
        raise not_found("client")


@router.post("/links/{link_id}/end", status_code=204)
def end_link(request: Request, link_id: str) -> Response:
    """End a link: it opens nothing any more."""
    with work(request) as (connection, me):
        must(me, "send letters")
        if not client_links.revoke(connection, me.firm_id, link_id):
            raise not_found("link")
        note(request, connection, me, "client link ended")
    return Response(status_code=204)
