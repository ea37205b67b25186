"""Carrying entities over into an inspection: as changes like any others, all of them or none."""

from collections.abc import Iterable, Mapping
from typing import Any

from sqlalchemy import Connection

from dorrik.core.inspection.change import Change
from dorrik.core.inspection.kinds import KINDS
from dorrik.core.work.carry_over import CarriedDraft
from dorrik.journal import share
from dorrik.journal.apply import Applied, apply
from dorrik.journal.change import Author
from dorrik.store.database.engine import new_id, now
from dorrik.store.inspections import inspections

#: The device under which such changes stand in the journal.
DEVICE = "carried over"


class Halfway(ValueError):
    """Something could not be carried over, so nothing may be: the caller's transaction is to be rolled back."""


def carry(
    connection: Connection,
    firm_id: str,
    author: Author,
    inspection_id: str,
    origin: Mapping[str, Any],
    drafts: Iterable[CarriedDraft],
) -> Applied | None:
    """Carry over, in the caller's transaction; None where the firm has no such inspection. Raises Halfway.

    origin: fields of the inspection itself, taken only where nothing stands yet.
    """
    kept = inspections.load(connection, inspection_id, firm_id, lock=True)
    if kept is None:
        return None
    here = kept.entities[inspection_id].values
    at = now()

    def change(entity: str, entity_id: str, field: str, value: Any) -> Change:
        return Change(new_id(), entity, entity_id, field, value, kept.seq, at, DEVICE)

    changes = [
        change("inspection", inspection_id, name, value) for name, value in origin.items() if here.get(name) is None
    ]
    made: set[str] = set()
    for draft in drafts:
        if draft.id not in made:
            changes.append(change(draft.kind, draft.id, _hangs_on(draft, inspection_id), draft.parent_id))
            made.add(draft.id)
        changes += [change(draft.kind, draft.id, name, value) for name, value in draft.fields.items()]
    applied = apply(connection, firm_id, author, inspection_id, changes)
    if applied is not None:
        refused = [result.reason for result in applied.results if result.state == "refused"]
        if refused:
            raise Halfway(refused[0])
        share.fan_out(connection, author, applied.kept, changes, applied.results)
    return applied


def _hangs_on(draft: CarriedDraft, inspection_id: str) -> str:
    """The field that makes an entity, named after the kind that it hangs on."""
    kind = KINDS[draft.kind]
    if draft.parent_id == inspection_id and "inspection" in kind.parents:
        return "inspection"
    return kind.parent
