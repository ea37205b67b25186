"""What a report says, as plain data for the template: words chosen here, layout in `condition_report.typ`."""

from dataclasses import dataclass
from datetime import date
from typing import Any

from dorrik.core import catalogue, house_rules
from dorrik.core.inspection import KINDS, Attendance, Board, Bond, Circuit, Inspection, Meter, name_of
from dorrik.core.judgement import Judgement, is_open
from dorrik.core.outcome import MEANING, ORDER
from dorrik.core.rcd_devices import RcdDevice, devices_of
from dorrik.core.readings import Reading
from dorrik.core.topics.interval import DutyDue
from dorrik.report.limited import limited

_ORDER = {code: place for place, code in enumerate(ORDER)}


@dataclass(frozen=True, slots=True)
class Issue:
    """The issue that a document belongs to; number 0 for a draft. replaces: number of the issue it corrects."""

    number: int
    issued_on: date
    signed_by: str
    role: str
    firm_name: str
    firm_address: str
    firm_phone: str
    replaces: int | None = None
    reason: str | None = None
    firm_email: str = ""
    firm_line: str = ""

    def letterhead(self) -> dict[str, str]:
        """What stands at the head of the paper."""
        return {
            "name": self.firm_name,
            "address": self.firm_address,
            "phone": self.firm_phone,
            "email": self.firm_email,
            "line": self.firm_line,
        }


def content(inspection: Inspection, judgement: Judgement, issue: Issue) -> dict[str, Any]:
    """Everything the template prints, as JSON data."""
    declared = inspection.declared_outcome or judgement.outcome_says
    say = judgement.rule_book.say
    return {
        "draft": issue.number == 0,
        "issue": {
            "number": issue.number,
            "on": day(issue.issued_on),
            "signed_by": issue.signed_by,
            "role": issue.role,
            "replaces": issue.replaces,
            "reason": issue.reason,
        },
        "firm": issue.letterhead(),
        "title": judgement.rule_book.report,
        "reference": inspection.reference or "no reference",
        "property": ", ".join(p for p in (inspection.installation_name, inspection.property_address) if p),
        "client": {"name": inspection.client_name or "", "address": inspection.client_address or ""},
        "facts": _facts(inspection, *_JOB),
        "inspected_on": day(inspection.inspected_on),
        "outcome": declared,
        "why": _why(inspection, judgement, declared),
        "outcome_reason": inspection.outcome_reason if declared != judgement.outcome else None,
        "duties": [_duty(one) for one in judgement.duties],
        "next": _next(inspection),
        "condition": inspection.condition,
        "extent": inspection.extent or "",
        "limitations": [
            {
                "what": one.what or "",
                "reason": one.reason or "",
                "agreed_with": ", ".join(p for p in (one.agreed_with, day(one.agreed_on)) if p),
            }
            for one in inspection.limitations
        ],
        "limited": limited(inspection, judgement.rule_book),
        "visits": [_visit(one) for one in inspection.attendances],
        "instruments": [_instrument(one) for one in inspection.meters],
        "unconfirmed": _unconfirmed(inspection),
        "limited_warning": judgement.progress.limited_warning,
        "sampling": judgement.sampling.says if judgement.sampling else None,
        "observations": _observations(inspection),
        "meaning": [{"code": code, "means": MEANING[code]} for code in ("C1", "C2", "C3", "FI")],
        "supply": _supply(inspection, judgement),
        "bonds": [_bond(bond) for bond in inspection.bonds],
        "overrulings": _overrulings(judgement),
        "corrections": [
            f"{one.table}, {one.row}, {one.column}: {one.value or 'empty'} ({one.why})"
            for one in inspection.table_corrections or ()
        ],
        "heads": {"r1_r2": say("R1+R2"), "r2": say("Cpc"), "order": list(judgement.rule_book.order)},
        "boards": [_board(inspection, judgement, index) for index in range(len(inspection.boards))],
        "rule_book": judgement.rule_book.name,
        "caution": judgement.rule_book.caution,
        "house_rules": [
            {
                "label": option["label"],
                "value": house_rules.shown(chosen),
                "usual": house_rules.shown(option["default"]),
            }
            for name, option in house_rules.options().items()
            if (chosen := getattr(judgement.house_rules, name)) != option["default"]
        ],
    }


def day(given: date | str | None) -> str:
    """A date in words, '' for none."""
    if given is None:
        return ""
    found = date.fromisoformat(given) if isinstance(given, str) else given
    return f"{found.day} {found:%B %Y}"


def shown(value: Any, unit: str = "") -> str:
    """A value as documents print it: readings as written, with their unit where they are figures."""
    if value is None:
        return "–"
    if isinstance(value, Reading):
        plain = value.value is not None
        return f"{value.text} {unit}".strip() if plain else value.text
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, float):
        return f"{value:g} {unit}".strip()
    return str(value)


def _facts(entity: Any, *names: str, kind: str = "inspection") -> list[dict[str, str]]:
    specs = KINDS[kind].fields
    return [{"label": specs[name].label, "value": shown(getattr(entity, name), specs[name].unit)} for name in names]


#: Facts of the job that are printed, where there is something to print for the last ones.
_JOB = ("occupier_name", "tenure", "purpose")


def _visit(one: Attendance) -> str:
    said = f"{one.who or 'Somebody'}: {_moment(one.arrived_at)} to {_moment(one.left_at)}"
    return said + (f" ({one.purpose})" if one.purpose else "")


def _moment(at: str | None) -> str:
    """A moment as the report prints it; universal time, as it is kept."""
    return f"{day(at[:10])} {at[11:16]} UTC" if at else "–"


def _instrument(one: Meter) -> str:
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


def _why(inspection: Inspection, judgement: Judgement, declared: str) -> str:
    because = [o for o in inspection.observations if o.id in set(judgement.outcome_because)]
    if not because:
        return (
            "No observation with code C1, C2 or FI is open."
            if declared == "satisfactory"
            else "The inspector's own reason is given below."
        )
    counts = [(code, sum(o.code == code for o in because)) for code in ("C1", "C2", "FI")]
    told = ", ".join(f"{count} × {code} ({MEANING[code]})" for code, count in counts if count)
    return (
        f"Open observations: {told}. Each has to be put right or looked into before the installation is satisfactory."
    )


def _next(inspection: Inspection) -> dict[str, str]:
    if inspection.next_years is None or inspection.inspected_on is None:
        return {"by": "", "reason": inspection.next_reason or ""}
    start = date.fromisoformat(inspection.inspected_on)
    try:
        due = start.replace(year=start.year + inspection.next_years)
    except ValueError:  # 29 February
        due = start.replace(year=start.year + inspection.next_years, day=28)
    years = f"{inspection.next_years} year" + ("s" if inspection.next_years > 1 else "")
    return {"by": f"{day(due)} ({years})", "reason": inspection.next_reason or ""}


def _duty(one: DutyDue) -> str:
    """A duty with its last day, or what it is counted from."""
    if one.due:
        return f"{one.duty}: by {day(one.due)}"
    if one.days:
        return f"{one.duty}: within {one.days} days of {one.counted_from}"
    return f"{one.duty} ({one.counted_from})" if one.counted_from else one.duty


def _observations(inspection: Inspection) -> list[dict[str, Any]]:
    rows = []
    for one in sorted(inspection.observations, key=lambda o: (_ORDER.get(o.code or "", 9), o.id)):
        entry = catalogue.entries().get(one.catalogue_key or "")
        rows.append(
            {
                "code": one.code or "",
                "means": MEANING.get(one.code or "", ""),
                "place": one.place or "",
                "text": one.text or "",
                "plain": entry.plain if entry else "",
                "remedy": entry.remedy if entry and not one.mended else "",
                "mended": bool(one.mended),
                "as_left": one.as_left or "",
                "retest": one.retest or "",
                "counts": is_open(one),
            }
        )
    return rows


def _supply(inspection: Inspection, judgement: Judgement) -> list[dict[str, str]]:
    facts = _facts(
        inspection,
        "earthing",
        "phases",
        "service_fuse_standard",
        "service_fuse_a",
        "tails_mm2",
        "earthing_conductor_mm2",
        "bonding_mm2",
        "bonding_to",
        "ze_ohm",
        "pscc_ka",
        "pefc_ka",
        "supply_polarity",
    )
    facts.append({"label": "Prospective fault current recorded", "value": shown(judgement.prospective_fault_ka, "kA")})
    if judgement.between_lines_ka is not None:
        estimate = f"{shown(judgement.between_lines_ka, 'kA')} ({judgement.house_rules.three_phase_fault})"
        facts.append({"label": "Between lines, estimated", "value": estimate})
    return facts


def _bond(bond: Bond) -> dict[str, str]:
    size = f"{bond.csa_mm2:g} mm²" if bond.csa_mm2 else "–"
    return {
        "service": bond.service or "a service",
        "state": bond.state or "–",
        "size": size,
        "at_clamp": shown(bond.at_clamp_ohm, "Ω"),
        "at_pipe": shown(bond.at_pipe_ohm, "Ω"),
    }


def _overrulings(judgement: Judgement) -> list[str]:
    """Where the inspector sees a figure otherwise than the rules do, with the reason."""
    return [
        f"{note.title}: {note.verdict.reason} The inspector: {note.overruled.status}. {note.overruled.reason}"
        for note in judgement.notes
        if note.overruled is not None
    ]


def _board(inspection: Inspection, judgement: Judgement, index: int) -> dict[str, Any]:
    board = inspection.boards[index]
    limits = {one.entity_id: one for one in judgement.expected if one.field == "zs_ohm"}
    sums = [one for one in judgement.board_sums if one.board_id == board.id]
    devices = devices_of(board)
    behind = {circuit.id: device for device in devices for circuit in device.circuits}
    return {
        "name": board.name or f"Board {index + 1}",
        "feed": _feed(inspection, board),
        "facts": _facts(board, "location", "ways", "main_switch_a", "conditional_ka", "zdb_ohm", kind="board"),
        "sums": [
            {
                "label": KINDS["circuit"].fields[one.field].label,
                "value": f"{one.combined.text} MΩ",
                "says": one.verdict.reason,
            }
            for one in sums
        ],
        "rcds": [_rcd(device) for device in devices],
        "said": _said_of(board),
        "circuits": [_circuit(circuit, limits.get(circuit.id), behind.get(circuit.id)) for circuit in board.circuits],
    }


def _rcd(device: RcdDevice) -> dict[str, str]:
    """A device that stands for several circuits, or in front of the board, with its tests."""
    ways = "the whole board" if device.whole_board else ", ".join(c.way or "?" for c in device.circuits)
    return {
        "name": device.name,
        "behind": ways,
        "standard": " ".join(part for part in (device.standard, device.kind and f"kind {device.kind}") if part) or "–",
        "rated": shown(device.rated_ma, "mA"),
        "trip": shown(device.trip_ms, "ms"),
        "half": _tick(device.half),
        "five": shown(device.five_ms, "ms"),
        "button": _tick(device.button),
    }


def _said_of(board: Board) -> str:
    """L–N may be left out where line and neutral were joined for the test to earth: that is said (rule 6.3)."""
    joined = [c for c in board.circuits if c.insulation_lne_mohm is not None and c.insulation_ln_mohm is None]
    if not joined or all(c.insulation_ln_mohm is not None for c in board.circuits if not c.spare):
        return ""
    count = f"{len(joined)} circuits" if len(joined) > 1 else "1 circuit"
    return f"Line and neutral were joined for the insulation test to earth at {count}: L–N was not measured there."


def _tick(word: str | None) -> str:
    return {"correct": "yes", "incorrect": "NO"}.get(word or "", word or "–")


def _circuit(circuit: Circuit, limit: Any, rcd: RcdDevice | None) -> dict[str, str]:
    cable = (
        f"{circuit.line_csa_mm2:g}/{circuit.cpc_csa_mm2:g}"
        if circuit.line_csa_mm2 and circuit.cpc_csa_mm2
        else shown(circuit.line_csa_mm2)
    )
    if circuit.imperial:
        cable = circuit.imperial
    rating = f"{circuit.device_rating_a:g}" if circuit.device_rating_a else ""
    device = " ".join(part for part in (circuit.device_standard, circuit.device_type, rating) if part)
    if circuit.spare:
        return {"way": circuit.way or "", "designation": "Spare", "spare": "yes"}
    return {
        "way": circuit.way or "",
        "designation": circuit.designation or "",
        "spare": "",
        "form": circuit.form or "–",
        "points": shown(circuit.points),
        "cable": cable,
        "device": device or "–",
        "rcd": shown(rcd.rated_ma if rcd else None),
        "r1": shown(circuit.r1_ohm),
        "rn": shown(circuit.rn_ohm),
        "r2": shown(circuit.r2_ohm),
        "r1_r2": _continuity(circuit),
        "ir_ln": shown(circuit.insulation_ln_mohm),
        "ir_lne": shown(circuit.insulation_lne_mohm),
        "polarity": _tick(circuit.polarity),
        "zs": shown(circuit.zs_ohm) if circuit.zs_ohm is not None or not circuit.zs_not_possible else "LIM",
        "zs_limit": f"{limit.greatest:.2f}" if limit else "–",
        "trip": shown(rcd.trip_ms if rcd else None),
        "button": _tick(rcd.button if rcd else None),
    }


def _continuity(circuit: Circuit) -> str:
    """R1+R2, or R2 by long lead where that was the method, marked as such."""
    if circuit.r1_r2_ohm is None and circuit.long_lead_r2_ohm is not None:
        return f"R2 {shown(circuit.long_lead_r2_ohm)}"
    return "no cpc" if circuit.no_cpc and circuit.r1_r2_ohm is None else shown(circuit.r1_r2_ohm)
