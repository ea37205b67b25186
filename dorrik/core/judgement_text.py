"""The judgement as text for a person at a terminal."""

from collections.abc import Iterator

from dorrik.core.judgement import Judgement, Note


def as_text(judgement: Judgement) -> str:
    """Everything that was judged, what it would raise, and what is left, line by line."""
    return "\n".join(_lines(judgement))


def _lines(judgement: Judgement) -> Iterator[str]:
    yield f"Outcome by the open codes: {judgement.outcome}"
    yield f"Rule book: {judgement.rule_book.name}"
    yield ""
    for note in judgement.notes:
        yield f"{note.verdict.status:>9}  {note.title}: {note.verdict.reason}{_overruled(note)} [{note.verdict.source}]"
    for one in judgement.board_sums:
        yield f"{one.verdict.status:>9}  Whole board, {one.field}: {one.verdict.reason}"
    for suggestion in judgement.suggested:
        if suggestion.recorded is None:
            yield f"  suggest  {suggestion.code} {suggestion.title}: {suggestion.because[0]}"
    if judgement.sampling is not None:
        yield f"   sample  {judgement.sampling.says} {judgement.sampling.reason}"
        if judgement.sampling.left:
            yield f"   sample  not opened yet: {', '.join(judgement.sampling.left)}"
    for stage in judgement.progress.stages:
        if stage.left:
            yield f"     left  {stage.stage}: {', '.join(stage.left_names)}"
    if judgement.progress.limited_warning:
        yield f"  limited  {judgement.progress.limited_warning}"
    yield ""
    yield judgement.rule_book.caution


def _overruled(note: Note) -> str:
    return f" The inspector: {note.status}. {note.overruled.reason}" if note.overruled else ""
