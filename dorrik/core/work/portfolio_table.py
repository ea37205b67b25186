"""A portfolio from elsewhere: which column of a table is what, what its cells say, which addresses are known already.

A table is rows of text. Every mistake is told with its row and column; nothing is taken from a row that holds one until
it is corrected or left out. An address that stands twice, or that is in the register already, is found however it is
written: capital letters, commas, `Rd` for `Road`.
"""

import re
import unicodedata
from collections.abc import Callable, Iterable, Mapping, Sequence, Set
from datetime import date
from typing import Any

from dorrik.core.basics.record import record
from dorrik.core.basics.text import tidy
from dorrik.core.inspection.records import NATIONS, TENURES
from dorrik.core.work.table_heads import check_columns, match_heads

#: More rows than this are no portfolio of one firm; more columns are read no further.
MOST_ROWS, MOST_COLUMNS = 25_000, 60
#: What stands for nothing.
_NOTHING = frozenset(("", "-", "–", "—", "n/a", "na", "none", "null", "unknown", "tbc"))


@record
class PortfolioColumn:
    """What a column can be: its key, its name, and what its head may be called."""

    key: str
    label: str
    words: tuple[str, ...]


COLUMNS: tuple[PortfolioColumn, ...] = (
    PortfolioColumn(
        "address", "Address", ("address", "property address", "property", "full address", "street address")
    ),
    PortfolioColumn("town", "Town", ("town", "city", "locality")),
    PortfolioColumn("postcode", "Postcode", ("postcode", "post code", "postal code", "eircode", "zip")),
    PortfolioColumn(
        "reference", "Their reference", ("reference", "ref", "uprn", "property id", "unit id", "their ref")
    ),
    PortfolioColumn("nation", "Nation", ("nation", "country", "jurisdiction")),
    PortfolioColumn("tenure", "Tenure", ("tenure", "tenancy type", "use")),
    PortfolioColumn("occupier_name", "Occupier", ("occupier", "tenant", "tenant name", "resident", "occupant")),
    PortfolioColumn("occupier_phone", "Occupier's phone", ("phone", "telephone", "mobile", "tenant phone", "tel")),
    PortfolioColumn("occupier_email", "Occupier's email", ("email", "e-mail", "tenant email")),
    PortfolioColumn("key_place", "Keys are kept", ("keys", "key holder", "keyholder", "key location", "key")),
    PortfolioColumn("access", "Access", ("access", "access notes", "how to get in")),
    PortfolioColumn("built_year", "Built in", ("built", "year built", "built in", "construction year")),
    PortfolioColumn(
        "inspected_on",
        "Last inspected",
        ("last inspected", "last inspection", "last report", "inspection date", "last test"),
    ),
    PortfolioColumn(
        "due_on",
        "Due",
        ("due", "due date", "next due", "next inspection", "expiry", "expires", "expiry date", "renewal"),
    ),
    PortfolioColumn("latitude", "Latitude", ("latitude", "lat")),
    PortfolioColumn("longitude", "Longitude", ("longitude", "lon", "lng", "long")),
    PortfolioColumn("notes", "Notes", ("notes", "comments", "remarks")),
)
_BY_KEY = {column.key: column for column in COLUMNS}


@record
class CellMistake:
    """A cell that cannot be taken: row (from 1) and column (from 0) of the table, what stands there, and why."""

    row: int
    column: int
    text: str
    reason: str


@record
class PortfolioRow:
    """One property as read: its row (from 1), its values by key, and the id of the property that it is already, ''
    for a new one."""

    row: int
    values: Mapping[str, Any]
    known_id: str = ""


@record
class PortfolioTable:
    """A table as read: what can be taken, and every mistake."""

    rows: tuple[PortfolioRow, ...]
    mistakes: tuple[CellMistake, ...]


def guess(heads: Sequence[str]) -> tuple[str | None, ...]:
    """For each head of a column what it most likely is; None for no idea."""
    known = match_heads(heads[:MOST_COLUMNS], {column.key: column.words for column in COLUMNS}, _plain)
    return (*known, *(None for _ in heads[MOST_COLUMNS:]))


def read(
    rows: Sequence[Sequence[str]], columns: Sequence[str | None], first: int, known: Mapping[str, str], today: date
) -> PortfolioTable:
    """Read rows from the one with index `first`. columns: what each column is, None for one that is left out; known:
    the addresses of the register by the ids of their properties.

    Rows without a word are passed over. Raises ValueError for a column that is none or stands twice, for no column with
    addresses, and for too many rows.
    """
    _sound(columns)
    wanted = [(number, row) for number, row in enumerate(rows[first:], first + 1) if any(cell.strip() for cell in row)]
    if len(wanted) > MOST_ROWS:
        raise ValueError(f"That is {len(wanted)} rows; at most {MOST_ROWS} are taken at once. Nothing was taken over.")
    there = {address_key(address): property_id for property_id, address in known.items()}
    read_before: dict[str, int] = {}
    taken: list[PortfolioRow] = []
    mistakes: list[CellMistake] = []
    for number, row in wanted:
        values, wrong = _cells(number, row, columns, today)
        address = ", ".join(values[key] for key in ("address", "town", "postcode") if key in values)
        if not wrong and "address" not in values:
            wrong.append(CellMistake(number, columns.index("address"), "", "The address is missing."))
        key = address_key(address)
        if not wrong and key in read_before:
            wrong.append(
                CellMistake(number, columns.index("address"), address[:200], f"The same as row {read_before[key]}.")
            )
        mistakes += wrong
        if not wrong:
            read_before[key] = number
            rest = {name: value for name, value in values.items() if name not in ("town", "postcode")}
            taken.append(PortfolioRow(number, rest | {"address": address}, there.get(key, "")))
    return PortfolioTable(tuple(taken), tuple(mistakes))


def _sound(columns: Sequence[str | None]) -> None:
    check_columns(columns, {key: column.label for key, column in _BY_KEY.items()})
    if "address" not in columns:
        raise ValueError("Say which column holds the addresses.")


def _cells(
    number: int, row: Sequence[str], columns: Sequence[str | None], today: date
) -> tuple[dict[str, Any], list[CellMistake]]:
    values: dict[str, Any] = {}
    wrong: list[CellMistake] = []
    where: dict[str, int] = {}
    for column, key in enumerate(columns):
        text = row[column].strip() if column < len(row) else ""
        if key is None or text.casefold() in _NOTHING:
            continue
        where[key] = column
        try:
            values[key] = _READ[key](tidy(text))
        except ValueError as error:
            wrong.append(CellMistake(number, column, text[:200], str(error)))
    # A cell that cannot be read is told once, and not again by what should go with it.
    unread = {key for key, column in where.items() if key not in values}
    for key, why in _against(values, unread, today):
        wrong.append(CellMistake(number, where[key], row[where[key]].strip()[:200], why))
    return values, wrong


def _against(values: Mapping[str, Any], unread: Set[str], today: date) -> Iterable[tuple[str, str]]:
    """What cannot be true of a row as a whole: the column, and why."""
    inspected, due = values.get("inspected_on"), values.get("due_on")
    if inspected is not None and inspected > today.isoformat():
        yield "inspected_on", "That day is still to come."
    if inspected is not None and due is not None and due <= inspected:
        yield "due_on", "The next inspection cannot be due before the last one."
    if unread & {"latitude", "longitude"}:
        return
    if ("latitude" in values) is not ("longitude" in values):
        yield next(key for key in ("latitude", "longitude") if key in values), "Latitude and longitude go together."
    elif values.get("latitude") == 0.0 and values.get("longitude") == 0.0:
        yield "latitude", "0, 0 lies in the sea."


def _text(most: int) -> Callable[[str], str]:
    def clean(text: str) -> str:
        if len(text) > most:
            raise ValueError(f"That is {len(text)} characters long; at most {most} fit.")
        return text

    return clean


def _choice(choices: Sequence[str], also: Mapping[str, str]) -> Callable[[str], str]:
    named = {choice.casefold(): choice for choice in choices} | dict(also)

    def clean(text: str) -> str:
        choice = named.get(" ".join(text.casefold().split()))
        if choice is None:
            raise ValueError(f"One of: {', '.join(choices)}.")
        return choice

    return clean


_MONTHS = ("jan", "feb", "mar", "apr", "may", "jun", "jul", "aug", "sep", "oct", "nov", "dec")
#: The day from which spreadsheets count, and the first and last number that is taken for a day.
_SHEET, _FIRST, _LAST = date(1899, 12, 30).toordinal(), 30_000, 70_000


def day(text: str) -> str:
    """A day as people and programs write it, as year-month-day: `31/12/2026`, `31.12.26`, `31 Dec 2026`, `2026-12-31`,
    with or without a time, or as a spreadsheet counts. The day stands before the month. Raises ValueError."""
    plain = re.sub(r"[T ]\d{1,2}:\d{2}(:\d{2})?(\.\d+)?(Z|[+-]\d{2}:?\d{2})?$", "", text.strip())
    if re.fullmatch(r"\d{5}(\.0+)?", plain) and _FIRST <= float(plain) <= _LAST:
        return date.fromordinal(_SHEET + int(float(plain))).isoformat()
    if match := re.fullmatch(r"(\d{4})[-/.](\d{1,2})[-/.](\d{1,2})", plain):
        parts = match.groups()
    elif match := re.fullmatch(r"(\d{1,2})[-/. ](\d{1,2})[-/. ](\d{4}|\d{2})", plain):
        parts = (match[3], match[2], match[1])
    elif match := re.fullmatch(r"(\d{1,2})(?:st|nd|rd|th)?[-/. ]+([A-Za-z]{3,9})[-/., ]+(\d{4}|\d{2})", plain):
        month = match[2][:3].casefold()
        parts = (match[3], str(_MONTHS.index(month) + 1) if month in _MONTHS else "0", match[1])
    else:
        raise ValueError("Write the day as 31/12/2026.")
    year = int(parts[0]) + (2000 if len(parts[0]) == 2 else 0)
    try:
        parsed = date(year, int(parts[1]), int(parts[2]))
    except ValueError:
        raise ValueError("There is no such day; write it as 31/12/2026.") from None
    if not 1990 <= parsed.year <= 2100:
        raise ValueError("A day between 1990 and 2100.")
    return parsed.isoformat()


def _year(text: str) -> int:
    if not re.fullmatch(r"\d{4}", text) or not 1200 <= int(text) <= 2100:
        raise ValueError("A year such as 1934.")
    return int(text)


def _degrees(most: float) -> Callable[[str], float]:
    def clean(text: str) -> float:
        plain = text.replace(",", ".")
        if not re.fullmatch(r"[+-]?\d{1,3}(\.\d{1,12})?", plain) or abs(float(plain)) > most:
            raise ValueError(f"Degrees between −{most:g} and {most:g}, such as 51.5074.")
        return float(plain)

    return clean


def _email(text: str) -> str:
    if len(text) > 190 or not re.fullmatch(r"[^@\s]+@[^@\s]+\.[^@\s]+", text):
        raise ValueError("That is no email address.")
    return text


_READ: Mapping[str, Callable[[str], Any]] = {
    "address": _text(300),
    "town": _text(100),
    "postcode": _text(20),
    "reference": _text(60),
    "nation": _choice(
        NATIONS,
        {"eng": "England", "gb-eng": "England", "scot": "Scotland", "gb-sct": "Scotland", "cymru": "Wales",
         "gb-wls": "Wales", "ni": "Northern Ireland", "gb-nir": "Northern Ireland", "ie": "Ireland",
         "republic of ireland": "Ireland", "éire": "Ireland"},
    ),
    "tenure": _choice(
        TENURES,
        {"let": TENURES[0], "rented": TENURES[0], "private rented": TENURES[0], "social rented": TENURES[0],
         "owner-occupied": TENURES[1], "owner occupied": TENURES[1], "hmo": TENURES[2], "holiday": TENURES[3]},
    ),
    "occupier_name": _text(120),
    "occupier_phone": _text(40),
    "occupier_email": _email,
    "key_place": _text(200),
    "access": _text(500),
    "built_year": _year,
    "inspected_on": day,
    "due_on": day,
    "latitude": _degrees(90),
    "longitude": _degrees(180),
    "notes": _text(1000),
}  # fmt: skip

#: How the words of an address are shortened.
_SHORT = {
    "rd": "road", "st": "street", "str": "street", "ave": "avenue", "av": "avenue", "ln": "lane", "cl": "close",
    "ct": "court", "crt": "court", "dr": "drive", "sq": "square", "pl": "place", "ter": "terrace", "terr": "terrace",
    "cres": "crescent", "gdns": "gardens", "grn": "green", "hse": "house", "bldg": "building", "apt": "flat",
    "apartment": "flat", "pk": "park", "mt": "mount", "nr": "near", "no": "",
}  # fmt: skip


def address_key(address: str) -> str:
    """An address as it is compared: small letters without accents, words whole, nothing between them."""
    plain = unicodedata.normalize("NFKD", address.casefold()).replace("'", "").replace("’", "")
    words = re.findall(r"[^\W_]+", "".join(sign for sign in plain if not unicodedata.combining(sign)))
    # `St` before a name is a saint, after one a street.
    whole = [
        "saint" if word == "st" and at + 1 < len(words) and at == 0 else _SHORT.get(word, word)
        for at, word in enumerate(words)
    ]
    return " ".join(word for word in whole if word)


def _plain(head: str) -> str:
    return re.sub(r"\s+", " ", re.sub(r"[\[\](){}:.,_*'’]+", " ", head.casefold())).strip()
