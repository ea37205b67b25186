"""Boards as they hang together: which way feeds which, and whose earth a board has (rule 3.2).

Earthing belongs to a board. One with an electrode of its own is a TT installation, and so is every board fed from it;
all others have the earth of the supply.
"""

from collections.abc import Iterable, Iterator

from dorrik.core.basics.record import record
from dorrik.core.inspection.circuit import Circuit
from dorrik.core.inspection.records import Board

OWN_ELECTRODE = "own electrode"


@record
class Earth:
    """The earth of a board.

    arrangement: 'TN-S', 'TN-C-S' or 'TT', None where it is not known; electrode_of: the board whose electrode it is,
    None where it is the supply's own earth.
    """

    arrangement: str | None
    electrode_of: Board | None = None

    @property
    def tt(self) -> bool:
        """Is it an electrode's?"""
        return self.arrangement == "TT"

    @property
    def of_supply(self) -> bool:
        """Is it the supply's own, and so by way of the main earthing conductor?"""
        return self.electrode_of is None


class BoardTree:
    """The boards of an inspection and what feeds them. Loops, which no home has, end where they close."""

    def __init__(self, boards: Iterable[Board], arrangement: str | None) -> None:
        self.boards = tuple(boards)
        self._arrangement = arrangement
        self._circuit_at = {circuit.id: (board, circuit) for board in self.boards for circuit in board.circuits}
        self._earths = {board.id: self._find_earth(board) for board in self.boards}

    def feed(self, board: Board) -> tuple[Board, Circuit] | None:
        """The board and the way that feed a board; None for one at the origin."""
        return self._circuit_at.get(board.fed_by or "")

    def in_order(self) -> Iterator[tuple[Board, int, Circuit | None]]:
        """Every board under the one that feeds it, with how many stand before it and the way that feeds it."""
        seen: set[str] = set()

        def visit(board: Board, depth: int) -> Iterator[tuple[Board, int, Circuit | None]]:
            if board.id in seen:
                return
            seen.add(board.id)
            feed = self.feed(board)
            yield board, depth, feed[1] if feed else None
            for below in self.boards:
                above = self.feed(below)
                if above is not None and above[0].id == board.id:
                    yield from visit(below, depth + 1)

        for board in self.boards:
            if self.feed(board) is None:
                yield from visit(board, 0)
        # A loop of boards cannot be entered; should one ever come, its boards still have to be seen.
        for board in self.boards:
            yield from visit(board, 0)

    def upwards(self, board: Board) -> Iterator[tuple[Board, Circuit | None]]:
        """The board itself and those before it up to the origin, each with the way that feeds it."""
        seen: set[str] = set()
        here: Board | None = board
        while here is not None and here.id not in seen:
            seen.add(here.id)
            feed = self.feed(here)
            yield here, feed[1] if feed else None
            here = feed[0] if feed else None

    def behind(self, board: Board) -> tuple[Board, ...]:
        """The board itself and every board that is fed from it."""
        return tuple(b for b in self.boards if any(above.id == board.id for above, _ in self.upwards(b)))

    def fed_from(self, circuit: Circuit) -> tuple[Board, ...]:
        """The boards that a way feeds itself."""
        return tuple(board for board in self.boards if board.fed_by == circuit.id)

    def earth(self, board: Board) -> Earth:
        """The earth of a board, its own or the one it inherits."""
        return self._earths.get(board.id) or Earth(self._arrangement)

    def _find_earth(self, board: Board) -> Earth:
        for above, _ in self.upwards(board):
            if above.earthing == OWN_ELECTRODE:
                return Earth("TT", above)
        return Earth(self._arrangement)
