"""Judging an inspection as it is kept: the document from the tables, from the journal which readings are in doubt."""

from sqlalchemy import Connection

from dorrik.core.inspection import Inspection
from dorrik.core.judgement import Judgement, judge
from dorrik.store.doubtful import doubtful
from dorrik.store.inspections import KeptInspection, assemble


def judged(connection: Connection, kept: KeptInspection) -> tuple[Inspection, Judgement]:
    """The inspection as the rules see it, and its judgement."""
    inspection = assemble(kept)
    return inspection, judge(inspection, doubtful(connection, inspection))
