"""The circuit chart of an inspection as CSV, for other programs; our own import reads it back."""

import csv
import io

from dorrik.core.basics.readings import Reading
from dorrik.core.inspection.circuit_columns import keys, written
from dorrik.core.inspection.records import Board, Circuit, Inspection
from dorrik.report.tables import as_text

HEAD = tuple(column.csv for column in written())


def chart(inspection: Inspection) -> str:
    """One line for each circuit, boards in their order."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\r\n")
    writer.writerow(HEAD)
    writer.writerows([as_text(value) for value in row] for row in rows(inspection))
    return out.getvalue()


def rows(inspection: Inspection) -> list[list[str]]:
    """The same as text, cell by cell, without the head."""
    return [
        [cell(value) for value in _values(board, circuit)] for board in inspection.boards for circuit in board.circuits
    ]


def _values(board: Board, circuit: Circuit) -> list[object]:
    own = {"board": board.name, "points_served": circuit.served}
    return [own[key] if key in own else getattr(circuit, key) for key in keys(written())]


def cell(value: object) -> str:
    """A value as it stands in a cell; '' for none."""
    if value is None:
        return ""
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, float):
        return f"{value:g}"
    return value.text if isinstance(value, Reading) else str(value)
