"""Ways of putting a finding right (`data/remedies.csv`): for what a price stands, what it clears, its usual price."""

from collections.abc import Mapping

from dorrik.core.basics.record import record
from dorrik.core.book.reference import printed

#: Not priced: somebody else's to put right.
OPERATOR = "operator"
#: Work that the list does not have; priced by hand.
OWN = "own"


@record
class Rate:
    """price, each: for the whole, and for each circuit of a board or each finding of a home (the firm's currency);
    minutes, each_min: how long that takes."""

    price: float
    each: float
    minutes: int
    each_min: int


@record
class Remedy:
    """A way of putting findings right.

    kind: part, device, renewal, search or operator; at: what one price is for; clears: entries of the catalogue, with
    the kind of thing they are about before a colon where it matters; condition: what must hold besides the retest.
    """

    key: str
    label: str
    kind: str
    at: str
    clears: tuple[str, ...]
    usual: Rate
    condition: str

    def does_clear(self, entry: str, about: str) -> bool:
        """Does it put that entry of the catalogue right on that kind of thing?"""
        return entry in self.clears or f"{about}:{entry}" in self.clears


def remedies() -> Mapping[str, Remedy]:
    """Every remedy by its key, in the order of the file."""
    return {
        row["key"]: Remedy(
            row["key"], row["label"], row["kind"], row["at"], tuple(row["clears"].split()),
            Rate(float(row["price"]), float(row["each"]), int(row["min"]), int(row["each_min"])), row["if"],
        )
        for row in printed("remedies")
    }  # fmt: skip


def priced() -> Mapping[str, Remedy]:
    """Those that a firm has a price for: what the network operator puts right is not sold."""
    return {key: one for key, one in remedies().items() if one.kind != OPERATOR}
