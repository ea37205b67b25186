"""Labels and notices of an installation, one by one (`data/labels.csv`): found, removed, fitted."""

from collections.abc import Mapping

from dorrik.core.basics.record import record
from dorrik.core.book.reference import printed
from dorrik.core.inspection import fields as f

FOUND, MISSING, OLD, REMOVED, FITTED = STATES = ("found", "missing", "out of date", "removed", "fitted")
#: How often a label at an RCD says that its button is pressed; the first is what is said today.
INTERVALS = ("six-monthly", "quarterly", "monthly", "other")
#: What a label hangs on.
OF = ("inspection", "board")


@record
class LabelKind:
    """at: origin or board; always: is it needed on every one of those? observation: the entry of the catalogue that one
    that is missing raises; source: the clause."""

    key: str
    label: str
    at: str
    always: bool
    observation: str
    source: str


def label_kinds() -> Mapping[str, LabelKind]:
    """Every kind of label by its key, in the order in which they are looked for."""
    return {
        row["key"]: LabelKind(
            row["key"], row["label"], row["at"], row["always"] == "yes", row["observation"], row["source"]
        )
        for row in printed("labels")
    }


@record(kw_only=True)
class Label:
    """One label: of which kind, where, how it stands now; interval: what one at an RCD says; says: its words or why."""

    id: str
    about_entity: str | None = f.choice("About", *OF)
    about_id: str | None = f.identity("About which")
    kind: str | None = f.choice("Label", *label_kinds())
    state: str | None = f.choice("State", *STATES)
    interval: str | None = f.choice("Test interval on it", *INTERVALS)
    says: str | None = f.text("What it says", 200)
    removed: bool | None = f.flag("Removed")

    @property
    def there(self) -> bool:
        """Is it in its place as it should be?"""
        return self.state in (FOUND, FITTED)
