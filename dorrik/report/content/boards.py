"""Boards: what they are, their residual current devices, and the table of circuits with its results."""

from collections.abc import Sequence
from typing import Any

from dorrik.core.home.open_parts import standing
from dorrik.core.home.rcd_devices import RcdDevice, devices_of
from dorrik.core.inspection.circuit_columns import keys, printed
from dorrik.core.inspection.kinds import KINDS
from dorrik.core.inspection.records import Board, Circuit, Inspection, name_of
from dorrik.core.judging.judgement import Judgement
from dorrik.core.judging.topics.context import point_names
from dorrik.report.content.cells import Footnotes, Marks
from dorrik.report.content.words import facts, labels_at, shown, tick


def section(inspection: Inspection, judgement: Judgement, marks: Marks) -> dict[str, Any]:
    """The columns of the table of circuits, and every board with its own."""
    say = judgement.rule_book.translate
    return {
        "columns": [{"key": column.key, "head": say(column.printed)} for column in printed()],
        "boards": [_board(inspection, judgement, index, marks) for index in range(len(inspection.boards))],
    }


def _feed(inspection: Inspection, board: Board) -> str:
    """Which way feeds a board, on which phases, and what earth it has."""
    ways = {c.id: (b, c) for b in inspection.boards for c in b.circuits}
    parts = []
    if board.fed_by in ways:
        above, circuit = ways[board.fed_by]
        parts.append(f"Fed from {above.name or 'board'}, way {name_of(circuit)}")
    if board.phases == "3":
        parts.append("three phases")
    if board.earthing == "own electrode":
        parts.append(f"electrode of its own, RA {shown(board.electrode_ohm, 'Ω')}")
    return ", ".join(parts)


def _board(inspection: Inspection, judgement: Judgement, index: int, marks: Marks) -> dict[str, Any]:
    board = inspection.boards[index]
    notes = Footnotes()
    limits = {expected.entity_id: expected for expected in judgement.expected if expected.field == "zs_ohm"}
    sums = [board_sum for board_sum in judgement.board_sums if board_sum.board_id == board.id]
    devices = devices_of(board)
    behind = {circuit.id: device for device in devices for circuit in device.circuits}
    return {
        "name": board.name or f"Board {index + 1}",
        "feed": _feed(inspection, board),
        "facts": facts(board, "board", kind="board"),
        "sums": [
            {
                "label": KINDS["circuit"].fields[board_sum.field].label,
                "value": f"{board_sum.combined.text} MΩ",
                "says": board_sum.verdict.reason,
            }
            for board_sum in sums
        ],
        # A device behind which stands one circuit is told in that circuit's row.
        "rcds": [_rcd(device, notes, marks) for device in devices if _of_its_own(device)],
        "said": " ".join(filter(None, _said(inspection, board))),
        "circuits": [
            _circuit(circuit, limits.get(circuit.id), behind.get(circuit.id), notes, marks)
            for circuit in board.circuits
        ],
        "notes": notes.listed(),
        "marked": any(figure[0] == of for of in _ids(board, devices) for figure in marks),
    }


def _ids(board: Board, devices: Sequence[RcdDevice]) -> set[str]:
    return {circuit.id for circuit in board.circuits} | {device.id for device in devices}


def _of_its_own(device: RcdDevice) -> bool:
    """Is there more to tell of it than its circuit's row has room for?"""
    return device.entity == "rcd" or device.half is not None or device.five_ms is not None


def _rcd(device: RcdDevice, notes: Footnotes, marks: Marks) -> dict[str, Any]:
    """A device that stands for several circuits, or in front of the board, with its tests."""
    ways = "the whole board" if device.whole_board else ", ".join(c.way or "?" for c in device.circuits)
    return {
        "name": device.name,
        "behind": ways,
        "standard": " ".join(part for part in (device.standard, device.kind and f"type {device.kind}") if part) or "–",
        "cells": [
            notes.cell(shown(device.rated_ma)),
            *(
                notes.cell(tick(value) if name in ("half", "button") else value, marks.get((device.id, at), ""))
                for name in ("trip_ms", "half", "five_ms", "button")
                for value, at in ((getattr(device, name), device.field(name)),)
            ),
        ],
    }


def _said(inspection: Inspection, board: Board) -> tuple[str, ...]:
    """Sentences printed above the table of circuits; '' for each that does not apply."""
    return _said_of(board), _arc_fault(board), _labels(inspection, board), _stood(inspection, board)


def _said_of(board: Board) -> str:
    """L–N may be left out where line and neutral were joined for the test to earth: that is said (rule 6.3)."""
    joined = [c for c in board.circuits if c.insulation_lne_mohm is not None and c.insulation_ln_mohm is None]
    if not joined or all(c.insulation_ln_mohm is not None for c in board.circuits if not c.spare):
        return ""
    count = f"{len(joined)} circuits" if len(joined) > 1 else "1 circuit"
    return f"Line and neutral were joined for the insulation test to earth at {count}: L–N was not measured there."


def _arc_fault(board: Board) -> str:
    """What the arc fault devices did at their test buttons."""
    pressed = [f"{name_of(c)} {c.afdd_button}" for c in board.circuits if c.afdd_button is not None]
    return f"AFDD test button: {', '.join(pressed)}." if pressed else ""


def _labels(inspection: Inspection, board: Board) -> str:
    """How each label that was looked for stands."""
    labels = labels_at(inspection, board.id)
    return f"Labels: {labels}." if labels else ""


def _stood(inspection: Inspection, board: Board) -> str:
    """How switches, breakers and isolators stood at the readings beside which that was kept."""
    circuits = {circuit.id: circuit for circuit in board.circuits}
    points = {point.id: (name, circuit) for circuit in board.circuits for name, point in point_names(circuit).items()}
    readings = []
    for position, reading in standing(inspection):
        about, field = position.about_id or "", position.field or ""
        kind, name = "circuit", ""
        if about in circuits:
            name = name_of(circuits[about])
        elif about in points:
            kind, name = "point", f"{name_of(points[about][1])}, {points[about][0]}"
        elif about == board.id:
            kind, name = "board", board.name or "the board"
        else:
            continue
        spec = KINDS[kind].fields[field]
        readings.append(f"{name}: {spec.label} {reading} {spec.unit}".strip() + f", {position.stood}")
    return f"Switch positions at the readings: {'; '.join(readings)}." if readings else ""


def _circuit(circuit: Circuit, limit: Any, rcd: RcdDevice | None, notes: Footnotes, marks: Marks) -> dict[str, Any]:
    """A row of the table: a cell for each printed column."""
    cells = {
        "way": circuit.way or "",
        "designation": circuit.designation or "",
        "form": circuit.form or "–",
        "points_served": shown(circuit.served),
        "cable": _cable(circuit),
        "device": _device(circuit),
        "rcd_rated_ma": shown(rcd.rated_ma if rcd else None),
        "r1_r2_ohm": _continuity(circuit),
        "polarity": tick(circuit.polarity),
        "zs_ohm": circuit.zs_ohm if circuit.zs_ohm is not None or not circuit.zs_not_possible else "LIM",
        "zs_limit": f"{limit.greatest:.2f}" if limit else "–",
        "rcd_trip_ms": rcd.trip_ms if rcd else None,
        "rcd_button": tick(rcd.button if rcd else None),
    }
    reasons = {"zs_ohm": circuit.zs_not_possible or "" if cells["zs_ohm"] == "LIM" else ""}

    def mark(key: str) -> str:
        if rcd is not None and key.startswith("rcd_") and rcd.entity == "rcd":
            return marks.get((rcd.id, key.removeprefix("rcd_")), "")
        of = "long_lead_r2_ohm" if key == "r1_r2_ohm" and circuit.r1_r2_ohm is None else key
        return marks.get((circuit.id, of), "")

    return {
        "spare": bool(circuit.spare),
        "way": cells["way"],
        "cells": [
            notes.cell(cells[key] if key in cells else getattr(circuit, key), mark(key), reasons.get(key, ""))
            for key in keys(printed())
        ],
    }


def _cable(circuit: Circuit) -> str:
    if circuit.imperial:
        return circuit.imperial
    if circuit.line_csa_mm2 and circuit.cpc_csa_mm2:
        return f"{circuit.line_csa_mm2:g}/{circuit.cpc_csa_mm2:g}"
    return shown(circuit.line_csa_mm2)


def _device(circuit: Circuit) -> str:
    rating = f"{circuit.device_rating_a:g}" if circuit.device_rating_a else ""
    return " ".join(part for part in (circuit.device_standard, circuit.device_type, rating) if part) or "–"


def _continuity(circuit: Circuit) -> Any:
    """R1+R2, or R2 by long lead where that was the method, marked as such."""
    if circuit.r1_r2_ohm is None and circuit.long_lead_r2_ohm is not None:
        long_lead = circuit.long_lead_r2_ohm
        return f"R2 {shown(long_lead)}" if long_lead.kind != "limitation" else long_lead
    return "no cpc" if circuit.no_cpc and circuit.r1_r2_ohm is None else circuit.r1_r2_ohm
