"""Review: whoever inspected signs and submits, a supervisor reads, asks, sends back or authorises (stage 13).

A signature stands for the inspection as it was: what is changed afterwards reopens it, and is said. What belongs to the
review itself, a question and its answer, does not.
"""

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from sqlalchemy import Connection

from dorrik.core.inspection.kept_inspection import KeptInspection, assemble
from dorrik.core.inspection.kinds import KINDS, stage_of
from dorrik.core.inspection.records import Inspection
from dorrik.core.judging.coverage.walking_order import spots
from dorrik.core.judging.readiness import readiness
from dorrik.journal import blind, history
from dorrik.report import signing
from dorrik.report.content import Signature
from dorrik.report.issue import MovedOn, NotReady, undecided
from dorrik.store.database.engine import now
from dorrik.store.inspections import reviews
from dorrik.store.inspections.judging import judged
from dorrik.store.inspections.reviews import APART, AUTHORISED, SENT_BACK, SUBMITTED, ReviewStep
from dorrik.store.people.people import Person

#: So many changes are listed; of more, the last ones.
MOST = 200
#: Kinds of fields whose values are words or figures; of the others it is said that they changed.
_PLAIN = ("text", "choice", "integer", "number", "reading", "flag", "date", "instant")
#: Fields that point at something or put it in order: nobody reads them.
_UNSAID = ("about_entity", "about_id", "position", "sha256", "became_id")


class NotSubmitted(Exception):
    """Nothing is submitted that could be sent back or authorised."""


@dataclass(frozen=True, slots=True)
class Changed:
    """One field that was changed, however often: where, which, what stood there and what stands there now, in words; by
    whom, when last, and where it is entered."""

    where: str
    label: str
    before: str
    now: str
    by: str
    at: datetime
    stage: str
    entity: str
    entity_id: str
    field: str


@dataclass(frozen=True, slots=True)
class Review:
    """How a report stands on its way. steps: oldest first; in_review: is it submitted, and as it was then?; reopened:
    what was changed since it was submitted; since_look: what changed since the person read it last, None where they
    have not read it."""

    steps: list[ReviewStep]
    in_review: bool
    reopened: list[Changed]
    since_look: list[Changed] | None


def state(connection: Connection, kept: KeptInspection, me: Person) -> Review:
    """How a report stands, for that person, in the caller's transaction: a code that they are to say blind is not told
    by its history either."""
    steps = reviews.steps(connection, kept.id)
    last = steps[-1] if steps else None
    seen = blind.seen(connection, kept, me)
    inspection = assemble(seen.kept)

    def after(seq: int) -> list[history.HistoryEntry]:
        entries = history.since(connection, kept.id, seq)
        return [entry for entry in entries if not blind.is_hidden(seen.blind, entry.entity_id, entry.field)]

    reopened: list[Changed] = []
    if last is not None and last.kind == SUBMITTED:
        reopened = _changed(inspection, (entry for entry in after(last.seq) if entry.entity not in APART))
    looked = reviews.looked(connection, kept.id, me.id)
    since = None if looked is None else _changed(inspection, after(looked))
    submitted = last is not None and last.kind == SUBMITTED
    stale = last is not None and reviews.changed_since(connection, kept.id, last.seq)
    return Review(steps, submitted and not stale, reopened, since)


def submit(
    connection: Connection, kept: KeptInspection, me: Person, seen_seq: int, signature: dict[str, Any],
    with_changes: frozenset[str] = frozenset(),
) -> None:  # fmt: skip
    """Sign for the inspection as it stands, in the caller's transaction, which holds its row; the same sent again is
    one.

    with_changes: ids of what the person had before them beside it, as it waited on the device where they signed without
    a server; it has arrived since, all of it and nothing else. Raises MovedOn or NotReady.
    """
    if kept.seq != seen_seq and not reviews.is_only(connection, kept.id, seen_seq, with_changes):
        raise MovedOn
    steps = reviews.steps(connection, kept.id)
    if steps and steps[-1].kind == SUBMITTED and steps[-1].seq == kept.seq and steps[-1].person_id == me.id:
        return
    points = [point for point in readiness(*judged(connection, kept)) if point.level == "must"]
    points += undecided(connection, kept)
    if points:
        raise NotReady(points)
    reviews.take(connection, kept.id, me, SUBMITTED, kept.seq, signature=signature)


def send_back(connection: Connection, kept: KeptInspection, me: Person, words: str) -> None:
    """Send it back with what is to be done, in the caller's transaction, which holds its row. Raises NotSubmitted."""
    steps = reviews.steps(connection, kept.id)
    if not steps or steps[-1].kind != SUBMITTED:
        raise NotSubmitted
    reviews.take(connection, kept.id, me, SENT_BACK, kept.seq, words=words)


def signatures(
    connection: Connection, kept: KeptInspection, me: Person, signature: dict[str, Any]
) -> tuple[Signature, ...]:
    """Who inspected, as they signed when they submitted, and who authorises it; none where nobody submitted it or it
    was changed since."""
    if not reviews.in_review(connection, kept.id):
        return ()
    by = reviews.steps(connection, kept.id)[-1]
    same = by.person_id == me.id
    return (
        signing.signature(signing.INSPECTED, by.name, by.role, by.at, by.signature or {}),
        signing.signature(
            f"{signing.AUTHORISED} the same person" if same else signing.AUTHORISED,
            me.name, me.role, now(), signature,
        ),
    )  # fmt: skip


def authorised(connection: Connection, kept: KeptInspection, me: Person, signature: dict[str, Any]) -> None:
    """Note that it was authorised, once, in the transaction that issues it. Raises MovedOn where somebody sent it back
    while it was typeset: then it is not issued."""
    steps = reviews.steps(connection, kept.id)
    if steps and steps[-1].kind == SENT_BACK:
        raise MovedOn
    if reviews.in_review(connection, kept.id):
        reviews.take(connection, kept.id, me, AUTHORISED, kept.seq, signature=signature)


def _changed(inspection: Inspection, entries: Iterable[history.HistoryEntry]) -> list[Changed]:
    """Field by field what changed, the last one first; what stands again as it stood is left out."""
    places = spots(inspection)
    first: dict[tuple[str, str], Any] = {}
    last: dict[tuple[str, str], history.HistoryEntry] = {}
    for entry in entries:
        spec = KINDS[entry.entity].fields.get(entry.field) if entry.entity in KINDS else None
        if spec is None or (spec.kind == "text" and spec.keeps == "id") or entry.field in _UNSAID:
            continue
        key = (entry.entity_id, entry.field)
        first.setdefault(key, entry.before)
        last.pop(key, None)
        last[key] = entry
    changes = []
    for key, entry in reversed(last.items()):
        if first[key] == entry.value:
            continue
        spec = KINDS[entry.entity].fields[entry.field]
        # Fields of the inspection itself are entered at several stages.
        place = places.get(entry.entity_id) if entry.entity != "inspection" else None
        stage = (place.stage if place else None) or stage_of(entry.entity, entry.field)
        whole = stage if entry.entity == "inspection" else KINDS[entry.entity].name.replace("_", " ")
        plain = spec.kind in _PLAIN
        changes.append(
            Changed(
                where=place.where if place else whole.capitalize(),
                label=spec.label,
                before=_in_words(first[key]) if plain else "",
                now=_in_words(entry.value) if plain else "changed",
                by=entry.author,
                at=entry.kept_at,
                stage=stage,
                entity=entry.entity,
                entity_id=entry.entity_id,
                field=entry.field,
            )
        )
        if len(changes) == MOST:
            break
    return changes


def _in_words(value: Any) -> str:
    if value is None or value == "":
        return "nothing"
    if isinstance(value, bool):
        return "yes" if value else "no"
    return f"{value:g}" if isinstance(value, float) else str(value)
