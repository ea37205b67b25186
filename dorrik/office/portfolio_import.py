"""Taking a client's whole portfolio from a table: new properties are added, known ones found again and updated."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from typing import Any, Literal

from sqlalchemy import Connection

from dorrik.core.work import portfolio_table
from dorrik.core.work.portfolio_table import PortfolioTable
from dorrik.store.register import bulk, portfolio_rows, register

#: What of the table is taken: nothing yet, new properties, or new ones and what is different about known ones.
Take = Literal["nothing", "new", "all"]


@dataclass(frozen=True, slots=True)
class ReadPortfolio:
    """A table as it would be taken. changes: by property, the fields that a known one would get otherwise; elsewhere:
    rows whose address is another client's, by the name of that client: they are never taken."""

    table: PortfolioTable
    changes: Mapping[str, Mapping[str, Any]]
    elsewhere: Mapping[int, str]

    @property
    def new(self) -> list[Mapping[str, Any]]:
        """Values of the properties that are not known."""
        return [row.values for row in self.table.rows if not row.known_id]


#: What a table gives that cannot be read yet.
NOTHING = ReadPortfolio(PortfolioTable((), ()), {}, {})


@dataclass(frozen=True, slots=True)
class TakenPortfolio:
    """How many properties were added, and how many of those known were changed."""

    added: int
    changed: int


def read(
    connection: Connection, firm_id: str, client_id: str, rows: Sequence[Sequence[str]], columns: Sequence[str | None],
    first: int, today: date,
) -> ReadPortfolio:  # fmt: skip
    """Read a table against the firm's register. Raises ValueError as `portfolio_table.read` does."""
    there = portfolio_rows.known(connection, firm_id, client_id)
    table = portfolio_table.read(rows, columns, first, {key: one.address for key, one in there.items()}, today)
    changes: dict[str, dict[str, Any]] = {}
    elsewhere: dict[int, str] = {}
    for row in table.rows:
        if not row.known_id:
            continue
        known = there[row.known_id]
        if known.client_id != client_id:
            elsewhere[row.row] = known.client or "another client"
            continue
        values = {name: value for name, value in row.values.items() if name != "address"}
        different = {name: value for name, value in values.items() if known.values.get(name) != value}
        if different:
            changes[row.known_id] = different
    return ReadPortfolio(table, changes, elsewhere)


def take(
    connection: Connection, firm_id: str, author_id: str, client_id: str, table: ReadPortfolio, what: Take
) -> TakenPortfolio:
    """Take what was read, all of it or none. Raises register.Refused."""
    if what == "nothing":
        return TakenPortfolio(0, 0)
    added = bulk.add_properties(connection, firm_id, author_id, client_id, table.new)
    changes = table.changes if what == "all" else {}
    for property_id, values in changes.items():
        register.change(connection, firm_id, author_id, "property", property_id, values)
    return TakenPortfolio(len(added), len(changes))
