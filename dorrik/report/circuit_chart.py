"""The circuit chart of an inspection as CSV, for other programs; our own import reads it back."""

import csv
import io

from dorrik.core.inspection import Board, Circuit, Inspection
from dorrik.core.readings import Reading
from dorrik.report.tables import as_text

_FIGURES = (
    ("r1_ohm", "r1"),
    ("rn_ohm", "rn"),
    ("r2_ohm", "r2"),
    ("r1_r2_ohm", "R1+R2"),
    ("insulation_ln_mohm", "Insulation L-N"),
    ("insulation_lne_mohm", "Insulation L+N-E"),
    ("zs_ohm", "Zs"),
    ("rcd_trip_ms", "RCD time"),
)
HEAD = (
    "Board", "Way", "Circuit", "Form", "Points", "Line mm2", "Cpc mm2", "Device standard", "Device type",
    "Rating A", "RCD mA", *(name for _, name in _FIGURES),
)  # fmt: skip


def chart(inspection: Inspection) -> str:
    """One line for each circuit, boards in their order."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\r\n")
    writer.writerow(HEAD)
    for board in inspection.boards:
        for circuit in board.circuits:
            writer.writerow([_cell(value) for value in _values(board, circuit)])
    return out.getvalue()


def _values(board: Board, circuit: Circuit) -> list[object]:
    return [
        board.name, circuit.way, circuit.designation, circuit.form, circuit.points, circuit.line_csa_mm2,
        circuit.cpc_csa_mm2, circuit.device_standard, circuit.device_type, circuit.device_rating_a,
        circuit.rcd_rated_ma, *(getattr(circuit, field) for field, _ in _FIGURES),
    ]  # fmt: skip


def _cell(value: object) -> str:
    if value is None:
        return ""
    if isinstance(value, float):
        return f"{value:g}"
    text = value.text if isinstance(value, Reading) else str(value)
    return as_text(text)
