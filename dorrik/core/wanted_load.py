"""A load that the client asks about: is there room for it? (rule 3.10)"""

from dorrik.core import fields as f
from dorrik.core.demand import allowances
from dorrik.core.record import record


@record(kw_only=True)
class WantedLoad:
    """What is to be added, its current, and whether it sheds load by itself when the supply is full."""

    id: str
    what: str | None = f.choice("Load", *allowances())
    current_a: float | None = f.number("Current", "A", 0, 400)
    sheds: bool | None = f.flag("Sheds load by itself")
    removed: bool | None = f.flag("Removed")
