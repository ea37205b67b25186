"""Second opinions are blind: who is asked for one sees neither the first code nor what tells it until theirs is given
(rule 13.3).

Not hidden from whoever gave the code, nor from roles that give no second opinion. A report that was issued is public.
"""

from collections.abc import Iterable
from dataclasses import dataclass, replace
from typing import Any

from sqlalchemy import Connection, select

from dorrik.core.inspection.kept_inspection import KeptEntity, KeptInspection
from dorrik.core.work import workflow
from dorrik.journal.history import HistoryEntry
from dorrik.store.database.tables import ENTITIES
from dorrik.store.database.tables import change as journal
from dorrik.store.people.people import Person

#: Of an observation, its code, why, and what is only asked of a danger.
HIDDEN = frozenset(("code", "code_reason", "told_to", "told_at", "made_safe", "made_safe_how", "consent_of"))


@dataclass(frozen=True, slots=True)
class BlindView:
    """An inspection as somebody sees it, and the ids of the observations whose code they may not see yet."""

    kept: KeptInspection
    blind: frozenset[str]


def seen(connection: Connection, kept: KeptInspection, who: Person) -> BlindView:
    """An inspection without what somebody may not see yet. Where that is nothing, it is the inspection itself."""
    blind = blind_to(connection, kept, who)
    return BlindView(_without(kept, blind) if blind else kept, blind)


def blind_to(connection: Connection, kept: KeptInspection, who: Person) -> frozenset[str]:
    """Ids of the observations that wait for somebody's second opinion."""
    asked = _unanswered(kept, who)
    return frozenset(asked - _coded_by(connection, kept.id, who.id, asked)) if asked else frozenset()


def hides_nothing(kept: KeptInspection, who: Person) -> bool:
    """Is it plain from the inspection alone that nothing is hidden from somebody?"""
    return not _unanswered(kept, who)


def _unanswered(kept: KeptInspection, who: Person) -> set[str]:
    """Ids of the observations whose second opinion is asked for, of whoever may give one, and not given."""
    if not workflow.may(who.role, "give a second opinion"):
        return set()
    given = {
        entity.parent_id
        for entity in kept.entities.values()
        if entity.kind == "opinion" and entity.values.get("code") and not entity.values.get("removed")
    }
    return {
        entity.id
        for entity in kept.entities.values()
        if entity.kind == "observation" and entity.values.get("opinion_asked_at") and entity.id not in given
    }


def waiting(connection: Connection, inspection_id: str, who: Person) -> frozenset[str]:
    """The same from the tables alone, where the whole inspection is not at hand."""
    if not workflow.may(who.role, "give a second opinion"):
        return frozenset()
    o, p = ENTITIES["observation"].c, ENTITIES["opinion"].c
    given = (
        select(p.observation_id)
        .where(p.inspection_id == o.inspection_id, p.observation_id == o.id, p.code.is_not(None))
        .where(p.removed.isnot(True))
    )
    query = select(o.id).where(o.inspection_id == inspection_id, o.opinion_asked_at.is_not(None), ~given.exists())
    asked = set(connection.execute(query).scalars())
    return frozenset(asked - _coded_by(connection, inspection_id, who.id, asked)) if asked else frozenset()


def _coded_by(connection: Connection, inspection_id: str, person_id: str, of: Iterable[str]) -> set[str]:
    c = journal.c
    query = select(c.entity_id).where(
        c.inspection_id == inspection_id, c.author_id == person_id, c.field == "code", c.entity_id.in_(list(of))
    )
    return set(connection.execute(query).scalars())


def is_hidden(blind: frozenset[str], entity_id: str, field: str) -> bool:
    """May a value not be shown to whom these observations wait for?"""
    return entity_id in blind and field in HIDDEN


def masked(entries: Iterable[HistoryEntry], blind: frozenset[str]) -> list[HistoryEntry]:
    """Entries of the journal with what may not be seen left empty: that something was entered is no secret."""
    return [
        replace(entry, value=None, before=None) if is_hidden(blind, entry.entity_id, entry.field) else entry
        for entry in entries
    ]


def _without(kept: KeptInspection, blind: frozenset[str]) -> KeptInspection:
    entities: dict[str, KeptEntity] = dict(kept.entities)
    for key in blind:
        values: dict[str, Any] = entities[key].values | dict.fromkeys(HIDDEN)
        entities[key] = replace(entities[key], values=values)
    return KeptInspection(kept.id, kept.firm_id, kept.seq, entities, kept.changed_at, kept.erased)
