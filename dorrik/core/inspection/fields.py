"""Declaring a field, once, on the dataclass that it belongs to.

From the declaration follow the document format, the journal's checks, the database's column, the API's contract and the
front end's types, the columns of grid, CSV and chart, what is asked for in which stage, what is carried over and what
is compared over the years.
"""

from dataclasses import field
from typing import Any, TypedDict, Unpack

from dorrik.core.basics.readings import Quantity
from dorrik.core.inspection.field_spec import LIM, Column, FieldSpec, IntakePart, Keeps, Printed
from dorrik.core.inspection.stages import Stage


class More(TypedDict, total=False):
    """What else is said of a field where it is declared; see `FieldSpec`."""

    stage: Stage
    asked: bool
    stays: bool
    compared: bool
    instead: str
    column: Column
    takes: str
    limited_by: tuple[str, ...]
    limited_in: str
    printed: tuple[Printed, ...]
    intake: IntakePart
    shared: bool


def _declare(spec: FieldSpec) -> Any:
    return field(default=None, metadata={"spec": spec})


def text(label: str, max_length: int, keeps: Keeps = "", **more: Unpack[More]) -> Any:
    """A field for words. Whatever they are, they may tell of a client, an occupier or their home, and are erased with
    them, unless `keeps` says what they hold."""
    return _declare(FieldSpec(kind="text", label=label, max_length=max_length, keeps=keeps, **more))


def identity(label: str, **more: Unpack[More]) -> Any:
    """A field for the id of something of ours."""
    return text(label, 36, keeps="id", **more)


def choice(label: str, *choices: str, **more: Unpack[More]) -> Any:
    """A field that holds one of a few words."""
    return _declare(FieldSpec(kind="choice", label=label, choices=choices, **more))


#: How a yes-or-no test ends.
CHECKED = ("correct", "incorrect", LIM, "N/A")


def check(label: str, **more: Unpack[More]) -> Any:
    """A field for a yes-or-no test: correct, not correct, or why it was not made."""
    return choice(label, *CHECKED, **more)


def is_tested(spec: FieldSpec) -> bool:
    """Does it hold what a test showed, a reading or a yes-or-no, rather than what was seen or read off?"""
    return spec.kind == "reading" or spec.choices == CHECKED


def number(label: str, unit: str, low: float, high: float, **more: Unpack[More]) -> Any:
    """A field for a plain number, such as a rating or a cross-section."""
    return _declare(FieldSpec(kind="number", label=label, unit=unit, low=low, high=high, **more))


def integer(label: str, low: int, high: int, **more: Unpack[More]) -> Any:
    """A field for a whole number."""
    return _declare(FieldSpec(kind="integer", label=label, low=low, high=high, **more))


def reading(label: str, unit: str, quantity: Quantity, **more: Unpack[More]) -> Any:
    """A field for what an instrument showed."""
    return _declare(FieldSpec(kind="reading", label=label, unit=unit, quantity=quantity, **more))


def flag(label: str, **more: Unpack[More]) -> Any:
    """A field for yes or no."""
    return _declare(FieldSpec(kind="flag", label=label, **more))


def day(label: str, ahead_days: int = 1, **more: Unpack[More]) -> Any:
    """A field for a date, kept as year-month-day."""
    return _declare(FieldSpec(kind="date", label=label, ahead_days=ahead_days, **more))


def instant(label: str, ahead_days: int = 1, **more: Unpack[More]) -> Any:
    """A field for a moment, kept in universal time."""
    return _declare(FieldSpec(kind="instant", label=label, ahead_days=ahead_days, **more))


def options(label: str) -> Any:
    """A field for house rules that differ from their defaults."""
    return _declare(FieldSpec(kind="options", label=label))


def corrections(label: str) -> Any:
    """A field for cells of the reference tables that are read otherwise than printed."""
    return _declare(FieldSpec(kind="corrections", label=label))


def pairings(label: str) -> Any:
    """A field for pairings of conductors, each found dead or live."""
    return _declare(FieldSpec(kind="pairings", label=label))


def partitions(label: str) -> Any:
    """A field for the fixed partitions of a room, as lines on its plan."""
    return _declare(FieldSpec(kind="partitions", label=label))


def marks(label: str) -> Any:
    """A field for what is marked on a photo, in parts of its width and height."""
    return _declare(FieldSpec(kind="marks", label=label))


def answers(label: str) -> Any:
    """A field for questions that were answered, yes or no by the name of the fact."""
    return _declare(FieldSpec(kind="answers", label=label))


def entries(label: str) -> Any:
    """A field for a firm's own entries of the catalogue."""
    return _declare(FieldSpec(kind="entries", label=label))
