"""Earlier papers: our own reports (PDF with its data, JSON), and tables from elsewhere (CSV, XLSX) as rows of text.

Nothing in a file is ever run: of a formula the value that was kept with it is taken, or its text.
"""

import csv
import io
import json
import zipfile
from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, datetime
from itertools import islice
from typing import Any

from dorrik.core.basics.text import shown
from dorrik.core.inspection.document import DocumentError, parse
from dorrik.core.inspection.records import Inspection
from dorrik.report.tables import from_text

#: Largest file that is read (bytes), largest a packed one may become, and how many rows are looked at: more than any
#: table may have (`portfolio_table.MOST_ROWS`) with what stands above its heads, so that nothing is cut off untold.
LARGEST = 20_000_000
LARGEST_UNPACKED = 100_000_000
MOST_ROWS = 25_100
MOST_COLUMNS = 60
LONGEST_CELL = 500
#: Lines that tell what parts the cells of a table.
LOOKED_AT = 50


class UnreadablePaper(ValueError):
    """The file cannot be used; the message says why, and what would help."""


@dataclass(frozen=True, slots=True)
class Table:
    """A table: the name of its sheet, '' for none, and its rows, all of one length."""

    sheet: str
    rows: tuple[tuple[str, ...], ...]


@dataclass(frozen=True, slots=True)
class Paper:
    """What a file holds: an inspection with the document it came from, or tables.

    cleaned: in how many cells characters stood that cannot be kept; U+FFFD stands in their place.
    """

    inspection: Inspection | None = None
    document: dict[str, Any] | None = None
    tables: tuple[Table, ...] = ()

    @property
    def cleaned(self) -> int:
        return sum("\ufffd" in cell for table in self.tables for row in table.rows for cell in row)


def read(data: bytes, name: str = "") -> Paper:
    """What a file holds, by its content rather than its name. Raises UnreadablePaper."""
    if not data.strip():
        raise UnreadablePaper("The file is empty.")
    if len(data) > LARGEST:
        raise UnreadablePaper(f"The file has {len(data) / 1e6:.0f} MB; at most {LARGEST / 1e6:.0f} MB are read.")
    if data.startswith(b"%PDF"):
        return _pdf(data)
    if data.startswith(b"PK"):
        return Paper(tables=_workbook(data))
    if data.startswith(b"\xd0\xcf\x11\xe0"):
        raise UnreadablePaper("That is a workbook of the old kind (.xls): save it as .xlsx or .csv.")
    if data.lstrip()[:1] == b"{" or name.lower().endswith(".json"):
        return _document(_json(data))
    if b"\0" in data[:4000] and _wide(data) is None:
        raise UnreadablePaper("That is neither a report, nor a table (CSV, XLSX), nor an inspection (JSON).")
    return Paper(tables=(_csv(data),))


def _pdf(data: bytes) -> Paper:
    import pypdf
    from pypdf.errors import PyPdfError

    try:
        reader = pypdf.PdfReader(io.BytesIO(data))
        kept = reader.attachments.get("inspection.json") if not reader.is_encrypted else None
    except (PyPdfError, ValueError, KeyError, TypeError, AttributeError, RecursionError, OSError):
        raise UnreadablePaper("The PDF is damaged and cannot be opened.") from None
    if not kept:
        raise UnreadablePaper(
            "This PDF carries no inspection data: only reports issued here do. Type the boards in with the board "
            "builder, or take a table (CSV, XLSX)."
        )
    return _document(_json(kept[0]))


def _json(data: bytes) -> Any:
    try:
        return json.loads(data)
    except (UnicodeDecodeError, ValueError, RecursionError):
        raise UnreadablePaper("The file is not complete or not in the form of an inspection (JSON).") from None


def _document(content: Any) -> Paper:
    if not isinstance(content, dict):
        raise UnreadablePaper("The file does not hold an inspection.")
    # What stands beside the inspection belongs to the issue it came from.
    document = {name: content.get(name) for name in ("format", "version", "inspection")}
    try:
        return Paper(inspection=parse(document, datetime.now(UTC)), document=document)
    except (DocumentError, RecursionError) as error:
        raise UnreadablePaper(f"The inspection in this file cannot be read: {shown(str(error))}") from None


def _workbook(data: bytes) -> tuple[Table, ...]:
    from openpyxl import load_workbook

    broken = UnreadablePaper("The workbook is damaged or not complete: copy it again, or save it as CSV.")
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as packed:
            if sum(zip_info.file_size for zip_info in packed.infolist()) > LARGEST_UNPACKED:
                raise UnreadablePaper("The workbook is far larger unpacked than a chart can be.")
        book = load_workbook(io.BytesIO(data), read_only=True, data_only=True, keep_links=False)
        tables = []
        for sheet in book.worksheets:
            rows = [
                [_cell(value) for value in row]
                for row in sheet.iter_rows(max_row=MOST_ROWS, max_col=MOST_COLUMNS, values_only=True)
            ]
            if any(any(row) for row in rows):
                tables.append(Table(sheet.title, _even(rows)))
    except UnreadablePaper:
        raise
    except Exception:
        # openpyxl raises whatever its parsers do on a damaged file.
        raise broken from None
    if not tables:
        raise UnreadablePaper("The workbook has no cell with anything in it.")
    return tuple(tables)


def _cell(value: object) -> str:
    if value is None:
        return ""
    if isinstance(value, float):
        return f"{value:.10g}"
    text = shown(str(value)[: 2 * LONGEST_CELL].replace("\r\n", "\n").replace("\r", "\n")).strip()
    return from_text(text)[:LONGEST_CELL]


def _csv(data: bytes) -> Table:
    text = _text(data)
    mark = _delimiter(text)
    rows: list[list[str]] = []
    try:
        for row in csv.reader(io.StringIO(text), delimiter=mark):
            rows.append([_cell(cell) for cell in row[:MOST_COLUMNS]])
            if len(rows) >= MOST_ROWS:
                break
    except csv.Error:
        raise UnreadablePaper("The table cannot be parted into cells: save it as CSV again.") from None
    if not any(any(row) for row in rows):
        raise UnreadablePaper("The table has no cell with anything in it.")
    return Table("", _even(rows))


def _delimiter(text: str) -> str:
    """What parts the cells: what parts most lines alike, quotes heeded; of several the one that gives most cells.

    Signs within quotes part nothing, and decimal commas part the lines unlike each other or into fewer cells.
    """

    def parts(mark: str) -> tuple[float, int]:
        lines = csv.reader(io.StringIO(text), delimiter=mark)
        try:
            counts = Counter(len(row) for row in islice(lines, LOOKED_AT) if any(row))
        except csv.Error:
            return 0.0, 0
        cells, alike = max(counts.items(), key=lambda item: (item[0] > 1, item[1], item[0]), default=(0, 0))
        return (alike / counts.total(), cells) if cells > 1 else (0.0, 0)

    # The comma first: of equals the first is taken.
    return max(",;\t|", key=parts)


def _text(data: bytes) -> str:
    """The text of a table: in one encoding, or line by line where several were put together in one file."""
    if (wide := _wide(data)) is not None:
        return data.decode(wide, errors="replace")
    try:
        return data.decode("utf-8-sig")
    except UnicodeDecodeError:
        return "".join(_line(line) for line in data.removeprefix(b"\xef\xbb\xbf").splitlines(keepends=True))


def _wide(data: bytes) -> str | None:
    """The name of an encoding with two bytes a character; None for another. Some programs write it without a mark."""
    if data.startswith((b"\xff\xfe", b"\xfe\xff")):
        return "utf-16"
    head = data[:4000]
    for name, zeros in (("utf-16-le", head[1::2]), ("utf-16-be", head[::2])):
        if len(head) > 3 and zeros.count(0) > 0.6 * len(zeros):
            return name
    return None


def _line(line: bytes) -> str:
    for encoding in ("utf-8", "cp1252"):
        try:
            return line.decode(encoding)
        except UnicodeDecodeError:
            continue
    return line.decode("latin-1")


def _even(rows: Sequence[Sequence[str]]) -> tuple[tuple[str, ...], ...]:
    """Rows of one length, without the empty ones at the end and the empty columns on the right."""
    kept = list(rows)
    while kept and not any(kept[-1]):
        kept.pop()
    width = max((at + 1 for row in kept for at, cell in enumerate(row) if cell), default=0)
    return tuple((*row[:width], *[""] * (width - len(row))) for row in kept)
