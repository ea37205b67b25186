"""Judging a whole inspection: every verdict, the rings, the board sums, the outcome and what is left.

The topics are in `topics`; here they are put together.
"""

from collections.abc import Iterable
from dataclasses import replace

from dorrik.core import instruments, reference
from dorrik.core.house_rules import HouseRules
from dorrik.core.inspection import Inspection
from dorrik.core.outcome import UNSATISFACTORY, Outcome, decide
from dorrik.core.progress import Progress, measure_progress
from dorrik.core.readings import Reading, accurate
from dorrik.core.record import record
from dorrik.core.ring import RingAnalysis
from dorrik.core.rule_book import RuleBook
from dorrik.core.sampling import State
from dorrik.core.topics import TOPICS, fault_current, sample
from dorrik.core.topics.context import Context, Note
from dorrik.core.topics.expected import Expected, expected
from dorrik.core.topics.insulation import BoardSum, board_sums
from dorrik.core.topics.suggested import Suggestion, suggest

__all__ = ["BoardSum", "Expected", "Judgement", "Note", "Suggestion", "judge"]


@record
class Judgement:
    """Everything that can be said of an inspection as it stands.

    rings: analysis by circuit id; prospective_fault_ka: the higher of PSCC and PEFC; between_lines_ka: the estimate of
    a three-phase supply; outcome_because: ids of the open observations that make it unsatisfactory; sampling: None
    while no points are listed.
    """

    notes: tuple[Note, ...]
    expected: tuple[Expected, ...]
    board_sums: tuple[BoardSum, ...]
    rings: dict[str, RingAnalysis]
    suggested: tuple[Suggestion, ...]
    prospective_fault_ka: Reading | None
    between_lines_ka: Reading | None
    outcome: Outcome
    outcome_because: tuple[str, ...]
    sampling: State | None
    progress: Progress
    house_rules: HouseRules
    rule_book: RuleBook


def judge(inspection: Inspection, doubtful: frozenset[tuple[str, str]] = frozenset()) -> Judgement:
    """Judge an inspection as it stands. Pure; never raises on an inspection that `document.parse` accepts.

    doubtful: entity id and field of readings that were taken while leads were in doubt (rule 1.4); the times of
    readings are in the journal, not in the document.
    """
    accuracy = instruments.accuracy(inspection.meters)
    with reference.corrected(inspection.table_corrections or ()), accurate(accuracy):
        return _judge(inspection, doubtful)


def _judge(inspection: Inspection, doubtful: frozenset[tuple[str, str]]) -> Judgement:
    context = Context(inspection, doubtful)
    notes = _overruled(inspection, (note for topic in TOPICS for note in topic(context)))
    sums = tuple(board_sums(context))
    outcome, because = _outcome(inspection)
    suggested = suggest(inspection, notes, sums, context.house)
    ahead = tuple(expected(context))
    book = context.book
    if book.other:
        notes = tuple(replace(note, title=book.say(note.title), verdict=book.speak(note.verdict)) for note in notes)
        sums = tuple(replace(one, verdict=book.speak(one.verdict)) for one in sums)
        ahead = tuple(replace(one, says=book.say(one.says)) for one in ahead)
        suggested = tuple(replace(one, because=tuple(map(book.say, one.because))) for one in suggested)
    return Judgement(
        notes=notes,
        expected=ahead,
        board_sums=sums,
        rings=context.rings,
        suggested=suggested,
        prospective_fault_ka=context.pfc_ka,
        between_lines_ka=fault_current.between_lines_ka(context),
        outcome=outcome,
        outcome_because=because,
        sampling=sample.state(context),
        progress=measure_progress(inspection, context.house),
        house_rules=context.house,
        rule_book=book,
    )


def _overruled(inspection: Inspection, notes: Iterable[Note]) -> tuple[Note, ...]:
    """Notes with the inspector's own view beside the verdict, where there is one. The verdict itself stays as it is."""
    if not inspection.overrulings:
        return tuple(notes)
    by_figure = {(one.about_id, one.field): one for one in inspection.overrulings if one.status and one.reason}
    return tuple(replace(note, overruled=by_figure.get((note.entity_id, note.field))) for note in notes)


def _outcome(inspection: Inspection) -> tuple[Outcome, tuple[str, ...]]:
    """Codes of observations that are still open; those made good on the day do not count (rule 13.5)."""
    open_ones = [o for o in inspection.observations if o.code and o.code != "note" and not o.mended]
    because = tuple(o.id for o in open_ones if o.code in UNSATISFACTORY)
    return decide(o.code for o in open_ones if o.code), because
