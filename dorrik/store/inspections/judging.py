"""Judging an inspection as it is kept: the document from the tables, from the journal when readings were made."""

from sqlalchemy import Connection

from dorrik.core.inspection.records import Inspection
from dorrik.core.judging.judgement import Judgement, judge
from dorrik.store.inspections.inspections import KeptInspection, assemble
from dorrik.store.inspections.measured import measured_at, not_countersigned


def judged(connection: Connection, kept: KeptInspection) -> tuple[Inspection, Judgement]:
    """The inspection as the rules see it, and its judgement."""
    inspection = assemble(kept)
    return inspection, judge(
        inspection,
        measured_at(connection, inspection, kept.seq),
        not_countersigned(connection, inspection, kept.seq),
    )
