"""The job and the visits: what was agreed, who was there when, with which instruments."""

from typing import Any

from dorrik.core.ages import Part
from dorrik.core.inspection import Attendance, Inspection, InstrumentUsed, name_of
from dorrik.core.judgement import Judgement
from dorrik.core.what_tests_tell import of_tests_made
from dorrik.report.content.words import day, facts, moment

#: Facts of the job that are printed.
_FACTS = ("occupier_name", "tenure", "purpose")


def section(inspection: Inspection, judgement: Judgement) -> dict[str, Any]:
    """Facts, visits, instruments, and what was carried over and not confirmed."""
    return {
        "facts": facts(inspection, *_FACTS),
        "visits": [_visit(one) for one in inspection.attendances],
        "instruments": [_instrument(one) for one in inspection.instruments_used],
        "parts": [_part(one) for one in judgement.parts if one.evidence],
        "no_photos": bool(inspection.no_photos),
        "tests_tell": [{"test": one.test, "means": one.means} for one in of_tests_made(inspection)],
        "evidence": judgement.evidence.says,
        "unconfirmed": _unconfirmed(inspection),
    }


def _visit(one: Attendance) -> str:
    said = f"{one.who or 'Somebody'}: {moment(one.arrived_at)} to {moment(one.left_at)}"
    signed = f"readings countersigned by {one.countersigned_by or 'a competent person'}, {moment(one.countersigned_at)}"
    known = [one.purpose, signed if one.countersigned_at else None]
    more = ", ".join(part for part in known if part)
    return f"{said} ({more})" if more else said


def _instrument(one: InstrumentUsed) -> str:
    said = " ".join(part for part in (one.name, one.serial) if part) or "Instrument"
    return said + (f", calibration due {day(one.calibration_due)}" if one.calibration_due else "")


def _unconfirmed(inspection: Inspection) -> list[str]:
    """What was carried over from earlier papers and not confirmed on site: its reader has to know."""
    return [
        f"{board.name or 'Board'}, {name_of(circuit)}"
        for board in inspection.boards
        for circuit in board.circuits
        if circuit.unconfirmed
    ]


def _part(one: Part) -> dict[str, str]:
    """A part of the home with its years and what they are known by."""
    if not one.agrees:
        years = "its evidence does not agree"
    elif one.from_year and one.to_year:
        years = f"{one.from_year} to {one.to_year}"
    else:
        years = f"{one.from_year} or later" if one.from_year else f"{one.to_year} or earlier" if one.to_year else "–"
    return {"name": one.name, "years": years, "evidence": "; ".join(one.evidence)}
