"""Readings taken with a part of their circuit switched off: none of them passes, and it is said once for a circuit."""

from collections.abc import Iterable, Iterator
from dataclasses import replace

from dorrik.core.basics.verdict import Status, Verdict
from dorrik.core.inspection.kinds import KINDS
from dorrik.core.judging.topics.context import Context, is_measured, name_of
from dorrik.core.judging.topics.note import Figure, Note

_PASSES: tuple[Status, ...] = ("pass", "unknown")


def held(context: Context, notes: Iterable[Note]) -> Iterator[Note]:
    """The notes, with what passes for a part only held back, and a note on readings that nothing was said of."""
    opened = dict(context.open_parts)
    _calculated(context, opened)
    first: dict[tuple[str, str], Figure] = {}
    spoken_of: set[Figure] = set()
    for note in notes:
        words = opened.get(note.figure)
        if words is not None:
            spoken_of.add(note.figure)
            if note.verdict.status in _PASSES:
                note = replace(note, verdict=_part(words))
            if note.verdict.status == "attention" and note.because_of is None:
                cause = first.setdefault((note.entity_id, words), note.figure)
                note = replace(note, because_of=cause if cause != note.figure else None)
        yield note
    for figure, words in opened.items():
        if figure not in spoken_of:
            cause = first.setdefault((figure[0], words), figure)
            yield _note(context, figure, words, cause if cause != figure else None)


def _part(words: str) -> Verdict:
    return Verdict(
        status="attention",
        reason=f"Measured with {words}: what lies beyond was not in it.",
        source="BS 7671 643.2, 643.3, 643.7 · rules 5.3, 12.2",
        next_step="Close it and test again, or leave it as a limitation.",
    )


def _calculated(context: Context, opened: dict[Figure, str]) -> None:
    """A Zs that is calculated from the R1+R2 of a part is of that part."""
    for _, circuit in context.circuits:
        words = opened.get((circuit.id, "r1_r2_ohm"))
        if words is not None and circuit.zs_ohm is not None and not is_measured(circuit.zs_ohm):
            opened[circuit.id, "zs_ohm"] = words


def _note(context: Context, figure: Figure, words: str, because: Figure | None) -> Note:
    entity_id, field = figure
    circuit = next((circuit for _, circuit in context.circuits if circuit.id == entity_id), None)
    board = next((board for board in context.inspection.boards if board.id == entity_id), None)
    kind = "circuit" if circuit is not None else "board"
    name = name_of(circuit) if circuit is not None else (board and board.name) or "Board"
    return Note(kind, entity_id, field, f"{name}: {KINDS[kind].fields[field].label}", _part(words), because_of=because)
