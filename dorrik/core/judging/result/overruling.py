"""The inspector's own view of a verdict, beside it."""

from dataclasses import replace
from typing import Any

from dorrik.core.basics.readings import Reading
from dorrik.core.inspection.records import Inspection, Overruling
from dorrik.core.judging.topics.context import Note


def overruled(inspection: Inspection, notes: tuple[Note, ...]) -> tuple[Note, ...]:
    """Notes with the inspector's own view beside the verdict, where there is one. The verdict itself stays as it is."""
    if not inspection.overrulings:
        return notes
    by_figure = {
        (overruling.about_id, overruling.field): overruling
        for overruling in inspection.overrulings
        if overruling.status and overruling.reason
    }
    notes_left = []
    for note in notes:
        view = by_figure.get(note.figure)
        notes_left.append(
            replace(note, overruled=view) if view is not None and _still(inspection, note, view) else note
        )
    return tuple(notes_left)


def _still(inspection: Inspection, note: Note, view: Overruling) -> bool:
    """Is a figure still what it read when the inspector saw it otherwise? A new reading is judged anew."""
    if view.of_reading is None:
        return True
    thing = _thing(inspection, note.entity_id)
    now = getattr(thing, note.field, None) if thing is not None else None
    if isinstance(now, Reading):
        return view.of_reading == now.text
    return view.of_reading == now if isinstance(now, str) else True


def _thing(inspection: Inspection, entity_id: str) -> object | None:
    boards = inspection.boards
    circuits = [c for board in boards for c in board.circuits]
    every: list[Any] = [inspection, *inspection.bonds, *boards, *circuits, *inspection.points]
    every += [rcd for board in boards for rcd in board.rcds] + [point for c in circuits for point in c.points]
    return next((thing for thing in every if thing.id == entity_id), None)
