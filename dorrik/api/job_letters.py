"""Letters of a job: the client's confirmation, also by mail, and the occupier's notice."""

from typing import Any

from fastapi import Request, Response
from sqlalchemy import Connection

from dorrik.api import letters_out
from dorrik.api.common_types import Problem
from dorrik.api.files import download
from dorrik.api.mail_types import Sent
from dorrik.api.once import do_once
from dorrik.api.problems import RESPONSES, not_found
from dorrik.api.register_types import RegisterEntry, SendIn
from dorrik.api.routing import router as make_router
from dorrik.api.work import note, work
from dorrik.office import jobs
from dorrik.office.jobs import Letters, Which
from dorrik.report import mail
from dorrik.store.mail.mail_queue import About
from dorrik.store.people.people import Person
from dorrik.store.register import register

router = make_router("/api", "register", RESPONSES)
_PDF: dict[int | str, dict[str, Any]] = {200: {"content": {"application/pdf": {}}}}


class ConfirmationOut(RegisterEntry):
    """The job, and how its letter stands."""

    sent: Sent


@router.get("/jobs/{entry_id}/confirmation.pdf", response_class=Response, responses=_PDF)
def confirmation(request: Request, entry_id: str) -> Response:
    """Scope, access and price for the client to confirm."""
    return _letter(request, entry_id, "confirmation")


@router.get("/jobs/{entry_id}/power-off.pdf", response_class=Response, responses=_PDF)
def power_off(request: Request, entry_id: str) -> Response:
    """The power-off notice for the occupier."""
    return _letter(request, entry_id, "power-off")


@router.post("/jobs/{entry_id}/confirmation", responses={409: {"model": Problem}, 422: {"model": Problem}})
def send(request: Request, entry_id: str, given: SendIn) -> ConfirmationOut:
    """Mail the confirmation to the client, with the power-off notice to hand on. Once it has left, the job says so."""
    made, me = _letters(request, entry_id)
    to = letters_out.recipient(given.to)
    words = made.words("confirmation")
    job = made.file.job.values

    attached = [
        mail.Attachment("confirmation.pdf", made.pdf("confirmation")),
        mail.Attachment("power-off-notice.pdf", made.pdf("power-off")),
    ]
    parts = [words["opening"], "The letter is attached, with a notice for the occupier.", made.own_words]
    text = "\n\n".join(part for part in (*parts, words["signed_by"]) if part) + "\n"

    def leave(connection: Connection) -> dict[str, Any]:
        note(request, connection, me, "mail sent", f"job {entry_id}")
        belongs = About("confirmation", f"job {job.get('number') or ''}".strip(), job_id=entry_id)
        letter = letters_out.Letter(made.paper.firm_name, to, words["subject"], text, attached)
        return {"mail": letters_out.queue(request, connection, me, belongs, letter)}

    # The answer that is remembered names nobody: the entry is read anew.
    answer = do_once(request, me, "confirmation", (entry_id, to, words, made.words("power-off")), leave)
    sent = letters_out.leave(request, me, answer["mail"])
    with work(request) as (connection, me):
        entry = register.get(connection, me.firm_id, "job", entry_id)
    if entry is None:
        raise not_found("job")
    shown = RegisterEntry.model_validate(entry, from_attributes=True)
    return ConfirmationOut(**shown.model_dump(), sent=sent)


def _letters(request: Request, entry_id: str) -> tuple[Letters, Person]:
    with work(request) as (connection, me):
        letters = jobs.letters(connection, me, entry_id)
    if letters is None:
        raise not_found("job")
    return letters, me


def _letter(request: Request, entry_id: str, which: Which) -> Response:
    made, _ = _letters(request, entry_id)
    number = made.file.job.values.get("number") or "job"
    return download(made.pdf(which), f"{which}-{number}.pdf", "application/pdf")
