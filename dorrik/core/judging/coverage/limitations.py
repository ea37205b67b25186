"""What was not inspected or tested, gathered from where it was said (rules 12.2 to 12.4).

A figure that stands as LIM or N/V limits the report as much as a room that was left out, and its reader is told why.
Limitations that somebody wrote down stand beside them.
"""

from collections.abc import Iterator, Mapping
from functools import cache
from typing import Any

from dorrik.core.basics.cells import Cells, Once
from dorrik.core.basics.readings import Reading
from dorrik.core.basics.record import record
from dorrik.core.book import board_checks
from dorrik.core.home import place_checks
from dorrik.core.home.aside import aside
from dorrik.core.home.open_parts import open_parts
from dorrik.core.home.placing import all_points, room_name
from dorrik.core.inspection.circuit import SOME_OPEN
from dorrik.core.inspection.kinds import KINDS
from dorrik.core.inspection.records import Board, Circuit, Inspection, name_of

NOT_VERIFIED = "Not verified"
NO_REASON = "No reason was given"


@record
class Limited:
    """One thing that was not looked at or tested. what: the test or the look; whom: what it concerns; why: its reason;
    entity, entity_id, field: where that was said; circuit_id: of which circuit, None for none."""

    what: str
    whom: str
    why: str
    entity: str
    entity_id: str
    field: str
    circuit_id: str | None = None


def gathered(
    inspection: Inspection, entered: Inspection | None = None, cells: Once | Cells | None = None
) -> tuple[Limited, ...]:
    """Everything that was limited by its own mark, in the order of origin, boards, rooms and points.

    entered: the inspection as it was entered, where it is not the same; cells: where what is found is kept.
    """
    return tuple(_all(inspection, entered or inspection, cells or Once()))


_Home = tuple[Inspection, Inspection, Once | Cells]


def _opened(home: _Home) -> Mapping[tuple[str, str], str]:
    """What stood open at which readings."""
    opened: Mapping[tuple[str, str], str] = home[2].made(open_parts, home[1])
    return opened


def _all(inspection: Inspection, entered: Inspection, cells: Once | Cells) -> Iterator[Limited]:
    home = (inspection, entered, cells)
    yield from _limited_fields("inspection", inspection, "the origin")
    for bond in inspection.bonds:
        yield from _limited_fields("bond", bond, f"bond to {bond.service or 'a service'}")
    for board in inspection.boards:
        yield from cells.made(_of_board, home, board)
        yield from cells.each(_of_circuit, (home, board), _circuits_of)
        yield from _looked_at(board)
    yield from cells.made(_rooms, inspection)
    yield from cells.made(_points, inspection)


def _on(home: _Home, board: Board) -> str:
    """Of several boards the name of one stands before what is on it."""
    return f"{board.name or 'Board'}, " if len(home[0].boards) > 1 else ""


def _of_board(home: _Home, board: Board) -> Iterator[Limited]:
    yield from _limited_fields("board", board, board.name or "Board")
    yield from _stood_open("board", board, board.name or "Board")
    yield from _part_open("board", board, board.name or "Board", _opened(home))
    for device in board.rcds:
        yield from _limited_fields("rcd", device, _on(home, board) + (device.name or "RCD"))


def _circuits_of(of: tuple[_Home, Board]) -> tuple[tuple[Circuit], ...]:
    return tuple((circuit,) for circuit in of[1].circuits)


def _of_circuit(of: tuple[_Home, Board], circuit: Circuit) -> Iterator[Limited]:
    name = _on(*of) + (name_of(circuit) if circuit.way or circuit.designation else "unnamed circuit")
    yield from _limited_fields("circuit", circuit, name, circuit)
    yield from _stood_open("circuit", circuit, name, circuit.id)
    yield from _part_open("circuit", circuit, name, _opened(of[0]), circuit.id)
    if circuit.zs_ohm is None and circuit.zs_not_possible:
        why = _sentence(circuit.zs_not_possible)
        yield Limited("Zs", name, why, "circuit", circuit.id, "zs_not_possible", circuit.id)


def _limited_fields(kind: str, entity: Any, whom: str, circuit: Circuit | None = None) -> Iterator[Limited]:
    of = circuit.id if circuit is not None else None
    for name, label in _limitable(kind):
        value = getattr(entity, name)
        if value is None:
            continue
        why = ""
        if isinstance(value, Reading) and value.kind == "limitation":
            why = _sentence(value.limitation or NO_REASON)
        elif isinstance(value, Reading) and value.kind == "not-verified":
            why = NOT_VERIFIED
        elif value == "LIM":
            why = NO_REASON
        if why:
            yield Limited(label, whom, why, kind, entity.id, name, of)


def _stood_open(kind: str, entity: Any, whom: str, circuit_id: str | None = None) -> Iterator[Limited]:
    """What lies beyond an open switch was not in the insulation test (rule 5.3)."""
    if entity.insulation_switches == SOME_OPEN:
        where = f"Beyond {entity.insulation_open_at}, open" if entity.insulation_open_at else "Some switches were open"
        yield Limited(
            "Insulation of a part", whom, f"{where} during the test", kind, entity.id, "insulation_switches", circuit_id
        )


def _part_open(
    kind: str, entity: Any, whom: str, opened: Mapping[tuple[str, str], str], circuit_id: str | None = None
) -> Iterator[Limited]:
    """The same by how things stood at one reading (rule 12.2). What stood open during insulation is said once."""
    for (about_id, field), words in opened.items():
        if about_id != entity.id or field not in KINDS[kind].fields:
            continue
        if field.startswith("insulation_") and entity.insulation_switches == SOME_OPEN:
            continue
        label = KINDS[kind].fields[field].label
        yield Limited(f"{label} of a part", whom, f"Measured with {words}", kind, entity.id, field, circuit_id)


@cache
def _limitable(kind: str) -> tuple[tuple[str, str], ...]:
    """Fields in which a limitation may stand, with their labels."""
    fields = KINDS[kind].fields.items()
    return tuple((name, spec.label) for name, spec in fields if spec.can_be_limited)


def _looked_at(board: Board) -> Iterator[Limited]:
    labels = board_checks.items()
    for check in board.checks:
        if check.state == "LIM" and check.item in labels:
            why = check.note or NO_REASON
            yield Limited(labels[check.item].label, board.name or "Board", why, "check", check.id, "state")


def _rooms(inspection: Inspection) -> Iterator[Limited]:
    labels = place_checks.room_checks()
    for number, room in enumerate(inspection.rooms, 1):
        name = room_name(room, number)
        if room.not_reached:
            why = f"{_sentence(room.not_reached)}: {room.note}" if room.note else _sentence(room.not_reached)
            yield Limited("The whole room", name, why, "room", room.id, "not_reached")
        for check in room.checks:
            if check.state == "LIM" and check.item in labels:
                yield Limited(labels[check.item].label, name, check.note or NO_REASON, "check", check.id, "state")


def _points(inspection: Inspection) -> Iterator[Limited]:
    circuit_of = {p.id: c.id for board in inspection.boards for c in board.circuits for p in c.points}
    rooms = {room.id for room in inspection.rooms if room.not_reached}
    for point in all_points(inspection):
        # A room that was not reached stands for all that hangs in it.
        if point.not_reached and point.room_id not in rooms:
            why = f"{_sentence(point.not_reached)}: {point.note}" if point.note else _sentence(point.not_reached)
            name = point.name or " ".join(part for part in (point.room, point.kind or "point") if part)
            of = circuit_of.get(point.id)
            yield Limited("Looked at, opened, tested", name, why, "point", point.id, "not_reached", of)


def _sentence(reason: str) -> str:
    return reason[:1].upper() + reason[1:]


@record
class LimitedShare:
    """How much of the work is limited. tests, limited_tests: of the tests that apply; points, limited_points: of the
    points listed; share: the larger of the two parts (of 1); riskiest: what hides the circuit at most risk, '' where
    nothing limited touches a circuit; says: all of it in a line; warning: what the report cannot claim, where either
    part is more than the house allows."""

    tests: int
    limited_tests: int
    points: int
    limited_points: int
    share: float
    riskiest: str
    says: str
    warning: str | None


def share(
    inspection: Inspection,
    limits: tuple[Limited, ...],
    tests: int,
    limited_tests: int,
    unprotected: frozenset[str],
    most: float,
) -> LimitedShare:
    """The share of what is limited (rule 12.4). unprotected: ids of circuits without a sensitive RCD; most: the part
    (of 1) beyond which the house warns."""
    points = all_points(inspection)
    shut = {room.id for room in inspection.rooms if room.not_reached}
    left_out = aside(inspection)
    hidden = sum(
        bool(point.not_reached) or point.room_id in shut or (point.looked is None and point.id in left_out)
        for point in points
    )
    parts = (limited_tests / tests if tests else 0.0, hidden / len(points) if points else 0.0)
    worst = _riskiest(inspection, limits, unprotected)
    test_names = []
    if tests:
        test_names.append(f"{limited_tests} of {tests} tests")
    if points:
        test_names.append(f"{hidden} of {len(points)} points")
    says = f"Limited: {', '.join(test_names)}." if test_names else "Nothing is limited."
    too_much = [
        f"{count} of {of} {what} ({part:.0%})"
        for count, of, what, part in (
            (limited_tests, tests, "tests are limitations", parts[0]),
            (hidden, len(points), "points were not reached", parts[1]),
        )
        if part > most
    ]
    warning = (
        f"{' and '.join(too_much)}. The report covers only what was reached and tested. Please arrange access so that "
        "the rest can be inspected."
    )
    says = f"{says} {worst}".strip()
    return LimitedShare(
        tests, limited_tests, len(points), hidden, max(parts), worst, says, warning if too_much else None
    )


def _riskiest(inspection: Inspection, limits: tuple[Limited, ...], unprotected: frozenset[str]) -> str:
    """Which limitation hides the circuit that most speaks against: wet places, no RCD, hidden or unknown cables."""
    by_circuit: dict[str, list[Limited]] = {}
    for limit in limits:
        if limit.circuit_id:
            by_circuit.setdefault(limit.circuit_id, []).append(limit)
    circuits = {c.id: c for board in inspection.boards for c in board.circuits}
    graded = [
        (len(_against(circuits[i], unprotected)), len(ones), i) for i, ones in by_circuit.items() if i in circuits
    ]
    if not graded:
        return ""
    _, count, circuit_id = max(graded, key=lambda grade: grade[:2])
    circuit = circuits[circuit_id]
    why = _against(circuit, unprotected)
    first = by_circuit[circuit_id][0]
    which = f"{first.what}" if count == 1 else f"{first.what} and {count - 1} more"
    because = f" ({', '.join(why)})" if why else ""
    return f"The one at most risk is {name_of(circuit)}{because}: {which}."


def _against(circuit: Circuit, unprotected: frozenset[str]) -> list[str]:
    conflicts = (
        (bool(circuit.bathroom or any(p.bathroom for p in circuit.points)), "bath or shower"),
        (bool(circuit.outdoors or any(p.kind == "outdoor point" for p in circuit.points)), "outdoors"),
        (circuit.id in unprotected, "no RCD"),
        (bool(circuit.untraced), "not traced"),
        (bool(circuit.no_cpc), "no cpc"),
        (circuit.serves == "sockets", "sockets"),
    )
    return [words for there, words in conflicts if there]
