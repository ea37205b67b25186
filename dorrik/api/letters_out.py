"""The one door by which letters leave in a request: within the budget, written down, then brought to the server."""

import time
from collections.abc import Sequence
from dataclasses import dataclass

from fastapi import Request
from sqlalchemy import Connection

from dorrik.api.mail_types import Sent
from dorrik.api.problems import ProblemError, not_found
from dorrik.api.work import work
from dorrik.office import mail_delivery
from dorrik.office.mail_delivery import Delivery
from dorrik.report import mail
from dorrik.store.database.engine import now
from dorrik.store.mail import letter_budget, mail_queue
from dorrik.store.mail.mail_queue import About
from dorrik.store.people.people import Person

_WHOSE = {
    "recipient": f"{letter_budget.TO_ONE_RECIPIENT} letters went to this address within the hour",
    "session": f"You have sent {letter_budget.OF_ONE_SESSION} letters within the hour",
    "firm": f"Your firm has sent {letter_budget.OF_ONE_FIRM} letters within the hour",
    "source": "Links were asked for too often from here",
    "server": "Many letters leave at this moment",
}


def spend(request: Request, me: Person, kind: letter_budget.Kind, to: str) -> int:
    """Count a letter of somebody who is signed in, before it is sent. Raises ProblemError (429)."""
    try:
        return letter_budget.spend(request.app.state.engine, kind, to, firm_id=me.firm_id, session=me.session)
    except letter_budget.Often as error:
        raise _too_often(error, "Nothing was sent. Print this one, or wait.") from None
    except letter_budget.LinkUnderwayError as error:
        minutes = max(1, round(error.seconds / 60))
        message = f"A link was mailed to {to} a moment ago and is good. Another can be sent in {minutes} min."
        raise ProblemError(429, "wait", message, wait_s=max(1, round(error.seconds))) from None


def spend_for_stranger(request: Request, to: str, source: str) -> int | None:
    """Count a link that a stranger asks for; None where one is under way already. Raises ProblemError (429).

    It is counted whether or not anybody has that address: the answer does not tell.
    """
    try:
        return letter_budget.spend(request.app.state.engine, "link", to, source=source)
    except letter_budget.Often as error:
        raise _too_often(error, "Look into your mail first.") from None
    except letter_budget.LinkUnderwayError:
        return None


#: How often it is looked how a letter stands that another request is bringing to the server (s).
LOOK_EVERY_S = 0.1


@dataclass(frozen=True, slots=True)
class Letter:
    """A letter by mail. to: a parsed address."""

    firm_name: str
    to: str
    subject: str
    text: str
    attached: Sequence[mail.Attachment] = ()


def recipient(address: str) -> str:
    """The one address that a letter goes to. Raises ProblemError (422) at the field."""
    try:
        return mail.recipient(address)
    except mail.NotSent as error:
        raise ProblemError(422, "not-sent", str(error), fields=[{"field": "to", "message": str(error)}]) from None


def queue(request: Request, connection: Connection, me: Person, about: About, letter: Letter) -> str:
    """Count a letter and write it down in the caller's transaction; returns its id. Raises ProblemError: 409 without a
    mail server, 429 where too many have left."""
    place = mail_delivery.server_of(connection, me.firm_id)
    if place is None:
        raise ProblemError(409, "not-sent", mail.NO_SERVER, fields=[{"field": "to", "message": mail.NO_SERVER}])
    number = spend(request, me, about.kind, letter.to)
    try:
        written = mail_delivery.written(
            place, me.firm_id, letter.firm_name, me.email, letter.to, letter.subject, letter.text, letter.attached
        )
        return mail_queue.put(connection, written, about, me.id, number)
    except BaseException:
        letter_budget.give_back(request.app.state.engine, number)
        raise


def leave(request: Request, me: Person, mail_id: str) -> Sent:
    """Bring a letter that is written down to its server, and say how it stands; it leaves by itself where that takes
    long."""
    delivery: Delivery = request.app.state.delivery
    end = time.monotonic() + mail_delivery.PATIENCE_S
    delivery.try_now(mail_id)
    while True:
        with work(request, only_reads=True) as (connection, _):
            letter = mail_queue.state_of(connection, me.firm_id, mail_id)
        if letter is None:
            raise not_found("letter")
        # Of two who pressed at once both are told what became of it. One whose time has come and that nobody has is
        # just being taken by the other: that is not written down yet.
        taken = letter.in_hand or (letter.state == "waiting" and letter.next_at <= now())
        if not taken or time.monotonic() > end:
            break
        time.sleep(LOOK_EVERY_S)
    return Sent(
        mail_id=letter.id, to=letter.to, at=f"{letter.made_at:%Y-%m-%dT%H:%M:%SZ}", state=letter.state, told=letter.told
    )


def _too_often(error: letter_budget.Often, what_now: str) -> ProblemError:
    return ProblemError(429, "often", f"{_WHOSE[error.whose]}. {what_now}", wait_s=max(1, round(error.seconds)))
