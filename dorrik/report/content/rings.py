"""Rings whose readings tell something: where one is open, what hangs on it, and where."""

from typing import Any

from dorrik.core.inspection.records import Inspection, name_of
from dorrik.core.judging.judgement import Judgement
from dorrik.report import ring_drawing


def section(inspection: Inspection, judgement: Judgement) -> dict[str, Any]:
    """A drawing of each ring where a place was found: of its gap, or of something at a point; with what it shows."""
    circuits = {circuit.id: circuit for board in inspection.boards for circuit in board.circuits}
    drawn = []
    for bench in judgement.benches:
        circuit = circuits.get(bench.circuit_id)
        if circuit is None or bench.form != "ring" or not bench.points:
            continue
        if bench.gap is not None or bench.across or any(point.says for point in bench.points):
            words = ring_drawing.in_words(bench, name_of(circuit))
            drawn.append({"svg": ring_drawing.drawing(bench, circuit.way or ""), "words": words})
    return {"rings": drawn}
