"""Many entries of the register at once: checked as each would be by itself, written in a few statements."""

from collections.abc import Mapping, Sequence
from typing import Any

from sqlalchemy import Connection, insert

from dorrik.core.work.register import contradiction
from dorrik.store.database.engine import new_id, now
from dorrik.store.database.tables import ENTRIES, book_change
from dorrik.store.register import register, search
from dorrik.store.register.register import Refused, RegisterRecord

#: Rows of one statement.
_AT_ONCE = 2_000


def add_properties(
    connection: Connection, firm_id: str, author_id: str, client_id: str, given: Sequence[Mapping[str, Any]]
) -> list[str]:
    """Add properties of one client; returns their ids. Raises Refused for the first that cannot be kept: then none is.

    The caller has checked that the firm has that client.
    """
    client = register.get(connection, firm_id, "client", client_id)
    made: list[RegisterRecord] = []
    for values in given:
        kept = {name: value for name, value in register.cleaned("property", values).items() if value is not None}
        if (wrong := contradiction("property", kept, frozenset(kept))) is not None:
            raise Refused(dict([wrong]))
        made.append(RegisterRecord("property", new_id(), client_id, kept))
    table = ENTRIES["property"]
    columns = {name for entry in made for name in entry.values}
    rows = [
        {"firm_id": firm_id, "id": entry.id, "parent_id": client_id}
        | {name: entry.values.get(name) for name in columns}
        for entry in made
    ]
    at = now()
    history = [
        {
            "firm_id": firm_id, "kind": "property", "entry_id": entry.id, "field": name, "value": value, "before": None,
            "made_at": at, "author_id": author_id,
        }
        for entry in made for name, value in entry.values.items()
    ]  # fmt: skip
    for statement, some in ((insert(table), rows), (insert(book_change), history)):
        for begin in range(0, len(some), _AT_ONCE):
            connection.execute(statement, some[begin : begin + _AT_ONCE])
    search.add(connection, firm_id, (register.home_subject(entry, client) for entry in made))
    return [entry.id for entry in made]
