"""The boards as the supply reaches them, going on where the drawing of the intake ends: each behind the way that feeds
it."""

from collections.abc import Iterator

from dorrik.core.basics.drawing import Box, Drawing, DrawnPart, Path, Sign, Words
from dorrik.core.home.board_tree import OWN_ELECTRODE
from dorrik.core.inspection.records import Board, Circuit, name_of
from dorrik.core.judging.served.marks import Marks, worst
from dorrik.core.judging.topics.context import Context

_X, _TOP, _WIDTH, _HEIGHT = 40.0, 6.0, 280.0, 52.0
#: How far boards stand one under the other, and how far one is set in under the board that feeds it.
_APART, _STEP = 72.0, 110.0


def board_tree_drawing(context: Context, marks: Marks) -> Drawing | None:
    """The drawing; None where there are not several boards."""
    boards = list(context.tree.in_order())
    if len(boards) < 2:
        return None
    places = {board.id: (_X + depth * _STEP, _TOP + at * _APART) for at, (board, depth, _) in enumerate(boards)}
    last = max(places[board.id][1] for board, depth, _ in boards if depth == 0)
    middle = _TOP + _HEIGHT / 2
    parts = [
        DrawnPart(
            paths=(
                Path(f"M0 {middle:g}H{_X:g}M{_X / 2:g} {middle:g}V{last + _HEIGHT / 2:g}", "supply"),
                *_feeds(context, boards, places),
            )
        ),
        *(_board(*board, places[board[0].id], marks) for board in boards),
    ]
    return Drawing(
        says="Boards: " + ". ".join(part.says for part in parts if part.says) + ".",
        width=max(x for x, _ in places.values()) + _WIDTH + 8,
        height=_TOP + len(boards) * _APART,
        parts=tuple(parts),
    )


def _feeds(
    context: Context, boards: list[tuple[Board, int, Circuit | None]], places: dict[str, tuple[float, float]]
) -> Iterator[Path]:
    for board, depth, _ in boards:
        x, y = places[board.id]
        middle = y + _HEIGHT / 2
        above = context.tree.feed(board)
        if depth == 0 and y > _TOP:
            yield Path(f"M{_X / 2:g} {middle:g}H{x:g}", "supply")
        elif depth and above is not None:
            from_x, from_y = places[above[0].id]
            yield Path(f"M{from_x + _STEP / 2:g} {from_y + _HEIGHT:g}V{middle:g}H{x:g}", "feed")


def _board(board: Board, depth: int, feeding: Circuit | None, at: tuple[float, float], marks: Marks) -> DrawnPart:
    x, y = at
    name, count = board.name or "Board", len(board.circuits)
    circuits = "1 circuit" if count == 1 else f"{count} circuits"
    feed = f"from way {name_of(feeding)} · {circuits}" if feeding is not None else circuits
    status = worst(marks, board.id)
    electrode = Path(f"M{x + _WIDTH - 26:g} {y + _HEIGHT:g}v6m-12 0h24m-19 5h14m-10 5h6", "electrode below")
    return DrawnPart(
        key=board.id,
        says=f"{name}, {feed}",
        boxes=(Box(x, y, _WIDTH, _HEIGHT, "board unconfirmed" if board.unconfirmed else "board"),),
        paths=(electrode,) if board.earthing == OWN_ELECTRODE else (),
        signs=(Sign(x + _WIDTH - 20, y + 16, status, inverse=True),) if status is not None else (),
        words=(Words(x + 14, y + 22, name, "title of board"), Words(x + 14, y + 43, feed, "line of board")),
    )
