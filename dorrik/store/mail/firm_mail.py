"""Through which server a firm sends its mail, where it has one of its own."""

from typing import Any

from sqlalchemy import Connection, delete, select, update
from sqlalchemy.dialects.mysql import insert as upsert

from dorrik.store.database.engine import now
from dorrik.store.database.mail_tables import firm_mail


def of(connection: Connection, firm_id: str) -> Any:
    """The row of a firm's settings: host, port, security, user, password, sender, tried; None where it has none."""
    return connection.execute(select(firm_mail).where(firm_mail.c.firm_id == firm_id)).one_or_none()


def settle(connection: Connection, firm_id: str, person_id: str, **settings: Any) -> None:
    """Set them: host, port, security, user, sender, and password, which stays as it is where None is given."""
    if settings.get("password") is None:
        before = of(connection, firm_id)
        same = before is not None and (before.host, before.user) == (settings["host"], settings["user"])
        # A password is for one server and one user: it does not go to another by itself.
        settings["password"] = before.password if same else None
    values = settings | {"tried": False, "changed_at": now(), "changed_by": person_id}
    connection.execute(upsert(firm_mail).values(firm_id=firm_id, **values).on_duplicate_key_update(**values))


def tried(connection: Connection, firm_id: str) -> None:
    """A trial letter has left."""
    connection.execute(update(firm_mail).where(firm_mail.c.firm_id == firm_id).values(tried=True))


def remove(connection: Connection, firm_id: str) -> None:
    """The firm sends through the installation's server again."""
    connection.execute(delete(firm_mail).where(firm_mail.c.firm_id == firm_id))
