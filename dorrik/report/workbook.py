"""An inspection as a workbook (XLSX) for other programs: circuits, as our own import reads them back, observations
and points.

Text that begins like a formula is written as text; nothing in it runs.
"""

import io
from collections.abc import Iterable, Sequence
from typing import TYPE_CHECKING

from dorrik.core.home.placing import all_points
from dorrik.core.inspection.records import Inspection
from dorrik.core.judging.coverage.walking_order import names
from dorrik.report import circuit_chart

if TYPE_CHECKING:
    from openpyxl import Workbook

#: Sheets by their names; the first is what an import reads.
CIRCUITS, OBSERVATIONS, POINTS = "Circuits", "Observations", "Points"
_OF_AN_OBSERVATION = ("code", "place", "text", "as_left", "retest")
_OF_A_POINT = ("kind", "place", "state", "opened", "r2_ohm", "line_cpc_ohm", "line_neutral_ohm", "zs_ohm", "polarity")


def write(inspection: Inspection) -> bytes:
    """The workbook."""
    # Loaded by who asks for one: it takes a tenth of the server's start.
    from openpyxl import Workbook

    book = Workbook(write_only=True)
    _sheet(book, CIRCUITS, circuit_chart.HEAD, circuit_chart.rows(inspection))
    _sheet(
        book, OBSERVATIONS, _OF_AN_OBSERVATION,
        ([_said(getattr(observation, name)) for name in _OF_AN_OBSERVATION] for observation in inspection.observations),
    )  # fmt: skip
    named = names(inspection)
    _sheet(
        book, POINTS, ("point", *_OF_A_POINT),
        (
            [named.get(point.id, ""), *(_said(getattr(point, name, None)) for name in _OF_A_POINT)]
            for point in all_points(inspection)
        ),
    )  # fmt: skip
    out = io.BytesIO()
    book.save(out)
    return out.getvalue()


def _said(value: object) -> str:
    return circuit_chart.cell(value)


def _sheet(book: "Workbook", name: str, head: Sequence[str], rows: Iterable[Sequence[str]]) -> None:
    from openpyxl.cell import WriteOnlyCell
    from openpyxl.styles import Font

    sheet = book.create_sheet(name)
    sheet.freeze_panes = "A2"

    def text(value: str, *, bold: bool = False) -> WriteOnlyCell:
        made = WriteOnlyCell(sheet, value=value)
        # A text is a text, whatever it begins with.
        made.data_type = "s"
        if bold:
            made.font = Font(bold=True)
        return made

    sheet.append([text(cell, bold=True) for cell in head])
    for row in rows:
        sheet.append([text(cell) for cell in row])
