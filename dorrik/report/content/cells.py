"""Cells of the tables of results: what stands in them, what is marked, and the notes below for what has a reason."""

from collections.abc import Mapping
from typing import Any

from dorrik.core.basics.readings import Reading
from dorrik.core.judging.judgement import Judgement
from dorrik.report.content.words import shown

#: How a marked cell weighs: outside its limit, or worth a look.
FAILS, LOOK = "fail", "look"
Marks = Mapping[tuple[str, str], str]


def marks(judgement: Judgement) -> Marks:
    """How each figure stands, by entity and field; one that is judged otherwise by the inspector stands as they say."""
    standing: dict[tuple[str, str], str] = {}
    for note in judgement.notes:
        if note.status == "fail":
            standing[note.figure] = FAILS
        elif note.status == "attention":
            standing.setdefault(note.figure, LOOK)
    return standing


class Footnotes:
    """The reasons below a table; the same reason has one number."""

    def __init__(self) -> None:
        self._numbers: dict[str, int] = {}

    def of(self, reason: str) -> int:
        """The number of a reason."""
        return self._numbers.setdefault(reason, len(self._numbers) + 1)

    def listed(self) -> list[dict[str, Any]]:
        """Every note in the order of its number."""
        return [{"number": number, "says": reason} for reason, number in self._numbers.items()]

    def cell(self, value: Any, mark: str = "", reason: str = "") -> dict[str, Any]:
        """A cell with what stands in it, its mark, and the number of its note (0 for none).

        A limitation is a word in the cell and its reason below. reason: of what is no reading.
        """
        text = value if isinstance(value, str) else shown(value)
        if isinstance(value, Reading) and value.kind == "limitation":
            text, reason = "LIM", value.limitation or "no reason was given"
        return {"text": text, "mark": mark, "note": self.of(reason) if reason else 0}
