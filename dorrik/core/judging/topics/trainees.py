"""Readings that a trainee took: whose they are, and that a competent person has yet to sign for them."""

from collections.abc import Iterator

from dorrik.core.basics.record import record
from dorrik.core.basics.verdict import Verdict
from dorrik.core.judging.topics.context import Context, Note
from dorrik.core.judging.topics.note import Figure

SOURCE = "BS 7671 641.6, who inspects · stage 8 of the work"


@record
class ToCountersign:
    """A trainee, by their attendance and name, and the figures of theirs that nobody has signed for yet."""

    attendance_id: str
    who: str
    figures: tuple[Figure, ...]


def to_countersign(context: Context) -> Iterator[ToCountersign]:
    """Trainees with readings that stand and are not countersigned, in the order in which they came."""
    for attendance in context.inspection.attendances:
        figures = context.by_trainees.get(attendance.id, ())
        if figures:
            yield ToCountersign(attendance.id, attendance.who or "a trainee", figures)


def notes(context: Context) -> Iterator[Note]:
    """One note for each trainee: nothing rests on a reading that nobody answers for."""
    for trainee in to_countersign(context):
        count = len(trainee.figures)
        verdict = Verdict(
            status="attention",
            reason=f"{count} {'reading' if count == 1 else 'readings'} by {trainee.who}, not countersigned.",
            source=SOURCE,
            next_step="Look them over, measure again what you doubt, then countersign.",
            asks=True,
        )
        yield Note("attendance", trainee.attendance_id, "countersigned_at", f"{trainee.who}: readings", verdict)
