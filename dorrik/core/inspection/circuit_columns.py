"""The columns of a circuit table as the fields declare them: for grid, report, CSV and charts from elsewhere.

Which of the tests apply to a circuit comes with the judgement; here is what each is called, and in which order. Only
what is no field is written here: what is put together of several, or worked out.
"""

from collections.abc import Iterable, Iterator
from typing import Literal

from dorrik.core.basics.record import record
from dorrik.core.inspection.field_spec import Column
from dorrik.core.inspection.fields import CHECKED
from dorrik.core.inspection.kinds import KINDS, stage_of
from dorrik.core.inspection.stages import TESTED, Stage

Of = Literal["circuit", "rcd", "board"]


@record
class TableColumn:
    """One column of a table. key: the field that stands in it, or a name of its own; stage: dead or live where it is
    measured, '' where it describes; check: found correct or not, rather than a figure; the rest as `Column` has it."""

    key: str
    label: str
    head: tuple[str, str] = ("", "")
    printed: str = ""
    csv: str = ""
    words: tuple[str, ...] = ()
    stage: Stage | Literal[""] = ""
    check: bool = False
    hint: str = ""


#: Columns of a circuit that are no field, by the field that they stand before.
_TOGETHER = {
    "way": TableColumn(
        "board", "Board", csv="Board", words=("board", "db", "distribution board", "consumer unit", "cu")
    ),
    "line_csa_mm2": TableColumn(
        "cable",
        "Cable, line/cpc",
        printed="Cable mm²",
        words=("cable", "cable size", "cable mm2", "conductors", "csa", "size", "live/cpc"),
    ),
    "device_standard": TableColumn(
        "device",
        "Device, such as B32",
        printed="Device",
        words=("device", "breaker", "mcb", "rcbo", "fuse", "protection", "ocpd"),
    ),
    "rcd_trip_ms": TableColumn("zs_limit", "Max Zs", printed="Max Zs Ω"),
}


def _columns(kind: Of) -> Iterator[TableColumn]:
    for name, spec in KINDS[kind].fields.items():
        column: Column | None = spec.column
        if column is None:
            continue
        if kind == "circuit" and name in _TOGETHER:
            yield _TOGETHER[name]
        stage = stage_of(kind, name)
        yield TableColumn(
            name,
            column.label or spec.label,
            column.head,
            column.printed,
            column.csv,
            column.words,
            stage if stage in TESTED else "",
            spec.choices == CHECKED,
            column.hint,
        )


CIRCUIT: tuple[TableColumn, ...] = tuple(_columns("circuit"))
#: The tests of a residual current device.
DEVICE: tuple[TableColumn, ...] = tuple(_columns("rcd"))
#: Figures of a board as a whole.
BOARD: tuple[TableColumn, ...] = tuple(_columns("board"))

BY_KIND: dict[Of, tuple[TableColumn, ...]] = {"circuit": CIRCUIT, "rcd": DEVICE, "board": BOARD}


def printed() -> tuple[TableColumn, ...]:
    """The columns of the report's table of circuits."""
    return tuple(column for column in CIRCUIT if column.printed)


def written() -> tuple[TableColumn, ...]:
    """The columns of our CSV."""
    return tuple(column for column in CIRCUIT if column.csv)


def taken() -> tuple[TableColumn, ...]:
    """What a column of a chart from elsewhere can be."""
    return tuple(column for column in CIRCUIT if column.words)


def keys(columns: Iterable[TableColumn]) -> tuple[str, ...]:
    """Their keys, in their order."""
    return tuple(column.key for column in columns)
