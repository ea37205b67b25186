"""Judging an inspection as it is kept: the document from the tables, from the journal when readings were made."""

from sqlalchemy import Connection

from dorrik.core.inspection.kept_inspection import KeptInspection, assemble
from dorrik.core.inspection.records import Inspection
from dorrik.core.judging.judgement import Judgement, judge
from dorrik.core.judging.lasting_judge import LastingJudge
from dorrik.store.inspections.reading_times import asks_journal, measured_at, not_countersigned


def judged(
    connection: Connection, kept: KeptInspection, lasting: LastingJudge | None = None
) -> tuple[Inspection, Judgement]:
    """The inspection as the rules see it, and its judgement. lasting: who judged it before and judges it again; nobody
    else may have them at this moment."""
    inspection = assemble(kept)
    by = judge if lasting is None else lasting.judge
    return inspection, by(
        inspection,
        measured_at(connection, inspection, kept.seq),
        not_countersigned(connection, inspection, kept.seq),
    )


def judged_alone(kept: KeptInspection, lasting: LastingJudge | None = None) -> Judgement | None:
    """The same judgement without a question to the database; None where the rules ask for what the journal knows."""
    inspection = assemble(kept)
    if asks_journal(inspection):
        return None
    return judge(inspection) if lasting is None else lasting.judge(inspection)
