"""How often a firm may ask for what leaves the house: mails are counted by the hour."""

from datetime import timedelta

from fastapi import Request

from dorrik.api.problems import ProblemError
from dorrik.store import audit
from dorrik.store.engine import now
from dorrik.store.people import Person

#: Letters an hour, of one firm: a busy office sends twenty; a stolen session would send thousands.
MAILS_AN_HOUR = 60


def spend_a_mail(request: Request, me: Person) -> None:
    """Answer with 429 where the firm has sent its share of this hour."""
    since = now() - timedelta(hours=1)
    with request.app.state.engine.connect() as connection:
        if audit.count_since(connection, me.firm_id, "mail sent", since) >= MAILS_AN_HOUR:
            message = f"Your firm has sent {MAILS_AN_HOUR} letters within the hour; nothing was sent. Print this one."
            raise ProblemError(429, "often", message, wait_s=600)
