"""Something looked at on a board, in a room or of the whole installation, and how it was found."""

from dorrik.core.basics.record import record
from dorrik.core.inspection import fields as f

GOOD, NOT_GOOD, LIM, NOT_APPLICABLE = STATES = ("good", "not good", "LIM", "N/A")


@record(kw_only=True)
class Check:
    """What was looked at, and how it was found. `item` is a key of `board_checks`, `room_checks` or `schedule`."""

    id: str
    item: str | None = f.text("Check", 40, keeps="key")
    state: str | None = f.choice("Found", *STATES)
    note: str | None = f.text("Note", 300)
    removed: bool | None = f.flag("Removed")
