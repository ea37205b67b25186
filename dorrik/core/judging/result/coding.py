"""What a recorded observation is worth: the three views, where the house starts, what is known and what is asked
(rules 13.1 and 13.2)."""

from collections.abc import Iterator

from dorrik.core.basics.record import record
from dorrik.core.book.catalogue import CatalogueEntry, entries
from dorrik.core.inspection.records import Observation
from dorrik.core.judging.result import classification
from dorrik.core.judging.result.suggested import Places
from dorrik.core.judging.topics import facts
from dorrik.core.judging.topics.context import Context


@record
class Known:
    """A fact that is known: its words, whether it is so, and whether it was answered rather than found."""

    fact: str
    says: str
    so: bool
    answered: bool


@record
class Coding:
    """The coding of one observation.

    views: the three schools' codes, the mainstream first; school: where the house starts; code, moved: where that leads
    here, and what moved it; known: facts that are known; questions: what else would move it, asked in one tap.
    """

    observation_id: str
    key: str
    views: tuple[classification.SchoolView, ...]
    school: classification.School
    code: str
    moved: str
    known: tuple[Known, ...]
    questions: tuple[classification.Question, ...]


def coding(context: Context) -> Iterator[Coding]:
    """The coding of every observation that names an entry of the catalogue."""
    places: Places = context.cells.made(Places, context.inspection)
    for observation in context.inspection.observations:
        entry = entries().get(observation.catalogue_key or "")
        if entry is not None:
            yield _coding(context, places, observation, entry)


def _coding(context: Context, places: Places, observation: Observation, entry: CatalogueEntry) -> Coding:
    school = classification.SCHOOLS[context.house.coding_school]
    answers = observation.answers or {}
    at = places.at(observation.about_id or "")
    known_facts = {fact: facts.known(context, at, fact) for fact in _asked(entry)}

    def known(fact: str) -> bool | None:
        # What stands in the inspection is not asked; what it does not know, the inspector has answered or not.
        answer = known_facts.get(fact)
        return answers.get(fact) if answer is None else answer

    placed = classification.place(entry.key, school, known)
    listed = [
        Known(fact.fact, fact.says, bool(known(fact.fact)), known_facts[fact.fact] is None)
        for fact in entry.facts
        if known(fact.fact) is not None
    ]
    return Coding(
        observation.id, entry.key, classification.views(entry.key), school, placed.code, placed.moved, tuple(listed),
        placed.questions,
    )  # fmt: skip


def _asked(entry: CatalogueEntry) -> list[str]:
    return [fact.fact for fact in entry.facts] + ([entry.until.fact] if entry.until is not None else [])
