"""What each test tells a client, in a sentence (`data/what_tests_tell.csv`), of tests that were made."""

from collections.abc import Iterator

from dorrik.core.basics.readings import Reading
from dorrik.core.basics.record import record
from dorrik.core.book.reference import printed
from dorrik.core.inspection.records import Inspection


@record
class Meaning:
    """test: its plain name; means: what a good result tells."""

    test: str
    means: str


def of_tests_made(inspection: Inspection) -> Iterator[Meaning]:
    """Every kind of test with at least one result, in the order of the work."""
    things = [c for board in inspection.boards for c in board.circuits]
    things += [rcd for board in inspection.boards for rcd in board.rcds]  # type: ignore[misc]
    for row in printed("what_tests_tell"):
        fields = row["fields"].split()
        if any(_is_result(getattr(thing, field, None)) for thing in things for field in fields):
            yield Meaning(row["test"], row["means"])


def _is_result(value: object) -> bool:
    if isinstance(value, Reading):
        return value.kind in ("number", "over-range")
    return value in ("correct", "incorrect")
