"""Inspections as they are kept: loading one whole."""

from collections.abc import Callable, Mapping, Sequence
from datetime import date, datetime
from functools import cache
from typing import Any

from sqlalchemy import Connection, Row, Select, bindparam, exists, func, insert, select

from dorrik.core.basics.identifiers import is_id
from dorrik.core.inspection.kept_inspection import KeptEntity, KeptInspection
from dorrik.core.inspection.kinds import KINDS
from dorrik.store.database.tables import ENTITIES, inspection, issued_report, uploaded_photo


def _instant(value: datetime) -> str:
    return value.strftime("%Y-%m-%dT%H:%M:%SZ")


def column_value(value: Any) -> Any:
    """A kept value as its column takes it: instants lose the zone that the column does not have."""
    if isinstance(value, str) and len(value) == 20 and value[10] == "T" and value[-1] == "Z":
        return datetime.fromisoformat(value[:-1])
    return value


_CHILDREN = tuple(name for name in KINDS if name != "inspection")
_NAMES: Mapping[str, tuple[str, ...]] = {name: tuple(kind.fields) for name, kind in KINDS.items()}
#: Fields come last in every table, in the order in which they are declared.
_FIRST: Mapping[str, int] = {name: len(ENTITIES[name].columns) - len(_NAMES[name]) for name in KINDS}
#: Columns whose values are not kept as the driver gives them, and how they are kept.
_TURNED: Mapping[str, tuple[tuple[str, Callable[[Any], str]], ...]] = {
    name: tuple(
        (column, date.isoformat if spec.kind == "date" else _instant)
        for column, spec in kind.fields.items()
        if spec.kind in ("date", "instant")
    )
    for name, kind in KINDS.items()
}


def _entity(kind: str, row: Any, parent_id: str) -> KeptEntity:
    values = dict(zip(_NAMES[kind], row[_FIRST[kind] :], strict=True))
    for name, turn in _TURNED[kind]:
        if values[name] is not None:
            values[name] = turn(values[name])
    return KeptEntity(kind, row.id, parent_id, values)


def load(
    connection: Connection, inspection_id: str, firm_id: str, *, lock: bool = False, known: KeptInspection | None = None
) -> KeptInspection | None:
    """Load an inspection of that firm; None where the firm has none of that id.

    lock: hold the inspection's row until the transaction ends, so that changes are applied one batch at a time; known:
    the inspection as it was last seen, which is given back where nothing was written since.
    """
    if not is_id(inspection_id):
        return None
    if known is not None:
        mark = _MARK_LOCKED if lock else _MARK
        row = connection.execute(mark, {"inspection_id": inspection_id, "firm_id": firm_id}).one_or_none()
        if row is not None and (known.seq, known.changed_at, known.firm_id) == (row.seq, row.changed_at, firm_id):
            known.issue, known.issued_at = row.issue or 0, row.issued_at
            return known
    head = _head(connection, inspection_id, firm_id, lock)
    if head is None:
        return None
    kept = KeptInspection(
        inspection_id, firm_id, head.seq, changed_at=head.changed_at, erased=head.erased_at is not None
    )
    kept.entities[inspection_id] = _entity("inspection", head, firm_id)
    issue, kept.issued_at = connection.execute(_ISSUES, {"inspection_id": inspection_id}).one()
    kept.issue = issue or 0
    present = connection.execute(_PRESENT, {"inspection_id": inspection_id}).one()
    for kind in (kind for kind, there in zip(_CHILDREN, present, strict=True) if there):
        columns = parent_columns(kind)
        for row in connection.execute(_SELECT[kind], {"inspection_id": inspection_id}):
            hangs_on = (row._mapping[column] for column in columns.values())
            kept.entities[row.id] = _entity(kind, row, next((hang for hang in hangs_on if hang), inspection_id))
    return kept


@cache
def parent_columns(kind: str) -> Mapping[str, str]:
    """Columns that say what an entity of that kind hangs on, by the parent's kind. On the inspection itself hangs what
    has none of them."""
    return {parent: f"{parent}_id" for parent in KINDS[kind].parents if parent != "inspection"}


def _head(connection: Connection, inspection_id: str, firm_id: str, lock: bool) -> Row[Any] | None:
    query = _HEAD_LOCKED if lock else _HEAD
    return connection.execute(query, {"inspection_id": inspection_id, "firm_id": firm_id}).one_or_none()


def _select(kind: str) -> Select[Any]:
    table = ENTITIES[kind]
    return select(table).where(table.c.inspection_id == bindparam("inspection_id"))


# Made once: SQLAlchemy then finds their compiled form at once, which at every keystroke counts.
_HEAD = select(inspection).where(
    inspection.c.id == bindparam("inspection_id"), inspection.c.firm_id == bindparam("firm_id")
)
_HEAD_LOCKED = _HEAD.with_for_update()
_REPORT = (issued_report.c.inspection_id == bindparam("inspection_id"), issued_report.c.kind == "report")
#: The number of the last issue of its report, and when that was.
_ISSUES = select(func.max(issued_report.c.number), func.max(issued_report.c.issued_at)).where(*_REPORT)
_LAST_ISSUE = (
    select(func.max(issued_report.c.number)).where(*_REPORT).scalar_subquery().label("issue"),
    select(func.max(issued_report.c.issued_at)).where(*_REPORT).scalar_subquery().label("issued_at"),
)
#: What says whether an inspection is as it was last seen.
_MARK = select(inspection.c.seq, inspection.c.changed_at, *_LAST_ISSUE).where(
    inspection.c.id == bindparam("inspection_id"), inspection.c.firm_id == bindparam("firm_id")
)
_MARK_LOCKED = _MARK.with_for_update()
#: Which kinds an inspection has at all: most have few, and one question is cheaper than a fetch of nothing for each.
_PRESENT = select(*(exists().where(ENTITIES[kind].c.inspection_id == bindparam("inspection_id")) for kind in _CHILDREN))
_SELECT = {kind: _select(kind) for kind in _CHILDREN}


def sequence(connection: Connection, inspection_id: str, firm_id: str) -> int | None:
    """The sequence number of an inspection of that firm; None where the firm has none of that id."""
    if not is_id(inspection_id):
        return None
    query = select(inspection.c.seq).where(inspection.c.id == inspection_id, inspection.c.firm_id == firm_id)
    return connection.execute(query).scalar()


def sequences(connection: Connection, inspection_ids: Sequence[str]) -> dict[str, int]:
    """The sequence numbers of some inspections, of whichever firm."""
    query = select(inspection.c.id, inspection.c.seq).where(inspection.c.id.in_(inspection_ids))
    return {row.id: row.seq for row in connection.execute(query)}


def is_free(connection: Connection, inspection_id: str) -> bool:
    """Can an inspection be made under that id? Ids are the same for all firms."""
    return is_id(inspection_id) and (
        connection.execute(select(inspection.c.id).where(inspection.c.id == inspection_id)).first() is None
    )


def hold(connection: Connection, inspection_id: str, firm_id: str) -> bool:
    """Hold an inspection's row until the transaction ends; False where the firm has none of that id that is not
    erased."""
    if not is_id(inspection_id):
        return False
    i = inspection.c
    query = select(i.seq).where(i.id == inspection_id, i.firm_id == firm_id, i.erased_at.is_(None))
    return connection.execute(query.with_for_update()).first() is not None


def is_erased(connection: Connection, inspection_id: str, firm_id: str) -> bool:
    """Were the data of that inspection's client erased?"""
    query = select(inspection.c.erased_at).where(inspection.c.id == inspection_id, inspection.c.firm_id == firm_id)
    return connection.execute(query).scalar() is not None


def send_photo(connection: Connection, inspection_id: str, firm_id: str, sha256: str) -> bool | None:
    """Write down that a photo is being sent to an inspection; None where the firm has none of that id, False where it
    was erased and takes nothing any more."""
    if not is_id(inspection_id):
        return None
    query = select(inspection.c.erased_at).where(inspection.c.id == inspection_id, inspection.c.firm_id == firm_id)
    row = connection.execute(query).one_or_none()
    if row is None or row.erased_at is not None:
        return None if row is None else False
    known = insert(uploaded_photo).values(firm_id=firm_id, sha256=sha256, inspection_id=inspection_id)
    connection.execute(known.prefix_with("IGNORE"))
    return True
