"""What has a place of its own at a point or a board: the second gang of a socket, the centre contact of a lampholder,
a switch that was tried, a neutral at a terminal numbered otherwise (rules 4.4, 4.6, 5.2 and 10.2)."""

from collections.abc import Iterator

from dorrik.core.basics.verdict import Verdict
from dorrik.core.electrical import continuity
from dorrik.core.home import gangs
from dorrik.core.inspection.point import SCREW
from dorrik.core.inspection.records import Board, Circuit, Point
from dorrik.core.judging.topics.context import Context, Note, name_of

_EARTH = ("line_cpc_ohm", "r2_ohm", "zs_ohm")
_WORDS = {"line_neutral_ohm": "L–N", "line_cpc_ohm": "L–cpc", "r2_ohm": "R2", "zs_ohm": "Zs"}


def notes(context: Context) -> Iterator[Note]:
    """Notes on points of every circuit, and on neutrals of every board."""
    for circuit, name, point in context.points():
        title = f"{name_of(circuit)}: {name}" if circuit is not None else name
        if gangs.is_tested_apart(point):
            yield from _gangs(point, title)
        yield from _lampholder(point, title)
        if point.functional == "incorrect":
            yield Note("point", point.id, "functional", f"{title}: does it work?", _DOES_NOT_WORK)
    for board in context.inspection.boards:
        yield from _neutrals(board)


def _gangs(point: Point, title: str) -> Iterator[Note]:
    for field, second in gangs.SECOND.items():
        judged = gangs.judge(getattr(point, field), getattr(point, second), earth=field in _EARTH)
        if judged is not None:
            in_second, verdict = judged
            yield Note("point", point.id, second if in_second else field, f"{title}: gangs, {_WORDS[field]}", verdict)


def _lampholder(point: Point, title: str) -> Iterator[Note]:
    """The thread of a screw lampholder can be touched while a lamp is changed: it belongs to the neutral."""
    if point.centre_contact == "incorrect":
        verdict = _THREAD_LIVE if point.lampholder == SCREW else continuity.WRONG_POLARITY
        yield Note("point", point.id, "centre_contact", f"{title}: lampholder", verdict)
    elif point.lampholder == SCREW and point.centre_contact is None:
        yield Note("point", point.id, "centre_contact", f"{title}: lampholder", _CENTRE_UNKNOWN)


_THREAD_LIVE = Verdict(
    status="fail",
    reason="The line is at the thread of the lampholder, not at its centre contact.",
    source="BS 7671 643.6 · rule 4.6",
    next_step="Isolate and prove dead. Change the two over, restore, test again.",
    observation="polarity-wrong",
)
_CENTRE_UNKNOWN = Verdict(
    status="unknown",
    reason="A screw lampholder: whether the line is at its centre contact is not entered.",
    source="BS 7671 643.6 · rule 4.6",
    next_step="Isolate and prove dead. Test from the line at the board to the centre contact, switch on.",
    asks=True,
)
_DOES_NOT_WORK = Verdict(
    status="attention",
    reason="It does not work as it should.",
    source="BS 7671 643.10 · functional check",
    next_step="Record what was seen, with its code.",
)


def _neutrals(board: Board) -> Iterator[Note]:
    """Where a neutral stands at another terminal than its way's number, the wrong one is soon taken off."""
    of: dict[str, list[Circuit]] = {}
    circuits = [circuit for circuit in board.circuits if not circuit.spare]
    for circuit in circuits:
        if terminal := neutral_of(circuit):
            of.setdefault(terminal.casefold(), []).append(circuit)
    for circuit in circuits:
        if not circuit.neutral_at:
            continue
        others = [other for other in of[circuit.neutral_at.strip().casefold()] if other.id != circuit.id]
        if others:
            names = ", ".join(name_of(other) for other in others)
            verdict = Verdict(
                status="attention",
                reason=f"Its neutral is at terminal {circuit.neutral_at}, as is that of {names}.",
                source="BS 7671 314.4, 514.9 · rule 10.2",
                next_step="Isolate and prove dead. See whether it holds both, or two circuits share a neutral.",
            )
            touches = (circuit.id, *(other.id for other in others))
            yield Note("circuit", circuit.id, "neutral_at", f"{name_of(circuit)}: neutral", verdict, touches=touches)
        elif circuit.neutral_at.strip() != (circuit.way or "").strip():
            reason = f"Its neutral is at terminal {circuit.neutral_at}, not {circuit.way or 'at its way'}."
            verdict = Verdict(status="attention", reason=reason, source="BS 7671 514.9", next_step=_LABEL)
            yield Note("circuit", circuit.id, "neutral_at", f"{name_of(circuit)}: neutral", verdict)


def neutral_of(circuit: Circuit) -> str:
    """The terminal of a circuit's neutral: as it was said, else by the number of its way; '' where neither is known."""
    return (circuit.neutral_at or circuit.way or "").strip()


_LABEL = "Take off that one for its test. Label the neutrals, or put them in the order of their ways."
