"""The inspection schedule: each line of `data/schedule.csv` with its state, filled from what was looked at, entered,
tested and recorded anywhere in the inspection; what nothing has answered is left, and says where it is answered."""

from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from dataclasses import replace
from typing import Literal

from dorrik.core.basics.readings import Reading
from dorrik.core.basics.record import record
from dorrik.core.book.reference import cached, rows
from dorrik.core.home.aside import aside
from dorrik.core.home.place_checks import checks_of
from dorrik.core.home.placing import all_points
from dorrik.core.inspection.check import GOOD, LIM, NOT_APPLICABLE, NOT_GOOD, Check
from dorrik.core.inspection.kinds import stage_of
from dorrik.core.inspection.point import FINE, POINT_KINDS, Point
from dorrik.core.inspection.records import Inspection
from dorrik.core.inspection.room import BATH, OUTDOORS, Room
from dorrik.core.inspection.set_aside import SetAside
from dorrik.core.judging.coverage.tally import Tally

State = Literal["good", "not good", "coded", "LIM", "N/A", "left"]


@record
class ScheduleLine:
    """A line of the schedule as the file has it; see its head."""

    key: str
    part: str
    label: str
    clause: str
    when: str
    boards: tuple[str, ...]
    rooms: tuple[str, ...]
    points: str
    fields: tuple[str, ...]
    tests: tuple[str, ...]
    observations: tuple[str, ...]


@record
class Filled:
    """A line with its state.

    codes: of the observations that speak of it; because: what the state rests on, in words; stage: where it is
    answered while it is left, '' where it is asked in the schedule itself; asked: may it be answered there? by_field:
    does its state rest on a field of the inspection, which no check and no verdict speaks of?
    """

    key: str
    part: str
    label: str
    clause: str
    state: State
    codes: tuple[str, ...]
    because: str
    stage: str
    asked: bool
    by_field: bool = False


@record
class _Looked:
    """What was looked at, by what it is asked for.

    codes: by catalogue key; boards: whether each is set aside, and the states of its checks by item; rooms: each with
    the items asked there and their states; points: every one; aside: what is set aside by agreement; tests: by the
    field how each stands; circuits_aside: how many circuits are set aside.
    """

    inspection: Inspection
    codes: Mapping[str, list[str]]
    boards: tuple[tuple[bool, Mapping[str, str | None]], ...]
    rooms: tuple[tuple[Room, frozenset[str], Mapping[str, str | None]], ...]
    points: tuple[Point, ...]
    aside: Mapping[str, SetAside]
    tests: Mapping[str, Tally]
    circuits_aside: int


def _looked(i: Inspection, tests: Mapping[str, Tally]) -> _Looked:
    codes: dict[str, list[str]] = {}
    for o in i.observations:
        if o.code and o.code != "note" and o.catalogue_key:
            codes.setdefault(o.catalogue_key, []).append(o.code)
    left_out = aside(i)
    return _Looked(
        i,
        codes,
        tuple((board.id in left_out, _states(board.checks)) for board in i.boards),
        tuple((room, frozenset(check.key for check in checks_of(room)), _states(room.checks)) for room in i.rooms),
        tuple(all_points(i)),
        left_out,
        tests,
        sum(not c.spare and c.id in left_out for board in i.boards for c in board.circuits) if left_out else 0,
    )


def _states(checks: Sequence[Check]) -> dict[str, str | None]:
    """States of checks by item; of two about the same the first counts."""
    return {check.item: check.state for check in reversed(checks) if check.item}


@record
class _Answer:
    """What one source says: its state, and where it is answered while it is left."""

    state: State
    because: str
    stage: str


@cached
def lines() -> tuple[ScheduleLine, ...]:
    """Every line in the order of the report."""
    return tuple(
        ScheduleLine(
            row["key"],
            row["part"],
            row["label"],
            row["clause"],
            row["when"],
            tuple(row["boards"].split()),
            tuple(row["rooms"].split()),
            row["points"],
            tuple(row["fields"].split()),
            tuple(row["tests"].split()),
            tuple(row["observations"].split()),
        )
        for row in rows("schedule")
    )


@cached
def _clauses() -> Mapping[str, str]:
    return {key: line.clause for line in reversed(lines()) for key in line.observations}


def clause_of(catalogue_key: str) -> str:
    """The clause that an observation of the catalogue goes by, '' where the schedule has none."""
    return _clauses().get(catalogue_key, "")


def fill(inspection: Inspection, failing: Iterable[str], tests: Mapping[str, Tally]) -> tuple[Filled, ...]:
    """Every line with its state. inspection: with its points placed; failing: catalogue keys that verdicts would raise
    and no observation says yet; tests: those that apply, by the field."""
    own = {check.item: check for check in inspection.checks}
    wanting = frozenset(failing)
    looked = _looked(inspection, tests)
    return tuple(_fill(line, looked, own.get(line.key), wanting) for line in lines())


def _fill(line: ScheduleLine, looked: _Looked, own: Check | None, failing: frozenset[str]) -> Filled:
    def filled(state: State, because: str, codes: tuple[str, ...] = (), stage: str = "", asked: bool = False) -> Filled:
        return Filled(line.key, line.part, line.label, line.clause, state, codes, because, stage, asked)

    codes = {code for key in line.observations for code in looked.codes.get(key, ())} if looked.codes else None
    if codes:
        return filled("coded", "An observation is recorded.", tuple(sorted(codes)))
    if not failing.isdisjoint(line.observations):
        return filled("not good", "A reading fails and has no observation.", stage="observations")
    if own is not None and own.state:
        return filled(_STATES[own.state], own.note or "Looked at.", asked=True)
    applies = _WHEN[line.when](looked.inspection) if line.when else True
    if applies is False:
        return filled("N/A", "There is none here.", asked=True)
    answers = [*_answers(line, looked)]
    if not answers:
        return filled("left", "Looked at, and answered here.", asked=True)
    for state in ("not good", "left", "LIM", "good"):
        with_state = [answer for answer in answers if answer.state == state]
        if with_state:
            because = "; ".join(dict.fromkeys(answer.because for answer in with_state))
            if state == "not good" and line.fields == (":seals",):
                return replace(filled(with_state[0].state, because), by_field=True)
            return filled(
                with_state[0].state,
                because,
                stage=with_state[0].stage if state == "left" else "",
                asked=state == "left",
            )
    return filled("N/A", answers[0].because, asked=True)


_STATES: Mapping[str, State] = {GOOD: "good", NOT_GOOD: "not good", LIM: "LIM", NOT_APPLICABLE: "N/A"}


def _answers(line: ScheduleLine, looked: _Looked) -> Iterator[_Answer]:
    for key in line.boards:
        states_of = [states.get(key) or (LIM if set_aside else None) for set_aside, states in looked.boards]
        yield _of_checks(states_of, "Boards looked at", "boards")
    for key in line.rooms:
        asking = [
            LIM if room.not_reached else states.get(key) or (LIM if room.id in looked.aside else None)
            for room, items, states in looked.rooms
            if key in items
        ]
        if asking or not looked.rooms:
            yield _of_checks(asking, "Rooms walked round", "walk")
    if line.points:
        yield from _of_points(line.points, looked)
    for name in line.fields:
        yield _of_field(name, looked.inspection)
    if line.tests:
        yield from _of_tests(line.tests, looked)


def _of_tests(fields: tuple[str, ...], looked: _Looked) -> Iterator[_Answer]:
    wanted = [tally for field in fields if (tally := looked.tests.get(field)) is not None]
    if not wanted:
        stage = stage_of("circuit", fields[0])
        if looked.aside:
            yield _Answer("LIM", "Set aside by agreement.", stage)
            return
        if not any(board.circuits for board in looked.inspection.boards):
            yield _Answer("left", "Nothing to test yet.", stage)
        return
    count, limited = sum(item.wanted for item in wanted), sum(item.limited for item in wanted)
    missing = [item.first_missing for item in wanted if item.first_missing is not None]
    by_agreement = looked.circuits_aside
    _, stage = min(item.first for item in wanted)
    if missing:
        tested = count - sum(item.missing for item in wanted)
        yield _Answer("left", f"{tested} of {count} tested.", min(missing)[1])
    elif limited == count:
        yield _Answer("LIM", "None of it could be tested.", stage)
    elif by_agreement:
        yield _Answer("LIM", f"{count - limited} tested; {_circuits_set_aside(by_agreement)}.", stage)
    elif limited:
        # Part is never good: how many of how many is said, and the rest is a limitation (principle 3).
        yield _Answer("LIM", f"{count - limited} of {count} tested; the others are limited.", stage)
    else:
        yield _Answer("good", f"{count} tested.", stage)


def _circuits_set_aside(count: int) -> str:
    return "1 circuit is set aside by agreement" if count == 1 else f"{count} circuits are set aside by agreement"


def _of_checks(states: Sequence[str | None], what: str, stage: str) -> _Answer:
    if not states or any(state is None for state in states):
        there = sum(state is not None for state in states)
        return _Answer("left", f"{there} of {len(states)} looked at." if states else "Not looked at yet.", stage)
    kinds = [_STATES[state] for state in states if state]
    for state in ("not good", "LIM", "good"):
        if state in kinds:
            return _Answer(_STATES[state], f"{what}.", stage)
    return _Answer("N/A", f"{what}.", stage)


def _of_points(kinds: str, looked: _Looked) -> Iterator[_Answer]:
    shut = {room.id for room, _, _ in looked.rooms if room.not_reached}
    left_out = looked.aside

    def is_shut(point: Point) -> bool:
        return point.room_id in shut or (point.looked is None and point.id in left_out)

    if kinds == ":bath":
        points = [p for p in looked.points if p.bathroom]
    else:
        meant = _kinds(kinds)
        points = [p for p in looked.points if (p.kind or "") in meant]
    if not points:
        if kinds != ":bath" and not looked.rooms:
            yield _Answer("left", "Not walked round yet.", "walk")
        return
    unseen = sum(_unseen(p) and not is_shut(p) for p in points)
    hidden = sum(bool(p.not_reached) or is_shut(p) for p in points)
    if unseen:
        yield _Answer("left", f"{unseen} of {len(points)} not looked at yet.", "walk")
    elif any(p.looked not in (None, FINE) for p in points):
        yield _Answer("not good", "A point is marked as defective.", "walk")
    elif hidden == len(points):
        yield _Answer("LIM", "None was reached.", "walk")
    elif hidden:
        few = f"{len(points) - hidden} of {len(points)} looked at; the others were not reached."
        yield _Answer("LIM", few, "walk")
    else:
        yield _Answer("good", f"{len(points)} looked at.", "walk")


def _unseen(point: Point) -> bool:
    return point.looked is None and point.not_reached is None


@cached
def _kinds(names: str) -> frozenset[str]:
    """Kinds of point out of words in a row: kinds have spaces in them, and the longest that fits is meant."""
    kinds, rest = set(), f" {names} "
    for kind in sorted(POINT_KINDS, key=len, reverse=True):
        if f" {kind} " in rest:
            kinds.add(kind)
            rest = rest.replace(f" {kind} ", "  ")
    return frozenset(kinds)


def _of_field(name: str, i: Inspection) -> _Answer:
    ask = _PARTS.get(name)
    if ask is not None:
        return ask(i)
    there = getattr(i, name) is not None
    return _Answer(
        "good" if there else "left", "Recorded." if there else "Not recorded yet.", _STAGE.get(name, "intake")
    )


_STAGE = {"records": "walk"}


def _bonds(i: Inspection) -> _Answer:
    states = [bond.state for bond in i.bonds]
    if not states:
        # Words that somebody wrote once prove none.
        return _Answer("left", "No bond recorded yet.", "intake")
    if None in states:
        return _Answer("left", "A bond has no state yet.", "intake")
    if "missing" in states:
        return _Answer("not good", "A bond is missing.", "intake")
    present = [bond for bond in i.bonds if bond.state == "present"]
    proved = sum(isinstance(b.at_pipe_ohm, Reading) and b.at_pipe_ohm.interval is not None for b in present)
    unseen = states.count("not seen")
    if unseen or proved < len(present):
        text = f"{proved} of {len(present) + unseen} bonds seen and measured."
        empty = any(b.at_pipe_ohm is None and b.at_clamp_ohm is None for b in present)
        return _Answer("left" if empty else "LIM", text, "intake")
    return _Answer("good", f"{len(present)} bonds measured." if present else "None is needed.", "intake")


def _earthing(i: Inspection) -> _Answer:
    if i.earthing is None or i.ze_ohm is None:
        return _Answer("left", "Ze is not tested yet." if i.earthing else "Not recorded yet.", "intake")
    if i.ze_ohm.interval is None:
        return _Answer("LIM", "Ze could not be tested.", "intake")
    return _Answer("good", f"Recorded, Ze {i.ze_ohm} Ω.", "intake")


def _seals(i: Inspection) -> _Answer:
    if i.meter_seals is None:
        return _Answer("left", "Not recorded yet.", "intake")
    if i.meter_seals == "broken":
        return _Answer("not good", "A seal is broken.", "intake")
    return _Answer("good" if i.meter_seals == "whole" else "LIM", f"Seals: {i.meter_seals}.", "intake")


def _spd(i: Inspection) -> _Answer:
    left_out = aside(i)
    states = [board.spd_state or ("not verified" if board.id in left_out else None) for board in i.boards]
    if not states or any(state is None for state in states):
        return _Answer("left", "Its state is not recorded on every board.", "boards")
    unseen = states.count("not verified")
    if unseen:
        return _Answer("LIM", f"{len(states) - unseen} of {len(states)} boards; the others not verified.", "boards")
    return _Answer("good", "Recorded on every board.", "boards")


def _circuits(i: Inspection) -> _Answer:
    left_out = aside(i)
    circuits = [c for board in i.boards for c in board.circuits if not c.spare and c.id not in left_out]
    bare = sum(c.device_rating_a is None or (c.line_csa_mm2 is None and not c.imperial) for c in circuits)
    if not circuits and left_out:
        return _Answer("LIM", "Every circuit is set aside by agreement.", "boards")
    if not circuits or bare:
        text = f"{bare} circuits without their cable or device." if circuits else "No circuit recorded yet."
        return _Answer("left", text, "boards")
    return _Answer("good", f"{len(circuits)} circuits recorded.", "boards")


def _rcds(i: Inspection) -> _Answer:
    left_out = aside(i)
    kinds = [rcd.kind for board in i.boards for rcd in board.rcds if rcd.id not in left_out]
    circuits = [c for board in i.boards for c in board.circuits if c.id not in left_out]
    kinds += [c.rcd_kind for c in circuits if c.rcd_rated_ma and not c.rcd_id]
    bare = sum(kind is None for kind in kinds)
    if not i.boards:
        return _Answer("left", "No board recorded yet.", "boards")
    return _Answer("left" if bare else "good", f"{bare} RCDs without their kind." if bare else "Recorded.", "boards")


_PARTS: Mapping[str, Callable[[Inspection], _Answer]] = {
    ":bonds": _bonds,
    ":spd": _spd,
    ":boards": _circuits,
    ":rcds": _rcds,
    ":earthing": _earthing,
    ":seals": _seals,
}


def _any_circuit(i: Inspection, field: str, value: object) -> bool:
    return any(getattr(circuit, field) == value for board in i.boards for circuit in board.circuits)


def _points_of(*kinds: str) -> Callable[[Inspection], bool | None]:
    """Is there a point of one of the kinds? Not known before the home was walked round."""

    def there(i: Inspection) -> bool | None:
        if any(p.kind in kinds for p in all_points(i)):
            return True
        return None if not i.rooms or any(room.walked_at is None for room in i.rooms) else False

    return there


def _bath(i: Inspection) -> bool | None:
    there = any(room.kind == BATH or room.basin for room in i.rooms) or any(p.bathroom for p in all_points(i))
    return True if there or _any_circuit(i, "bathroom", True) else (False if i.rooms else None)


def _outdoors(i: Inspection) -> bool | None:
    there = any(room.kind == OUTDOORS for room in i.rooms) or any(p.kind == "outdoor point" for p in all_points(i))
    there = there or _any_circuit(i, "outdoors", True) or any(board.outbuilding for board in i.boards)
    return True if there else (False if i.rooms else None)


def _way_out(i: Inspection) -> bool | None:
    return any(room.on_the_way_out for room in i.rooms) if i.rooms else None


def _rcd_there(i: Inspection) -> bool | None:
    there = any(board.rcds or any(c.rcd_rated_ma for c in board.circuits) for board in i.boards)
    return there if i.boards else None


def _ring_there(i: Inspection) -> bool | None:
    return _any_circuit(i, "form", "ring") if any(board.circuits for board in i.boards) else None


#: Whether a line applies: True or False, None where nobody knows yet.
_WHEN: Mapping[str, Callable[[Inspection], bool | None]] = {
    "bath": _bath,
    "outdoors": _outdoors,
    "way out": _way_out,
    "rcd": _rcd_there,
    "ring": _ring_there,
    "vehicle": lambda i: _any_circuit(i, "load", "vehicle") if any(board.circuits for board in i.boards) else None,
    "socket": _points_of("socket"),
    "switch": _points_of("switch", "fused unit", "pull cord"),
    "light": _points_of("light", "downlights"),
    "downlights": _points_of("downlights"),
    "equipment": _points_of(
        "fixed equipment", "cooker outlet", "cooker outlet with socket", "shower", "fan", "shaver supply unit"
    ),
}
