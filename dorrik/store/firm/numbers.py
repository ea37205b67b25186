"""The next number of a report or a job, in the row that the firm has chosen."""

from typing import Any

from sqlalchemy import Connection, func, select

from dorrik.core.work.numbering import FIRST_JOB, FIRST_REFERENCE, following, in_row
from dorrik.store.database.tables import ENTRIES, inspection
from dorrik.store.firm import firm_paper

#: Numbers that begin alike and are looked through: one of another row may be longer.
LOOKED_AT = 100


def next_reference(connection: Connection, firm_id: str) -> str:
    """The reference that an inspection of the firm gets next."""
    first = firm_paper.of(connection, firm_id).first_reference
    i = inspection.c
    return _next(connection, i.reference, i.firm_id == firm_id, first, FIRST_REFERENCE)


def next_job(connection: Connection, firm_id: str) -> str:
    """The number that a job of the firm gets next."""
    first = firm_paper.of(connection, firm_id).first_job
    j = ENTRIES["job"].c
    return _next(connection, j.number, j.firm_id == firm_id, first, FIRST_JOB)


def _next(connection: Connection, column: Any, of_firm: Any, first: str | None, usual: str) -> str:
    query = select(column).where(of_firm, column.is_not(None)).order_by(func.length(column).desc(), column.desc())
    if first is None:
        # Counted on from the greatest there is, longer ones after shorter ones; one that ends in no figure counts not.
        latest_of_all = connection.execute(query.limit(1)).scalar()
        if latest_of_all is None or in_row(latest_of_all, latest_of_all) is not None:
            return following(latest_of_all, usual)
        first = usual
    head, _ = in_row(first, first) or (first, 0)
    known = connection.execute(query.where(func.left(column, len(head)) == head).limit(LOOKED_AT)).scalars()
    counted = [in_first_row[1] for number in known if (in_first_row := in_row(number, first)) is not None]
    latest = max(counted, default=None)
    digits = len(first) - len(head)
    return first if latest is None else f"{head}{max(latest + 1, int(first[len(head) :])):0{digits}d}"
