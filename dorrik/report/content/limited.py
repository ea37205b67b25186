"""What was not measured or looked at, as limitations of the report: each test with its reason and what it concerns.

A figure that stands as LIM or N/V limits the report as much as a room that was left out (rule 12.4), and its reader is
told why.
"""

from collections.abc import Iterator
from typing import Any

from dorrik.core import board_checks
from dorrik.core.inspection import KINDS, Board, Inspection
from dorrik.core.readings import Reading
from dorrik.core.rule_book import RuleBook

NOT_VERIFIED = "Not verified"
NO_REASON = "No reason was given"


def limited(inspection: Inspection, rule_book: RuleBook) -> list[dict[str, str]]:
    """What, reason and with whom it was agreed (nobody) of each test that was limited, in the order of the boards.

    The same test with the same reason is one limitation, with all that it concerns.
    """
    found: dict[tuple[str, str], list[str]] = {}
    for test, reason, whom in _all(inspection):
        found.setdefault((rule_book.translate(test), reason), []).append(whom)
    return [
        {"what": f"{test}: {', '.join(whom)}", "reason": reason, "agreed_with": ""}
        for (test, reason), whom in found.items()
    ]


def _all(inspection: Inspection) -> Iterator[tuple[str, str, str]]:
    """Test, reason and what it concerns, one by one."""
    yield from _of("inspection", inspection, "the origin")
    for bond in inspection.bonds:
        yield from _of("bond", bond, f"bond to {bond.service or 'a service'}")
    several = len(inspection.boards) > 1
    for board in inspection.boards:
        on = f"{board.name or 'Board'}, " if several else ""
        yield from _of("board", board, board.name or "Board")
        for device in board.rcds:
            yield from _of("rcd", device, on + (device.name or "RCD"))
        for circuit in board.circuits:
            name = " ".join(part for part in (circuit.way, circuit.designation) if part) or "unnamed circuit"
            yield from _of("circuit", circuit, on + name)
            if circuit.zs_ohm is None and circuit.zs_not_possible:
                yield "Zs", _sentence(circuit.zs_not_possible), on + name
        yield from _looked_at(board)


def _of(kind: str, entity: Any, whom: str) -> Iterator[tuple[str, str, str]]:
    for name, spec in KINDS[kind].fields.items():
        if spec.kind not in ("reading", "check", "choice"):
            continue
        value = getattr(entity, name)
        if isinstance(value, Reading) and value.kind == "limitation":
            yield spec.label, _sentence(value.limitation or NO_REASON), whom
        elif isinstance(value, Reading) and value.kind == "not-verified":
            yield spec.label, NOT_VERIFIED, whom
        elif value == "LIM":
            yield spec.label, NO_REASON, whom


def _looked_at(board: Board) -> Iterator[tuple[str, str, str]]:
    labels = board_checks.items()
    for check in board.checks:
        if check.state == "LIM" and check.item in labels:
            yield labels[check.item].label, NO_REASON, board.name or "Board"


def _sentence(reason: str) -> str:
    return reason[:1].upper() + reason[1:]
