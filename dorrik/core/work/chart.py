"""Circuit charts from elsewhere: which column of a table is which field, and what its cells say.

A table is rows of text. Columns are guessed by their heads and can be matched otherwise; each cell is read with the
units and short forms that people write (`2.5/1.5`, `B32`, `30 mA`, `0,41`), and what cannot be read is said with its
row and column. Nothing is taken from a row that holds a mistake until it is mended or left out.
"""

import re
from collections.abc import Callable, Iterator, Mapping, Sequence
from typing import Any

from dorrik.core.basics.record import record
from dorrik.core.electrical.devices import devices
from dorrik.core.inspection.circuit_columns import TableColumn, taken
from dorrik.core.inspection.field_spec import FieldError
from dorrik.core.inspection.kinds import KINDS, compared
from dorrik.core.work.carry_over import CarriedDraft
from dorrik.core.work.table_heads import check_columns, match_heads

#: More rows than this are no chart of one home.
MOST_ROWS = 600
MOST_COLUMNS = 60


#: What a column can be.
TARGETS: tuple[TableColumn, ...] = taken()
_BY_KEY: Mapping[str, TableColumn] = {target.key: target for target in TARGETS}


@record
class ChartError:
    """A cell that cannot be read: its column (from 0), what stands there, and why."""

    column: int
    text: str
    reason: str


@record
class ChartRow:
    """One row as read: its number in the table (from 1), the fields of the circuit, its earlier figures, what is wrong.

    `board` is the name in the row, None where there is no such column.
    """

    row: int
    board: str | None
    fields: dict[str, Any]
    figures: dict[str, str]
    wrong: tuple[ChartError, ...]


def _plain(head: str) -> str:
    text = head.casefold().replace("₁", "1").replace("₂", "2").replace("–", "-").replace("mm²", "mm2")
    text = text.replace("ω", "ohm").replace("Ω", "ohm").replace("δ", " delta ")
    return re.sub(r"\s+", " ", re.sub(r"[\[\](){}:.,_*]+", " ", text)).strip()


def guess(heads: Sequence[str]) -> tuple[str | None, ...]:
    """For each head of a column the key of the target that it most likely is, each target once; None for no idea."""
    known = match_heads(heads[:MOST_COLUMNS], {target.key: target.words for target in TARGETS}, _plain)
    return (*known, *(None for _ in heads[MOST_COLUMNS:]))


def read(rows: Sequence[Sequence[str]], columns: Sequence[str | None], first: int) -> tuple[ChartRow, ...]:
    """Read rows from the one with index `first`; columns: the target of each column, None for one left out.

    Rows without a word are passed over. Raises ValueError for a target that is none or stands twice, and for too many
    rows.
    """
    check_columns(columns, {key: target.label for key, target in _BY_KEY.items()})
    wanted = [(number, row) for number, row in enumerate(rows[first:], first + 1) if any(cell.strip() for cell in row)]
    if len(wanted) > MOST_ROWS:
        raise ValueError(
            f"That is {len(wanted)} rows; a chart of one home has at most {MOST_ROWS}. Nothing was taken over."
        )
    return tuple(_line(number, row, columns) for number, row in wanted)


def _line(number: int, row: Sequence[str], columns: Sequence[str | None]) -> ChartRow:
    board: str | None = None
    fields: dict[str, Any] = {}
    figures: dict[str, str] = {}
    wrong: list[ChartError] = []
    for column, key in enumerate(columns):
        text = row[column].strip() if column < len(row) else ""
        if key is None or text in _NOTHING:
            continue
        try:
            if key == "board":
                board = str(KINDS["board"].fields["name"].clean(text))
            elif key in compared("circuit"):
                figures[key] = _figure(key, text)
            else:
                fields |= _READ.get(key, _as_declared)(key, text)
        except FieldError as error:
            wrong.append(ChartError(column, text[:200], str(error)))
    if "form" not in fields and re.search(r"(?i)\bring\b", str(fields.get("designation", ""))):
        # People name it in words rather than in a column; like everything carried over it is to be confirmed.
        fields["form"] = "ring"
    if _is_spare(fields.get("designation")):
        fields = {name: fields[name] for name in ("way", "designation") if name in fields} | {"spare": True}
    return ChartRow(number, board, fields, figures, tuple(wrong))


_NOTHING = frozenset(("", "-", "–", "—", "n/a", "N/A", "na", "NA", "none", "None"))


def _is_spare(designation: object) -> bool:
    return (
        isinstance(designation, str)
        and re.fullmatch(r"(?i)(spare|blank|not used|unused)( way)?", designation) is not None
    )


def _clean(field: str, value: Any) -> dict[str, Any]:
    return {field: KINDS["circuit"].fields[field].clean(value)}


def _as_declared(key: str, text: str) -> dict[str, Any]:
    spec = KINDS["circuit"].fields[key]
    if spec.kind in ("number", "integer"):
        return _clean(key, _number(text, spec.unit or "", spec.label))
    return _clean(key, text)


def _number(text: str, unit: str, label: str) -> str:
    """The figure of a cell without its unit."""
    plain = text.replace("²", "2").replace(" ", "")
    match = re.fullmatch(r"(\d+(?:[.,]\d+)?)(mm2|mm|sq\.?mm|m|ma|a|amps?|ka)?", plain, re.IGNORECASE)
    if match is None:
        raise FieldError(f"{label}: “{text[:40]}” is no figure" + (f" in {unit}." if unit else "."))
    given = (match[2] or "").lower().rstrip(".").replace("mm2", "mm²").replace("sqmm", "mm²")
    given = {"amp": "a", "amps": "a", "mm": "mm²"}.get(given, given)
    if given and unit and given != unit.lower():
        raise FieldError(f"{label} is in {unit}; “{text[:40]}” is not.")
    return match[1]


def _cable(key: str, text: str) -> dict[str, Any]:
    """`2.5/1.5`, `2.5 + 1.5 mm²`, or the line alone."""
    plain = re.sub(r"(?i)\s*(mm²|mm2|sq ?mm|t&e|t\+e|twin ?(and|&|\+) ?earth|cpc)\s*", " ", text).strip()
    match = re.fullmatch(r"(\d+(?:[.,]\d+)?)(?:\s*[/+x×&-]\s*(\d+(?:[.,]\d+)?))?", plain)
    if match is None:
        raise FieldError(f"Cable: “{text[:40]}” is not a size such as 2.5/1.5.")
    cpc = _clean("cpc_csa_mm2", match[2]) if match[2] else {}
    return _clean("line_csa_mm2", match[1]) | cpc


#: Standards by the number that people write for them.
_STANDARDS = {re.sub(r"\D", "", device.standard): device.standard for device in devices()}


def _standard(key: str, text: str) -> dict[str, Any]:
    digits = re.sub(r"\D", "", text)
    for number in sorted(_STANDARDS, key=len, reverse=True):
        if digits.startswith(number):
            return {"device_standard": _STANDARDS[number]}
    raise FieldError(f"Device standard: “{text[:40]}” is not one of {', '.join(sorted(_STANDARDS.values()))}.")


def _type(key: str, text: str) -> dict[str, Any]:
    return _clean("device_type", re.sub(r"(?i)^type\s*", "", text).upper())


def _device(key: str, text: str) -> dict[str, Any]:
    """`B32`, `B 32 A`, `32A type B`, `BS EN 60898 B32`, `RCBO B32 30mA`."""
    fields: dict[str, Any] = {}
    rest = text
    standard = re.search(r"(?i)\bBS(?: ?EN)? ?(\d{4,5}(?:-\d)?)", rest)
    if standard:
        fields |= _standard(key, standard[1])
        rest = rest.replace(standard[0], " ")
    residual = re.search(r"(?i)\b(\d+)\s*mA\b", rest)
    if residual:
        fields |= _clean("rcd_rated_ma", residual[1])
        rest = rest.replace(residual[0], " ")
    kind = re.search(r"(?i)\b(mcb|rcbo)\b", rest)
    if kind:
        fields.setdefault("device_standard", "BS EN 61009" if kind[1].lower() == "rcbo" else "BS EN 60898")
        rest = rest.replace(kind[0], " ")
    rated = re.fullmatch(r"(?i)\s*(?:type\s*)?([BCD])?\s*(\d+)\s*(?:a|amps?)?\s*(?:type\s*([BCD]))?\s*", rest)
    if rated is None:
        if fields and not rest.strip():
            return fields
        raise FieldError(f"Device: “{text[:40]}” is not such as B32.")
    letter = (rated[1] or rated[3] or "").upper()
    if letter:
        fields |= {"device_type": letter}
        fields.setdefault("device_standard", "BS EN 60898")
    return fields | _clean("device_rating_a", rated[2])


def _form(key: str, text: str) -> dict[str, Any]:
    folded = text.casefold()
    for form in ("ring", "radial"):
        if folded.startswith(form) or folded in (form[0], form[:3]):
            return {"form": form}
    raise FieldError(f"“{text[:40]}” is neither ring nor radial.")


def _figure(key: str, text: str) -> str:
    spec = KINDS["circuit"].fields[key]
    unit = {"Ω": r"(ohms?|Ω|Ω)", "MΩ": r"(m ?ohms?|MΩ|MΩ)", "ms": "ms"}.get(spec.unit, "")
    plain = re.sub(rf"(?i)\s*{unit}\s*$", "", text) if unit else text
    if plain.startswith("="):
        raise FieldError(f"{spec.label}: a formula is not worked out; write its figure.")
    return str(KINDS["earlier"].fields["reading"].clean(plain))


_READ: Mapping[str, Callable[[str, str], dict[str, Any]]] = {
    "cable": _cable,
    "device": _device,
    "device_standard": _standard,
    "device_type": _type,
    "form": _form,
}


def drafts(
    lines: Sequence[ChartRow], into: str, new_id: Callable[[], str], source: str, measured_on: str | None
) -> Iterator[CarriedDraft]:
    """Boards and circuits of a chart as entities of the inspection `into`, all unconfirmed; its figures as earlier.

    Lines that hold a mistake are left out: the caller has shown them.
    """
    boards: dict[str | None, str] = {}
    places: dict[str, int] = {}
    for line in lines:
        if line.wrong or not (line.fields or line.figures):
            continue
        if line.board not in boards:
            name = line.board or "Board 1"
            boards[line.board] = new_id()
            position = {"position": len(boards), "name": name, "unconfirmed": True}
            yield CarriedDraft("board", into, boards[line.board], position)
        board_id = boards[line.board]
        places[board_id] = places.get(board_id, 0) + 1
        circuit_id = new_id()
        first = {"position": places[board_id], "way": str(places[board_id]), "unconfirmed": True}
        yield CarriedDraft("circuit", board_id, circuit_id, first | line.fields)
        for figure, reading in line.figures.items():
            fields = {"measured_on": measured_on, "figure": figure, "reading": reading, "source": source[:120]}
            given = {name: value for name, value in fields.items() if value is not None}
            yield CarriedDraft("earlier", circuit_id, new_id(), given)
