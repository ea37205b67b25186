"""How documents put values into words."""

from datetime import date, datetime
from typing import Any
from zoneinfo import ZoneInfo

from dorrik.core.basics.readings import Reading
from dorrik.core.inspection.field_spec import Printed
from dorrik.core.inspection.kinds import KINDS
from dorrik.core.inspection.labels import label_kinds
from dorrik.core.inspection.records import Inspection

#: Both nations keep the same clock.
_CLOCK = ZoneInfo("Europe/London")


def day(given: date | str | None) -> str:
    """A date in words, '' for none."""
    if given is None:
        return ""
    date_given = date.fromisoformat(given) if isinstance(given, str) else given
    return f"{date_given.day} {date_given:%B %Y}"


def short_day(given: str) -> str:
    """A date in few letters."""
    date_given = date.fromisoformat(given)
    return f"{date_given.day} {date_given:%b %Y}"


def moment(at: str | None) -> str:
    """A moment by the clock on the wall; it is kept in universal time."""
    if not at:
        return "–"
    here = datetime.fromisoformat(at).astimezone(_CLOCK)
    return f"{day(here.date())}, {here:%H:%M}"


def hour(at: str | None) -> str:
    """The time of a moment by the clock on the wall."""
    return f"{datetime.fromisoformat(at).astimezone(_CLOCK):%H:%M}" if at else "–"


def shown(value: Any, unit: str = "") -> str:
    """A value as documents print it: readings as written, with their unit where they are figures."""
    if value is None:
        return "–"
    if isinstance(value, Reading):
        plain = value.value is not None
        return f"{value.text} {unit}".strip() if plain else value.text
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, float):
        return f"{value:g} {unit}".strip()
    return str(value)


def tick(word: str | None) -> str:
    """Correct or not, short enough for a column."""
    return {"correct": "OK", "incorrect": "DEFECT"}.get(word or "", word or "–")


def labels_at(inspection: Inspection, place: str) -> str:
    """The labels that were recorded of the origin or of a board, each with its state; '' for none."""
    kinds = label_kinds()
    label_texts = [
        f"{kinds[label.kind or ''].label}: {label.state}{f' ({label.interval})' if label.interval else ''}"
        for label in inspection.labels
        if label.about_id == place and label.kind in kinds and label.state
    ]
    return "; ".join(label_texts)


def facts(entity: Any, paper: Printed, kind: str = "inspection") -> list[dict[str, str]]:
    """Those fields of an entity that are printed there, as label and value, in the order of their declarations."""
    return [
        {"label": spec.label, "value": shown(getattr(entity, name), spec.unit)}
        for name, spec in KINDS[kind].fields.items()
        if paper in spec.printed
    ]
