"""Applying a batch of changes: checked one by one, applied and appended in the caller's one transaction."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import UTC, date, datetime
from functools import cache
from types import MappingProxyType
from typing import Any

from sqlalchemy import BindParameter, Column, Connection, Table, Update, bindparam, func, insert, select, tuple_, update
from sqlalchemy.exc import IntegrityError

from dorrik.core.basics.identifiers import is_id
from dorrik.core.inspection.change import UNSAID, Change, Refusal, Waits
from dorrik.core.inspection.change_checks import FORM, PLACE, kept_value
from dorrik.core.inspection.kept_inspection import KeptEntity, KeptInspection, new_entity, put
from dorrik.core.inspection.kinds import KINDS
from dorrik.journal.change import Author, Overtaken, Result
from dorrik.journal.policy import rightful
from dorrik.store.database.engine import new_id, now
from dorrik.store.database.tables import ENTITIES, inspection
from dorrik.store.database.tables import change as journal
from dorrik.store.firm import firm_rules, numbers
from dorrik.store.firm.firm_rules import Terms
from dorrik.store.inspections import inspections
from dorrik.store.inspections.inspections import column_value, parent_columns
from dorrik.store.inspections.listing import due
from dorrik.store.register import search
from dorrik.store.register.reindex import inspection_subject

#: The device under which stands in the journal what the firm had settled.
BY_THE_FIRM = "the firm"
NOTHING: Mapping[str, Any] = MappingProxyType({})


class RowGone(RuntimeError):
    """Something of an inspection that is in hand is not in the database any more."""


@dataclass(frozen=True, slots=True)
class Applied:
    """The inspection after a batch, and what became of each change, in the batch's order."""

    kept: KeptInspection
    results: tuple[Result, ...]


def apply(
    connection: Connection, firm_id: str, author: Author, inspection_id: str, changes: Sequence[Change],
    known: KeptInspection | None = None,
) -> Applied | None:  # fmt: skip
    """Apply a batch to an inspection of that firm, in the transaction that `connection` is in.

    The inspection itself is made by a change that sets its parent, the firm. Returns None where the firm has no
    inspection of that id and the batch does not make it. Nothing is raised for a change that cannot be
    applied: it is refused with a reason and the rest is kept. known: see `inspections.load`; it is changed by this, and
    not to be used again where the transaction is not committed.
    """
    if not is_id(inspection_id):
        return None
    kept = inspections.load(connection, inspection_id, firm_id, lock=True, known=known)
    made = False
    if kept is None:
        if not any(_makes(change, inspection_id, firm_id) for change in changes):
            return None
        try:
            with connection.begin_nested():
                connection.execute(
                    insert(inspection).values(id=inspection_id, firm_id=firm_id, seq=0, changed_at=now())
                )
        except IntegrityError:
            # Two devices made it at once, or another firm has the id: the first is loaded, the second unseen.
            kept = inspections.load(connection, inspection_id, firm_id, lock=True)
            if kept is None:
                return None
        else:
            made = True
            kept = _blank(inspection_id, firm_id)
    batch = _Batch(connection, kept, author, fresh=made)
    if not made:
        batch.look_up(changes)
    results = tuple(batch.take(change) for change in changes)
    if made:
        batch.by_the_firm()
    batch.write()
    return Applied(kept, results)


def _makes(change: Change, inspection_id: str, firm_id: str) -> bool:
    return (
        change.entity == "inspection"
        and change.entity_id == inspection_id
        and change.field == "firm"
        and change.value == firm_id
    )


def _blank(inspection_id: str, firm_id: str) -> KeptInspection:
    kept = KeptInspection(inspection_id, firm_id, 0)
    kept.entities[inspection_id] = new_entity("inspection", inspection_id, firm_id)
    return kept


class _Batch:
    """One batch on its way: changes the inspection in hand, and writes at the end."""

    def __init__(self, connection: Connection, kept: KeptInspection, author: Author, *, fresh: bool) -> None:
        self._connection = connection
        self._kept = kept
        self._author = author
        self._author_id = author.id
        self._terms: Terms | None = None
        self._fresh = fresh
        self._sent: dict[str, tuple[int, str, str, Any]] = {}
        self._last: dict[tuple[str, str], tuple[int, str, str, Any]] = {}
        self._entries: list[dict[str, Any]] = []
        self._new: dict[str, KeptEntity] = {}
        self._touched: dict[str, dict[str, Any]] = {}

    def look_up(self, changes: Sequence[Change]) -> None:
        """Ask the journal which of the ids it has, and who last changed each of the fields."""
        # A change that has seen everything there is can be neither a resend nor an overtaking.
        late = [change for change in changes if change.based_on < self._kept.seq]
        if not late:
            return
        ids = [change.id for change in late if is_id(change.id)]
        known = [change for change in late if change.entity_id in self._kept.entities]
        fields = {(change.entity_id, change.field) for change in known}
        here = {"inspection_id": self._kept.id}
        if ids:
            for row in self._connection.execute(_BY_ID, here | {"ids": ids}):
                self._sent[row.change_id] = (row.seq, row.entity_id, row.field, row.value)
        if fields:
            for row in self._connection.execute(_LAST, here | {"fields": list(fields)}):
                self._last[(row.entity_id, row.field)] = (row.seq, row.author_id, row.device, row.value)

    def take(self, change: Change) -> Result:
        """Check one change and apply it to the inspection in hand."""
        try:
            for check in FORM:
                check(self._kept, change)
            value = kept_value(change, datetime.now(UTC))
            if (sent := self._sent.get(change.id)) is not None:
                seq, *same = sent
                if tuple(same) == (change.entity_id, change.field, value):
                    return Result(change.id, "already", seq, value=value)
                raise Refusal("A change with this id was kept earlier, with other content.")
            _issued_meanwhile(self._kept, change)
            rightful(self._kept, change, value, self._author, self._of_the_firm)
            if not (self._fresh and _makes(change, self._kept.id, self._kept.firm_id)):
                for check in PLACE:
                    check(self._kept, change)
            self._unique_reference(change, value)
        except Refusal as refusal:
            return Result(change.id, "refused", reason=str(refusal), waits=isinstance(refusal, Waits))
        return self._keep(change, value)

    def _of_the_firm(self) -> Terms:
        if self._terms is None:
            self._terms = firm_rules.terms(self._connection, self._kept.firm_id)
        return self._terms

    def by_the_firm(self) -> None:
        """What the firm has settled goes with a new inspection, where the device did not bring it."""
        terms = self._of_the_firm()
        settled = {
            "rule_book": terms.rule_book,
            "house_rules": terms.house_rules or None,
            "table_corrections": terms.corrections() or None,
            "catalogue": terms.catalogue or None,
        }
        here = self._kept.entities[self._kept.id].values
        for field, value in settled.items():
            if value is not None and here[field] is None:
                change = Change(new_id(), "inspection", self._kept.id, field, value, self._kept.seq, now(), BY_THE_FIRM)
                self._keep(change, value)

    def _unique_reference(self, change: Change, value: Any) -> None:
        """A reference names one inspection of the firm."""
        if (change.entity, change.field) != ("inspection", "reference") or value is None:
            return
        c = inspection.c
        other = self._connection.execute(
            select(c.property_address).where(
                c.firm_id == self._kept.firm_id, c.reference == value, c.id != self._kept.id
            )
        ).first()
        if other is not None:
            where = f" for {other.property_address}" if other.property_address else ""
            free = numbers.next_reference(self._connection, self._kept.firm_id)
            raise Refusal(f"{value} is already used{where}; {free} is free.")

    def _keep(self, change: Change, value: Any) -> Result:
        kind = KINDS[change.entity]
        fresh = change.entity_id not in self._kept.entities
        before = put(self._kept, kind.name, change.entity_id, change.field, value)
        if fresh:
            self._new[change.entity_id] = self._kept.entities[change.entity_id]
        elif change.entity_id not in self._new:
            parent = change.field in kind.parents
            columns = {change.field: value} if not parent else _hung(kind.name, change.field, value) if before else {}
            if columns:
                self._touched.setdefault(change.entity_id, {}).update(columns)
        self._kept.seq += 1
        seq = self._kept.seq
        overtook = self._overtaken(change, value)
        self._entries.append(
            {
                "inspection_id": self._kept.id,
                "seq": seq,
                "change_id": change.id,
                "entity": change.entity,
                "entity_id": change.entity_id,
                "field": change.field,
                "value": value,
                "before": before,
                "based_on": change.based_on,
                "overtook": overtook.seq if overtook else None,
                "made_at": change.made_at,
                "kept_at": now(),
                "device": change.device,
                "instrument_id": change.instrument_id,
                "read_at": change.read_at,
                "read_by": change.read_by,
                "author_id": self._author_id,
            }
        )
        self._sent[change.id] = (seq, change.entity_id, change.field, value)
        self._last[(change.entity_id, change.field)] = (seq, self._author_id, change.device, value)
        return Result(change.id, "kept", seq, overtook=overtook, value=value)

    def _overtaken(self, change: Change, value: Any) -> Overtaken | None:
        last = self._last.get((change.entity_id, change.field))
        if last is None:
            return None
        seq, author_id, device, earlier = last
        if seq <= change.based_on or (author_id, device) == (self._author_id, change.device) or earlier == value:
            return None
        return Overtaken(seq, author_id, earlier)

    def write(self) -> None:
        """Write entities, journal and the new sequence number. Parents stand before children in KINDS."""
        if not self._entries:
            return
        for kind in KINDS.values():
            rows = [self._row(entity) for entity in self._new.values() if entity.kind == kind.name]
            if rows:
                self._connection.execute(_INSERT[ENTITIES[kind.name]], rows)
        self._connection.execute(_INSERT[journal], self._entries)
        self._find_by()
        own = {name: column_value(value) for name, value in self._touched.pop(self._kept.id, {}).items()} | self._head()
        # The last one goes together with the inspection itself: mostly there is just one, and that saves a question.
        *others, (last_id, last) = [*self._touched.items()] or [("", {})]
        for entity_id, touched in others:
            self._write_columns(entity_id, touched)
        self._write_columns(last_id, last, own)

    def _write_columns(self, entity_id: str, touched: Mapping[str, Any], own: Mapping[str, Any] = NOTHING) -> None:
        """Write columns of one entity, where there is one, and of the inspection itself."""
        table = ENTITIES[self._kept.entities[entity_id].kind] if entity_id else None
        values = {f"{_OF_ENTITY}{name}": column_value(value) for name, value in touched.items()}
        values |= {f"{_OF_INSPECTION}{name}": value for name, value in own.items()} | {
            "key_inspection_id": self._kept.id
        }
        if table is not None:
            values["key_id"] = entity_id
        written = self._connection.execute(_update(table, frozenset(touched), frozenset(own)), values)
        if not written.rowcount:
            # Nothing may be acknowledged that no row keeps: the transaction ends, with the journal's entry.
            raise RowGone(f"{entity_id or self._kept.id} has no row in the database.")

    def _find_by(self) -> None:
        """What an inspection is found by has changed."""
        here = {entry["field"] for entry in self._entries if entry["entity_id"] == self._kept.id}
        if here.isdisjoint(_NAMES):
            return
        v = self._kept.entities[self._kept.id].values
        subject = inspection_subject(self._kept.id, *(v[name] for name in _NAMES))
        search.keep(self._connection, self._kept.firm_id, [subject])

    def _head(self) -> dict[str, Any]:
        v = self._kept.entities[self._kept.id].values
        inspected_on = date.fromisoformat(v["inspected_on"]) if v["inspected_on"] else None
        self._kept.changed_at = now()
        head = {
            "seq": self._kept.seq,
            "changed_at": self._kept.changed_at,
            "due_on": due(inspected_on, v["next_years"]),
        }
        # What lists show of it is of the state before; whoever judges it next keeps it anew.
        return head | {"judged_seq": None}

    def _row(self, entity: KeptEntity) -> dict[str, Any]:
        kind = KINDS[entity.kind]
        above = self._kept.entities.get(entity.parent_id)
        parent = _hung(kind.name, above.kind, entity.parent_id) if above is not None else {}
        values = {name: column_value(value) for name, value in entity.values.items()}
        return {"inspection_id": self._kept.id, "id": entity.id, **parent, **values}


def _issued_meanwhile(kept: KeptInspection, change: Change) -> None:
    """What a device entered without knowing that the report was issued waits: the record would else say other than the
    paper does, and nobody would have decided that."""
    if change.knew_issue is None or kept.issued_at is None:
        return
    if change.knew_issue == UNSAID:
        late = change.made_at.replace(tzinfo=None) < kept.issued_at
    else:
        late = change.knew_issue < kept.issue
    if late:
        raise Waits(f"Issue {kept.issue} of the report was signed before this arrived, and does not say it.")


def _hung(kind: str, on: str, parent_id: str) -> dict[str, str | None]:
    """The columns that say what an entity hangs on: one of them is set, or none where it is the inspection itself."""
    return {column: parent_id if parent == on else None for parent, column in parent_columns(kind).items()}


#: Fields by which an inspection is found.
_NAMES = ("reference", "property_address", "client_name", "occupier_name")
_c = journal.c
_INSERT = {table: insert(table) for table in (*ENTITIES.values(), journal)}
_ENTRY = select(_c.change_id, _c.seq, _c.entity_id, _c.field, _c.value, _c.author_id, _c.device).where(
    _c.inspection_id == bindparam("inspection_id")
)
_BY_ID = _ENTRY.where(_c.change_id.in_(bindparam("ids", expanding=True)))
_LAST = _ENTRY.where(
    _c.seq.in_(
        select(func.max(_c.seq))
        .where(
            _c.inspection_id == bindparam("inspection_id"),
            tuple_(_c.entity_id, _c.field).in_(bindparam("fields", expanding=True)),
        )
        .group_by(_c.entity_id, _c.field)
        .correlate(None)
    )
)


#: Before the names of columns among the parameters of an update.
_OF_ENTITY, _OF_INSPECTION = "entity_", "inspection_"


@cache
def _update(table: Table | None, columns: frozenset[str], own: frozenset[str]) -> Update:
    """An update of those columns of one entity, if any, and of those of the inspection, made once for each set."""
    here = [inspection.c.id == bindparam("key_inspection_id")] if own else []
    values: dict[Column[Any], BindParameter[Any]] = {
        inspection.c[name]: bindparam(f"{_OF_INSPECTION}{name}") for name in own
    }
    if table is not None:
        of = inspection.c.id if own else bindparam("key_inspection_id")
        here += [table.c.inspection_id == of, table.c.id == bindparam("key_id")]
        values |= {table.c[name]: bindparam(f"{_OF_ENTITY}{name}") for name in columns}
    return update(inspection if table is None else table).where(*here).values(values)
