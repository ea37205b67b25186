"""What two devices entered without seeing each other, for whoever decides which is kept."""

from collections.abc import Iterable

from fastapi import Request

from dorrik.api.crossing_types import (
    CrossedEntryOut,
    CrossedFieldOut,
    CrossedRemovalOut,
    CrossingsOut,
    DifferingFieldOut,
    DoubledOut,
    ProposedOut,
)
from dorrik.api.problems import RESPONSES, not_found
from dorrik.api.routing import router as make_router
from dorrik.api.work import work
from dorrik.core.inspection.crossed_entries import Entry
from dorrik.journal import blind
from dorrik.store.inspections import inspections
from dorrik.store.inspections.crossings import crossings
from dorrik.store.people.people import colleagues

router = make_router("/api/inspections/{inspection_id}/crossings", "inspections", RESPONSES)


@router.get("")
def to_decide(request: Request, inspection_id: str) -> CrossingsOut:
    """Fields where entries crossed, what was removed while another worked on it, and what was recorded twice. Each is
    decided by ordinary changes; codes that wait for the person's blind second opinion are left out."""
    with work(request) as (connection, me):
        kept = inspections.load(connection, inspection_id, me.firm_id)
        if kept is None:
            raise not_found()
        to_answer = crossings(connection, kept)
        names = colleagues(connection, me.firm_id) if to_answer.count else {}
        hidden = blind.blind_to(connection, kept, me)

    def told(entry: Entry) -> CrossedEntryOut:
        return CrossedEntryOut(
            entity=entry.entity,
            entity_id=entry.entity_id,
            field=entry.field,
            value=entry.value,
            author=names.get(entry.author, "A colleague"),
            mine=entry.author == me.id,
            made_at=entry.made_at,
        )

    def open_to_me(entries: Iterable[Entry]) -> list[Entry]:
        return [entry for entry in entries if not blind.is_hidden(hidden, entry.entity_id, entry.field)]

    return CrossingsOut(
        seq=kept.seq,
        fields=[
            CrossedFieldOut(stands=told(field.stands), others=[told(other) for other in field.others])
            for field in to_answer.fields
            if open_to_me([field.stands])
        ],
        removals=[
            CrossedRemovalOut(
                removed=told(removal.removed), entered=[told(e) for e in _latest(open_to_me(removal.entered))]
            )
            for removal in to_answer.removals
        ],
        doubled=[
            DoubledOut(
                kind=doubled.joining.kind,
                first=told(doubled.first),
                second=told(doubled.second),
                changes=[
                    ProposedOut.model_validate(change, from_attributes=True) for change in doubled.joining.changes
                ],
                differs=[
                    DifferingFieldOut.model_validate(field, from_attributes=True) for field in doubled.joining.differs
                ],
            )
            for doubled in to_answer.doubled
        ],
    )


def _latest(entries: Iterable[Entry]) -> list[Entry]:
    """The last entry of each field."""
    return list({(entry.entity_id, entry.field): entry for entry in entries}.values())
