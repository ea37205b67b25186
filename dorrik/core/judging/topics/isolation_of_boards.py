"""Safe isolation of each board, and whether it was put back."""

from collections.abc import Iterator

from dorrik.core.home import isolation
from dorrik.core.judging.topics.context import Context, Note


def notes(context: Context) -> Iterator[Note]:
    """Notes on the records of isolation that stand open or do not hold."""
    for board in context.inspection.boards:
        if not board.isolations:
            continue
        wanted = isolation.of_board(board, context.inspection.phases)
        for one in board.isolations:
            verdict = isolation.judge(one, wanted)
            if verdict is not None and verdict.status != "pass":
                yield Note("isolation", one.id, "pairings", f"{board.name or 'Board'}: isolation", verdict)
