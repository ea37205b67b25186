"""Letters of a job: the client's confirmation, also by mail, and the occupier's notice."""

from dataclasses import dataclass
from typing import Any

from fastapi import Request, Response
from sqlalchemy import Connection

from dorrik.api import limits
from dorrik.api.book_types import BookEntry, EstimateOut, SendIn
from dorrik.api.files import download
from dorrik.api.once import do_once
from dorrik.api.problems import RESPONSES, ProblemError, not_found
from dorrik.api.rates import estimate_of
from dorrik.api.routing import router as make_router
from dorrik.api.schemas import Problem
from dorrik.api.work import note, work
from dorrik.report import job_letters, mail
from dorrik.report.content import Issue
from dorrik.report.issue import on_paper
from dorrik.store import book
from dorrik.store.engine import now
from dorrik.store.people import Person

router = make_router("/api", "book", RESPONSES)
_PDF = {200: {"content": {"application/pdf": {}}}}


@router.get("/jobs/{entry_id}/confirmation.pdf", response_class=Response, responses=_PDF)
def confirmation(request: Request, entry_id: str) -> Response:
    """Scope, access and price for the client to confirm."""
    return _letter(request, entry_id, "confirmation")


@router.get("/jobs/{entry_id}/power-off.pdf", response_class=Response, responses=_PDF)
def power_off(request: Request, entry_id: str) -> Response:
    """The power-off notice for the occupier."""
    return _letter(request, entry_id, "power-off")


@router.post("/jobs/{entry_id}/confirmation", responses={409: {"model": Problem}, 422: {"model": Problem}})
def send(request: Request, entry_id: str, given: SendIn) -> BookEntry:
    """Mail the confirmation to the client, with the power-off notice to hand on."""
    made = _job(request, entry_id)
    try:
        to = mail.recipient(given.to)
    except mail.NotSent as error:
        raise _not_sent(error) from None
    said = made.said("confirmation")
    state = {"state": "confirmed"} if made.job.get("state") == "asked" else {}
    limits.spend(request, made.me, "mail")

    letters = [
        mail.Attachment("confirmation.pdf", made.letter("confirmation")),
        mail.Attachment("power-off-notice.pdf", made.letter("power-off")),
    ]
    text = f"{said['opening']}\n\nThe letter is attached, with a notice for the occupier.\n\n{said['signed_by']}\n"

    def leave(connection: Connection) -> dict[str, Any]:
        # The register first: what it refuses is told before the letter has left.
        values = {"confirmation_sent": f"{to}, {now():%-d %B %Y %H:%M} UTC", **state}
        entry = book.change(connection, made.me.firm_id, made.me.id, "job", entry_id, values)
        if entry is None:
            raise not_found("job")
        note(request, connection, made.me, "mail sent", to, job=made.job.get("number"))
        try:
            mail.send(made.paper.firm_name, made.me.email, to, said["subject"], text, letters)
        except mail.NotSent as error:
            raise _not_sent(error) from None
        return BookEntry.model_validate(entry, from_attributes=True).model_dump()

    asked = (entry_id, to, said, made.said("power-off"))
    return BookEntry.model_validate(do_once(request, made.me, "confirmation", asked, leave))


def _not_sent(error: mail.NotSent) -> ProblemError:
    fields = [{"field": "to", "message": str(error)}]
    return ProblemError(422 if error.at_address else 409, "not-sent", str(error), fields=fields)


@dataclass(frozen=True, slots=True)
class _Job:
    """A job with everything its letters speak of."""

    me: Person
    job: dict[str, Any]
    home: dict[str, Any]
    client: dict[str, Any]
    installations: list[dict[str, Any]]
    estimate: EstimateOut
    paper: Issue

    def said(self, which: str) -> dict[str, Any]:
        if which == "power-off":
            return job_letters.power_off_notice(self.home, self.job, self.paper)
        price = f"{self.estimate.currency}{self.estimate.price:,.2f}"
        return job_letters.confirmation(
            self.client, self.home, self.job, self.installations, price, self.estimate.minutes, self.paper
        )

    def letter(self, which: str) -> bytes:
        return job_letters.letter(self.said(which), self.paper)


def _job(request: Request, entry_id: str) -> _Job:
    with work(request) as (connection, me):
        job = book.get(connection, me.firm_id, "job", entry_id)
        home = book.get(connection, me.firm_id, "property", job.parent_id) if job else None
        client = book.get(connection, me.firm_id, "client", home.parent_id) if home else None
        if job is None or home is None or client is None:
            raise not_found("job")
        return _Job(
            me,
            job.values,
            home.values,
            client.values,
            [one.values for one in book.entries(connection, me.firm_id, "installation", home.id)],
            estimate_of(connection, me.firm_id, job),
            on_paper(connection, me, 0, now().date()),
        )


def _letter(request: Request, entry_id: str, which: str) -> Response:
    made = _job(request, entry_id)
    return download(made.letter(which), f"{which}-{made.job.get('number') or 'job'}.pdf", "application/pdf")
