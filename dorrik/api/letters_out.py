"""The one door by which letters leave in a request: within the budget, given back where the server did not take one."""

from collections.abc import Sequence

from fastapi import Request

from dorrik.api.problems import ProblemError
from dorrik.report import mail
from dorrik.store import letters
from dorrik.store.people import Person

_WHOSE = {
    "recipient": f"{letters.TO_ONE_RECIPIENT} letters went to this address within the hour",
    "session": f"You have sent {letters.OF_ONE_SESSION} letters within the hour",
    "firm": f"Your firm has sent {letters.OF_ONE_FIRM} letters within the hour",
    "source": "Links were asked for too often from here",
    "server": "Many letters leave at this moment",
}


def spend(request: Request, me: Person, kind: letters.Kind, to: str) -> int:
    """Count a letter of somebody who is signed in, before it is sent. Raises ProblemError (429)."""
    try:
        return letters.spend(request.app.state.engine, kind, to, firm_id=me.firm_id, session=me.session)
    except letters.Often as error:
        raise _too_often(error, "Nothing was sent. Print this one, or wait.") from None
    except letters.LinkUnderwayError as error:
        minutes = max(1, round(error.seconds / 60))
        message = f"A link was mailed to {to} a moment ago and is good. Another can be sent in {minutes} min."
        raise ProblemError(429, "wait", message, wait_s=max(1, round(error.seconds))) from None


def spend_for_stranger(request: Request, to: str, source: str) -> int | None:
    """Count a link that a stranger asks for; None where one is under way already. Raises ProblemError (429).

    It is counted whether or not anybody has that address: the answer does not tell.
    """
    try:
        return letters.spend(request.app.state.engine, "link", to, source=source)
    except letters.Often as error:
        raise _too_often(error, "Look into your mail first.") from None
    except letters.LinkUnderwayError:
        return None


def send(
    request: Request, me: Person, kind: letters.Kind, firm_name: str, to: str, subject: str, text: str,
    attached: Sequence[mail.Attachment],
) -> None:  # fmt: skip
    """Count and send a letter of somebody who is signed in. Raises ProblemError (429), mail.NotSent."""
    number = spend(request, me, kind, to)
    try:
        mail.send(firm_name, me.email, to, subject, text, attached)
    except mail.NotSent:
        letters.give_back(request.app.state.engine, number)
        raise


def _too_often(error: letters.Often, what_now: str) -> ProblemError:
    return ProblemError(429, "often", f"{_WHOSE[error.whose]}. {what_now}", wait_s=max(1, round(error.seconds)))
