"""The certificate of a repair of one's own, drafted from what was entered: nothing is typed again (BS 7671 644.4)."""

from typing import Any

from dorrik.core.inspection.records import Board, Circuit, Inspection, Isolation, Repair, name_of
from dorrik.core.judging.judgement import Judgement
from dorrik.core.judging.served.repairs import RepairView
from dorrik.report.content import Issue
from dorrik.report.content.words import day, facts, moment, shown

TITLE = "Minor works certificate"
FORMAT, VERSION = "dorrik-minor-works", 1


def words(
    inspection: Inspection, judgement: Judgement, repair: Repair, view: RepairView, issue: Issue, number: str
) -> dict[str, Any]:
    """What the certificate says. issue: its number is 0 while it is a draft."""
    board, circuit = _where(inspection, repair)
    return {
        "title": TITLE,
        "draft": issue.number == 0,
        "number": number,
        "on": day(issue.issued_on),
        "firm": issue.letterhead(),
        "signed_by": issue.signed_by,
        "role": issue.role,
        "property": ", ".join(p for p in (inspection.installation_name, inspection.property_address) if p) or "–",
        "client": ", ".join(p for p in (inspection.client_name, inspection.client_address) if p) or "–",
        "reference": inspection.reference or "without reference",
        "rule_book": judgement.rule_book.name,
        "caution": judgement.rule_book.caution,
        "work": _work(inspection, repair, view, board),
        "marks": [{"label": mark.label, "then": mark.then or "–", "now": mark.now or "–"} for mark in view.marks],
        "tests": [_test(judgement, retest) for retest in view.tests],
        "circuit": _circuit(board, circuit),
        "supply": [*facts(inspection, "minor works"), *_zdb(board), _bonds(inspection)],
        "existing": repair.existing or "Nothing that bears on this work was found beyond what the report says.",
        "declaration": _declaration(judgement, repair),
        "by": repair.by or issue.signed_by,
        "work_on": day((repair.done_at or repair.begun_at or "")[:10] or None),
    }


def data(certificate_words: dict[str, Any]) -> dict[str, Any]:
    """What lies in the PDF: the certificate's own words and figures, and nothing else of the home."""
    return {"format": FORMAT, "version": VERSION, "certificate": certificate_words}


def _where(inspection: Inspection, repair: Repair) -> tuple[Board | None, Circuit | None]:
    for board in inspection.boards:
        if repair.about_id == board.id or any(rcd.id == repair.about_id for rcd in board.rcds):
            return board, None
        for circuit in board.circuits:
            if repair.about_id == circuit.id or any(point.id == repair.about_id for point in circuit.points):
                return board, circuit
    return None, None


def _work(inspection: Inspection, repair: Repair, view: RepairView, board: Board | None) -> list[dict[str, str]]:
    observation = next(
        (observation for observation in inspection.observations if observation.id == repair.observation_id), None
    )
    code = f" ({observation.code})" if observation is not None and observation.code else ""
    defect = (repair.found or (observation.text if observation is not None else "")) or "–"
    rows = [
        ("Where", view.where),
        ("As found", f"{defect}{code}"),
        ("Kind of work", view.label or "–"),
        ("What was done", repair.done or "–"),
        ("Parts used", repair.parts or "none"),
        ("As left", repair.as_left or repair.done or "–"),
        ("Isolation", _isolated(board, repair)),
        ("Departures from the standard", repair.departures or "none"),
    ]
    return [{"label": label, "value": value} for label, value in rows if value]


def _isolated(board: Board | None, repair: Repair) -> str:
    """The last isolation of the board before the work was done, each step with its time."""
    if board is None:
        return ""
    until = repair.done_at or "9999"
    proved = [
        isolation for isolation in board.isolations if isolation.proved_dead and (isolation.proved_at or "") <= until
    ]
    last: Isolation | None = max(proved, key=lambda proof: proof.proved_at or "", default=None)
    if last is None:
        return "not recorded"
    restored = f", restored {moment(last.restored_at)}" if last.restored_at else ", not restored yet"
    return f"isolated {moment(last.isolated_at)}, proved dead {moment(last.proved_again_at)}{restored}"


def _test(judgement: Judgement, figure: Any) -> dict[str, str]:
    note = next(
        (n for n in judgement.notes if n.figure == (figure.entity_id, figure.field) and n.verdict.limit is not None),
        None,
    )
    unit = f" {figure.unit}" if figure.unit else ""
    limit = f"{note.verdict.limit:g}{unit}" if note is not None else ""
    return {
        "label": figure.label,
        "found": f"{figure.found}{unit}" if figure.found else "not tested",
        "left": f"{figure.left}{unit}" if figure.left else "to be tested",
        "limit": limit,
    }


def _circuit(board: Board | None, circuit: Circuit | None) -> list[dict[str, str]]:
    if circuit is None:
        return [{"label": "Board", "value": board.name or "Board"}] if board is not None else []
    named = [{"label": "Circuit", "value": f"{(board and board.name) or 'Board'}, {name_of(circuit)}"}]
    protected = circuit.rcd_rated_ma
    rcd = [{"label": "RCD", "value": f"{protected:g} mA"}] if protected else []
    return [*named, *facts(circuit, "minor works", kind="circuit"), *rcd]


def _zdb(board: Board | None) -> list[dict[str, str]]:
    if board is None or board.zdb_ohm is None:
        return []
    return [{"label": "Zdb", "value": shown(board.zdb_ohm, "Ω")}]


def _bonds(inspection: Inspection) -> dict[str, str]:
    bonds = [f"{bond.service or 'a service'}: {bond.state or 'not recorded'}" for bond in inspection.bonds]
    return {"label": "Main bonding", "value": ", ".join(bonds) or inspection.bonding_to or "not recorded"}


def _declaration(judgement: Judgement, repair: Repair) -> str:
    but = f", except: {repair.departures}" if repair.departures else ""
    return (
        "The work described here does not make the existing installation less safe. It was designed, carried out, "
        f"inspected and tested according to {judgement.rule_book.name}{but}, as far as it goes. The rest of the "
        "installation is not covered by this certificate."
    )
