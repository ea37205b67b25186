"""A change: one field of one entity set to a value, by whom it was entered on which device."""

from datetime import datetime
from typing import Any

from dorrik.core.basics.record import record


@record
class Change:
    """One field of one entity set to a value.

    id: made by the device that made the change (UUIDv7); entity: kind ('circuit'); entity_id: made by the device;
    field: a declared field, or the kind's parent ('board'), which makes the entity; value: as entered; based_on: the
    sequence number that the device had seen; made_at: when it was made, by the device's clock, universal time;
    device: the device's own id; instrument_id: the instrument used at this inspection with which a reading was taken,
    read_at: when it was on the display, universal time, where it came by a link; read_by: the attendance of the trainee
    who took it, where it was not the author; knew_issue: the number of the last issue of the report that the device
    knew of (0 for none), UNSAID where it did not say, None for what the server itself enters.
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
    knew_issue: int | None = None


#: What a device of a version that did not say which issue it knew is taken to have said.
UNSAID = -1
#: The device of what came with a document from elsewhere: when it was read is not known here.
IMPORTED = "import"


class Refusal(ValueError):
    """The change cannot be applied; the message is for the person who made it."""


class Waits(Refusal):
    """The change could be applied, and is not until somebody says so: what it was made for is not what is there."""
