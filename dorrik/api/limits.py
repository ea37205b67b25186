"""How often a firm may ask for what leaves the house: mails are counted by the hour."""

from datetime import timedelta

from fastapi import Request
from sqlalchemy import func, select

from dorrik.api.problems import ProblemError
from dorrik.store.account_tables import audit_entry
from dorrik.store.engine import now
from dorrik.store.people import Person

#: Letters an hour, of one firm: a busy office sends twenty; a stolen session would send thousands.
MAILS_AN_HOUR = 60


def spend(request: Request, me: Person, what: str) -> None:
    """Answer with 429 where the firm has sent its share of this hour."""
    a = audit_entry.c
    query = select(func.count()).where(
        a.firm_id == me.firm_id, a.action == f"{what} sent", a.at > now() - timedelta(hours=1)
    )
    with request.app.state.engine.connect() as connection:
        if connection.execute(query).scalar_one() >= MAILS_AN_HOUR:
            message = f"Your firm has sent {MAILS_AN_HOUR} letters within the hour; nothing was sent. Print this one."
            raise ProblemError(429, "often", message, wait_s=600)
