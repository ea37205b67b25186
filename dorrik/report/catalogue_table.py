"""The catalogue as a table for other programs, and reading one back: a line an entry, a column a part of it."""

import csv
import io
from collections.abc import Iterable, Sequence
from typing import Any

from dorrik.core.book import catalogue
from dorrik.core.book.catalogue import OWN, CatalogueEntry
from dorrik.report.papers import Table
from dorrik.report.tables import as_text

COLUMNS = ("key", *OWN)


def write(entries: Iterable[CatalogueEntry]) -> str:
    """CSV with the names of the parts as its head."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\r\n")
    writer.writerow(COLUMNS)
    for entry in entries:
        writer.writerow([as_text(getattr(entry, name)) for name in COLUMNS])
    return out.getvalue()


def read(tables: Sequence[Table]) -> tuple[list[dict[str, str]], list[dict[str, Any]]]:
    """Entries of a table that say something else than the built-in ones, and what is wrong: line and message for each.

    The head names the columns in any order; others are left alone. A line without a key gets one out of its title.
    """
    rows = [row for table in tables[:1] for row in table.rows]
    head = [str(cell or "").strip().lower() for cell in rows[0]] if rows else []
    if "title" not in head:
        return [], [{"line": 1, "message": f"The head of the table names its columns: {', '.join(COLUMNS)}."}]
    places = {name: head.index(name) for name in COLUMNS if name in head}
    by_key: dict[str, dict[str, str]] = {}
    wrong: list[dict[str, Any]] = []
    for line, row in enumerate(rows[1:], 2):
        values = {name: _cell(row, at) for name, at in places.items()}
        if not any(values.values()):
            continue
        values["key"] = values.get("key") or catalogue.key_of(values["title"])
        values = _differing(values)
        if len(values) == 1:
            continue
        try:
            entry = catalogue.check(values)
        except catalogue.UnfitEntry as error:
            wrong.append({"line": line, "message": f"{error.field}: {error}"})
            continue
        if entry["key"] in by_key:
            wrong.append({"line": line, "message": f"key: {entry['key']} is there twice."})
        by_key[entry["key"]] = entry
    return list(by_key.values()), wrong[:50]


def _cell(row: Sequence[Any], at: int) -> str:
    return str(row[at]).strip() if at < len(row) and row[at] is not None else ""


def _differing(values: dict[str, str]) -> dict[str, str]:
    """What a line says that the built-in entry of its key does not, or that does not follow from its own code."""
    entry = catalogue.entries().get(values["key"])
    if entry is None:
        follows = {"group": catalogue.OWN_GROUP, "strict": values.get("code"), "mild": values.get("code")}
        return {name: text for name, text in values.items() if text and text != follows.get(name)}
    return {name: text for name, text in values.items() if name == "key" or (text and text != getattr(entry, name))}
