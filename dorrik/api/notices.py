"""Papers printed on the spot or mailed: the notice of a danger (C1), what is set aside by agreement, labels to fit."""

from datetime import date
from typing import Any

from fastapi import Request, Response
from sqlalchemy import Connection

from dorrik.api import letters_out
from dorrik.api.common_types import Problem
from dorrik.api.files import download
from dorrik.api.mail_types import Sent
from dorrik.api.once import do_once
from dorrik.api.problems import RESPONSES, ProblemError, not_found
from dorrik.api.register_types import SendIn
from dorrik.api.routing import router as make_router
from dorrik.api.work import must, note, work
from dorrik.core.inspection.kept_inspection import assemble
from dorrik.journal import blind
from dorrik.report import board_chart, label_sheet, mail, press
from dorrik.report.content import Issue
from dorrik.report.issue import on_paper
from dorrik.report.letters import danger_notice
from dorrik.report.letters import set_aside as left_aside
from dorrik.store.database.engine import now
from dorrik.store.inspections import inspections, judging
from dorrik.store.inspections.listing import due
from dorrik.store.mail.letter_budget import Kind
from dorrik.store.mail.mail_queue import About
from dorrik.store.people.people import Person

router = make_router("/api/inspections", "notices", RESPONSES)
#: There is no danger to give notice of, or nothing that was set aside.
_NOTHING: dict[int | str, dict[str, Any]] = {409: {"model": Problem}}


@router.get(
    "/{inspection_id}/observations/{observation_id}/notice.pdf",
    response_class=Response,
    responses={200: {"content": {"application/pdf": {}}}, **_NOTHING},
)
def printed(request: Request, inspection_id: str, observation_id: str) -> Response:
    """The notice of a danger as things stand; 409 where the observation is not C1."""
    notice, paper, _ = _said(request, inspection_id, observation_id)
    return download(press.facts_letter(notice, paper.issued_on), "notice-of-danger.pdf", "application/pdf")


@router.post("/{inspection_id}/observations/{observation_id}/notice", responses={**_NOTHING, 422: {"model": Problem}})
def mailed(request: Request, inspection_id: str, observation_id: str, given: SendIn) -> Sent:
    """Mail the notice of a danger."""
    notice, paper, me = _said(request, inspection_id, observation_id)
    pdf = mail.Attachment("notice-of-danger.pdf", press.facts_letter(notice, paper.issued_on))
    about = f"observation {observation_id}"
    return _mailed(request, me, "danger notice", inspection_id, about, given.to, notice, paper, pdf)


@router.get(
    "/{inspection_id}/set-aside.pdf",
    response_class=Response,
    responses={200: {"content": {"application/pdf": {}}}, **_NOTHING},
)
def set_aside(request: Request, inspection_id: str) -> Response:
    """The letter on what is left disconnected or out of scope, as things stand; 409 where nothing is."""
    notice, paper, _ = _set_aside(request, inspection_id)
    return download(press.facts_letter(notice, paper.issued_on), "left-by-agreement.pdf", "application/pdf")


@router.post("/{inspection_id}/set-aside", responses={**_NOTHING, 422: {"model": Problem}})
def set_aside_mailed(request: Request, inspection_id: str, given: SendIn) -> Sent:
    """Mail the letter on what is left disconnected or out of scope."""
    notice, paper, me = _set_aside(request, inspection_id)
    pdf = mail.Attachment("left-by-agreement.pdf", press.facts_letter(notice, paper.issued_on))
    return _mailed(request, me, "set-aside letter", inspection_id, "set aside", given.to, notice, paper, pdf)


@router.get(
    "/{inspection_id}/labels.pdf",
    response_class=Response,
    responses={200: {"content": {"application/pdf": {}}}, **_NOTHING},
)
def labels(request: Request, inspection_id: str) -> Response:
    """Labels for the boards, with the date of the next inspection; 409 while that is not chosen."""
    with work(request, only_reads=True) as (connection, me):
        kept = inspections.load(connection, inspection_id, me.firm_id)
        if kept is None:
            raise not_found()
        paper = on_paper(connection, me, 0, now().date())
        inspection, judgement = judging.judged(connection, kept)
    inspected_on = date.fromisoformat(inspection.inspected_on) if inspection.inspected_on else None
    try:
        sheet_words = label_sheet.words(inspection, judgement, paper, due(inspected_on, inspection.next_years))
    except label_sheet.NoDate as error:
        raise ProblemError(409, "no-date", str(error)) from None
    return download(label_sheet.sheet(sheet_words, paper.issued_on), "labels.pdf", "application/pdf")


@router.get(
    "/{inspection_id}/board-chart.pdf",
    response_class=Response,
    responses={200: {"content": {"application/pdf": {}}}},
)
def charts(request: Request, inspection_id: str) -> Response:
    """The circuit chart of each board, to hang inside its cover."""
    with work(request, only_reads=True) as (connection, me):
        kept = inspections.load(connection, inspection_id, me.firm_id)
        if kept is None:
            raise not_found()
        paper = on_paper(connection, me, 0, now().date())
    chart_words = board_chart.words(assemble(kept), paper)
    return download(board_chart.sheet(chart_words, paper), "circuit-charts.pdf", "application/pdf")


def _set_aside(request: Request, inspection_id: str) -> tuple[dict[str, Any], Issue, Person]:
    with work(request, only_reads=True) as (connection, me):
        must(me, "send letters")
        kept = inspections.load(connection, inspection_id, me.firm_id)
        if kept is None:
            raise not_found()
        paper = on_paper(connection, me, 0, now().date())
        inspection, judgement = judging.judged(connection, kept)
    try:
        return left_aside.words(inspection, judgement, paper), paper, me
    except left_aside.NothingSetAside as error:
        raise ProblemError(409, "nothing-set-aside", str(error)) from None


def _mailed(
    request: Request, me: Person, kind: Kind, inspection_id: str, about: str, address: str, notice: dict[str, Any],
    paper: Issue, pdf: mail.Attachment,
) -> Sent:  # fmt: skip
    """Mail a letter once, however often it is asked for. kind: which letter; about: of what, for the audit log."""
    to = letters_out.recipient(address)
    text = f"{notice['opening']}\n\nThe letter is attached.\n\n{notice['signed_by']}\n"

    def leave(connection: Connection) -> dict[str, Any]:
        note(request, connection, me, "mail sent", about, inspection=inspection_id)
        belongs = About(kind, about, inspection_id)
        letter = letters_out.Letter(paper.firm_name, to, notice["subject"], text, [pdf])
        return {"mail": letters_out.queue(request, connection, me, belongs, letter)}

    # The answer that is remembered names nobody: to whom it went is part of what was asked.
    answer = do_once(request, me, kind, (inspection_id, about, to, notice), leave)
    return letters_out.leave(request, me, answer["mail"])


def _said(request: Request, inspection_id: str, observation_id: str) -> tuple[dict[str, Any], Issue, Person]:
    with work(request, only_reads=True) as (connection, me):
        must(me, "send letters")
        kept = inspections.load(connection, inspection_id, me.firm_id)
        if kept is None:
            raise not_found()
        if observation_id in blind.blind_to(connection, kept, me):
            raise ProblemError(409, "blind", "This observation waits for your second opinion. Give it first.")
        paper = on_paper(connection, me, 0, now().date())
    inspection = assemble(kept)
    observation = next(
        (observation for observation in inspection.observations if observation.id == observation_id), None
    )
    if observation is None:
        raise not_found("observation")
    try:
        return danger_notice.words(inspection, observation, paper), paper, me
    except danger_notice.NoDanger as error:
        raise ProblemError(409, "no-danger", str(error)) from None
