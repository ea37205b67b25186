"""Observations that the verdicts would raise, each once for what it speaks of, with the house's starting code."""

from collections.abc import Iterable

from dorrik.core import classification
from dorrik.core.catalogue import entries
from dorrik.core.house_rules import HouseRules
from dorrik.core.inspection import Inspection
from dorrik.core.record import record
from dorrik.core.topics.context import Note
from dorrik.core.topics.insulation import BoardSum
from dorrik.core.verdict import Verdict


@record
class Suggestion:
    """An observation that could be raised.

    key: catalogue entry; title: its title; code, why: where the house's school starts; entity, entity_id: what it
    speaks of; because: the notes that lead to it; recorded: id of an observation that says it already, or None.
    """

    key: str
    title: str
    code: str
    why: str
    entity: str
    entity_id: str
    because: tuple[str, ...]
    recorded: str | None


def suggest(
    inspection: Inspection, notes: Iterable[Note], sums: Iterable[BoardSum], house: HouseRules
) -> tuple[Suggestion, ...]:
    """Suggestions in the order of the notes. What the inspector overruled to a pass raises nothing."""
    because: dict[tuple[str, str, str], list[str]] = {}
    for note in notes:
        key = note.verdict.observation
        if key and note.status in ("fail", "attention"):
            because.setdefault((key, note.entity, note.entity_id), []).append(_said(note.title, note.verdict))
    for one in sums:
        if one.verdict.observation:
            place = (one.verdict.observation, "board", one.board_id)
            because.setdefault(place, []).append(_said("Whole board", one.verdict))
    recorded = {(o.catalogue_key, o.about_id): o.id for o in inspection.observations if o.catalogue_key}
    school = classification.SCHOOLS[house.coding_school]
    found = []
    for (key, entity, entity_id), reasons in because.items():
        view = classification.suggest(key, school)
        found.append(
            Suggestion(
                key,
                entries()[key].title,
                view.code,
                view.reason,
                entity,
                entity_id,
                tuple(reasons),
                recorded.get((key, entity_id)),
            )
        )
    return tuple(found)


def _said(title: str, verdict: Verdict) -> str:
    return f"{title}: {verdict.reason}"
