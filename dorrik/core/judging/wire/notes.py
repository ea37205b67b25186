"""Notes and other verdicts as they go over the wire."""

from typing import Any, Literal

from dorrik.core.basics.record import record
from dorrik.core.basics.verdict import Status
from dorrik.core.inspection.kinds import stage_of
from dorrik.core.inspection.stages import Stage
from dorrik.core.judging.judgement import Note
from dorrik.core.judging.served.expected import Expected
from dorrik.core.judging.topics.insulation_of_boards import BoardSum
from dorrik.core.judging.topics.note import Action, Figure


@record
class FigureView:
    """One figure: which field of which entity."""

    id: str
    field: str


@record
class ActionView:
    """What a note offers, carried out in one tap: 'set' a field, 'observe' a catalogue entry, 'letter', 'hold', and
    that the operator was called ('call')."""

    kind: Literal["set", "observe", "letter", "hold", "call"]
    label: str
    entity: str
    id: str
    field: str
    value: Any
    key: str


@record
class OverruledView:
    """The inspector's own view of a figure, beside the verdict."""

    status: Status
    reason: str | None


@record
class NoteView:
    """A verdict on a figure.

    of: the name of what it speaks of; words: what was looked at or measured; stage: where it stands; standing: the
    status that counts, the inspector's own where it was overruled; touches: ids of the circuits it is about;
    because_of: the figure under which it is folded; actions: what it offers; on_record: an observation says it already.
    """

    entity: str
    id: str
    field: str
    title: str
    of: str
    words: str
    status: Status
    reason: str
    limit: float | None
    margin: float | None
    next_step: str | None
    observation: str | None
    source: str
    stage: Stage
    standing: Status
    touches: tuple[str, ...]
    because_of: FigureView | None
    actions: tuple[ActionView, ...]
    on_record: bool
    asks: bool
    overruled: OverruledView | None


@record
class ExpectedView:
    """What a figure should be before it is measured, in its unit, and that in words."""

    id: str
    field: str
    least: float | None
    greatest: float | None
    says: str


@record
class BoardSumView:
    """The insulation of a whole board from that of its circuits (MΩ, as written), with its verdict."""

    board_id: str
    field: str
    combined: str
    status: Status
    reason: str
    next_step: str | None
    source: str
    observation: str | None
    culprits: tuple[str, ...]
    title: str
    missing: tuple[str, ...]
    touches: tuple[str, ...]
    because_of: FigureView | None


def note_view(note: Note, words: str, on_record: bool) -> NoteView:
    """A note as it goes over the wire. words: what was looked at, in the words of the rule book in use; on_record: an
    observation says it already."""
    verdict = note.verdict
    return NoteView(
        note.entity,
        note.entity_id,
        note.field,
        note.title,
        note.of,
        words,
        verdict.status,
        verdict.reason,
        verdict.limit,
        verdict.margin,
        verdict.next_step,
        verdict.observation,
        verdict.source,
        note.stage or stage_of(note.entity, note.field),
        note.status,
        note.touches,
        figure_view(note.because_of),
        tuple(
            ActionView(
                action.kind, action.label, action.entity, action.entity_id, action.field, action.value, action.key
            )
            for action in actions(note, on_record=on_record)
        ),
        on_record,
        verdict.asks,
        None if note.overruled is None else OverruledView(note.status, note.overruled.reason),
    )


def actions(note: Note, *, on_record: bool = False) -> tuple[Action, ...]:
    """Everything a note offers, its observation first; what is folded under its cause offers nothing of its own.

    on_record: an observation says it already.
    """
    if note.because_of is not None:
        return ()
    key = note.verdict.observation
    raised = (Action(kind="observe", label="Observation", key=key),) if key and note.pressing and not on_record else ()
    return (*raised, *note.offers)


def figure_view(figure: Figure | None) -> FigureView | None:
    """A figure as it goes over the wire."""
    return None if figure is None else FigureView(*figure)


def expected_view(expected: Expected) -> ExpectedView:
    """What a figure should be, as it goes over the wire."""
    return ExpectedView(expected.entity_id, expected.field, expected.least, expected.greatest, expected.says)


def board_sum_view(board_sum: BoardSum) -> BoardSumView:
    """A board's sum as it goes over the wire."""
    verdict = board_sum.verdict
    return BoardSumView(
        board_sum.board_id,
        board_sum.field,
        board_sum.combined.text,
        verdict.status,
        verdict.reason,
        verdict.next_step,
        verdict.source,
        verdict.observation,
        board_sum.culprits,
        board_sum.title,
        board_sum.missing,
        board_sum.touches,
        figure_view(board_sum.because_of),
    )
