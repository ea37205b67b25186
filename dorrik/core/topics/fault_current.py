"""Prospective fault current against what the devices can break (rule 3.4)."""

from collections.abc import Iterator
from dataclasses import replace

from dorrik.core import devices, supply
from dorrik.core.inspection import Circuit
from dorrik.core.readings import Reading
from dorrik.core.topics.context import Context, Note, name_of, spoken


def notes(context: Context) -> Iterator[Note]:
    """One note a board, on its weakest device; a note per circuit would say the same twelve times."""
    if not spoken(context.pfc_ka):
        return
    for board in context.inspection.boards:
        weakest: tuple[float, Circuit] | None = None
        for circuit in board.circuits:
            capacity = _breaking_ka(circuit)
            if capacity is not None and (weakest is None or capacity < weakest[0]):
                weakest = (capacity, circuit)
        if weakest is None:
            continue
        title = f"{board.name or 'Board'}: fault current against {name_of(weakest[1])}"
        verdict = supply.judge_breaking_capacity(context.pfc_ka, weakest[0], board.conditional_ka)
        if context.inspection.phases == "3" and verdict.status == "pass":
            # A fault between lines is the greater one; it is estimated, never measured here.
            between = between_lines_ka(context)
            verdict = supply.judge_breaking_capacity(between, weakest[0], board.conditional_ka)
            estimate = f"{context.house.three_phase_fault}, {context.pfc_ka} kA"
            verdict = replace(verdict, reason=f"Between lines ({estimate}): {verdict.reason}")
        yield Note("board", board.id, "conditional_ka", title, verdict)


def between_lines_ka(context: Context) -> Reading | None:
    """The estimated fault current between lines (kA) of a three-phase supply; None on one phase."""
    measured = context.pfc_ka
    if context.inspection.phases != "3" or measured is None or measured.value is None:
        return None
    safe = context.house.three_phase_fault.startswith("2")
    return Reading.of(supply.line_to_line_a(measured.value, safe=safe), measured.bound)


def _breaking_ka(circuit: Circuit) -> float | None:
    if circuit.device_breaking_ka is not None:
        return circuit.device_breaking_ka
    if not (circuit.device_standard and circuit.device_type and circuit.device_rating_a):
        return None
    try:
        return devices.find(circuit.device_standard, circuit.device_type, circuit.device_rating_a).breaking_ka
    except LookupError:
        return None
