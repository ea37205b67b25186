"""The job and the visits: what was agreed, who was there when, with which instruments."""

from typing import Any

from dorrik.core.home.ages import Part
from dorrik.core.home.instruments import nulls
from dorrik.core.inspection.records import Attendance, Board, Inspection, InstrumentUsed, Isolation, name_of
from dorrik.core.judging.coverage.what_tests_tell import of_tests_made
from dorrik.core.judging.judgement import Judgement
from dorrik.report.content.words import day, facts, hour, moment


def section(inspection: Inspection, judgement: Judgement) -> dict[str, Any]:
    """Facts, visits, instruments, isolations, and what was carried over and not confirmed."""
    return {
        "facts": facts(inspection, "job"),
        "visits": [_visit(attendance) for attendance in inspection.attendances],
        "instruments": [_instrument(instrument_used) for instrument_used in inspection.instruments_used],
        "nulls": _nulls(inspection),
        "isolations": [
            {"board": board.name or "Board", "says": _isolation(board, isolation)}
            for board in inspection.boards
            for isolation in board.isolations
        ],
        "parts": [_part(part) for part in judgement.parts if part.evidence],
        "no_photos": bool(inspection.no_photos),
        "tests_tell": [{"test": meaning.test, "means": meaning.means} for meaning in of_tests_made(inspection)],
        "evidence": judgement.evidence.says,
        "unconfirmed": _unconfirmed(inspection),
    }


def _visit(attendance: Attendance) -> str:
    left = moment(attendance.left_at)
    if (
        attendance.arrived_at
        and attendance.left_at
        and moment(attendance.arrived_at).rpartition(",")[0] == left.rpartition(",")[0]
    ):
        left = hour(attendance.left_at)
    text = f"{attendance.who or 'Somebody'}: {moment(attendance.arrived_at)} to {left}"
    by = attendance.countersigned_by or "a competent person"
    signed = f"readings countersigned by {by}, {moment(attendance.countersigned_at)}"
    known = [attendance.purpose, signed if attendance.countersigned_at else None]
    more = ", ".join(part for part in known if part)
    return f"{text} ({more})" if more else text


def _instrument(instrument_used: InstrumentUsed) -> dict[str, str]:
    """What an instrument is, with its serial number and how long its calibration holds."""
    return {
        "name": instrument_used.name or "Instrument",
        "kind": instrument_used.kind or "",
        "serial": instrument_used.serial or "–",
        "calibration": day(instrument_used.calibration_due) or "not recorded",
    }


def _nulls(inspection: Inspection) -> str:
    """The nulls of each lead set, with what did not read as it should; '' where none was noted."""
    by_set: dict[str, list[str]] = {}
    for null in nulls(inspection.lead_nulls):
        if null.null.reading_ohm is not None:
            off = " (not as these leads should read)" if null.verdict.status in ("attention", "fail") else ""
            text = f"{null.null.reading_ohm.text} Ω at {hour(null.null.nulled_at)}{off}"
            by_set.setdefault(null.null.name or "Leads", []).append(text)
    return "; ".join(f"{name}: {', '.join(texts)}" for name, texts in by_set.items())


def _isolation(board: Board, isolation: Isolation) -> str:
    """One safe isolation: where, when, how it was locked, that it was proved dead, and when it was put back."""
    if not isolation.isolated_at:
        return "begun, not isolated"
    parts = [
        f"isolated {moment(isolation.isolated_at)}"
        + (f" at {isolation.isolated_where}" if isolation.isolated_where else "")
    ]
    parts += [f"lock and tag {isolation.lock}"] if isolation.lock else []
    parts.append(f"proved dead {hour(isolation.proved_again_at)}" if isolation.proved_dead else "not proved dead")
    parts.append(f"restored {hour(isolation.restored_at)}" if isolation.restored_at else "not restored yet")
    return ", ".join(parts)


def _unconfirmed(inspection: Inspection) -> list[str]:
    """What was carried over from earlier papers and not confirmed on site: its reader has to know."""
    return [
        f"{board.name or 'Board'}, {name_of(circuit)}"
        for board in inspection.boards
        for circuit in board.circuits
        if circuit.unconfirmed
    ]


def _part(part: Part) -> dict[str, str]:
    """A part of the home with its years and what they are known by."""
    if not part.agrees:
        years = "its evidence does not agree"
    elif part.from_year and part.to_year:
        years = f"{part.from_year} to {part.to_year}"
    else:
        years = (
            f"{part.from_year} or later" if part.from_year else f"{part.to_year} or earlier" if part.to_year else "–"
        )
    return {"name": part.name, "years": years, "evidence": "; ".join(part.evidence)}
