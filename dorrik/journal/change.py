"""A change, and what becomes of it."""

from dataclasses import dataclass
from datetime import datetime
from typing import Any, Literal


@dataclass(frozen=True, slots=True)
class Change:
    """One field of one entity set to a value.

    id: made by the device that made the change (UUIDv7); entity: kind ('circuit'); entity_id: made by the device;
    field: a declared field, or the kind's parent ('board'), which makes the entity; value: as entered; based_on: the
    sequence number that the device had seen; made_at: when it was made, by the device's clock, universal time;
    device: the device's own id; instrument_id: the instrument used at this inspection with which a reading was taken,
    read_at: when it was on the display, universal time, where it came by a link; read_by: the attendance of the trainee
    who took it, where it was not the author.
    """

    id: str
    entity: str
    entity_id: str
    field: str
    value: Any
    based_on: int
    made_at: datetime
    device: str
    instrument_id: str | None = None
    read_at: datetime | None = None
    read_by: str | None = None


@dataclass(frozen=True, slots=True)
class Author:
    """Who makes changes: who they are, and their role, which says what they may. issues: does the server itself write
    what it has just issued?"""

    id: str
    role: str
    issues: bool = False


@dataclass(frozen=True, slots=True)
class Overtaken:
    """A colleague's change to the same field that this one came after without having seen it."""

    seq: int
    author_id: str
    value: Any


@dataclass(frozen=True, slots=True)
class Result:
    """What became of one change.

    state: kept, already (sent before, applied once) or refused; seq: its place in the journal; reason: why it was
    refused, for the person at the field; overtook: see Overtaken.
    """

    id: str
    state: Literal["kept", "already", "refused"]
    seq: int | None = None
    reason: str | None = None
    overtook: Overtaken | None = None


class Refusal(ValueError):
    """The change cannot be applied; the message is for the person who made it."""
