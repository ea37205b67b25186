"""The judgement as text for a person at a terminal."""

from collections.abc import Iterator

from dorrik.core.judging.judgement import Judgement, Note
from dorrik.core.judging.topics.note import Figure


def as_text(judgement: Judgement) -> str:
    """Everything that was judged, what it would raise, and what is left, line by line."""
    return "\n".join(_lines(judgement))


def _lines(judgement: Judgement) -> Iterator[str]:
    yield f"Result from the codes: {judgement.outcome_says}"
    for objection in judgement.against:
        yield f"  against  {objection.says}"
    yield f"Rule book: {judgement.rule_book.name}"
    yield ""
    names = _names(judgement)
    for note in judgement.notes:
        if note.because_of is None:
            yield _line(note)
            yield from _consequences(judgement, note, names)
    for line in judgement.board_sums:
        if line.because_of is None or line.verdict.status != "fail":
            yield f"{line.verdict.status:>9}  {line.title}: {line.verdict.reason}"
    for suggestion in judgement.suggested:
        if suggestion.recorded is None:
            moved = f" ({suggestion.moved})" if suggestion.moved else ""
            yield f"  suggest  {suggestion.code} {suggestion.title}: {suggestion.because[0]}{moved}"
            for question in suggestion.questions:
                yield f"      ask  {question.ask} Then {question.code}."
    if judgement.sampling is not None:
        yield f"   sample  {judgement.sampling.says} {judgement.sampling.reason}"
        if judgement.sampling.left:
            yield f"   sample  not opened yet: {', '.join(judgement.sampling.left)}"
    for stage in judgement.progress.stages:
        if stage.left:
            yield f"     left  {stage.stage}: {', '.join(stage.left_names)}"
    if judgement.limited_share.warning:
        yield f"  limited  {judgement.limited_share.warning}"
    yield ""
    yield judgement.rule_book.caution


def _line(note: Note) -> str:
    return f"{note.verdict.status:>9}  {note.title}: {note.verdict.reason}{_overruled(note)} [{note.verdict.source}]"


def _consequences(judgement: Judgement, cause: Note, names: dict[Figure, Note]) -> Iterator[str]:
    """What follows from a note, folded into one line; said at the first note of its figure."""
    if names[cause.figure] is not cause:
        return
    follows = [n.title for n in judgement.notes if n.because_of == cause.figure]
    follows += [board_sum.title for board_sum in judgement.board_sums if board_sum.because_of == cause.figure]
    if follows:
        yield f"           and what follows from it: {'; '.join(follows)}"


def _names(judgement: Judgement) -> dict[Figure, Note]:
    notes: dict[Figure, Note] = {}
    for note in judgement.notes:
        if note.because_of is None and (note.figure not in notes or notes[note.figure].verdict.status == "pass"):
            notes[note.figure] = note
    return notes


def _overruled(note: Note) -> str:
    return f" The inspector: {note.status}. {note.overruled.reason}" if note.overruled else ""
