"""What is done about firms from outside a session: the first link, and the doors of a demo that was left behind."""

from sqlalchemy import Engine, delete, select, update

from dorrik.store.database.account_tables import firm, person, session
from dorrik.store.people import links, people


def first_link(engine: Engine) -> str | None:
    """The path of a link to set a firm up; None where there is one already (the demo's do not count)."""
    with engine.begin() as connection:
        if people.firms(connection):
            return None
        return links.path(links.make(connection, "set-up"))


def close_demo(engine: Engine) -> int:
    """Nobody of a demo signs in any more: their password is published. Returns how many there were."""
    of_demo = select(firm.c.id).where(firm.c.demo.is_(True))
    with engine.begin() as connection:
        here = person.c.firm_id.in_(of_demo)
        connection.execute(delete(session).where(session.c.person_id.in_(select(person.c.id).where(here))))
        return connection.execute(
            update(person).where(here, person.c.password_hash.is_not(None)).values(password_hash=None)
        ).rowcount
