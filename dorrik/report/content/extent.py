"""Extent and limitations: what was agreed, what was left out, and how far sampling went."""

from typing import Any

from dorrik.core.home.placing import all_points, placed
from dorrik.core.inspection.records import Inspection
from dorrik.core.judging.judgement import Judgement
from dorrik.report.content.limited import limited
from dorrik.report.content.words import day


def section(inspection: Inspection, judgement: Judgement) -> dict[str, Any]:
    """Agreed extent, limitations as recorded and as readings say them, and what they leave open."""
    return {
        "extent": inspection.extent or "",
        "set_aside": [
            {"name": aside.name, "says": aside.says, "why": aside.why, "means": aside.means}
            for aside in judgement.set_aside
            if aside.in_force and not aside.gone
        ],
        "limitations": [
            {
                "what": limitation.what or "",
                "reason": limitation.reason or "",
                "agreed_with": ", ".join(p for p in (limitation.agreed_with, day(limitation.agreed_on)) if p),
            }
            for limitation in inspection.limitations
        ],
        "limited": limited(inspection, judgement.rule_book),
        "limited_warning": judgement.limited_share.warning,
        "sampling": judgement.sampling.says if judgement.sampling else None,
        "sampling_plainly": judgement.sampling.plainly if judgement.sampling else "",
        "sampling_drawn": _drawn(inspection, judgement),
    }


def _drawn(inspection: Inspection, judgement: Judgement) -> str:
    """How the points were chosen: the share and why, the seed with which the draw can be repeated, what was changed."""
    sampling = judgement.sampling
    if sampling is None:
        return ""
    sentences = [sampling.reason]
    if inspection.sampling_seed is not None:
        sentences.append(f"Picked at random (number {inspection.sampling_seed}).")
    if inspection.sample_share is not None and inspection.sample_share_reason:
        sentences.append(
            f"The inspector's own share of {inspection.sample_share:g} %: {inspection.sample_share_reason}"
        )
    sentences += [
        f"{p.name or p.kind or 'A point'} {p.sample} by choice: {p.sample_reason}"
        for p in all_points(placed(inspection))
        if p.sample and p.sample_reason
    ]
    sentences += [f"More points opened because of {reason}." for reason in sampling.widened]
    return " ".join(sentences)
