"""The inspection schedule, part by part: each line with its clause and its state."""

from typing import Any

from dorrik.core.judgement import Judgement

_STATES = {"good": "in order", "not good": "not in order", "LIM": "limited", "N/A": "not there", "left": "not answered"}


def section(judgement: Judgement) -> dict[str, Any]:
    """Lines by part. A coded line shows its codes in place of a state."""
    parts: dict[str, list[dict[str, str]]] = {}
    for line in judgement.schedule:
        state = ", ".join(line.codes) if line.codes else _STATES.get(line.state, line.state)
        if line.state == "good" and "limited" in line.because:
            state = "in order as far as seen"
        parts.setdefault(line.part, []).append(
            {
                "label": judgement.rule_book.translate(line.label),
                "clause": judgement.rule_book.translate(line.clause),
                "state": state,
            }
        )
    return {"schedule": [{"part": part, "lines": lines} for part, lines in parts.items()]}
