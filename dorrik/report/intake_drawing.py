"""The way of the supply as a drawing for the report: from the service head to the boards, with earth and bonds.

It is laid out as on screen (`web/src/drawings/IntakeDrawing.tsx`), in ink on paper: what nobody has said is dashed,
what is said not to be there is faint, and what fails or wants a look has its mark.
"""

from collections.abc import Container, Iterable, Iterator
from html import escape
from typing import Any

from dorrik.core.home.board_tree import BoardTree
from dorrik.core.inspection.records import Board, Inspection, name_of
from dorrik.core.judging.judgement import Judgement

_WIDTH, _HEIGHT, _LINE, _GROUND = 1000, 400, 112, 300
_MET = (490, 226, 112, 36)
_BOARD = (800, 84, 186, 56)
_APART, _STEP, _MOST_BOARDS = 64, 22, 3
_BOND_APART, _MOST_BONDS = 132, 6
_INK, _QUIET, _FAINT = "#17272b", "#4f6065", "#9aa5a4"

#: Fields of the inspection whose verdicts mark a part.
_FIELDS = {
    "supply": ("earthing", "phases", "pscc_ka", "pefc_ka", "supply_polarity", "leakage_ma"),
    "ze": ("ze_ohm", "ze_parallel_removed"),
    "head": ("service_fuse_standard", "service_fuse_a", "overhead_supply"),
    "meter": ("meter_number", "meter_seals"),
    "isolator": ("isolator", "isolator_a"),
    "tails": ("tails_mm2", "tails_length_m", "neutral_mm2"),
    "switch-fuse": ("tails_protected", "switch_fuse_a"),
    "earth": ("earthing_conductor_mm2", "earth_by", "electrode"),
}
#: How much a mark weighs; what passes, or cannot be judged yet, has none on paper.
_WEIGHT = {"attention": 1, "fail": 2}
Marks = dict[tuple[str, str], str]
_PHASES = {"1": "single phase", "3": "three phase"}


def drawing(inspection: Inspection, judgement: Judgement) -> tuple[str, str]:
    """The drawing as SVG, and what it shows in words, for who does not see it."""
    said = _said(inspection)
    marks = _marks(judgement)
    of = {part: _worst(marks, inspection.id, fields) for part, fields in _FIELDS.items()}
    bonds = inspection.bonds[:_MOST_BONDS]
    boards = list(_boards(inspection))
    body = "".join(
        (
            _ground(),
            _earth(bool(said["earth"]), inspection.earthing == "TT", bool(boards)),
            f'<path d="M12 {_LINE}H{_BOARD[0]}" stroke="{_INK}" stroke-width="4" fill="none"/>',
            _part(14, 8, 392, 56, "Supply", said["supply"], of["supply"]),
            _part(120, 76, 150, 84, "Service head", said["head"], of["head"]),
            _part(284, 76, 114, 72, "Meter", said["meter"], of["meter"]),
            _part(412, 88, 104, 52, "Isolator", said["isolator"], of["isolator"]),
            _part(490, 14, 150, 56, "Tails", said["tails"], of["tails"]),
            f'<path d="M566 70V{_LINE}" stroke="{_INK}" stroke-dasharray="2 3" fill="none"/>',
            _part(618, 76, 140, 72, "Switch-fuse", said["switch-fuse"], of["switch-fuse"]),
            *(_board(at, *one, marks) for at, one in enumerate(boards[:_MOST_BOARDS])),
            _more(len(boards)),
            _part(236, 176, 196, 56, "Ze", said["ze"], of["ze"]),
            _box(*_MET, dashed=not said["earth"], faint=False),
            _text(_MET[0] + 18, _MET[1] + 24, "Earth", bold=True),
            _mark(_MET[0] + _MET[2], _MET[1], of["earth"]),
            *(_text(_MET[0] + _MET[2] + 14, _MET[1] - 6 + at * 20, one) for at, one in enumerate(said["earth"])),
            *(_bond(bond, at, len(bonds), marks) for at, bond in enumerate(bonds)),
        )
    )
    svg = (
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {_WIDTH} {_HEIGHT}" '
        f'font-family="&apos;Atkinson Hyperlegible Next&apos;, sans-serif" font-size="17" fill="{_INK}">{body}</svg>'
    )
    return svg, _in_words(said, inspection, [board for board, _, _ in boards])


def _marks(judgement: Judgement) -> Marks:
    """How each figure stands, by entity and field; what follows from another is told there."""
    marks: Marks = {}
    for note in judgement.notes:
        figure, status = (note.entity_id, note.field), note.status or ""
        if note.because_of is None and _WEIGHT.get(status, 0) > _WEIGHT.get(marks.get(figure, ""), 0):
            marks[figure] = status
    return marks


def _worst(marks: Marks, entity_id: str, fields: Container[str] | None = None) -> str:
    found = [
        status for (entity, field), status in marks.items() if entity == entity_id and (not fields or field in fields)
    ]
    return max(found, key=_WEIGHT.__getitem__, default="")


def _said(i: Inspection) -> dict[str, list[str]]:
    """What is told of each part, line by line; nothing where nobody said."""

    def line(*parts: Any) -> str:
        return " · ".join(str(part) for part in parts if part)

    switch = "none" if i.tails_protected is False and i.switch_fuse_a is None else _unit(i.switch_fuse_a, "A")
    seals = {"whole": "sealed", "broken": "seal broken", "none seen": "no seals"}.get(i.meter_seals or "")
    fault = (_unit(i.pscc_ka, "kA L–N"), _unit(i.pefc_ka, "kA L–E"))
    lines = {
        "supply": [line(i.earthing, _PHASES.get(i.phases or ""), *fault)],
        "ze": [_unit(i.ze_ohm, "Ω")],
        "head": [i.service_fuse_standard or "", _unit(i.service_fuse_a, "A")],
        "meter": [(i.meter_number or "")[:9], seals or ""],
        "isolator": ["none" if i.isolator == "none" else _unit(i.isolator_a, "A") or i.isolator or ""],
        "tails": [line(_unit(i.tails_mm2, "mm²"), _unit(i.tails_length_m, "m"))],
        "switch-fuse": [switch],
        "earth": [_unit(i.earthing_conductor_mm2, "mm²"), i.earth_by or ""],
    }
    return {part: [one for one in told if one] for part, told in lines.items()}


def _unit(value: Any, unit: str) -> str:
    if value is None:
        return ""
    return f"{value:g} {unit}" if isinstance(value, float | int) else f"{value} {unit}"


def _boards(inspection: Inspection) -> Iterator[tuple[Board, int, str]]:
    """Every board under the one that feeds it, with its depth and the way that feeds it."""
    tree = BoardTree(inspection.boards, inspection.earthing)
    feeds = {board.id: tree.feed(board) for board in inspection.boards}
    seen: set[str] = set()

    def visit(board: Board, depth: int) -> Iterator[tuple[Board, int, str]]:
        if board.id in seen:
            return
        seen.add(board.id)
        feed = feeds[board.id]
        yield board, depth, name_of(feed[1]).split(" ")[0] if feed else ""
        for below in inspection.boards:
            above = feeds[below.id]
            if above is not None and above[0].id == board.id:
                yield from visit(below, depth + 1)

    for board in inspection.boards:
        if feeds[board.id] is None:
            yield from visit(board, 0)


def _ground() -> str:
    hatch = "".join(f"M{x} {_HEIGHT - 4}l100 -96" for x in range(16, _WIDTH - 100, 14))
    return (
        f'<path d="{hatch}" stroke="#d9dcd6" stroke-width="1.6"/>'
        f'<path d="M12 {_GROUND}H{_WIDTH - 12}" stroke="{_INK}" stroke-width="1.5"/>'
    )


def _earth(known: bool, electrode: bool, boards: bool) -> str:
    x, y, width, height = _MET
    down = y + height // 2
    dash = "" if known else ' stroke-dasharray="6 5"'
    if electrode:
        g = _GROUND
        path = f"M195 {down}V{g + 22}M175 {g + 22}H215M182 {g + 30}H208M189 {g + 38}H201M195 {down}H{x}"
    else:
        path = f"M195 160V{down}H{x}"
    if boards:
        path += f"M{x + width} {down}H{_BOARD[0] - 14}V{_LINE + 18}H{_BOARD[0]}"
    return f'<path d="{path}" fill="none" stroke="{_INK}" stroke-width="2.5"{dash}/>'


def _part(x: int, y: int, width: int, height: int, title: str, lines: list[str], status: str) -> str:
    return "".join(
        (
            _box(x, y, width, height, dashed=not lines, faint=lines == ["none"]),
            _text(x + 13, y + 23, title, bold=True),
            *(_text(x + 13, y + 44 + at * 21, line) for at, line in enumerate(lines)),
            _mark(x + width - 16, y + 16, status),
        )
    )


def _box(x: int, y: int, width: int, height: int, *, dashed: bool, faint: bool) -> str:
    dash = ' stroke-dasharray="6 5"' if dashed else ""
    return (
        f'<rect x="{x}" y="{y}" width="{width}" height="{height}" rx="7" fill="#fff" '
        f'stroke="{_FAINT if faint else _INK}" stroke-width="2"{dash}/>'
    )


def _text(x: float, y: float, text: str, *, bold: bool = False, middle: bool = False, fill: str = _INK) -> str:
    weight = ' font-weight="700"' if bold else ""
    anchor = ' text-anchor="middle"' if middle else ""
    return f'<text x="{x:g}" y="{y:g}" fill="{fill}"{weight}{anchor}>{escape(text)}</text>'


def _mark(x: float, y: float, status: str, ink: str = _INK) -> str:
    """A disc that fills up with urgency, as on screen; nothing for what passes or cannot be judged."""
    if status not in _WEIGHT:
        return ""
    disc = f'<circle cx="{x:g}" cy="{y:g}" r="8" fill="{ink if status == "fail" else "none"}" stroke="{ink}" '
    half = f'<path d="M{x - 8:g} {y:g}a8 8 0 0 0 16 0z" fill="{ink}"/>' if status == "attention" else ""
    return f'{disc}stroke-width="2"/>{half}'


def _board(at: int, board: Board, depth: int, way: str, marks: Marks) -> str:
    left, top, full, height = _BOARD
    x = left + min(depth, 3) * _STEP
    y = top + at * _APART
    width = left + full - x
    feed = f'<path d="M{x - _STEP // 2} {y - _APART + height}V{y + height // 2}H{x}" stroke="{_INK}" stroke-width="3" '
    told = [f"way {way}" if way else "", _unit(board.ways, "ways"), "" if depth else _unit(board.main_switch_a, "A")]
    ground = f"M{x + width - 20} {y + 30}v8m-9 0h18m-15 5h12m-9 5h6"
    return "".join(
        (
            f'{feed}fill="none"/>' if depth else "",
            f'<rect x="{x}" y="{y}" width="{width}" height="{height}" rx="7" fill="{_INK}"/>',
            _text(x + 14, y + 23, (board.name or "Board")[:16], bold=True, fill="#fff"),
            _text(x + 14, y + 44, " · ".join(one for one in told if one), fill="#fff"),
            f'<path d="{ground}" stroke="#fff" stroke-width="2" fill="none"/>'
            if board.earthing == "own electrode"
            else "",
            _mark(x + width - 20, y + 18, _worst(marks, board.id), "#fff"),
        )
    )


def _more(count: int) -> str:
    if count == 0:
        return _text(_BOARD[0] + 16, _LINE + 6, "no board", fill=_QUIET)
    if count <= _MOST_BOARDS:
        return ""
    return _text(_BOARD[0], _BOARD[1] + _MOST_BOARDS * _APART + 16, f"and {count - _MOST_BOARDS} more", fill=_QUIET)


def _bond(bond: Any, at: int, count: int, marks: Marks) -> str:
    x = _BOND_APART * (at - (count - 1) / 2) + _MET[0] + _MET[2] / 2
    top = _MET[1] + _MET[3]
    here = bond.state == "present"
    dash = "" if here else ' stroke-dasharray="5 4"'
    size = " ".join(one for one in (_unit(bond.csa_mm2, "mm²"), _unit(bond.at_clamp_ohm, "Ω")) if one)
    return "".join(
        (
            f'<path d="M{_MET[0] + _MET[2] // 2} {top}V{top + 16}H{x:g}V{_GROUND + 24}" fill="none" stroke="{_INK}" '
            f'stroke-width="2"{dash}/>',
            f'<circle cx="{x:g}" cy="{_GROUND + 24}" r="9" fill="{_INK if here else "#fff"}" stroke="{_INK}" '
            f'stroke-width="2"{dash}/>',
            _mark(x + 24, _GROUND + 24, _worst(marks, bond.id)),
            _text(x, _GROUND + 56, bond.service or "service", bold=True, middle=True),
            _text(x, _GROUND + 78, (size if here else bond.state) or "", middle=True),
        )
    )


def _in_words(said: dict[str, list[str]], inspection: Inspection, boards: Iterable[Board]) -> str:
    parts = [f"{part.capitalize()}: {', '.join(lines) if lines else 'not known'}" for part, lines in said.items()]
    bonds = [f"Bond to {bond.service or 'a service'}: {bond.state or 'not known'}" for bond in inspection.bonds]
    return (
        "The way of the supply. " + ". ".join([*parts, *bonds, *(f"Board: {b.name or 'board'}" for b in boards)]) + "."
    )
