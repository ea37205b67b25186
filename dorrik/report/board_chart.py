"""The circuit chart that hangs in a board: each way with its circuit, device, RCD and points, as it was left."""

from typing import Any

from dorrik.core.home.rcd_devices import devices_of
from dorrik.core.inspection.records import Board, Circuit, Inspection
from dorrik.report import press
from dorrik.report.content import Issue, day
from dorrik.report.content.words import shown


def words(inspection: Inspection, issue: Issue) -> dict[str, Any]:
    """What the charts say, a page a board at least."""
    return {
        "subject": "Circuit charts",
        "firm": issue.letterhead(),
        "home": ", ".join(p for p in (inspection.installation_name, inspection.property_address) if p),
        "reference": inspection.reference or "",
        "on": day(inspection.inspected_on),
        "boards": [_board(board, number) for number, board in enumerate(inspection.boards, 1)],
        "caution": "Switch off and lock off before work; prove dead. Ask an electrician where a way is not as it says.",
    }


def _board(board: Board, number: int) -> dict[str, Any]:
    behind = {circuit.id: device for device in devices_of(board) for circuit in device.circuits}
    main = f"Main switch {board.main_switch_a:g} A" if board.main_switch_a else ""
    return {
        "name": board.name or f"Board {number}",
        "about": main,
        "rows": [_row(circuit, behind.get(circuit.id)) for circuit in board.circuits],
    }


def _row(circuit: Circuit, rcd: Any) -> dict[str, str]:
    rating = f"{circuit.device_rating_a:g} A" if circuit.device_rating_a else ""
    return {
        "way": circuit.way or "",
        "circuit": circuit.designation or "not identified",
        "device": " ".join(part for part in (circuit.device_type or "", rating) if part) or "–",
        "rcd": f"{rcd.rated_ma:g} mA" if rcd is not None and rcd.rated_ma else "–",
        "points": shown(circuit.served) or "–",
    }


def sheet(chart_words: dict[str, Any], issue: Issue) -> bytes:
    """The charts as PDF. Raises press.TypesettingTooLarge or Late."""
    return press.letter("board_chart", chart_words, issue.issued_on)
