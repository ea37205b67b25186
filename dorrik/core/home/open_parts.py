"""Readings taken with a part of their circuit switched off, which so say nothing of that part (rules 5.3, 12.2).

A switch in the wrong position is the quietest of false comforts: a fine figure for half a circuit.
"""

from collections.abc import Iterator, Mapping
from typing import Any

from dorrik.core.home.placing import all_points
from dorrik.core.inspection.positions import Position, opening
from dorrik.core.inspection.records import Inspection

#: Readings that speak for all of a circuit, or of a board, up to its last point.
_OF_THE_WHOLE = frozenset(
    (
        *("insulation_ln_mohm", "insulation_lne_mohm", "insulation_le_mohm", "insulation_ne_mohm"),
        *("r1_r2_ohm", "live_r1_r2_ohm", "long_lead_r2_ohm", "zs_ohm"),
    )
)


def standing(inspection: Inspection) -> Iterator[tuple[Position, str]]:
    """Positions whose reading stands as it was typed, with what it reads; the latest count. Those of readings that were
    replaced wait: a reading that is put back has its own again."""
    if not inspection.positions:
        return
    things = _things(inspection)
    latest = {(p.about_id, p.field, p.of_reading): p for p in inspection.positions if p.stood}
    for position in latest.values():
        reading = getattr(things.get(position.about_id or ""), position.field or "", None)
        text = getattr(reading, "text", reading)
        if isinstance(text, str) and text == position.of_reading:
            yield position, text


def open_parts(inspection: Inspection) -> Mapping[tuple[str, str], str]:
    """What stood open, in words, by entity and field of the readings that so are of a part only."""
    return {
        (position.about_id or "", position.field): words
        for position, _ in standing(inspection)
        if position.field in _OF_THE_WHOLE and (words := opening(position.stood or ""))
    }


def _things(inspection: Inspection) -> dict[str, Any]:
    """Everything that has readings, by id."""
    circuits = [circuit for board in inspection.boards for circuit in board.circuits]
    rcds = [rcd for board in inspection.boards for rcd in board.rcds]
    every: list[Any] = [inspection, *inspection.bonds, *inspection.boards, *circuits, *rcds, *all_points(inspection)]
    return {thing.id: thing for thing in every}
