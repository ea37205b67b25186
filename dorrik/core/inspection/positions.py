"""How switches, breakers and isolators stood while a reading was taken, kept beside it (stage 8 of the work)."""

from dorrik.core.basics.record import record
from dorrik.core.inspection import fields as f

#: Between the positions of one reading.
JOINT = ", "


@record
class Choice:
    """A position that can be chosen. of: the switch, breaker or isolator, in one position at a time; says: how it is
    written; opens: what lies beyond it is not in a reading; lasts: it is of the whole board, and goes on at the next
    circuit."""

    of: str
    says: str
    opens: bool = False
    lasts: bool = False


CHOICES = (
    Choice("main switch", "main switch on", lasts=True),
    Choice("main switch", "main switch off", lasts=True),
    Choice("other ways", "other ways on", lasts=True),
    Choice("other ways", "other ways off", lasts=True),
    Choice("own way", "own way on"),
    Choice("own way", "own way off"),
    Choice("local isolator", "local isolator on"),
    Choice("local isolator", "local isolator off", opens=True),
    Choice("light switches", "light switches on"),
    Choice("light switches", "light switches off", opens=True),
    Choice("two-way switches", "two-way switches both ways"),
    Choice("two-way switches", "two-way switches one way only", opens=True),
    Choice("controls", "controls bridged"),
    Choice("controls", "controls at rest", opens=True),
)
_OPENING = frozenset(choice.says for choice in CHOICES if choice.opens)


@record(kw_only=True)
class Position:
    """How things stood at one reading: of which figure, what it read, and the positions, joined by a comma. Another
    reading in its place was taken in positions of its own."""

    id: str
    about_id: str | None = f.identity("About which")
    field: str | None = f.text("Figure", 40, keeps="key")
    of_reading: str | None = f.text("Of which reading", 200)
    stood: str | None = f.text("Switch positions", 200)
    removed: bool | None = f.flag("Removed")


def opening(stood: str) -> str:
    """Those of the positions beyond which nothing was measured, in their order; '' for none. What is in own words is
    kept and not guessed at."""
    return JOINT.join(part for part in stood.split(JOINT) if part in _OPENING)
