"""A firm's inspections as lines of lists, page by page: what is shown of each is kept with it."""

import hashlib
from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date, datetime
from functools import cache
from pathlib import Path
from typing import Any, Literal

from sqlalchemy import Connection, bindparam, func, select, update

from dorrik import core
from dorrik.core.judging.judgement import Judgement
from dorrik.store.database.tables import inspection, issued_report

Which = Literal["in hand", "issued"]
#: Lines of a page.
PAGE = 30


@dataclass(frozen=True, slots=True)
class ListedInspection:
    """One inspection: what names it, when it is due again, its latest issue (number and outcome), what is left to do.

    left and failing are None where they were not worked out since the last change, or by other rules than today's.
    """

    id: str
    reference: str | None
    property_address: str | None
    client_name: str | None
    inspected_on: str | None
    next_due: str | None
    changed_at: datetime
    issued: int | None
    outcome: str | None
    left: int | None = None
    failing: int | None = None
    held_reason: str | None = None
    return_on: str | None = None


@dataclass(frozen=True, slots=True)
class Page:
    """Some lines of a list, and how many it has in all."""

    lines: list[ListedInspection]
    count: int


def due(inspected_on: date | None, years: int | None) -> date | None:
    """The day on which an inspection is due again; None where nothing says so."""
    if inspected_on is None or years is None:
        return None
    day = 28 if (inspected_on.month, inspected_on.day) == (2, 29) else inspected_on.day
    return inspected_on.replace(year=inspected_on.year + years, day=day)


@cache
def rules_digest() -> str:
    """A mark of the rules as they are in this program: what other rules worked out is worked out anew."""
    digest = hashlib.sha256()
    for path in sorted(Path(core.__file__).parent.rglob("*")):
        if path.suffix in (".py", ".csv", ".toml"):
            digest.update(path.read_bytes())
    return digest.hexdigest()[:16]


def page(connection: Connection, firm_id: str, which: Which, start: int = 0, limit: int = PAGE) -> Page:
    """Inspections in hand, the one changed last first, or issued ones by when they are due again."""
    i = inspection.c
    here = (i.firm_id == firm_id, i.issued_number.is_(None) if which == "in hand" else i.issued_number.is_not(None))
    order = (i.changed_at.desc(), i.id) if which == "in hand" else (i.due_on.is_(None), i.due_on, i.id)
    query = (
        select(
            i.id, i.reference, i.property_address, i.client_name, i.inspected_on, i.due_on, i.changed_at,
            i.issued_number, i.issued_outcome, i.left_count, i.failing_count, i.held_at, i.held_reason, i.return_on,
            i.seq, i.judged_seq, i.judged_by,
        )
        .where(*here)
        .order_by(*order)
        .offset(start)
        .limit(limit)
    )  # fmt: skip
    count = connection.execute(select(func.count()).select_from(inspection).where(*here)).scalar_one()
    return Page([_line(row) for row in connection.execute(query)], count)


def _line(row: Any) -> ListedInspection:
    fresh = row.judged_seq == row.seq and row.judged_by == rules_digest()
    held = row.held_at is not None
    return ListedInspection(
        row.id, row.reference, row.property_address, row.client_name, _day(row.inspected_on), _day(row.due_on),
        row.changed_at, row.issued_number, row.issued_outcome,
        row.left_count if fresh else None, row.failing_count if fresh else None,
        (row.held_reason or "on hold") if held else None, _day(row.return_on) if held else None,
    )  # fmt: skip


def _day(value: date | None) -> str | None:
    return value.isoformat() if value else None


def figures(judgement: Judgement) -> tuple[int, int]:
    """What is left to do, and how many verdicts fail."""
    return (
        sum(stage.left for stage in judgement.progress.stages),
        sum(note.status == "fail" for note in judgement.notes),
    )


def keep_figures(connection: Connection, inspection_id: str, seq: int, judgement: Judgement) -> tuple[int, int]:
    """Keep what is shown of an inspection with it, as it is at that sequence number; returns it."""
    left, failing = figures(judgement)
    keep(connection, inspection_id, seq, left, failing)
    return left, failing


def keep(connection: Connection, inspection_id: str, seq: int, left: int, failing: int) -> None:
    """The same of figures at hand; nothing where the inspection has gone on since."""
    values = {"key": inspection_id, "at": seq, "left": left, "failing": failing, "by": rules_digest()}
    connection.execute(_KEEP, values)


_KEEP = (
    update(inspection)
    .where(inspection.c.id == bindparam("key"), inspection.c.seq == bindparam("at"))
    .values(
        left_count=bindparam("left"), failing_count=bindparam("failing"), judged_seq=bindparam("at"),
        judged_by=bindparam("by"), changed_at=inspection.c.changed_at,
    )
)  # fmt: skip


def keep_issue(connection: Connection, inspection_id: str, number: int, outcome: str) -> None:
    """Keep with an inspection that a report of it was issued."""
    connection.execute(
        update(inspection).where(inspection.c.id == inspection_id).values(issued_number=number, issued_outcome=outcome)
    )


def is_issued(connection: Connection, inspection_id: str) -> bool:
    """Was a report of it issued? The caller has checked whose inspection it is."""
    c = issued_report.c
    return (
        connection.execute(select(c.id).where(c.inspection_id == inspection_id, c.kind == "report").limit(1)).first()
        is not None
    )


def names(connection: Connection, firm_id: str, inspection_ids: Iterable[str]) -> dict[str, str]:
    """What names each of these inspections of a firm: its reference, else its address."""
    i = inspection.c
    query = select(i.id, i.reference, i.property_address).where(i.firm_id == firm_id, i.id.in_(list(inspection_ids)))
    return {row.id: row.reference or row.property_address or "an inspection" for row in connection.execute(query)}


def ids_of(connection: Connection, firm_id: str) -> list[str]:
    """The firm's inspections that were not erased, oldest first."""
    i = inspection.c
    query = select(i.id).where(i.firm_id == firm_id, i.erased_at.is_(None)).order_by(i.id)
    return list(connection.execute(query).scalars())
