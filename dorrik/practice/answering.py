"""An inspector who answers everything: what is suggested is recorded with its code or dismissed with a reason,
questions are answered with no, defects get their words, missing tests become limitations with a reason.

What is left after it stands against a satisfactory result for a reason of its own; a home whose only findings are
recommendations reads satisfactory. Used to leave exactly one thing unanswered, and see that it shows.
"""

import copy

from dorrik.core.book.codes import UNSATISFACTORY
from dorrik.core.inspection.document import parse
from dorrik.core.inspection.kinds import KINDS
from dorrik.core.judging.judgement import Judgement, judge
from dorrik.practice.entered import Document

#: Answering may raise what was not seen before: so often at most.
_ROUNDS = 8


def answered(document: Document) -> Document:
    """The same home with everything answered that can be, as a new document."""
    done = copy.deepcopy(document)
    for _ in range(_ROUNDS):
        judgement = judge(parse(done))
        if not _answer(done, judgement):
            break
    return done


def _answer(document: Document, judgement: Judgement) -> bool:
    """Answer what a judgement asks; whether anything was."""
    inspection = document["inspection"]
    before = str(document)
    for suggestion in judgement.suggested:
        if suggestion.settled:
            continue
        number = len(inspection.setdefault("observations", []))
        answers = {question.fact: False for question in suggestion.questions}
        inspection["observations"].append(
            {
                "id": f"answered-{number}", "about_entity": suggestion.entity, "about_id": suggestion.entity_id,
                "text": suggestion.title, "code": suggestion.code, "catalogue_key": suggestion.key,
                **({"answers": answers} if answers else {}),
            }
        )  # fmt: skip
    if str(document) != before:
        # What a failure or a question is about may be answered by what was just recorded.
        return True
    things = _by_id(document)
    for missing in judgement.progress.missing:
        thing = things[missing.entity_id]
        for field in missing.fields:
            kind = KINDS[missing.entity].fields[field].kind
            thing[field] = "LIM not reached" if kind == "reading" else "LIM"
    for item in judgement.against:
        thing = things.get(item.entity_id, {})
        if item.kind == "marked" and item.entity == "check":
            thing["note"] = "Seen, and told the client"
        elif item.kind == "marked" and item.entity == "point":
            thing["note"] = "Plate chipped"
        elif item.kind == "question" and item.observation_id:
            thing = things[item.observation_id]
            asked = next(coding for coding in judgement.coding if coding.observation_id == item.observation_id)
            thing["answers"] = (thing.get("answers") or {}) | {q.fact: False for q in asked.questions}
        elif item.kind in ("question", "failing") and item.field in KINDS[item.entity].fields:
            _disagree(inspection, item.entity_id, item.field, str(thing.get(item.field)))
    return str(document) != before


def _disagree(inspection: Document, entity_id: str, field: str, reading: str) -> None:
    """Look again, and say that it is in order."""
    known = inspection.setdefault("overrulings", [])
    if not any((one["about_id"], one["field"]) == (entity_id, field) for one in known):
        known.append(
            {
                "id": f"seen-{len(known)}", "about_id": entity_id, "field": field, "status": "pass",
                "reason": "Looked again", "of_reading": reading,
            }
        )  # fmt: skip


def _by_id(document: Document) -> dict[str, Document]:
    by_id: dict[str, Document] = {}

    def look(entity: Document) -> None:
        by_id[entity["id"]] = entity
        for value in entity.values():
            if isinstance(value, list):
                for child in value:
                    if isinstance(child, dict) and "id" in child:
                        look(child)

    look(document["inspection"])
    return by_id


def is_dangerous(judgement: Judgement) -> bool:
    """Is anything recorded or suggested that makes a report unsatisfactory?"""
    return (
        any(suggestion.code in UNSATISFACTORY for suggestion in judgement.suggested)
        or judgement.outcome == "unsatisfactory"
    )
