"""Points that were measured: each with its figures, circuit by circuit; only the columns that hold any."""

from typing import Any

from dorrik.core.basics.readings import Reading
from dorrik.core.home import gangs
from dorrik.core.home.placing import placed, room_name
from dorrik.core.inspection.records import Board, Circuit, Inspection, Point, name_of
from dorrik.core.judging.topics.context import point_names
from dorrik.report.content.cells import Footnotes, Marks
from dorrik.report.content.words import tick

#: Field: its head.
_FIGURES = {
    "line_neutral_ohm": "L–N Ω", "line_cpc_ohm": "L–cpc Ω", "r2_ohm": "R2 Ω", "leg_one_ohm": "end 1 Ω",
    "leg_two_ohm": "end 2 Ω", "zs_ohm": "Zs Ω", "supplementary_ohm": "to metal Ω", "line_neutral_v": "L–N V",
    "line_earth_v": "L–E V", "neutral_earth_v": "N–E V", "metal_earth_v": "metal V", "polarity": "Polarity",
    "centre_contact": "Centre", "functional": "Works",
}  # fmt: skip
_CHECKS = ("polarity", "centre_contact", "functional")
#: So many rows stand in one column of a pair before the next pair begins: about a page.
ROWS = 28


def section(inspection: Inspection, marks: Marks) -> dict[str, Any]:
    """The points with a figure. Two to a line of the page: pairs of columns, each no longer than a page."""
    whole = placed(inspection)
    several = len(whole.boards) > 1
    notes = Footnotes()
    measured = [
        (board, circuit, name, point)
        for board in whole.boards
        for circuit in board.circuits
        for name, point in point_names(circuit).items()
        if any(_figure(point, field) is not None for field in _FIGURES)
    ]
    fields = [field for field in _FIGURES if any(_figure(point, field) is not None for *_, point in measured)]
    rows: list[dict[str, Any]] = []
    last = ""
    for board, circuit, name, point in measured:
        if circuit.id != last:
            rows.append({"head": _head(board, circuit, several=several)})
            last = circuit.id
        cells = [_cell(point, field, notes, marks) for field in fields]
        rows.append({"head": "", "name": _named(whole, name, point), "cells": cells})
    return {
        "points": _pairs(rows),
        "point_columns": [_FIGURES[field] for field in fields],
        "point_notes": notes.listed(),
    }


def _pairs(rows: list[dict[str, Any]]) -> list[list[list[dict[str, Any]]]]:
    pairs = []
    for start in range(0, len(rows), 2 * ROWS):
        part = rows[start : start + 2 * ROWS]
        half = (len(part) + 1) // 2
        # A circuit's name stands over its first point, not alone at the foot of a column.
        if half < len(part) and part[half - 1]["head"]:
            half -= 1
        pairs.append([part[:half], part[half:]])
    return pairs


def _figure(point: Point, field: str) -> Any:
    return getattr(point, field)


def _head(board: Board, circuit: Circuit, *, several: bool) -> str:
    return f"{board.name or 'Board'}, {name_of(circuit)}" if several else name_of(circuit)


def _named(inspection: Inspection, name: str, point: Point) -> str:
    room = next((room_name(room) for room in inspection.rooms if room.id == point.room_id), point.room or "")
    return name if not room or room.casefold() in name.casefold() else f"{name}, {room}"


def _cell(point: Point, field: str, notes: Footnotes, marks: Marks) -> dict[str, Any]:
    """A figure; where each gang was tested, both."""
    value = _figure(point, field)
    mark = marks.get((point.id, field), "")
    if field in _CHECKS:
        return notes.cell(tick(value), mark)
    second = getattr(point, gangs.SECOND[field]) if field in gangs.SECOND else None
    if isinstance(value, Reading) and isinstance(second, Reading) and value.kind == second.kind == "number":
        return notes.cell(f"{value.text} / {second.text}", mark)
    return notes.cell(value, mark)
