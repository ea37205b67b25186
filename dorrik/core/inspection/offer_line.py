"""A line of an offer for repairs while it is made up: which remedy, of what, in which of the alternatives."""

from dorrik.core.basics.record import record
from dorrik.core.book.remedies import OWN, priced
from dorrik.core.inspection import fields as f

#: So many alternatives stand beside each other at most.
ALTERNATIVES = 3
#: What a remedy can be done to.
OF = ("inspection", "bond", "board", "rcd", "circuit", "point", "room", "check")


@record(kw_only=True)
class OfferLine:
    """price: by hand, None for the firm's rate; words: of what is not on the list, or instead of the remedy's label;
    observation_id: what work that is not on the list clears."""

    id: str
    alternative: int | None = f.integer("Alternative", 1, ALTERNATIVES)
    remedy: str | None = f.choice("Remedy", *priced(), OWN)
    about_entity: str | None = f.choice("About", *OF)
    about_id: str | None = f.identity("About which")
    observation_id: str | None = f.identity("Clears observation")
    words: str | None = f.text("Work", 200)
    price: float | None = f.number("Price", "", 0, 100_000)
    removed: bool | None = f.flag("Removed")
