"""A table of travel times from elsewhere: from, to, minutes, its places found by name or address."""

import re
from collections.abc import Mapping, Sequence

from dorrik.core.basics.record import record
from dorrik.core.work.portfolio_table import address_key
from dorrik.core.work.table_heads import head_row, match_heads

#: More ways than these are no table of one firm.
MOST_WAYS = 100_000
_WORDS = {"from": ("from", "origin", "start"), "to": ("to", "destination", "end"),
          "minutes": ("minutes", "min", "time", "duration", "travel time")}  # fmt: skip


@record
class WayMistake:
    """A row that cannot be taken, and why; row: from 1."""

    row: int
    reason: str


@record
class TravelTable:
    """Ways by the ids of their ends (minutes), and every row that cannot be taken."""

    ways: Mapping[tuple[str, str], float]
    mistakes: tuple[WayMistake, ...]


def read(rows: Sequence[Sequence[str]], places: Mapping[str, str]) -> TravelTable:
    """Read a table. places: ids by the names and addresses that they are known by. Raises ValueError where its columns
    are not found, and for too many rows."""

    def guess(heads: Sequence[str]) -> Sequence[str | None]:
        return match_heads(heads, _WORDS, lambda head: re.sub(r"[\s_]+", " ", head.casefold()).strip())

    if len(rows) > MOST_WAYS:
        raise ValueError(f"That is {len(rows)} ways; at most {MOST_WAYS} are taken. Nothing was taken over.")
    head = head_row(rows, guess)
    columns = guess(rows[head]) if rows else ()
    at = {key: columns.index(key) for key in _WORDS if key in columns}
    if len(at) < len(_WORDS):
        raise ValueError("The table needs three columns: from, to, minutes.")
    known = {address_key(name): place for name, place in places.items()}
    ways: dict[tuple[str, str], float] = {}
    mistakes: list[WayMistake] = []
    for number, row in enumerate(rows[head + 1 :], head + 2):
        cells = {key: row[column].strip() if column < len(row) else "" for key, column in at.items()}
        if not any(cells.values()):
            continue
        missing = [cells[end] for end in ("from", "to") if address_key(cells[end]) not in known]
        if missing:
            mistakes.append(WayMistake(number, f"“{missing[0][:60]}” is no place of yours."))
            continue
        minutes = cells["minutes"].replace(",", ".")
        if not re.fullmatch(r"\d{1,4}(\.\d{1,4})?", minutes) or float(minutes) > 24 * 60:
            mistakes.append(WayMistake(number, f"“{cells['minutes'][:20]}”: enter minutes, such as 12."))
            continue
        one, other = known[address_key(cells["from"])], known[address_key(cells["to"])]
        if one != other:
            ways[one, other] = float(minutes)
    return TravelTable(ways, tuple(mistakes))
