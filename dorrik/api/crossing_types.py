"""What two devices entered without seeing each other, over the line."""

from typing import Any

from pydantic import BaseModel

from dorrik.api.common_types import Moment


class CrossedEntryOut(BaseModel):
    """One of the entries: what was entered, by whom, when by that device's clock. mine: by who asks, on whichever
    device."""

    entity: str
    entity_id: str
    field: str
    value: Any
    author: str
    mine: bool
    made_at: Moment


class CrossedFieldOut(BaseModel):
    """A field: the entry that stands, since it arrived last, and what others entered there."""

    stands: CrossedEntryOut
    others: list[CrossedEntryOut]


class CrossedRemovalOut(BaseModel):
    """What was removed, by whom, and what others entered there; the latest of each field."""

    removed: CrossedEntryOut
    entered: list[CrossedEntryOut]


class ProposedOut(BaseModel):
    """A change that is proposed."""

    entity: str
    entity_id: str
    field: str
    value: Any


class DifferingFieldOut(BaseModel):
    """A field in which the two differ, and what each says."""

    entity: str
    entity_id: str
    field: str
    first: Any
    second: Any


class DoubledOut(BaseModel):
    """Two things that look like one: the entries that made them; joined by `changes` and one value of each in
    `differs`, told to be two by putting the second where it is once more."""

    kind: str
    first: CrossedEntryOut
    second: CrossedEntryOut
    changes: list[ProposedOut]
    differs: list[DifferingFieldOut]


class CrossingsOut(BaseModel):
    """Everything that is to be decided, as it stands at a sequence number."""

    seq: int
    fields: list[CrossedFieldOut]
    removals: list[CrossedRemovalOut]
    doubled: list[DoubledOut]
