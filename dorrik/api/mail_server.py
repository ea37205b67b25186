"""Through which server the firm's mail leaves: its own, or the installation's; tried with a trial letter."""

from fastapi import Request
from sqlalchemy import Connection

from dorrik.api import letters_out
from dorrik.api.common_types import Problem
from dorrik.api.mail_types import MailServerIn, MailServerOut, TrialIn, TrialOut
from dorrik.api.problems import RESPONSES, ProblemError
from dorrik.api.routing import router as make_router
from dorrik.api.work import note, work
from dorrik.core.work import workflow
from dorrik.office import mail_delivery
from dorrik.report import mail
from dorrik.store.mail import firm_mail, letter_budget
from dorrik.store.people.people import Person

router = make_router("/api/firm/mail", "firm", {**RESPONSES, 422: {"model": Problem}})


def _out(connection: Connection, me: Person) -> MailServerOut:
    place, row = mail_delivery.server_of(connection, me.firm_id), firm_mail.of(connection, me.firm_id)
    # Of the installation's server a firm learns no more than that there is one, and from which address mails come.
    return MailServerOut(
        own=row is not None, there=place is not None,
        host=row.host if row else "", port=row.port if row else 587,
        security=row.security if row else "starttls", user=(row.user or "") if row else "",
        has_password=bool(row and row.password), sender=place.sender if place else "", tried=bool(row and row.tried),
        may_change=workflow.may(me.role, "set up mail"),
    )  # fmt: skip


@router.get("")
def server(request: Request) -> MailServerOut:
    """The mail server as it is set up."""
    with work(request) as (connection, me):
        return _out(connection, me)


@router.put("")
def settle(request: Request, given: MailServerIn) -> MailServerOut:
    """Send through a server of the firm's own from now on."""
    with work(request, "set up mail") as (connection, me):
        try:
            sender = mail.recipient(given.sender)
        except mail.NotSent:
            message = "Enter the address that your mails come from."
            raise ProblemError(422, "invalid", message, fields=[{"field": "sender", "message": message}]) from None
        if given.security == "none" and given.user:
            message = "User and password are only sent over an encrypted connection."
            raise ProblemError(422, "invalid", message, fields=[{"field": "security", "message": message}])
        firm_mail.settle(connection, me.firm_id, me.id, **given.model_dump() | {"sender": sender})
        note(request, connection, me, "mail set up", given.host)
        return _out(connection, me)


@router.delete("")
def remove(request: Request) -> MailServerOut:
    """Send through the installation's server again."""
    with work(request, "set up mail") as (connection, me):
        firm_mail.remove(connection, me.firm_id)
        note(request, connection, me, "mail set up", "")
        return _out(connection, me)


@router.post("/trial", responses={409: {"model": Problem}, 429: {"model": Problem}})
def trial(request: Request, given: TrialIn) -> TrialOut:
    """Send a trial letter at once, and tell what the server says."""
    to = letters_out.recipient(given.to)
    with work(request, "set up mail") as (connection, me):
        place = mail_delivery.server_of(connection, me.firm_id)
    if place is None:
        raise ProblemError(409, "not-sent", mail.NO_SERVER)
    number = letters_out.spend(request, me, "trial letter", to)
    text = f"This is a trial letter.\n\nMails of {me.firm_name} reach you through this server.\n\n{me.name}\n"
    message = mail.compose(me.firm_name, place.sender, me.email, to, "Trial letter", text, ())
    try:
        mail.hand_over(place, to, message)
    except mail.NotSent as error:
        letter_budget.give_back(request.app.state.engine, number)
        return TrialOut(left=False, told=str(error))
    with work(request, "set up mail") as (connection, me):
        firm_mail.tried(connection, me.firm_id)
    return TrialOut(left=True, told="")
