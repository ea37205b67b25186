"""Clearing what a report requires: taking steps within the rules, and confirming in writing that all of it is done."""

from collections.abc import Mapping, Sequence
from dataclasses import asdict
from datetime import UTC, datetime
from typing import Any

from sqlalchemy import Connection

from dorrik.core.inspection.document import DocumentError
from dorrik.core.work import remedials
from dorrik.core.work.remedials import Kind, NoFigure, Retested
from dorrik.office.after_report import AfterReport, RemedialItem, after, as_steps, inspection_of
from dorrik.report import confirmation, signing
from dorrik.report.confirmation import Cleared
from dorrik.report.issue import on_paper
from dorrik.store.people.people import Person
from dorrik.store.reports import remedials as kept_steps
from dorrik.store.reports import reports
from dorrik.store.reports.remedials import By, TakenStep

CONFIRMED = "Confirmed by"


class CannotTake(ValueError):
    """The step cannot be taken; `fields` says why by field, '' for the step as a whole."""

    def __init__(self, fields: Mapping[str, str]) -> None:
        super().__init__(" ".join(fields.values()))
        self.fields = dict(fields)


class NoItem(LookupError):
    """The report has no such item."""


class NotCleared(Exception):
    """Not everything is cleared that counts; the message says what is not."""


def retest(connection: Connection, inspection_id: str, entity_id: str, field: str, reading: object) -> Retested:
    """A figure after the work, judged in the home as the report has it. Raises NoItem without a report, CannotTake."""
    latest = reports.latest(connection, inspection_id)
    if latest is None:
        raise NoItem
    try:
        return remedials.retest(inspection_of(latest), entity_id, field, reading)
    except (NoFigure, DocumentError) as error:
        message = error.reason if isinstance(error, DocumentError) else str(error)
        raise CannotTake({"reading": message}) from None


def take_step(
    connection: Connection, after_report: AfterReport, inspection_id: str, observation_id: str, kind: Kind,
    what: Mapping[str, Any], by: By, files: Sequence[str] = (),
) -> None:  # fmt: skip
    """Take a step about an item, in the caller's transaction, which holds the inspection's row. Raises NoItem,
    CannotTake, kept_steps.NoFile or TooMany."""
    item = next((item for item in after_report.items if item.required.id == observation_id), None)
    if item is None:
        raise NoItem
    lacks = remedials.why_not(item.required, as_steps(item.steps), kind, what)
    on = what.get("on")
    if on and kind == "done" and str(on) > datetime.now(UTC).date().isoformat():
        lacks["on"] = "It cannot be done on a day to come."
    if lacks:
        raise CannotTake(lacks)
    values = dict(what)
    if kind == "accepted":
        values["of"] = remedials.accepted_as(item.required)
    kept_steps.take(connection, inspection_id, observation_id, kind, values, by, files)


def as_step(retested: Retested, on: str, words: str) -> dict[str, Any]:
    """A retest as its step is kept."""
    figure = asdict(retested.figure)
    return {
        "entity_id": figure["entity_id"], "field": figure["field"], "label": figure["label"], "unit": figure["unit"],
        "before": figure["value"], "after": retested.after, "status": retested.status, "says": retested.says,
        "limit": retested.limit, "raises": list(retested.raises), "on": on, "words": words,
    }  # fmt: skip


# The confirmation

#: A confirmation before it is typeset, and what it rests on.
ReadyCopy = tuple[confirmation.ConfirmationCopy, AfterReport]


def confirmation_copy(
    connection: Connection, firm_id: str, inspection_id: str, who: Person, signature: Mapping[str, Any], at: datetime,
    url: str,
) -> ReadyCopy:  # fmt: skip
    """The confirmation as it would be issued now. Raises NotCleared, after_report.NoReport."""
    after_report = after(connection, firm_id, inspection_id)
    if not after_report.complete:
        left = [item for item in after_report.counting if item.standing.state != "cleared"]
        items = ", ".join(f"{item.required.code} {item.required.title}" for item in left)
        raise NotCleared(
            f"Not cleared yet: {items}." if left else "The report requires nothing: there is nothing to confirm."
        )
    paper = on_paper(connection, who, 1, at.date())
    signed = signing.signature(CONFIRMED, who.name, who.role, at, signature)
    # Also what an investigation found to be one.
    improvements = sum(
        item.standing.code == "C3" and (item.required.code != "C3" or item.standing.state != "cleared")
        for item in after_report.items
    )
    made = confirmation.copy(
        dict(after_report.words), [_cleared(item) for item in after_report.counting], improvements, paper,
        len(after_report.confirmations) + 1, at, signed, url,
    )  # fmt: skip
    return made, after_report


def _cleared(item: RemedialItem) -> Cleared:
    done = _last(item.steps, "done") or _last(item.steps, "found")
    accepted = _last(item.steps, "accepted")
    if accepted is None:
        raise NotCleared(f"{item.required.title} was not accepted.")
    values = done.what if done is not None else {}
    return Cleared(
        id=item.required.id,
        step=item.steps[-1].number,
        code=item.required.code,
        title=item.required.title,
        where=item.required.place,
        done=str(values.get("words", "")),
        by=str(values.get("by", "")),
        on=str(values.get("on", "")),
        figures=_figures(item.steps),
        evidence=_evidence(item),
        accepted_by=accepted.by,
        accepted_on=accepted.at.date().isoformat(),
    )


def _last(steps: Sequence[TakenStep], kind: str) -> TakenStep | None:
    return next((step for step in reversed(steps) if step.kind == kind), None)


def _figures(steps: Sequence[TakenStep]) -> list[tuple[str, str, str, str]]:
    """Each figure as it read last: its label, before, after and unit."""
    last = {(step.what["entity_id"], step.what["field"]): step.what for step in steps if step.kind == "retest"}
    return [(what["label"], what["before"], what["after"], what["unit"]) for what in last.values()]


def _evidence(item: RemedialItem) -> list[str]:
    evidence: list[str] = []
    for step in item.steps:
        if number := step.what.get("certificate"):
            evidence.append(f"certificate {number}")
        evidence += ["certificate" if file.kind == "certificate" else "photo" for file in step.files]
    return list(dict.fromkeys(evidence))
