"""Extent and limitations: what was agreed, what was left out, and how far sampling went."""

from typing import Any

from dorrik.core.inspection import Inspection
from dorrik.core.judgement import Judgement
from dorrik.report.content.limited import limited
from dorrik.report.content.words import day


def section(inspection: Inspection, judgement: Judgement) -> dict[str, Any]:
    """Agreed extent, limitations as recorded and as readings say them, and what they leave open."""
    return {
        "extent": inspection.extent or "",
        "limitations": [
            {
                "what": one.what or "",
                "reason": one.reason or "",
                "agreed_with": ", ".join(p for p in (one.agreed_with, day(one.agreed_on)) if p),
            }
            for one in inspection.limitations
        ],
        "limited": limited(inspection, judgement.rule_book),
        "limited_warning": judgement.progress.limited_warning,
        "sampling": judgement.sampling.says if judgement.sampling else None,
    }
