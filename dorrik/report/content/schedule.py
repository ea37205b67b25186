"""The inspection schedule, part by part: each line with its clause and its state."""

from collections import Counter
from collections.abc import Sequence
from typing import Any

from dorrik.core.judging.judgement import Judgement

_STATES = {
    "good": "OK", "not good": "Defect", "LIM": "LIM", "N/A": "not applicable",
    "left": "not inspected",
}  # fmt: skip
#: Columns that the schedule is set in.
COLUMNS = 3


def section(judgement: Judgement) -> dict[str, Any]:
    """Lines by part, in columns of about one length. A coded line shows its codes in place of a state."""
    parts: dict[str, list[dict[str, str]]] = {}
    say = judgement.rule_book.translate
    shared = _shared([say(line.clause) for line in judgement.schedule])
    for line in judgement.schedule:
        state = ", ".join(line.codes) if line.codes else _STATES.get(line.state, line.state)
        if line.state == "good" and "limited" in line.because:
            state = "OK as far as seen"
        parts.setdefault(line.part, []).append(
            {
                "label": say(line.label),
                "clause": say(line.clause).removeprefix(shared).lstrip(),
                "state": state,
            }
        )
    columns = _columns([{"part": part, "lines": lines} for part, lines in parts.items()])
    return {"schedule": columns, "schedule_clauses": shared or "Clause"}


def _shared(clauses: Sequence[str]) -> str:
    """The words that most clauses begin with, said once: the standard's name."""
    names = Counter(clause.rpartition(" ")[0] for clause in clauses if clause[-1:].isdigit())
    return min((name for name, count in names.items() if count > 1), key=len, default="")


def _columns(parts: list[dict[str, Any]]) -> list[list[dict[str, Any]]]:
    """The parts in their order, none of them broken, so that the columns are as even as that allows."""
    #: A heading takes the room of two lines.
    lengths = [len(part["lines"]) + 2 for part in parts]
    most = max(lengths, default=0)
    while len(columns := _filled(parts, lengths, most)) > COLUMNS:
        most += 1
    return columns


def _filled(parts: list[dict[str, Any]], lengths: list[int], most: int) -> list[list[dict[str, Any]]]:
    columns: list[list[dict[str, Any]]] = []
    room = 0
    for part, length in zip(parts, lengths, strict=True):
        if not columns or length > room:
            columns.append([])
            room = most
        columns[-1].append(part)
        room -= length
    return columns
