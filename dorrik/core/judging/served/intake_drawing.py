"""The way of the supply as a drawing: from the service head to the boards, with earth and bonds.

What nobody has said yet is dashed, what is said not to be there is faint, and what fails or wants a look has its mark.
"""

from collections.abc import Iterator, Mapping, Sequence
from typing import Any, get_args

from dorrik.core.basics.drawing import Box, BoxLook, Disc, Drawing, DrawnPart, Path, Sign, Words
from dorrik.core.basics.verdict import Status
from dorrik.core.home.board_tree import OWN_ELECTRODE
from dorrik.core.inspection.field_spec import IntakePart
from dorrik.core.inspection.kinds import KINDS
from dorrik.core.inspection.records import Board, Bond, Circuit, Inspection
from dorrik.core.judging.served.marks import Marks, worst
from dorrik.core.judging.topics.context import Context

_WIDTH, _HEIGHT, _LINE, _GROUND = 1000.0, 400.0, 112.0, 300.0
#: The main earthing terminal.
_MET = (490.0, 226.0, 112.0, 36.0)
_MET_MIDDLE = _MET[0] + _MET[2] / 2
_BOARD = (800.0, 84.0, 186.0, 56.0)
_APART, _STEP, _DEEPEST = 64.0, 22.0, 3
#: More boards than this are told in words: the stage of the boards shows them all.
_MOST_BOARDS = 3
#: Bonds are so far apart where there is room, and all of them at most so far.
_BOND_APART, _BONDS_WIDE = 132.0, 900.0

#: Fields of the inspection by the part that they belong to, the one to begin with first.
PARTS: Mapping[str, tuple[str, ...]] = {
    part: tuple(name for name, spec in KINDS["inspection"].fields.items() if spec.intake == part)
    for part in get_args(IntakePart)
    if part
}
#: Each part with its title and its frame; the earth has its words beside it.
_FRAMES: Mapping[str, tuple[str, tuple[float, float, float, float]]] = {
    "supply": ("Supply", (14, 8, 392, 56)),
    "head": ("Service head", (120, 76, 150, 84)),
    "meter": ("Meter", (284, 76, 114, 78)),
    "isolator": ("Isolator", (412, 88, 104, 52)),
    "tails": ("Tails", (490, 14, 150, 56)),
    "switch-fuse": ("Switch-fuse", (618, 76, 140, 72)),
    "ze": ("Ze", (236, 176, 196, 56)),
}
_NONE = "none"
_PHASES = {"1": "single phase", "3": "three phase"}
_SEALS = {"whole": "sealed", "broken": "seal broken", "none seen": "no seals"}


def intake_drawing(context: Context, marks: Marks) -> Drawing:
    """The drawing as the inspection stands."""
    i = context.entered
    lines = _lines(i)
    boards = list(context.tree.in_order())
    bonds = i.bonds
    parts = [
        DrawnPart(
            boxes=(Box(12, _GROUND, _WIDTH - 24, _HEIGHT - _GROUND - 4, "soil"),),
            paths=(
                Path(f"M12 {_GROUND:g}H{_WIDTH - 12:g}", "ground"),
                Path(f"M12 {_LINE:g}H{_BOARD[0]:g}", "supply"),
                *_earth_path(i, known=bool(lines["earth"]), boards=bool(boards)),
            ),
        ),
        *(_framed(i, key, lines[key], worst(marks, i.id, PARTS[key])) for key in _FRAMES),
        _earth(lines["earth"], worst(marks, i.id, PARTS["earth"])),
        *(_board(at, *one, marks) for at, one in enumerate(boards[:_MOST_BOARDS])),
        *_more(len(boards)),
        *(_bond(bond, at, len(bonds), worst(marks, bond.id)) for at, bond in enumerate(bonds)),
    ]
    sentences = [
        *(part.says for part in parts if part.says),
        *(f"Board: {_name(b)}" for b, _, _ in boards[_MOST_BOARDS:]),
    ]
    return Drawing(
        says="The way of the supply. " + ". ".join(sentences) + ".", width=_WIDTH, height=_HEIGHT, parts=tuple(parts)
    )


def _lines(i: Inspection) -> dict[str, tuple[str, ...]]:
    """What is told of each part, line by line; nothing where nobody said."""
    part_lines: dict[str, tuple[str, ...]] = {
        "supply": (
            _joined(i.earthing, _PHASES.get(i.phases or ""), _unit(i.pscc_ka, "kA L–N"), _unit(i.pefc_ka, "kA L–E")),
        ),
        "ze": (_unit(i.ze_ohm, "Ω"),),
        "head": (i.service_fuse_standard or "", _unit(i.service_fuse_a, "A")),
        "meter": ((i.meter_number or "")[:9], _SEALS.get(i.meter_seals or "", "")),
        "isolator": (_NONE if i.isolator == "none" else _unit(i.isolator_a, "A") or i.isolator or "",),
        "tails": (_joined(_unit(i.tails_mm2, "mm²"), _unit(i.tails_length_m, "m")),),
        "switch-fuse": (_NONE if _no_switch_fuse(i) else _unit(i.switch_fuse_a, "A"),),
        "earth": (_unit(i.earthing_conductor_mm2, "mm²"), i.earth_by or ""),
    }
    return {part: tuple(line for line in lines if line) for part, lines in part_lines.items()}


def _no_switch_fuse(i: Inspection) -> bool:
    return i.tails_protected is False and i.switch_fuse_a is None


def _joined(*parts: str | None) -> str:
    return " · ".join(part for part in parts if part)


def _unit(value: Any, unit: str) -> str:
    if value is None:
        return ""
    return f"{value:g} {unit}" if isinstance(value, float | int) else f"{value} {unit}"


def _says(name: str, lines: Sequence[str]) -> str:
    return ", ".join((name, *(lines or ("not known yet",))))


def _framed(i: Inspection, key: str, lines: Sequence[str], status: Status | None) -> DrawnPart:
    title, (x, y, width, height) = _FRAMES[key]
    absent = (key == "isolator" and i.isolator == "none") or (key == "switch-fuse" and _no_switch_fuse(i))
    look: BoxLook = "part absent" if absent else "part" if lines else "part unknown"
    return DrawnPart(
        key=key,
        says=_says(title, lines),
        boxes=(Box(x, y, width, height, look),),
        paths=(Path(f"M{x + 76:g} {y + height:g}V{_LINE:g}", "pointer"),) if key == "tails" else (),
        signs=_sign(status, x + width - 16, y + 16),
        words=(
            Words(x + 13, y + 23, title, "title"),
            *(
                Words(x + 13, y + 45 + at * 22, line, "figure" if key == "ze" else "line")
                for at, line in enumerate(lines)
            ),
        ),
    )


def _sign(status: Status | None, x: float, y: float, *, inverse: bool = False) -> tuple[Sign, ...]:
    return (Sign(x, y, status, inverse),) if status is not None else ()


def _earth(lines: Sequence[str], status: Status | None) -> DrawnPart:
    x, y, width, height = _MET
    return DrawnPart(
        key="earth",
        says=_says("Earth", lines),
        boxes=(Box(x, y, width, height, "part" if lines else "part unknown"),),
        signs=_sign(status, x + width - 18, y + 18),
        words=(
            Words(x + 18, y + 24, "Earth", "title"),
            *(Words(x + width + 14, y - 6 + at * 20, line, "beside") for at, line in enumerate(lines)),
        ),
    )


def _earth_path(i: Inspection, *, known: bool, boards: bool) -> Iterator[Path]:
    """From the electrode, or from the head of the supply, to the terminal and on to the boards."""
    x, y, width, height = _MET
    down = y + height / 2
    if i.earthing == "TT":
        g = _GROUND
        d = f"M195 {down:g}V{g + 22:g}M175 {g + 22:g}H215M182 {g + 30:g}H208M189 {g + 38:g}H201M195 {down:g}H{x:g}"
    else:
        d = f"M195 160V{down:g}H{x:g}"
    if boards:
        d += f"M{x + width:g} {down:g}H{_BOARD[0] - 14:g}V{_LINE + 18:g}H{_BOARD[0]:g}"
    yield Path(d, "earth" if known else "earth unknown")


def _name(board: Board) -> str:
    return board.name or "Board"


def _board(at: int, board: Board, depth: int, feeding: Circuit | None, marks: Marks) -> DrawnPart:
    left, top, full, height = _BOARD
    x, y = left + min(depth, _DEEPEST) * _STEP, top + at * _APART
    width = left + full - x
    line = _joined(
        f"way {feeding.way or '?'}" if feeding is not None else "",
        _unit(board.ways, "ways"),
        "" if depth else _unit(board.main_switch_a, "A"),
    )
    feed = Path(f"M{x - _STEP / 2:g} {y - _APART + height:g}V{y + height / 2:g}H{x:g}", "feed")
    electrode = Path(f"M{x + width - 20:g} {y + 30:g}v8m-9 0h18m-15 5h12m-9 5h6", "electrode")
    return DrawnPart(
        key=board.id,
        says=_says(f"Board: {_name(board)}", (line,) if line else ()),
        boxes=(Box(x, y, width, height, "board"),),
        paths=(*((feed,) if depth else ()), *((electrode,) if board.earthing == OWN_ELECTRODE else ())),
        signs=_sign(worst(marks, board.id), x + width - 20, y + 18, inverse=True),
        words=(
            Words(x + 14, y + 23, _name(board)[:16], "title of board"),
            *((Words(x + 14, y + 45, line, "line of board"),) if line else ()),
        ),
    )


def _more(count: int) -> Iterator[DrawnPart]:
    if count == 0:
        yield DrawnPart(words=(Words(_BOARD[0] + 36, _LINE + 6, "no board yet", "quiet"),))
    elif count > _MOST_BOARDS:
        y = _BOARD[1] + _MOST_BOARDS * _APART + 16
        yield DrawnPart(words=(Words(_BOARD[0], y, f"and {count - _MOST_BOARDS} more", "quiet"),))


def _bond(bond: Bond, at: int, count: int, status: Status | None) -> DrawnPart:
    apart = min(_BOND_APART, _BONDS_WIDE / count)
    x = _MET_MIDDLE + (at - (count - 1) / 2) * apart
    top = _MET[1] + _MET[3]
    here = bond.state == "present"
    service = bond.service or "service"
    line = _joined(_unit(bond.csa_mm2, "mm²"), _unit(bond.at_clamp_ohm, "Ω")) if here else bond.state or ""
    return DrawnPart(
        key=bond.id,
        says=_says(f"Bond to {service}", (line,) if line else ()),
        # A thumb hits the whole of it, not its letters alone.
        boxes=(Box(x - min(58, apart / 2), _GROUND + 6, min(116, apart), 88, "reach"),),
        paths=(Path(f"M{_MET_MIDDLE:g} {top:g}V{top + 16:g}H{x:g}V{_GROUND + 24:g}", "bond" if here else "bond open"),),
        discs=(Disc(x, _GROUND + 24, 9, "end" if here else "end open"),),
        signs=_sign(status, x + 24, _GROUND + 24),
        words=(
            Words(x, _GROUND + 56, service, "title", "middle"),
            *((Words(x, _GROUND + 76, line, "small", "middle"),) if line else ()),
        ),
    )
