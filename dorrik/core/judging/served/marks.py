"""How the things of a home stand that have a drawing of their own: the worst of what is said of each."""

from collections.abc import Container, Iterable, Mapping

from dorrik.core.basics.verdict import Status
from dorrik.core.judging.topics.note import Figure, Note

#: What fails first; what passes has no mark.
URGENCY: tuple[Status, ...] = ("fail", "attention", "unknown")
_DRAWN = ("inspection", "bond", "board")
Marks = Mapping[Figure, Status]


def marks(notes: Iterable[Note]) -> Marks:
    """The worst standing of each figure of the origin, of the bonds and of the boards. What follows from another figure
    is told there."""
    statuses: dict[Figure, Status] = {}
    for note in notes:
        if note.entity in _DRAWN and note.because_of is None and note.status in URGENCY:
            before = statuses.get(note.figure)
            if before is None or URGENCY.index(note.status) < URGENCY.index(before):
                statuses[note.figure] = note.status
    return statuses


def worst(of: Marks, entity_id: str, fields: Container[str] | None = None) -> Status | None:
    """The worst mark of an entity, of some of its fields where they are given; None for none."""
    here = {status for (one, field), status in of.items() if one == entity_id and (fields is None or field in fields)}
    return next((status for status in URGENCY if status in here), None)
