"""Beside the last time: every figure of a circuit that an earlier report has too, and whether it changed (rule 15)."""

from typing import Any

from dorrik.core.basics.readings import Reading
from dorrik.core.inspection.circuit_columns import printed
from dorrik.core.inspection.records import Inspection, name_of
from dorrik.core.judging.judgement import Judgement
from dorrik.core.judging.topics import earlier
from dorrik.report.content.words import short_day, shown

#: The figures that tell of wear; a change of the others says as much as the marks beside them do.
_FIGURES = ("r1_r2_ohm", "insulation_ln_mohm", "insulation_lne_mohm", "zs_ohm", "rcd_trip_ms")
#: Every figure of that many circuits at most; beyond, only what changed.
_MOST = 16


def section(inspection: Inspection, judgement: Judgement) -> dict[str, Any]:
    """Columns of figures, a row a circuit with the last earlier reading, today's and the mark of one that is worse."""
    heads = {column.key: column.printed for column in printed()}
    worse = {n.figure for n in judgement.notes if n.verdict.source == earlier.SOURCE and n.status == "attention"}
    days: set[str] = set()
    rows: list[tuple[str, dict[str, dict[str, Any]]]] = []
    for board in inspection.boards:
        for circuit in board.circuits:
            cells: dict[str, dict[str, Any]] = {}
            for before in sorted(circuit.earlier, key=lambda e: e.measured_on or ""):
                figure = before.figure or ""
                if figure in _FIGURES and before.reading is not None and before.measured_on:
                    days.add(before.measured_on)
                    cells[figure] = {
                        "before": _plain(before.reading),
                        "now": _plain(getattr(circuit, figure)),
                        "worse": (circuit.id, figure) in worse,
                    }
            if cells:
                rows.append((name_of(circuit), cells))
    every = len(rows) <= _MOST
    if not every:
        rows = [row for row in rows if any(cell["worse"] for cell in row[1].values())]
    figures = [figure for figure in _FIGURES if any(figure in cells for _, cells in rows)]
    return {
        "since": [{"name": name, "cells": [cells.get(figure) for figure in figures]} for name, cells in rows],
        "since_columns": [judgement.rule_book.translate(heads[figure]) for figure in figures],
        "since_days": " and ".join(short_day(day) for day in sorted(days)[-3:]),
        "since_all": every,
    }


def _plain(reading: Reading | None) -> str:
    """A reading without the reason of a limitation, which stands with the results."""
    return "LIM" if reading is not None and reading.kind == "limitation" else shown(reading)
