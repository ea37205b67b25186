"""The circuit chart of an inspection as CSV, for other programs; our own import reads it back."""

import csv
import io

from dorrik.core.circuit_columns import keys, written
from dorrik.core.inspection import Board, Circuit, Inspection
from dorrik.core.readings import Reading
from dorrik.report.tables import as_text

HEAD = tuple(column.csv for column in written())


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
    own = {"board": board.name, "points_served": circuit.served}
    return [own[key] if key in own else getattr(circuit, key) for key in keys(written())]


def _cell(value: object) -> str:
    if value is None:
        return ""
    if isinstance(value, float):
        return f"{value:g}"
    text = value.text if isinstance(value, Reading) else str(value)
    return as_text(text)
