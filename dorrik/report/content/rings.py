"""Rings whose readings tell something: where one is open, what hangs on it, and where."""

from typing import Any

from dorrik.core.inspection.records import Inspection, name_of
from dorrik.core.judging.judgement import Judgement
from dorrik.report import drawn


def section(inspection: Inspection, judgement: Judgement) -> dict[str, Any]:
    """A drawing of each ring where a place was found: of its gap, or of something at a point; with what it shows."""
    circuits = {circuit.id: circuit for board in inspection.boards for circuit in board.circuits}
    rings = []
    for bench in judgement.benches:
        circuit, drawing = circuits.get(bench.circuit_id), judgement.ring_drawings.get(bench.circuit_id)
        if circuit is None or drawing is None:
            continue
        if bench.gap is not None or bench.across or any(point.says for point in bench.points):
            rings.append({"svg": drawn.svg(drawing), "words": f"{name_of(circuit)}: {drawing.says}"})
    return {"rings": rings}
