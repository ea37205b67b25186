"""Reading the reference tables that ship beside the rules (CSV and TOML in `data/`), and correcting them.

A firm that holds its own copy of a standard may correct a cell. The correction stands beside the table, never in
it: what was printed, what it became, why and by whose word are all kept, and go with every inspection that used it.
"""

import os.path
from collections.abc import Callable, Iterator, Mapping
from contextlib import contextmanager
from contextvars import ContextVar
from dataclasses import asdict
from functools import cache, lru_cache, wraps
from typing import Any, ParamSpec, TypeVar, cast

from dorrik.core.basics.record import record
from dorrik.core.basics.text import why_not

DATA = os.path.join(os.path.dirname(os.path.dirname(__file__)), "data")

#: The columns that name a row, by table; the other columns hold what may be corrected.
KEYS: Mapping[str, tuple[str, ...]] = {
    "cables": ("csa_mm2",),
    "conductors": ("csa_mm2",),
    "devices": ("standard", "type", "rating_a"),
    "intervals": ("premises", "nation"),
    "duties": ("nation", "duty", "counted_from"),
    "imperial": ("name",),
    "other_cables": ("type", "csa_mm2"),
    "rcd": ("standard", "delay", "multiple"),
    "tails": ("csa_mm2",),
    "diversity": ("load",),
}

#: Tables whose empty cells hold numbers when they are filled.
_NUMBERS = ("devices", "cables", "conductors", "other_cables", "imperial", "tails", "diversity")


class CorrectionError(ValueError):
    """The correction does not fit its table; the message is for the person who made it."""


@record
class Correction:
    """One cell of a table read otherwise.

    table: name of the table; row: the row's key columns, joined by ' | '; column: which cell; value: what it is
    read as ('' for an empty cell); why: reason and source, for instance the page of the firm's own copy.
    """

    table: str
    row: str
    column: str
    value: str
    why: str


_in_force: ContextVar[tuple[Correction, ...]] = ContextVar("corrections", default=())


@contextmanager
def corrected(corrections: tuple[Correction, ...]) -> Iterator[None]:
    """Read the tables with these corrections for as long as the block lasts, in this thread or task only."""
    token = _in_force.set(corrections)
    try:
        yield
    finally:
        _in_force.reset(token)


_P = ParamSpec("_P")
_T = TypeVar("_T")


def cached(function: Callable[_P, _T]) -> Callable[_P, _T]:
    """Keep what a function makes of the tables, apart for each set of corrections in force."""
    by_corrections: dict[tuple[Correction, ...], Callable[_P, _T]] = {}

    @wraps(function)
    def ask(*args: _P.args, **kwargs: _P.kwargs) -> _T:
        now = _in_force.get()
        memory = by_corrections.get(now)
        if memory is None:
            # Firms are few and change their tables seldom; still, nothing grows for ever.
            if len(by_corrections) >= 64:
                by_corrections.clear()
            memory = by_corrections[now] = cast(Callable[_P, _T], lru_cache(4096)(function))
        return memory(*args, **kwargs)

    return ask


@cache
def printed(name: str) -> tuple[dict[str, str], ...]:
    """Rows of the table `data/<name>.csv` as shipped, header names to text; lines that begin with # are notes."""
    # Imported where they are used, here and below: the core also starts in a browser, where starting is waited for.
    import csv

    lines = _text(f"{name}.csv").splitlines()
    return tuple(csv.DictReader(line for line in lines if line and not line.startswith("#")))


@cache
def source(name: str) -> str:
    """Where the numbers of a table come from: the notes at its head."""
    lines = _text(f"{name}.csv").splitlines()
    return " ".join(line.lstrip("# ") for line in lines if line.startswith("#"))


def row_key(name: str, row: Mapping[str, str]) -> str:
    """What names a row of a table, as corrections write it."""
    return " | ".join(row[column] for column in KEYS[name])


@cached
def rows(name: str) -> tuple[dict[str, str], ...]:
    """Rows of a table with the corrections in force."""
    table = printed(name)
    wanted = [correction for correction in _in_force.get() if correction.table == name]
    if not wanted:
        return table
    cells = {(correction.row, correction.column): correction.value for correction in wanted}
    return tuple(
        {column: cells.get((row_key(name, row), column), text) for column, text in row.items()} for row in table
    )


def check(correction: Correction) -> Correction:
    """The correction itself, if its cell exists and can hold it. Raises CorrectionError, saying what is wrong."""
    if correction.table not in KEYS:
        raise CorrectionError(f"There is no table {correction.table[:40]!r} to correct.")
    row = next((r for r in printed(correction.table) if row_key(correction.table, r) == correction.row), None)
    if row is None:
        raise CorrectionError(f"The table {correction.table} has no row {correction.row[:80]!r}.")
    if correction.column not in row or correction.column in KEYS[correction.table]:
        raise CorrectionError(f"{correction.column[:40]!r} is not a column of {correction.table} to correct.")
    before = row[correction.column]
    if _is_number(before) or (before == "" and correction.table in _NUMBERS and correction.column != "note"):
        emptied = correction.value == "" and correction.table not in ("cables", "imperial")
        if not emptied and not (_is_number(correction.value) and 0 < float(correction.value) < 1e6):
            raise CorrectionError("This cell holds a number above nothing.")
    if not correction.why.strip():
        raise CorrectionError("Say why, and where the value comes from.")
    if len(correction.why) > 500 or len(correction.value) > 100:
        raise CorrectionError("The value has at most 100 characters, the reason 500.")
    return correction


def clean(value: object) -> list[dict[str, str]]:
    """Corrections as an inspection keeps them. Raises CorrectionError naming the one that cannot be."""
    if not isinstance(value, list) or len(value) > 200:
        raise CorrectionError("Corrections of tables are a list of at most 200.")
    seen: dict[tuple[str, str, str], Correction] = {}
    for row in value:
        if not isinstance(row, Mapping) or set(row) != {"table", "row", "column", "value", "why"}:
            raise CorrectionError("A correction names its table, row, column, value and why.")
        if not all(isinstance(part, str) and why_not(part) is None for part in row.values()):
            raise CorrectionError("The parts of a correction are text.")
        checked = check(Correction(**row))
        seen[checked.table, checked.row, checked.column] = checked
    return [asdict(correction) for correction in seen.values()]


def revive(kept_value: list[dict[str, str]] | None) -> tuple[Correction, ...]:
    """Corrections that were cleaned before, as the tables take them."""
    return tuple(Correction(**correction) for correction in kept_value or ())


@cache
def toml(name: str) -> dict[str, Any]:
    """The contents of `data/<name>.toml`."""
    import tomllib

    return tomllib.loads(_text(f"{name}.toml"))


def read_all() -> None:
    """Read every table now: for where there are no files later, as on a device that takes over what was read."""
    for folder, _, names in os.walk(DATA):
        for name in names:
            stem, ending = os.path.splitext(os.path.relpath(os.path.join(folder, name), DATA))
            if ending == ".csv":
                printed(stem.replace(os.sep, "/"))
                source(stem.replace(os.sep, "/"))
            elif ending == ".toml":
                toml(stem.replace(os.sep, "/"))


def _text(name: str) -> str:
    with open(os.path.join(DATA, *name.split("/")), encoding="utf-8") as file:
        return file.read()


def _is_number(text: str) -> bool:
    try:
        float(text)
    except ValueError:
        return False
    return text.strip().isascii() and "n" not in text.lower()


def number(text: str) -> float | None:
    """A table cell as a number; an empty cell is None."""
    return float(text) if text.strip() else None
