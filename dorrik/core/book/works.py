"""Kinds of work on a repair (`data/works.csv`): what each is done to, what it undoes, what is kept of the part."""

from collections.abc import Mapping

from dorrik.core.basics.record import record
from dorrik.core.book.reference import printed


@record
class Work:
    """of: kinds of things it is done to; asks, keeps: `kind:what` as the file has them."""

    key: str
    label: str
    of: tuple[str, ...]
    asks: tuple[str, ...]
    keeps: tuple[str, ...]


def works() -> Mapping[str, Work]:
    """Every kind of work by its key, in the order of the file."""
    return {
        row["key"]: Work(
            row["key"],
            row["label"],
            tuple(row["of"].split()),
            tuple(row["asks"].split()),
            tuple(row["keeps"].split()),
        )
        for row in printed("works")
    }
