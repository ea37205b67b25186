"""Readings that an instrument has stored: a table of them (CSV, XLSX) matched to the figures of an inspection.

A line says where (circuit, point), what (function or figure), what was shown and when. What cannot be matched, or
stands there already as something else, is told with its line; nothing is guessed.
"""

import re
from collections.abc import Mapping, Sequence
from datetime import UTC, datetime
from typing import Literal

from dorrik.core.basics.record import record
from dorrik.core.basics.text import shown
from dorrik.core.inspection.circuit import name_of
from dorrik.core.inspection.field_spec import FieldError
from dorrik.core.inspection.kinds import KINDS
from dorrik.core.inspection.records import Board, Circuit, Inspection, Point, Rcd

#: No instrument stores more of one home.
MOST_ROWS = 3000
MOST_COLUMNS = 60
State = Literal["new", "same", "other", "wrong"]
_HEADS: Mapping[str, tuple[str, ...]] = {
    "board": ("board", "db", "distribution board", "consumer unit"),
    "circuit": ("circuit", "way", "circuit no", "circuit number", "location", "id", "object"),
    "point": ("point", "socket", "outlet", "accessory", "measuring point"),
    "test": ("test", "function", "type", "measurement", "parameter", "quantity"),
    "value": ("value", "result", "reading", "measured", "display"),
    "unit": ("unit", "units"),
    "at": ("time", "date", "date time", "timestamp", "date and time", "measured at"),
}
#: What a figure is called where instruments store it, by its kind and field; spaces and dashes do not count.
_WORDS: Mapping[tuple[str, str], tuple[str, ...]] = {
    ("inspection", "ze_ohm"): ("ze",),
    ("inspection", "pscc_ka"): ("pscc", "psc"),
    ("inspection", "pefc_ka"): ("pefc", "pfc"),
    ("board", "zdb_ohm"): ("zdb",),
    ("board", "electrode_ohm"): ("ra", "electrode", "earth electrode"),
    ("circuit", "r1_ohm"): ("r1", "ring r1", "line end to end"),
    ("circuit", "rn_ohm"): ("rn", "ring rn", "neutral end to end"),
    ("circuit", "r2_ohm"): ("ring r2", "cpc end to end"),
    ("circuit", "r1_r2_ohm"): ("r1+r2", "r1r2"),
    ("circuit", "long_lead_r2_ohm"): ("r2", "r2 long lead"),
    ("circuit", "insulation_ln_mohm"): ("l-n", "ir l-n", "insulation l-n", "riso l-n"),
    ("circuit", "insulation_lne_mohm"): ("l+n-e", "ir l+n-e", "insulation l+n-e", "l/n-e", "ir l/n-e", "riso l/n-e"),
    ("circuit", "insulation_le_mohm"): ("l-e", "ir l-e", "insulation l-e", "riso l-e"),
    ("circuit", "insulation_ne_mohm"): ("n-e", "ir n-e", "insulation n-e", "riso n-e"),
    ("circuit", "zs_ohm"): ("zs", "loop", "loop impedance"),
    ("rcd", "trip_ms"): ("rcd", "rcd x1", "rcd 1x", "rcd time", "trip time", "x1", "1xidn"),
    ("rcd", "five_ms"): ("rcd x5", "rcd 5x", "x5", "5xidn"),
    ("rcd", "leakage_ma"): ("leakage",),
    ("point", "line_neutral_ohm"): ("r1+rn", "l-n", "continuity l-n"),
    ("point", "line_cpc_ohm"): ("r1+r2", "r1r2", "l-e", "l-cpc", "continuity l-e"),
    ("point", "r2_ohm"): ("r2", "r2 long lead"),
}
#: Pairs of conductors that are measured in Ω and in MΩ.
_TWO_MEANINGS = ("ln", "le", "ne")
#: Figures of a circuit's own that stand at its RCD where it has one of its own in the document.
_AT_CIRCUIT = {"trip_ms": "rcd_trip_ms", "five_ms": "rcd_five_ms", "leakage_ma": "leakage_ma"}


@record
class Stored:
    """One line: its number in the table (from 1), what was in it in words, the figure it belongs to ('' for none), the
    text that the figure takes, when it was shown (ISO 8601, None where that is not said); state: new, the same as what
    stands there, other than that, or wrong; why: for the last two."""

    row: int
    says: str
    entity: str
    entity_id: str
    field: str
    text: str
    at: str | None
    state: State
    why: str = ""


def head_row(rows: Sequence[Sequence[str]]) -> int:
    """Which of the first rows names the columns: the one with most that are known."""
    counted = [len(_columns(row)) for row in rows[:20]]
    return max(range(len(counted)), key=lambda i: (counted[i], -i), default=0)


def match(inspection: Inspection, rows: Sequence[Sequence[str]]) -> tuple[Stored, ...]:
    """Every line of a table beside the figure that it belongs to. Raises ValueError where its columns are not known,
    and for too many lines."""
    head = head_row(rows)
    columns = _columns(rows[head]) if rows else {}
    missing = [name for name in ("test", "value") if name not in columns]
    if missing:
        raise ValueError(f"No column is headed {' or '.join(missing)}: the first line names test, value, circuit.")
    lines = [(n, row) for n, row in enumerate(rows[head + 1 :], head + 2) if any(cell.strip() for cell in row)]
    if len(lines) > MOST_ROWS:
        raise ValueError(f"That is {len(lines)} readings; at most {MOST_ROWS} are taken at once.")
    return tuple(_line(inspection, n, row, columns) for n, row in lines)


def _columns(heads: Sequence[str]) -> dict[str, int]:
    plain = [re.sub(r"[\s._()\[\]/-]+", " ", head.casefold()).strip() for head in heads[:MOST_COLUMNS]]
    column_of = {}
    for name, words in _HEADS.items():
        at = next((plain.index(word) for word in words if word in plain), None)
        if at is not None:
            column_of[name] = at
    return column_of


_Thing = Board | Circuit | Point | Rcd | Inspection


class _NoPlace(Exception):
    """The line belongs to no figure; the message says why."""


def _line(inspection: Inspection, number: int, row: Sequence[str], columns: Mapping[str, int]) -> Stored:
    given = {name: row[at].strip() if at < len(row) else "" for name, at in columns.items()}
    says = " ".join(
        shown(given[name][:80]) for name in ("circuit", "point", "test", "value", "unit") if given.get(name)
    )
    at = _moment(given.get("at", ""))
    try:
        kind, thing, field = _place(inspection, given)
        text = _text(kind, field, given.get("value", ""), given.get("unit", ""))
    except (_NoPlace, FieldError) as wrong:
        return Stored(number, says, "", "", "", "", at, "wrong", str(wrong))
    stands = getattr(thing, field)
    state: State = "new" if stands is None else "same" if stands.text == text else "other"
    why = f"{stands} is entered there." if state == "other" else ""
    return Stored(number, says, kind, thing.id, field, text, at, state, why)


def _text(kind: str, field: str, value: str, unit: str) -> str:
    """The text that the figure takes, as if it had been typed. Raises FieldError."""
    spec = KINDS[kind].fields[field]
    figure = value if not unit or unit == spec.unit or not re.search(r"\d", value) else f"{value} {unit}"
    kept = spec.clean(figure)
    if kept is None:
        raise _NoPlace("There is no reading in it.")
    return str(kept)


def _place(inspection: Inspection, given: Mapping[str, str]) -> tuple[str, _Thing, str]:
    words = _plain(given.get("test", ""))
    circuit = _circuit(inspection, given) if given.get("circuit") else None
    point = _point(circuit, given["point"]) if circuit is not None and given.get("point") else None
    kinds = ("point",) if point is not None else ("circuit", "rcd") if circuit is not None else ("inspection", "board")
    field = next(
        ((kind, name) for (kind, name), known in _WORDS.items() if kind in kinds and words in map(_plain, known)), None
    )
    if field is None:
        where = "at a point" if point else "of a circuit" if circuit else "without a circuit"
        raise _NoPlace(f"“{shown(given.get('test', '')[:40])}” is no test {where} that is known here.")
    if words in _TWO_MEANINGS and not given.get("unit"):
        raise _NoPlace(f"“{shown(given['test'][:40])}” is continuity or insulation: its unit is missing.")
    kind, name = field
    if kind == "inspection":
        return kind, inspection, name
    if kind == "board":
        return kind, _board(inspection, given.get("board", "")), name
    if kind == "point" and point is not None:
        return kind, point, name
    assert circuit is not None
    return _of_rcd(inspection, circuit, name) if kind == "rcd" else (kind, circuit, name)


def _of_rcd(inspection: Inspection, circuit: Circuit, name: str) -> tuple[str, _Thing, str]:
    for board in inspection.boards:
        for device in board.rcds:
            if device.id == circuit.rcd_id:
                return "rcd", device, name
    return "circuit", circuit, _AT_CIRCUIT[name]


def _board(inspection: Inspection, named: str) -> Board:
    boards = [b for b in inspection.boards if not named or _plain(b.name or "") == _plain(named)]
    if len(boards) != 1:
        raise _NoPlace(
            f"There is no one board called “{shown(named[:40])}”." if named else "Of which board is not said."
        )
    return boards[0]


def _circuit(inspection: Inspection, given: Mapping[str, str]) -> Circuit:
    named, board = _plain(given["circuit"]), _plain(given.get("board", ""))
    circuits = [
        circuit
        for one in inspection.boards
        if not board or _plain(one.name or "") == board
        for circuit in one.circuits
        if named in (_plain(circuit.way or ""), _plain(circuit.designation or ""), _plain(name_of(circuit)))
    ]
    if len(circuits) != 1:
        many = "more than one circuit is" if circuits else "no circuit is"
        raise _NoPlace(f"“{shown(given['circuit'][:40])}”: {many} called that.")
    return circuits[0]


def _point(circuit: Circuit, named: str) -> Point:
    points = [
        point
        for n, point in enumerate(circuit.points, 1)
        if _plain(named) in (_plain(point.name or ""), _plain(str(n)))
    ]
    if len(points) != 1:
        raise _NoPlace(f"“{shown(named[:40])}” is no one point of {name_of(circuit)}.")
    return points[0]


def _plain(words: str) -> str:
    text = words.casefold().replace("₁", "1").replace("₂", "2").replace("×", "x").replace("δ", "d").replace("Δ", "d")
    return re.sub(r"[\s._–—-]+", "", text)


_FORMATS = ("%d/%m/%Y %H:%M:%S", "%d/%m/%Y %H:%M", "%d.%m.%Y %H:%M:%S", "%d.%m.%Y %H:%M")


def _moment(text: str) -> str | None:
    """A moment as ISO 8601, universal time; None where it cannot be told. A time without a zone is universal."""
    for form in (None, *_FORMATS):
        try:
            at = datetime.fromisoformat(text) if form is None else datetime.strptime(text, form)
        except ValueError:
            continue
        at = at if at.tzinfo else at.replace(tzinfo=UTC)
        return at.astimezone(UTC).isoformat(timespec="seconds").replace("+00:00", "Z")
    return None
