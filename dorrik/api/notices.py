"""The notice of a danger (C1): printed on the spot, or mailed to whoever is in charge."""

from typing import Any

from fastapi import Request, Response
from sqlalchemy import Connection

from dorrik.api import letters_out
from dorrik.api.coding_types import Sent
from dorrik.api.common_types import Problem
from dorrik.api.files import download
from dorrik.api.once import do_once
from dorrik.api.problems import RESPONSES, ProblemError, not_found
from dorrik.api.register_types import SendIn
from dorrik.api.routing import router as make_router
from dorrik.api.work import must, note, work
from dorrik.journal import blind
from dorrik.report import danger_notice, mail
from dorrik.report.content import Issue
from dorrik.report.issue import on_paper
from dorrik.store import inspections
from dorrik.store.engine import now
from dorrik.store.people import Person

router = make_router("/api/inspections", "notices", RESPONSES)
_NO_DANGER: dict[int | str, dict[str, Any]] = {409: {"model": Problem}}


@router.get(
    "/{inspection_id}/observations/{observation_id}/notice.pdf",
    response_class=Response,
    responses={200: {"content": {"application/pdf": {}}}, **_NO_DANGER},
)
def printed(request: Request, inspection_id: str, observation_id: str) -> Response:
    """The notice of a danger as things stand; 409 where the observation is not C1."""
    said, paper, _ = _said(request, inspection_id, observation_id)
    return download(danger_notice.letter(said, paper), "notice-of-danger.pdf", "application/pdf")


@router.post("/{inspection_id}/observations/{observation_id}/notice", responses={**_NO_DANGER, 422: {"model": Problem}})
def mailed(request: Request, inspection_id: str, observation_id: str, given: SendIn) -> Sent:
    """Mail the notice of a danger."""
    said, paper, me = _said(request, inspection_id, observation_id)
    try:
        to = mail.recipient(given.to)
    except mail.NotSent as error:
        raise _not_sent(error) from None
    attached = [mail.Attachment("notice-of-danger.pdf", danger_notice.letter(said, paper))]
    text = f"{said['opening']}\n\nThe notice is attached.\n\n{said['signed_by']}\n"

    def leave(connection: Connection) -> dict[str, Any]:
        note(request, connection, me, "mail sent", f"observation {observation_id}", inspection=inspection_id)
        try:
            letters_out.send(request, me, "danger notice", paper.firm_name, to, said["subject"], text, attached)
        except mail.NotSent as error:
            raise _not_sent(error) from None
        return {"at": f"{now():%Y-%m-%dT%H:%M:%SZ}"}

    # The answer that is remembered names nobody: to whom it went is part of what was asked.
    answer = do_once(request, me, "danger notice", (observation_id, to, said), leave)
    return Sent(to=to, at=answer["at"])


def _said(request: Request, inspection_id: str, observation_id: str) -> tuple[dict[str, Any], Issue, Person]:
    with work(request, only_reads=True) as (connection, me):
        must(me, "send letters")
        kept = inspections.load(connection, inspection_id, me.firm_id)
        if kept is None:
            raise not_found()
        if observation_id in blind.blind_to(connection, kept, me):
            raise ProblemError(409, "blind", "This observation waits for your second opinion. Give it first.")
        paper = on_paper(connection, me, 0, now().date())
    inspection = inspections.assemble(kept)
    observation = next((one for one in inspection.observations if one.id == observation_id), None)
    if observation is None:
        raise not_found("observation")
    try:
        return danger_notice.words(inspection, observation, paper), paper, me
    except danger_notice.NoDanger as error:
        raise ProblemError(409, "no-danger", str(error)) from None


def _not_sent(error: mail.NotSent) -> ProblemError:
    fields = [{"field": "to", "message": str(error)}]
    return ProblemError(422 if error.at_address else 409, "not-sent", str(error), fields=fields)
