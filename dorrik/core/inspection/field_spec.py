"""What is declared of a field, what may stand in it, and what to tell the person when something else was entered."""

import re
from collections.abc import Callable
from dataclasses import asdict
from datetime import UTC, date, datetime, timedelta
from typing import Any, Literal

from dorrik.core.basics.readings import MAX_LENGTH, Quantity, Reading, ReadingError
from dorrik.core.basics.record import record
from dorrik.core.basics.text import tidy, why_not
from dorrik.core.book import catalogue, house_rules, reference
from dorrik.core.inspection.stages import Stage

Kind = Literal[
    "text", "choice", "integer", "number", "reading", "flag", "date", "instant",
    "options", "corrections", "pairings", "partitions", "marks", "answers", "entries",
]  # fmt: skip
#: What stands where a test could not be made.
LIM = "LIM"
#: What stays of a text when somebody's data are erased: an id, a number that we gave, a key of our own tables, a place
#: on a board; otherwise nothing.
Keeps = Literal["", "id", "number", "key", "way"]
#: What a pairing of conductors was found to be.
DEAD, LIVE = "dead", "live"
#: No board of a home has more pairings than this.
MOST_PAIRINGS = 400
#: What is marked on a photo, and how much of it at most.
MARKS = ("arrow", "ring", "number", "blur")
MOST_MARKS = 60
#: No entry of the catalogue asks more.
MOST_ANSWERS = 40
_ENDS = ("x", "y", "x2", "y2")
#: A bathroom with more screens than this is none.
MOST_PARTITIONS = 12
#: Where a partition begins and ends on the plan (m); its upper edge (m) may be left out: then it reaches the ceiling.
PARTITION = ("x1", "y1", "x2", "y2")

#: Where the facts of the report are printed, and on which other papers.
Printed = Literal["job", "supply", "board", "minor works"]
#: The parts of the drawing of the supply.
IntakePart = Literal["", "supply", "ze", "head", "tails", "meter", "isolator", "switch-fuse", "earth"]

EARLIEST = date(1990, 1, 1)


class FieldError(ValueError):
    """The value cannot stand in the field; the message is for the person who entered it."""


@record(kw_only=True)
class Column:
    """A field as a column of the table of circuits, or as a figure of a device or of a board as a whole.

    label: in full words, where that is not the field's own; head: two short lines; printed: its head in the report, ''
    where it is not printed; csv: its head in our CSV, '' where it is not written; words: what its head may be called in
    a chart from elsewhere, none where it is not taken from one; hint: what to mind.
    """

    label: str = ""
    head: tuple[str, str] = ("", "")
    printed: str = ""
    csv: str = ""
    words: tuple[str, ...] = ()
    hint: str = ""


@record(kw_only=True)
class FieldSpec:
    """A field: its kind, the words for it, its unit and its limits, and what is done with it.

    label: short name on screens and in reports; unit: of readings and numbers; choices: what a choice may
    be; low, high: of numbers, both included; max_length: of text (characters); quantity: which instrument
    accuracy applies to a reading; ahead_days: how far a date may lie ahead; keeps: what of a text stays when the data
    of a client are erased. Words tell of somebody unless their field says that they are something of ours.

    stage: where it is entered, None where the rest of its kind is; asked: is it asked of every one of its kind?; stays:
    is it carried over into the next inspection (None: as its kind is)?; compared: is its figure compared over the
    years?; instead: a field that may be filled in its place; column: how it stands in a table; takes: the function of
    an instrument whose readings it takes, '' for the one of its quantity; limited_by: why it can be a limitation, none
    for the usual reasons of its quantity; limited_in: the field where that reason is kept too; printed: where it stands
    among the facts on paper; intake: the part of the drawing of the supply that shows it; shared: is it entered once
    for all homes that share an intake?
    """

    kind: Kind
    label: str
    unit: str = ""
    choices: tuple[str, ...] = ()
    low: float | None = None
    high: float | None = None
    max_length: int = 0
    quantity: Quantity | None = None
    ahead_days: int = 1
    keeps: Keeps = ""
    stage: Stage | None = None
    asked: bool = False
    stays: bool | None = None
    compared: bool = False
    instead: str = ""
    column: Column | None = None
    takes: str = ""
    limited_by: tuple[str, ...] = ()
    limited_in: str = ""
    printed: tuple[Printed, ...] = ()
    intake: IntakePart = ""
    shared: bool = False

    @property
    def can_be_limited(self) -> bool:
        """May a limitation stand in it, as LIM with its reason or as the word alone?"""
        return self.kind == "reading" or LIM in self.choices

    def clean(self, value: object, now: datetime | None = None) -> Any:
        """The value as it is kept (None for empty). Raises FieldError for what cannot stand here.

        now: the moment (with its zone) beyond which a date lies ahead, by more than `ahead_days`; without it no date is
        too late, as for what was looked at when it was entered.
        """
        if value is None or value == "":
            return None
        kept = _CLEAN[self.kind](self, value)
        if now is not None and self.kind in ("date", "instant"):
            self._not_ahead(kept, now)
        return kept

    def _not_ahead(self, kept: str, now: datetime) -> None:
        last = now.astimezone(UTC) + timedelta(days=self.ahead_days)
        if self.kind == "date" and kept > last.date().isoformat():
            raise FieldError(f"{self.label}: that date is still to come.")
        if self.kind == "instant" and datetime.fromisoformat(kept) > last:
            raise FieldError(f"{self.label}: that time is out of reach.")

    def revive(self, kept: Any) -> Any:
        """The kept value as the rules use it: readings parsed, everything else as it is."""
        if self.kind == "reading" and kept is not None:
            return Reading.parse(kept, self.unit, self.quantity)
        return reference.revive(kept) if self.kind == "corrections" and kept is not None else kept

    def plain(self, value: Any) -> Any:
        """The value as JSON data, the way back from `revive`."""
        if self.kind == "reading":
            return value.text
        return [asdict(item) for item in value] if self.kind == "corrections" else value


def _text(spec: FieldSpec, value: object) -> str | None:
    if not isinstance(value, str):
        raise FieldError(f"{spec.label} takes text.")
    # Compared before it is looked at letter by letter: what is far too long is not.
    if len(value) > 2 * spec.max_length + 100:
        raise FieldError(f"{spec.label} is {len(value)} characters long; at most {spec.max_length} fit.")
    kept = _tidy(spec, value)
    if len(kept) > spec.max_length:
        raise FieldError(f"{spec.label} is {len(kept)} characters long; at most {spec.max_length} fit.")
    return kept or None


def _tidy(spec: FieldSpec, value: str) -> str:
    try:
        return tidy(value)
    except ValueError as error:
        raise FieldError(f"{spec.label}: {error}") from None


def _choice(spec: FieldSpec, value: object) -> str:
    if value not in spec.choices:
        raise FieldError(f"{spec.label} must be one of: {', '.join(spec.choices)}.")
    return str(value)


def _number(spec: FieldSpec, value: object) -> float:
    if isinstance(value, str):
        text = value.strip().replace(",", ".")
        if not re.fullmatch(r"-?\d{1,12}(\.\d{1,12})?", text):
            raise FieldError(f"{spec.label}: enter a number, such as 2.5.")
        value = float(text)
    # A whole number can be longer than any that is finite here.
    if isinstance(value, bool) or not isinstance(value, int | float) or not -1e300 < value < 1e300:
        raise FieldError(f"{spec.label}: enter a number, such as 2.5.")
    unit = f" {spec.unit}" if spec.unit else ""
    if spec.low is not None and value < spec.low:
        raise FieldError(f"{spec.label} is at least {spec.low:g}{unit}.")
    if spec.high is not None and value > spec.high:
        raise FieldError(f"{spec.label} is at most {spec.high:g}{unit}.")
    return float(value)


def _integer(spec: FieldSpec, value: object) -> int:
    number = _number(spec, value)
    if number != int(number):
        raise FieldError(f"{spec.label}: enter a whole number.")
    return int(number)


def _reading(spec: FieldSpec, value: object) -> str | None:
    if not isinstance(value, str):
        raise FieldError(f"{spec.label} takes a reading as text, for instance 0.38 or >200.")
    try:
        tidied = value if len(value) > MAX_LENGTH else _tidy(spec, value)
        reading = Reading.parse(tidied, spec.unit, spec.quantity)
    except ReadingError as error:
        raise FieldError(str(error)) from None
    return None if reading.kind == "empty" else reading.text


def _flag(spec: FieldSpec, value: object) -> bool:
    if not isinstance(value, bool):
        raise FieldError(f"{spec.label} is yes or no.")
    return value


def _date(spec: FieldSpec, value: object) -> str:
    try:
        if not isinstance(value, str) or not re.fullmatch(r"\d{4}-\d\d-\d\d", value):
            raise ValueError
        day = date.fromisoformat(value)
    except ValueError:
        raise FieldError(f"{spec.label}: enter a date, such as 2026-11-29.") from None
    if day < EARLIEST:
        raise FieldError(f"{spec.label}: {day.year} is before any report this register can hold ({EARLIEST.year}).")
    return day.isoformat()


def _instant(spec: FieldSpec, value: object) -> str:
    try:
        if not isinstance(value, str) or len(value) > 40:
            raise ValueError
        moment = datetime.fromisoformat(value)
        if moment.tzinfo is None:
            raise ValueError
        # The first and the last day that there is can lie beyond it in another zone.
        moment = moment.astimezone(UTC).replace(microsecond=0)
    except (ValueError, OverflowError):
        raise FieldError(f"{spec.label} takes a date and time with its zone.") from None
    if moment.date() < EARLIEST:
        raise FieldError(f"{spec.label}: that time is out of reach.")
    return moment.strftime("%Y-%m-%dT%H:%M:%SZ")


def _options(spec: FieldSpec, value: object) -> dict[str, float | str]:
    try:
        return house_rules.clean(value)
    except ValueError as error:
        raise FieldError(str(error)) from None


def _corrections(spec: FieldSpec, value: object) -> list[dict[str, str]]:
    try:
        return reference.clean(value)
    except ValueError as error:
        raise FieldError(str(error)) from None


def _pairings(spec: FieldSpec, value: object) -> dict[str, str] | None:
    if not isinstance(value, dict) or len(value) > MOST_PAIRINGS:
        raise FieldError(f"{spec.label} takes pairings with what each was found to be.")
    for name, reading in value.items():
        if not isinstance(name, str) or not 1 <= len(name) <= 40 or why_not(name) is not None:
            raise FieldError(f"{spec.label}: a pairing has no usable name.")
        if reading not in (DEAD, LIVE):
            raise FieldError(f"{spec.label}: {name} is either {DEAD} or {LIVE}.")
    return dict(value) or None


def _partitions(spec: FieldSpec, value: object) -> list[dict[str, float]] | None:
    if not isinstance(value, list) or len(value) > MOST_PARTITIONS:
        raise FieldError(f"{spec.label}: a list of at most {MOST_PARTITIONS} partitions.")
    return [_partition(spec, number, one) for number, one in enumerate(value, 1)] or None


def _partition(spec: FieldSpec, number: int, value: object) -> dict[str, float]:
    if not isinstance(value, dict) or not set(PARTITION) <= set(value) <= {*PARTITION, "top_m"}:
        raise FieldError(
            f"{spec.label}: number {number} names x1, y1, x2, y2 and, where it does not reach the ceiling, top_m."
        )
    partition = {}
    for name, metres in value.items():
        if isinstance(metres, bool) or not isinstance(metres, int | float) or not 0 <= metres <= 30:
            raise FieldError(f"{spec.label}: {name} of number {number} is from 0 to 30 m.")
        partition[str(name)] = float(metres)
    if (partition["x1"], partition["y1"]) == (partition["x2"], partition["y2"]):
        raise FieldError(f"{spec.label}: number {number} has no length.")
    return partition


def _marks(spec: FieldSpec, value: object) -> list[dict[str, Any]] | None:
    if not isinstance(value, list) or len(value) > MOST_MARKS:
        raise FieldError(f"{spec.label}: a list of at most {MOST_MARKS} marks.")
    return [_mark(spec, number, one) for number, one in enumerate(value, 1)] or None


def _mark(spec: FieldSpec, number: int, value: object) -> dict[str, Any]:
    if not isinstance(value, dict) or set(value) != {"kind", *_ENDS}:
        raise FieldError(f"{spec.label}: number {number} has a kind, x, y, x2 and y2.")
    if value["kind"] not in MARKS:
        raise FieldError(f"{spec.label}: number {number} is one of {', '.join(MARKS)}.")
    for name in _ENDS:
        part = value[name]
        if isinstance(part, bool) or not isinstance(part, int | float) or not 0 <= part <= 1:
            raise FieldError(f"{spec.label}: {name} of number {number} is a part of the photo, from 0 to 1.")
    return {"kind": value["kind"]} | {name: float(value[name]) for name in _ENDS}


def _answers(spec: FieldSpec, value: object) -> dict[str, bool] | None:
    if not isinstance(value, dict) or len(value) > MOST_ANSWERS:
        raise FieldError(f"{spec.label} are yes or no by question.")
    for name, answer in value.items():
        if not isinstance(name, str) or not re.fullmatch("[a-z0-9-]{1,40}", name) or not isinstance(answer, bool):
            raise FieldError(f"{spec.label} are yes or no by question.")
    return dict(value) or None


def _entries(spec: FieldSpec, value: object) -> list[dict[str, str]] | None:
    try:
        return catalogue.clean(value) or None
    except ValueError as error:
        raise FieldError(str(error)) from None


_CLEAN: dict[Kind, Callable[[FieldSpec, object], Any]] = {
    "text": _text,
    "choice": _choice,
    "number": _number,
    "integer": _integer,
    "reading": _reading,
    "flag": _flag,
    "date": _date,
    "instant": _instant,
    "options": _options,
    "corrections": _corrections,
    "pairings": _pairings,
    "partitions": _partitions,
    "marks": _marks,
    "answers": _answers,
    "entries": _entries,
}
