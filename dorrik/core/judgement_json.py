"""The judgement as plain data: for the API, for files and for people's own scripts."""

from dataclasses import asdict
from typing import Any

from dorrik.core.judgement import Judgement, Note, Suggestion
from dorrik.core.ring import RingAnalysis


def as_json(judgement: Judgement) -> dict[str, Any]:
    """Everything in the judgement, as JSON can hold it."""
    book = judgement.rule_book
    return {
        "notes": [_note(note) for note in judgement.notes],
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
            }
            for s in judgement.board_sums
        ],
        "rings": [_ring(circuit_id, ring) for circuit_id, ring in judgement.rings.items()],
        "suggested": [_suggestion(one) for one in judgement.suggested],
        "prospective_fault_ka": judgement.prospective_fault_ka and judgement.prospective_fault_ka.text,
        "between_lines_ka": judgement.between_lines_ka and judgement.between_lines_ka.text,
        "outcome": judgement.outcome,
        "outcome_because": list(judgement.outcome_because),
        "sampling": judgement.sampling and _listed(asdict(judgement.sampling)),
        "stages": [
            {"stage": s.stage, "done": s.done, "left": s.left, "left_names": list(s.left_names)}
            for s in judgement.progress.stages
        ],
        "limited": judgement.progress.limited,
        "tests": judgement.progress.tests,
        "limited_warning": judgement.progress.limited_warning,
        "rule_book": book.name,
        "words": book.words,
        "caution": book.caution,
    }


def _note(note: Note) -> dict[str, Any]:
    verdict = note.verdict
    return {
        "entity": note.entity,
        "id": note.entity_id,
        "field": note.field,
        "title": note.title,
        "status": verdict.status,
        "reason": verdict.reason,
        "limit": verdict.limit,
        "margin": verdict.margin,
        "next_step": verdict.next_step,
        "observation": verdict.observation,
        "source": verdict.source,
        "set_field": note.set_field and {"field": note.set_field[0], "value": note.set_field[1]},
        "overruled": note.overruled and {"status": note.status, "reason": note.overruled.reason},
    }


def _suggestion(one: Suggestion) -> dict[str, Any]:
    return {
        "key": one.key,
        "title": one.title,
        "code": one.code,
        "why": one.why,
        "entity": one.entity,
        "entity_id": one.entity_id,
        "because": list(one.because),
        "recorded": one.recorded,
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


def _listed(data: dict[str, Any]) -> dict[str, Any]:
    return {name: list(value) if isinstance(value, tuple) else value for name, value in data.items()}
