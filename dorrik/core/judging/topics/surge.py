"""Surge protection at each board (rules 10.1 and 10.2)."""

from collections.abc import Iterator

from dorrik.core.basics.verdict import Verdict
from dorrik.core.electrical import spd
from dorrik.core.judging.topics.context import Context, Note, is_measured


def notes(context: Context) -> Iterator[Note]:
    """Notes on the indicator, on a missing device, and on the varistor test where it was made."""
    for board in context.inspection.boards:
        name = board.name or "Board"
        indicator = spd.judge_state(board.spd_state)
        if indicator is not None:
            yield Note("board", board.id, "spd_state", f"{name}: surge protection", indicator)
        if not is_measured(board.spd_u_dc_v):
            continue
        if board.spd_uc_v:
            verdict = spd.judge_varistor(board.spd_u_dc_v, board.spd_uc_v)
        else:
            reason = "The Uc marked on the SPD is needed."
            verdict = Verdict(status="unknown", reason=reason, source=spd.SOURCE)
        yield Note("board", board.id, "spd_u_dc_v", f"{name}: varistor test", verdict)
