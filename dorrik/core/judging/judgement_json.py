"""The judgement as plain data: for the API, for files and for people's own scripts."""

from typing import Any

from dorrik.core.basics.record import plain
from dorrik.core.book.catalogue import CatalogueEntry
from dorrik.core.book.rule_book import RuleBook
from dorrik.core.electrical.ring import RingAnalysis
from dorrik.core.home.ages import shown as shown_parts
from dorrik.core.home.isolation import BoardState
from dorrik.core.judging.coverage.progress import stage_of
from dorrik.core.judging.coverage.sampling import State
from dorrik.core.judging.coverage.schedule import Filled
from dorrik.core.judging.judgement import Judgement, Note, Suggestion
from dorrik.core.judging.result.coding import Coding
from dorrik.core.judging.served.walk import PointView
from dorrik.core.judging.topics.bench import Bench
from dorrik.core.judging.topics.note import Action, Figure


def as_json(judgement: Judgement) -> dict[str, Any]:
    """Everything in the judgement, as JSON can hold it."""
    book = judgement.rule_book
    recorded = [one for one in judgement.suggested if one.recorded is not None]
    on_record = {(one.key, place) for one in recorded for place in (one.entity_id, *one.touches)}
    return {
        "notes": [
            _note(note, book.translate(note.words), (note.verdict.observation or "", note.entity_id) in on_record)
            for note in judgement.notes
        ],
        "expected": [
            {"id": e.entity_id, "field": e.field, "least": e.least, "greatest": e.greatest, "says": e.says}
            for e in judgement.expected
        ],
        "board_sums": [
            {
                "board_id": s.board_id,
                "field": s.field,
                "combined": s.combined.text,
                "status": s.verdict.status,
                "reason": s.verdict.reason,
                "next_step": s.verdict.next_step,
                "source": s.verdict.source,
                "observation": s.verdict.observation,
                "culprits": list(s.culprits),
                "title": s.title,
                "missing": list(s.missing),
                "touches": list(s.touches),
                "because_of": _figure(s.because_of),
            }
            for s in judgement.board_sums
        ],
        "insulation": [plain(one) for one in judgement.insulation],
        "rings": [_ring(circuit_id, ring) for circuit_id, ring in judgement.rings.items()],
        "benches": [_bench(one, book) for one in judgement.benches],
        "suggested": [_suggestion(one) for one in judgement.suggested],
        "coding": [_coding(one) for one in judgement.coding],
        "recorded": [plain(one) for one in judgement.recorded],
        "own_entries": [entry_json(one) for one in judgement.own_entries],
        "prospective_fault_ka": judgement.prospective_fault_ka and judgement.prospective_fault_ka.text,
        "between_lines_ka": judgement.between_lines_ka and judgement.between_lines_ka.text,
        "outcome": judgement.outcome,
        "outcome_says": judgement.outcome_says,
        "outcome_because": list(judgement.outcome_because),
        "against": [plain(one) for one in judgement.against],
        "interval": judgement.interval and plain(judgement.interval),
        "duties": [plain(one) for one in judgement.duties],
        "boards": [_board(one) for one in judgement.boards],
        "not_possible": [plain(one) for one in judgement.not_possible],
        "live_checks": [plain(one) for one in judgement.live_checks],
        "come_back": [plain(one) for one in judgement.come_back],
        "set_aside": [plain(one) for one in judgement.set_aside],
        "repairs": [plain(one) for one in judgement.repairs],
        "parts": [plain(one) for one in shown_parts(judgement.parts)],
        "labels": [plain(one) for one in judgement.labels],
        "room_for_more": judgement.room_for_more and plain(judgement.room_for_more),
        "to_countersign": [
            {
                "attendance_id": one.attendance_id,
                "who": one.who,
                "figures": [{"id": key, "field": field} for key, field in one.figures],
            }
            for one in judgement.to_countersign
        ],
        "putting_back": [plain(one) | {"open": one.open} for one in judgement.putting_back],
        "sums": {circuit_id: total.text for circuit_id, total in judgement.sums.items()},
        "zs_scales": [plain(one) for one in judgement.zs_scales],
        "sampling": judgement.sampling and _sampling(judgement.sampling),
        "sample_proposal": plain(judgement.sample_proposal),
        "rooms": [plain(room) for room in judgement.walk.rooms],
        "points": [_point(point) for point in judgement.walk.points],
        "looks": {key: {"look": one.look, "met": list(one.met)} for key, one in judgement.walk.looks.items()},
        "starting_codes": judgement.walk.starting,
        "points_served": judgement.walk.served,
        "schedule": [_line(line) for line in judgement.schedule],
        "limits": [plain(one) for one in judgement.limits],
        "limited_share": plain(judgement.limited_share),
        "evidence": judgement.evidence.says,
        "stages": [
            {"stage": s.stage, "done": s.done, "left": s.left, "left_names": list(s.left_names)}
            for s in judgement.progress.stages
        ],
        "asked": [
            {
                "entity": a.entity,
                "id": a.entity_id,
                "stage": a.stage,
                "fields": list(a.fields),
                "done": a.done,
                "more": list(a.more),
            }
            for a in judgement.progress.asked
        ],
        "limited": judgement.progress.limited,
        "tests": judgement.progress.tests,
        "rule_book": book.name,
        "words": book.words,
        "caution": book.caution,
    }


def _note(note: Note, words: str, on_record: bool) -> dict[str, Any]:
    verdict = note.verdict
    return {
        "entity": note.entity,
        "id": note.entity_id,
        "field": note.field,
        "title": note.title,
        "of": note.of,
        "words": words,
        "status": verdict.status,
        "reason": verdict.reason,
        "limit": verdict.limit,
        "margin": verdict.margin,
        "next_step": verdict.next_step,
        "observation": verdict.observation,
        "source": verdict.source,
        "stage": note.stage or stage_of(note.entity, note.field),
        "standing": note.status,
        "touches": list(note.touches),
        "because_of": _figure(note.because_of),
        "actions": [_action(action) for action in actions(note, on_record=on_record)],
        "on_record": on_record,
        "asks": verdict.asks,
        "overruled": note.overruled and {"status": note.status, "reason": note.overruled.reason},
    }


def _board(state: BoardState) -> dict[str, Any]:
    rows: dict[str, list[str]] = {}
    for pairing in state.pairings:
        rows.setdefault(pairing.at, []).append(pairing.between)
    return {
        "board_id": state.board_id,
        "proved_at": state.proved_at,
        "lock": state.lock,
        "key_with": state.key_with,
        "stays_live": state.stays_live,
        "restored": state.restored,
        "pairings": [{"at": at, "between": between} for at, between in rows.items()],
    }


def actions(note: Note, *, on_record: bool = False) -> tuple[Action, ...]:
    """Everything a note offers, its observation first; what is folded under its cause offers nothing of its own.

    on_record: an observation says it already.
    """
    if note.because_of is not None:
        return ()
    key = note.verdict.observation
    raised = (Action(kind="observe", label="Observation", key=key),) if key and note.pressing and not on_record else ()
    return (*raised, *note.offers)


def _action(action: Action) -> dict[str, Any]:
    return {
        "kind": action.kind,
        "label": action.label,
        "entity": action.entity,
        "id": action.entity_id,
        "field": action.field,
        "value": action.value,
        "key": action.key,
    }


def _figure(figure: Figure | None) -> dict[str, str] | None:
    return None if figure is None else {"id": figure[0], "field": figure[1]}


def _suggestion(one: Suggestion) -> dict[str, Any]:
    return {
        "key": one.key,
        "title": one.title,
        "code": one.code,
        "why": one.why,
        "moved": one.moved,
        "questions": [plain(question) for question in one.questions],
        "entity": one.entity,
        "entity_id": one.entity_id,
        "touches": list(one.touches),
        "because": list(one.because),
        "recorded": one.recorded,
        "declined": one.declined,
    }


def entry_json(entry: CatalogueEntry) -> dict[str, Any]:
    """An entry of the catalogue as data, its facts with it."""
    data: dict[str, Any] = plain(entry)
    data["facts"] = [plain(fact) for fact in entry.facts]
    data.pop("until")
    data.pop("family")
    return data


def _coding(one: Coding) -> dict[str, Any]:
    return {
        "id": one.observation_id,
        "key": one.key,
        "views": [plain(view) for view in one.views],
        "school": one.school,
        "code": one.code,
        "moved": one.moved,
        "known": [plain(fact) for fact in one.known],
        "questions": [plain(question) for question in one.questions],
    }


def _ring(circuit_id: str, ring: RingAnalysis) -> dict[str, Any]:
    return {
        "circuit_id": circuit_id,
        "closed": ring.closed,
        "expected_line_neutral_ohm": ring.expected_line_neutral_ohm,
        "expected_line_cpc_ohm": ring.expected_line_cpc_ohm,
        "recorded_r1_r2_ohm": ring.recorded_r1_r2_ohm,
        "length_m": ring.length_m,
        "findings": [{"kind": f.kind, "point": f.point, "reason": f.reason} for f in ring.findings],
        "points": [{"name": p.name, "position": p.position, "spur_length_m": p.spur_length_m} for p in ring.points],
    }


def _bench(bench: Bench, book: RuleBook) -> dict[str, Any]:
    return {
        "circuit_id": bench.circuit_id,
        "form": bench.form,
        "method": bench.method,
        "fields": list(bench.fields),
        "first": bench.first,
        "open": bench.open,
        "length_m": _short(bench.length_m),
        "points": [
            {
                "id": p.id,
                "name": p.name,
                "walked": _short(p.walked),
                "position": _short(p.position),
                "spur_m": _short(p.spur_m),
                "from_board_m": _short(p.from_board_m),
                "says": book.translate(p.says),
                "again": p.again,
                "tested": p.tested,
                "live": p.live,
                "two_gangs": p.two_gangs,
            }
            for p in bench.points
        ],
        "curves": [
            {
                "field": c.field,
                "places": [_short(place) for place, _ in c.values],
                "values": [_short(ohm) for _, ohm in c.values],
            }
            for c in bench.curves
        ],
        "highest": bench.highest and plain(bench.highest),
        "gap": bench.gap and plain(bench.gap),
        "methods": [{"method": key, "says": book.translate(says)} for key, says in bench.methods],
        "flags": list(bench.flags),
        "legs_insulation": list(bench.legs_insulation),
        "lower_to_a": bench.lower_to_a,
        "swap": list(bench.swap),
        "swap_with": [{"id": key, "name": name} for key, name in bench.swap_with],
        "polarity_offered": bench.polarity_offered,
        "live_fields": list(bench.live_fields),
        "second": bench.second,
        "starts_at": bench.starts_at,
        "board_at": _short(bench.board_at),
        "across": [{"one_end": one, "other_end": other} for one, other in bench.across],
        "works_offered": list(bench.works_offered),
        "sockets": [{"id": key, "name": name} for key, name in bench.sockets],
        "highest_zs": bench.highest_zs and plain(bench.highest_zs),
    }


def _short(value: float | None) -> float | None:
    """As exact as it is drawn."""
    return None if value is None else round(value, 4)


def _point(view: PointView) -> dict[str, Any]:
    return {
        "id": view.id,
        "room_id": view.room_id,
        "circuit_id": view.circuit_id,
        "name": view.name,
        "line": view.line,
        "zone": view.zone,
        "needs": view.needs,
        "wanting": view.wanting,
        "to_open": view.to_open,
        "look": view.look,
        "moved": {key: {"code": one.code, "why": one.why} for key, one in view.moved.items()},
    }


def _line(line: Filled) -> dict[str, Any]:
    return {
        "key": line.key,
        "part": line.part,
        "label": line.label,
        "clause": line.clause,
        "state": line.state,
        "codes": list(line.codes),
        "because": line.because,
        "stage": line.stage,
        "asked": line.asked,
    }


def _sampling(state: State) -> dict[str, Any]:
    """As it stands, each widening with its words."""
    data: dict[str, Any] = plain(state)
    data["widenings"] = [plain(one) | {"says": one.says} for one in state.widenings]
    return data
