"""Calls to the network operator: about what, with which reference, what was promised by when, and what came of it."""

from collections.abc import Mapping

from dorrik.core.basics.record import record
from dorrik.core.book.reference import printed
from dorrik.core.inspection import fields as f


@record
class Fault:
    """What the operator is rung for. found, asks: the letter's sentences; fields: facts of the inspection that go with
    it; urgent: is somebody in danger by it?"""

    key: str
    label: str
    found: str
    asks: str
    fields: tuple[str, ...]
    urgent: bool


def faults() -> Mapping[str, Fault]:
    """Every kind of fault on the operator's side by its key (`data/operator_faults.csv`)."""
    return {
        row["key"]: Fault(
            row["key"], row["label"], row["found"], row["asks"], tuple(row["fields"].split()), bool(row["urgent"])
        )
        for row in printed("operator_faults")
    }


@record(kw_only=True)
class OperatorCall:
    """One call. promised_by: until when they said that they would come or answer; closed_at: when it was settled."""

    id: str
    fault: str | None = f.choice("About", *faults())
    what: str | None = f.text("What was seen", 300)
    called_at: str | None = f.instant("Called")
    spoke_with: str | None = f.text("Spoke with", 120)
    reference: str | None = f.text("Their reference", 200)
    promised_by: str | None = f.instant("Promised by", ahead_days=366)
    asked_for: str | None = f.text("Papers they ask for", 300)
    outcome: str | None = f.text("What came of it", 500)
    closed_at: str | None = f.instant("Settled")
    holds: bool | None = f.flag("Inspections wait for it")
    removed: bool | None = f.flag("Removed")
