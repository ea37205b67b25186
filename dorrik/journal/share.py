"""One intake, several homes: what is entered of the supply at one home is entered at every home that shares it.

Each inspection keeps a document of its own: a report rests on nothing that stands elsewhere. So a shared change is a
change of every home's journal, made by the same person at the same moment.
"""

from collections.abc import Iterable, Mapping, Sequence
from typing import Any

from sqlalchemy import Connection

from dorrik.core.inspection.change import Change
from dorrik.core.inspection.kept_inspection import KeptInspection, assemble
from dorrik.core.inspection.kinds import KINDS
from dorrik.core.work.shared_intake import FIELDS, HOLD, KIND, Differing, IntakeHome, conflicts, differing, passed_on
from dorrik.journal.apply import apply
from dorrik.journal.change import Author, Result
from dorrik.store.database.engine import new_id, now
from dorrik.store.inspections import inspections, shared_intakes
from dorrik.store.inspections.listing import is_issued
from dorrik.store.inspections.reading_times import not_countersigned

#: The device under which a change stands at the homes where it was not typed.
DEVICE = "shared intake"


#: A field of an entity, and its value.
_Fact = tuple[str, str, str, Any]


class Disagree(Exception):
    """Homes say different things of what they are to share; `found` says which."""

    def __init__(self, differences: Sequence[Differing]) -> None:
        super().__init__(", ".join(difference.label for difference in differences))
        self.found = tuple(differences)


def homes(
    connection: Connection, firm_id: str, ids: Mapping[str, frozenset[str]], *, lock: bool = False
) -> list[IntakeHome]:
    """The homes of those inspections, in their order. ids: with the fields that each has for itself.

    What a trainee read there, and nobody countersigned yet, is left out: it is not passed on.
    """
    sharing = []
    for key, own in ids.items():
        kept = inspections.load(connection, key, firm_id, lock=lock)
        if kept is not None:
            doubtful = _by_trainees(connection, kept)
            values = {name: value for name, value in kept.entities[key].values.items() if name not in doubtful}
            sharing.append(IntakeHome(key, str(values["reference"] or ""), values, own))
    return sharing


def _by_trainees(connection: Connection, kept: KeptInspection) -> set[str]:
    waiting = not_countersigned(connection, assemble(kept), kept.seq)
    return {field for figures in waiting.values() for entity_id, field in figures if entity_id == kept.id}


def fan_out(
    connection: Connection, author: Author, kept: KeptInspection, changes: Sequence[Change], results: Iterable[Result]
) -> None:
    """Enter what was kept of a batch, and is shared, at the other homes, in the caller's transaction.

    A home whose report was issued stays as it is: it is told where it differs.
    """
    here = kept.entities[kept.id].values
    if not here["supply_shared_with"]:
        return
    fresh = {result.id for result in results if result.state == "kept"}
    if any(change.id in fresh and (change.entity, change.field) == ("inspection", "reference") for change in changes):
        name(connection, kept.firm_id, author, kept.id)
    # What a trainee read is passed on once somebody answers for it: at the other home nobody would be asked to.
    shared = [
        change
        for change in changes
        if change.id in fresh and passed_on(change.entity, change.field) and change.read_by is None
    ]
    if not shared:
        return
    group = shared_intakes.members(connection, kept.id)
    own = group.pop(kept.id, frozenset())
    held = any(change.entity == KIND and change.field == "holds" and change.value for change in shared)
    for other, others_own in group.items():
        entries: list[_Fact] = [
            _at(other, kept.id, change)
            for change in shared
            if change.entity == KIND or change.field not in own | others_own
        ]
        if held:
            entries += [("inspection", other, field, here[field]) for field in HOLD if here[field] is not None]
        _share(connection, kept.firm_id, author, other, entries)


def _at(other: str, here: str, change: Change) -> _Fact:
    entity_id = other if change.entity == "inspection" else change.entity_id
    value = other if change.field == "inspection" and change.value == here else change.value
    return change.entity, entity_id, change.field, value


def _share(connection: Connection, firm_id: str, author: Author, inspection_id: str, entries: Sequence[_Fact]) -> None:
    """Enter facts at a home, unless its report was issued: that stays as it is, and what differs is told."""
    if entries and not is_issued(connection, inspection_id):
        _enter(connection, firm_id, author, inspection_id, entries)


def _enter(connection: Connection, firm_id: str, author: Author, inspection_id: str, entries: Sequence[_Fact]) -> None:
    kept = inspections.load(connection, inspection_id, firm_id, lock=True) if entries else None
    if kept is None:
        return
    changes = [
        Change(new_id(), entity, entity_id, field, value, kept.seq, now(), DEVICE)
        for entity, entity_id, field, value in entries
    ]
    apply(connection, firm_id, author, inspection_id, changes, known=kept)


def share(
    connection: Connection, firm_id: str, author: Author, inspection_id: str, other_id: str, taken: Mapping[str, str]
) -> None:
    """Two homes share their intake from now on, with all that share with either. taken: where they disagree, from which
    inspection each field is taken. Raises Disagree where that is not said of one, LookupError without such an
    inspection."""
    ids = {inspection_id: frozenset[str](), other_id: frozenset[str]()}
    for key in (inspection_id, other_id):
        ids |= shared_intakes.members(connection, key)
    sharing = homes(connection, firm_id, dict(sorted(ids.items())), lock=True)
    if inspection_id == other_id or {inspection_id, other_id} - {home.id for home in sharing}:
        raise LookupError(other_id)
    disputed = [difference for difference in differing(sharing) if not difference.own]
    undecided = [
        difference
        for difference in conflicts(disputed)
        if difference.values.get(taken.get(difference.field, "")) is None
    ]
    if undecided:
        raise Disagree(undecided)
    shared_intakes.join(connection, inspection_id, other_id)
    agreed = {difference.field: _agreed(difference, taken) for difference in disputed}
    for home in sharing:
        entries = [
            ("inspection", home.id, field, value)
            for field, value in agreed.items()
            if value is not None and home.values.get(field) != value
        ]
        _share(connection, firm_id, author, home.id, entries)
    _calls(connection, firm_id, author, [home.id for home in sharing])
    name(connection, firm_id, author, inspection_id)


def _agreed(difference: Differing, taken: Mapping[str, str]) -> Any:
    """What all of them say from now on: what was chosen, else what any of them says."""
    chosen = difference.values.get(taken.get(difference.field, ""))
    return chosen if chosen is not None else next((v for v in difference.values.values() if v is not None), None)


def part(connection: Connection, firm_id: str, author: Author, inspection_id: str) -> None:
    """A home has its supply for itself from now on; what was entered stays as it is at every home."""
    group = shared_intakes.members(connection, inspection_id)
    shared_intakes.leave(connection, inspection_id)
    for key in group:
        name(connection, firm_id, author, key)


def name(connection: Connection, firm_id: str, author: Author, inspection_id: str) -> None:
    """Each home of the group says with which others it shares, by the references of their inspections."""
    group = shared_intakes.members(connection, inspection_id) or {inspection_id: frozenset[str]()}
    sharing = homes(connection, firm_id, group)
    for home in sharing:
        others = ", ".join(
            sorted(sharing_home.reference or "another home" for sharing_home in sharing if sharing_home.id != home.id)
        )[:300]
        if (home.values["supply_shared_with"] or "") != others:
            entries = [("inspection", home.id, "supply_shared_with", others or None)]
            _enter(connection, firm_id, author, home.id, entries)


def align(connection: Connection, firm_id: str, author: Author, inspection_id: str, fields: Iterable[str]) -> None:
    """Enter these fields of one home at every other that shares them. Raises LookupError where it shares with none."""
    wanted = set(fields)
    group = shared_intakes.members(connection, inspection_id)
    sharing = {home.id: home for home in homes(connection, firm_id, group, lock=True)}
    here = sharing.pop(inspection_id, None)
    if here is None:
        raise LookupError(inspection_id)
    for home in sharing.values():
        entries: list[_Fact] = [
            ("inspection", home.id, field, here.values.get(field))
            for field in FIELDS
            if field in wanted - home.own - here.own
            and field in here.values
            and here.values[field] != home.values.get(field)
        ]
        _share(connection, firm_id, author, home.id, entries)


def _calls(connection: Connection, firm_id: str, author: Author, ids: Sequence[str]) -> None:
    """Calls to the operator that are open at one home stand at every one."""
    kept = [
        kept_inspection for key in ids if (kept_inspection := inspections.load(connection, key, firm_id)) is not None
    ]
    open_calls = {
        entity.id: entity.values
        for source in kept
        for entity in source.entities.values()
        if entity.kind == KIND and not entity.values["removed"] and entity.values["closed_at"] is None
    }
    for target in kept:
        entries: list[_Fact] = []
        for key, values in open_calls.items():
            if key not in target.entities:
                entries.append((KIND, key, "inspection", target.id))
                entries += [(KIND, key, name, values[name]) for name in KINDS[KIND].fields if values[name] is not None]
        _share(connection, firm_id, author, target.id, entries)
