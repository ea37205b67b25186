"""The firm's letters by mail: what waits, what has left, what came back; sent again, or stopped."""

from fastapi import Query, Request

from dorrik.api import letters_out
from dorrik.api.common_types import Problem
from dorrik.api.mail_types import AgainIn, MailOut, MailPage, Sent
from dorrik.api.problems import RESPONSES, ProblemError, not_found
from dorrik.api.routing import router as make_router
from dorrik.api.work import must, note, work
from dorrik.store.inspections import inspections
from dorrik.store.mail import mail_queue

router = make_router("/api/letters", "letters", {**RESPONSES, 409: {"model": Problem}})


@router.get("")
def page(
    request: Request, troubled: bool = False, inspection: str | None = None, start: int = Query(0, ge=0, le=1_000_000)
) -> MailPage:
    """The firm's letters, the latest first. troubled: those that have not arrived; inspection: of that one alone."""
    with work(request) as (connection, me):
        if inspection is not None and inspections.sequence(connection, inspection, me.firm_id) is None:
            raise not_found()
        letters, count = mail_queue.page(
            connection, me.firm_id, troubled=troubled, inspection_id=inspection, start=start
        )
    return MailPage(letters=[MailOut.model_validate(letter, from_attributes=True) for letter in letters], count=count)


@router.post("/{mail_id}/again", responses={422: {"model": Problem}})
def again(request: Request, mail_id: str, given: AgainIn) -> Sent:
    """Try a letter again at once, to another address where one is given; 409 where it has left or is leaving."""
    to = letters_out.recipient(given.to) if given.to is not None else None
    with work(request) as (connection, me):
        must(me, "send letters")
        before = mail_queue.state_of(connection, me.firm_id, mail_id)
        if before is None:
            raise not_found("letter")
        if not mail_queue.again(connection, me.firm_id, mail_id, to):
            message = "It has left, or is leaving at this moment." if before.state in ("sent", "leaving") else (
                "It is being sent at this moment, or its files are gone. Send it anew from where it was written."
            )  # fmt: skip
            raise ProblemError(409, "left", message)
        note(request, connection, me, "mail sent again", before.about)
    return letters_out.leave(request, me, mail_id)


@router.post("/{mail_id}/withdraw")
def withdraw(request: Request, mail_id: str) -> MailOut:
    """Stop a letter that has not left; 409 where it has."""
    with work(request) as (connection, me):
        must(me, "send letters")
        if mail_queue.state_of(connection, me.firm_id, mail_id) is None:
            raise not_found("letter")
        if not mail_queue.withdraw(connection, me.firm_id, mail_id):
            raise ProblemError(409, "left", "It has left, or is leaving at this moment.")
        letter = mail_queue.state_of(connection, me.firm_id, mail_id)
        note(request, connection, me, "mail withdrawn", letter.about if letter else "")
    return MailOut.model_validate(letter, from_attributes=True)
