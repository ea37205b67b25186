"""What has to be cleared after a report, and when it counts as cleared (rule 14 of the order of work; BS 7671 653.4).

An issued report never changes. Each observation that made it unsatisfactory is a required item; what is done about it
is a row of steps, of which the item's state follows. A competent person accepts it; nothing else clears it.
"""

import hashlib
from collections.abc import Iterable, Mapping, Sequence
from typing import Any, Literal, get_args

from dorrik.core.basics.record import record
from dorrik.core.book import catalogue
from dorrik.core.book.codes import ORDER, UNSATISFACTORY
from dorrik.core.home.buildings import HOME, buildings
from dorrik.core.inspection import document
from dorrik.core.inspection.field_spec import FieldSpec
from dorrik.core.inspection.fields import is_tested
from dorrik.core.inspection.kinds import KINDS
from dorrik.core.inspection.records import Inspection, Observation
from dorrik.core.judging.coverage.walking_order import names
from dorrik.core.judging.judgement import Judgement, is_open, judge
from dorrik.core.judging.topics.note import Note

#: booked: somebody is to do it; done: somebody says that it is put right, with evidence; retest: a figure afterwards;
#: found: what further investigation found; accepted, refused: by a competent person; reopened: accepted too soon.
Kind = Literal["booked", "done", "retest", "found", "accepted", "refused", "reopened"]
KINDS_OF_STEP: tuple[Kind, ...] = get_args(Kind)
#: What only a competent person of the firm does: a rule believes these.
DECIDED: frozenset[str] = frozenset(("retest", "found", "accepted", "refused", "reopened"))
State = Literal["open", "booked", "done", "cleared"]
#: What further investigation can find: nothing, or a defect by its code.
Found = Literal["none", "C1", "C2", "C3"]


@record(kw_only=True)
class Figure:
    """A figure behind an observation, as the report has it. status: how it is judged there."""

    entity: str
    entity_id: str
    field: str
    label: str
    unit: str
    value: str
    status: str


@record(kw_only=True)
class Required:
    """An observation of the report that has to be cleared, or could be improved.

    key: its entry of the catalogue, '' for none; title: in plain words where the catalogue has them, else the
    inspector's own; text: the inspector's own; todo: what to do; counts: does it count against the result?
    figures: those that led to it, which are tested again.
    """

    id: str
    key: str
    code: str
    title: str
    text: str
    place: str
    todo: str
    counts: bool
    figures: tuple[Figure, ...]


@record(kw_only=True)
class RemedialStep:
    """One thing done about an item. what: see `why_not`; files: evidence, by kind: 'certificate' or 'photo'."""

    number: int
    kind: Kind
    what: Mapping[str, Any]
    files: tuple[str, ...] = ()


@record(kw_only=True)
class RemedialState:
    """How an item stands.

    code: what it counts as by now, since further investigation may have found something; lacks: what is missing before
    it can be accepted, in words; booked_on, booked_by: who is to do it, and when; done_by: who says that it is done.
    """

    state: State
    code: str
    lacks: tuple[str, ...]
    booked_on: str = ""
    booked_by: str = ""
    done_by: str = ""


def required(inspection: Inspection, judgement: Judgement) -> tuple[Required, ...]:
    """The items of a report, the most serious first. Both as they were issued; what was put right on the day, with its
    proof, is none."""
    with catalogue.with_own(inspection.catalogue):
        where = buildings(inspection)
        named = names(inspection)
        counting = set(judgement.outcome_because)
        required_items = [
            _item(inspection, judgement, observation, named, where, counts=observation.id in counting)
            for observation in inspection.observations
            if observation.id in counting or (observation.code == "C3" and is_open(observation))
        ]
    return tuple(sorted(required_items, key=lambda item: (not item.counts, ORDER.index(item.code), item.id)))


def _item(
    inspection: Inspection, judgement: Judgement, observation: Observation,
    named: Mapping[str, str], where: Mapping[str, str], *, counts: bool,
) -> Required:  # fmt: skip
    entry = catalogue.entries().get(observation.catalogue_key or "")
    building = where.get(observation.about_id or "", HOME)
    return Required(
        id=observation.id,
        key=observation.catalogue_key or "",
        code=observation.code or "note",
        title=(entry.plain if entry else "") or observation.text or "",
        text=observation.text or "",
        place=" · ".join(part for part in (building, observation.place) if part),
        todo=entry.remedy if entry else "",
        counts=counts,
        figures=figures(inspection, judgement, observation, named),
    )


def figures(
    inspection: Inspection, judgement: Judgement, observation: Observation, named: Mapping[str, str]
) -> tuple[Figure, ...]:
    """The figures that led to an observation, each once; () where it was seen and not measured. named: every thing's
    name by its id."""
    led = [suggestion for suggestion in judgement.suggested if suggestion.recorded == observation.id]
    about = {(suggestion.key, thing) for suggestion in led for thing in (suggestion.entity_id, *suggestion.touches)}
    figures_by_key: dict[tuple[str, str], Figure] = {}
    for note in judgement.notes:
        key = note.verdict.observation or ""
        if note.status in ("fail", "attention") and any(
            (key, thing) in about for thing in (note.entity_id, *note.touches)
        ):
            figure = _figure(inspection, note, named)
            if figure is not None:
                figures_by_key.setdefault(note.figure, figure)
    return tuple(figures_by_key.values())


def _figure(inspection: Inspection, note: Note, named: Mapping[str, str]) -> Figure | None:
    spec = KINDS[note.entity].fields.get(note.field)
    value = _value(inspection, note.entity_id, note.field)
    if spec is None or not is_tested(spec) or value is None:
        return None
    return Figure(
        entity=note.entity, entity_id=note.entity_id, field=note.field,
        label=_label(spec, named.get(note.entity_id, "")), unit=spec.unit, value=str(value), status=note.status,
    )  # fmt: skip


def _label(spec: FieldSpec, name: str) -> str:
    return f"{name}: {spec.label}" if name else spec.label


def _value(inspection: Inspection, entity_id: str, field: str) -> Any:
    for thing in _every(document.write(inspection)["inspection"]):
        if thing["id"] == entity_id:
            return thing.get(field)
    return None


def _every(thing: Mapping[str, Any]) -> Iterable[dict[str, Any]]:
    """A thing of a document and everything in it."""
    if isinstance(thing, dict) and "id" in thing:
        yield thing
    for value in thing.values():
        if isinstance(value, list):
            for item in value:
                if isinstance(item, dict) and "id" in item:
                    yield from _every(item)


# Retests


@record(kw_only=True)
class Retested:
    """A figure before and after, and how the new one is judged in the home that the report describes.

    status: the worst verdict that speaks of it, 'unknown' where none does; says: in words; limit: '' without one;
    raises: entries of the catalogue that the new figure leads to all the same.
    """

    figure: Figure
    after: str
    status: str
    says: str
    limit: str
    raises: tuple[str, ...]


class NoFigure(ValueError):
    """That figure cannot be tested again; the message says why."""


def retest(inspection: Inspection, entity_id: str, field: str, after: object) -> Retested:
    """Judge a figure as it reads after the work, everything else as the report has it. Raises NoFigure, or
    DocumentError for a value that the field does not take."""
    written = document.write(inspection)
    thing = next((entity for entity in _every(written["inspection"]) if entity["id"] == entity_id), None)
    kind = _kind_of(inspection, entity_id)
    spec = KINDS[kind].fields.get(field) if kind else None
    if thing is None or spec is None or kind is None or not is_tested(spec):
        raise NoFigure("The report has no such figure.")
    before = thing.get(field)
    thing[field] = after
    changed = document.parse(written)
    value = _value(changed, entity_id, field)
    if value is None:
        raise NoFigure("Enter the figure as it reads now.")
    figure = Figure(
        entity=kind, entity_id=entity_id, field=field, label=_label(spec, names(inspection).get(entity_id, "")),
        unit=spec.unit, value=str(before or ""), status="",
    )  # fmt: skip
    notes = [note for note in judge(changed).notes if note.figure == (entity_id, field)]
    worst = min(notes, key=lambda note: _WORST.index(note.status), default=None)
    if worst is None:
        reason = "No rule judges this figure."
        return Retested(figure=figure, after=str(value), status="unknown", says=reason, limit="", raises=())
    limit = "" if worst.verdict.limit is None else f"{worst.verdict.limit:g}"
    raises = tuple(
        dict.fromkeys(note.verdict.observation for note in notes if note.verdict.observation and note.pressing)
    )
    return Retested(
        figure=figure, after=str(value), status=worst.status, says=worst.verdict.reason, limit=limit, raises=raises
    )  # fmt: skip


_WORST = ("fail", "unknown", "attention", "pass")


def _kind_of(inspection: Inspection, entity_id: str) -> str | None:
    if entity_id == inspection.id:
        return "inspection"
    plurals = {kind.plural: kind.name for kind in KINDS.values()}
    kinds: dict[str, str] = {}

    def walk(thing: Mapping[str, Any]) -> None:
        for name, value in thing.items():
            if isinstance(value, list) and name in plurals:
                for item in value:
                    kinds[item["id"]] = plurals[name]
                    walk(item)

    walk(document.write(inspection)["inspection"])
    return kinds.get(entity_id)


# How an item stands


def why_not(item: Required, steps: Sequence[RemedialStep], kind: Kind, what: Mapping[str, Any]) -> dict[str, str]:
    """Why a step cannot be taken now: words by the field of `what` that they belong to, '' for the step as a whole.

    what: of booked: by, on; of done: by, on, words, certificate (its number); of retest: what `retest` gives; of found:
    code (a `Found`), words; of accepted, refused, reopened: words.
    """
    now = standing(item, steps)
    lacks: dict[str, str] = {}
    if kind in ("booked", "done") and not what.get("by"):
        lacks["by"] = "Say who does it." if kind == "booked" else "Say who did it."
    if kind in ("booked", "done") and not what.get("on"):
        lacks["on"] = "Enter the day."
    if kind in ("refused", "reopened", "found") and not what.get("words"):
        lacks["words"] = "Say what was found." if kind == "found" else "Say why."
    if kind == "found" and item.code != "FI":
        lacks[""] = "Only an FI is investigated."
    if kind == "found" and what.get("code") not in get_args(Found):
        lacks["code"] = "Choose what it is."
    if kind == "accepted" and now.state == "cleared":
        lacks[""] = "It is cleared already."
    elif kind == "accepted" and now.lacks:
        lacks[""] = " ".join(now.lacks)
    elif kind == "reopened" and now.state != "cleared":
        lacks[""] = "It is not cleared."
    elif kind not in ("accepted", "reopened") and now.state == "cleared":
        lacks[""] = "It is cleared. Reopen it first."
    return lacks


def standing(item: Required, steps: Sequence[RemedialStep]) -> RemedialState:
    """How an item stands after these steps, oldest first. What was refused or reopened needs something new; a figure
    that fails stands until it is tested again, one that passes until the item is reopened."""
    code, since, tested_since, accepted = item.code, 0, 0, False
    booked: Mapping[str, Any] | None = None
    retests: dict[tuple[str, str], tuple[int, Mapping[str, Any]]] = {}
    step_done: Mapping[str, Any] | None = None
    for at, step in enumerate(steps, 1):
        match step.kind:
            case "booked":
                booked = step.what
            case "retest":
                retests[(step.what["entity_id"], step.what["field"])] = (at, step.what)
            case "found":
                step_done, since = step.what, at
                code = "FI" if step.what["code"] == "none" else str(step.what["code"])
            case "accepted":
                # Of what the report says: where a correction says something else, it is accepted anew.
                accepted = step.what.get("of") == accepted_as(item)
            case "refused" | "reopened":
                accepted, since = False, at
                tested_since = at if step.kind == "reopened" else tested_since
                if item.code == "FI":
                    step_done, code = None, item.code
    fresh = steps[since:]
    done = [step for step in fresh if step.kind == "done"]
    cleared_by_search = item.code == "FI" and step_done is not None and step_done["code"] in ("none", "C3")
    again = {key: (at > tested_since, what) for key, (at, what) in retests.items()}
    lacks = tuple(_lacks(item, step_done, done, again, by_search=cleared_by_search))
    state: State = "open"
    if accepted:
        state = "cleared"
    elif done or cleared_by_search:
        state = "done"
    elif booked is not None:
        state = "booked"
    return RemedialState(
        state=state,
        code=code,
        lacks=() if accepted else lacks,
        booked_on=str(booked.get("on", "")) if booked else "",
        booked_by=str(booked.get("by", "")) if booked else "",
        done_by=str(done[-1].what.get("by", "")) if done else "",
    )


def accepted_as(item: Required) -> str:
    """What an acceptance is of, as a digest of code and words; it goes into its step as `of`."""
    return hashlib.sha256(f"{item.code} {item.text}".encode()).hexdigest()[:16]


def _lacks(
    item: Required, step_done: Mapping[str, Any] | None, done: Sequence[RemedialStep],
    retests: Mapping[tuple[str, str], tuple[bool, Mapping[str, Any]]], *, by_search: bool,
) -> Iterable[str]:  # fmt: skip
    if item.code == "FI" and step_done is None:
        yield "Record what the investigation found."
        return
    behind = {(figure.entity_id, figure.field) for figure in item.figures}
    passed = set()
    for key, (counts, what) in retests.items():
        retested = f"{what['label']} {what['after']} {what['unit']}".rstrip()
        if what["status"] == "fail":
            yield f"{retested} still fails."
        elif item.key and item.key in what["raises"]:
            yield f"{retested}: the same defect is still there."
        elif what["status"] == "unknown":
            if key in behind:
                yield f"{retested} is not judged: test again."
        elif counts:
            passed.add(key)
    if by_search:
        # That nothing is wrong is shown by the figure that said so.
        for figure in item.figures:
            if figure.status == "fail" and (figure.entity_id, figure.field) not in retests:
                yield f"{figure.label} failed: it needs a retest."
        return
    if not done:
        yield "Nobody has said that it is put right."
        return
    certified = any(step.what.get("certificate") or "certificate" in step.files for step in done)
    if certified:
        return
    # A photo shows what can be seen; what was measured is shown by a figure.
    for figure in item.figures:
        if (figure.entity_id, figure.field) not in retests or not retests[(figure.entity_id, figure.field)][0]:
            yield f"{figure.label} needs a retest, or the certificate of the work."
    if not item.figures and not any(step.files for step in done) and not passed:
        yield "Evidence is missing: a certificate, a photo or a retest."


def all_cleared(items: Iterable[Required], stand: Mapping[str, RemedialState]) -> bool:
    """Is everything cleared that counts against the result? Never where nothing counts: there is nothing to confirm."""
    counting = [item for item in items if item.counts and item.code in UNSATISFACTORY]
    return bool(counting) and all(stand[item.id].state == "cleared" for item in counting)
