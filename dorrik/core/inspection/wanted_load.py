"""A load that the client asks about: is there room for it? (rule 3.10)"""

from dorrik.core.basics.record import record
from dorrik.core.inspection import fields as f
from dorrik.core.inspection.demand import allowances


@record(kw_only=True)
class WantedLoad:
    """What is to be added, its current, and whether it sheds load by itself when the supply is full."""

    id: str
    what: str | None = f.choice("Load", *allowances())
    current_a: float | None = f.number("Current", "A", 0, 400)
    sheds: bool | None = f.flag("Sheds load by itself")
    removed: bool | None = f.flag("Removed")
