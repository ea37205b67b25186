"""A portfolio as a table (CSV), with the heads by which it is taken in again."""

import csv
import io
from collections.abc import Iterable

from dorrik.core.work.portfolio_view import ViewedProperty
from dorrik.report.tables import as_text

HEADS = (
    "Address", "Their reference", "Client", "Nation", "Due", "State", "Day", "Late", "Next step", "Who has it",
    "Also open", "Latitude", "Longitude",
)  # fmt: skip


def write(properties: Iterable[ViewedProperty]) -> str:
    """The table, a line a property."""
    out = io.StringIO()
    lines = csv.writer(out)
    lines.writerow(HEADS)
    for home in properties:
        first = home.line.first
        lines.writerow([
            as_text(home.address), as_text(home.reference), as_text(home.client), home.nation, home.due_on or "",
            first.state, first.on or "", "yes" if first.late else "", first.next_step, first.holder,
            "; ".join(standing.state for standing in home.line.also),
            "" if home.latitude is None else home.latitude, "" if home.longitude is None else home.longitude,
        ])  # fmt: skip
    return out.getvalue()
