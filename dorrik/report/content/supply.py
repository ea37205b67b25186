"""Supply, earthing and bonds."""

from typing import Any

from dorrik.core.inspection.records import Bond, Inspection
from dorrik.core.judging.judgement import Judgement
from dorrik.report import drawn
from dorrik.report.content.words import facts, labels_at, shown


def section(inspection: Inspection, judgement: Judgement) -> dict[str, Any]:
    """The way of the supply as a drawing, its facts, and every main bond."""
    drawing = judgement.intake_drawing
    return {
        "intake": {"svg": drawn.svg(drawing), "words": drawing.says},
        "supply": _supply(inspection, judgement),
        "bonds": [_bond(bond) for bond in inspection.bonds],
    }


def _supply(inspection: Inspection, judgement: Judgement) -> list[dict[str, str]]:
    rows = facts(inspection, "supply")
    if inspection.supply_shared_with:
        rows.append({"label": "Supply shared with inspection", "value": inspection.supply_shared_with})
    if labels := labels_at(inspection, inspection.id):
        rows.append({"label": "Labels at the origin", "value": labels})
    rows.append({"label": "Prospective fault current recorded", "value": shown(judgement.prospective_fault_ka, "kA")})
    if judgement.between_lines_ka is not None:
        estimate = f"{shown(judgement.between_lines_ka, 'kA')} ({judgement.house_rules.three_phase_fault})"
        rows.append({"label": "Between lines, estimated", "value": estimate})
    return rows


def _bond(bond: Bond) -> dict[str, str]:
    size = f"{bond.csa_mm2:g} mm²" if bond.csa_mm2 else "–"
    return {
        "service": bond.service or "a service",
        "state": bond.state or "–",
        "size": size,
        "at_clamp": shown(bond.at_clamp_ohm, "Ω"),
        "at_pipe": shown(bond.at_pipe_ohm, "Ω"),
    }
