"""What is done, what is left and how much is limited, by stage of the work (rules 12.4, 13)."""

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import replace
from typing import Any

from dorrik.core.basics.cells import Cells, Once
from dorrik.core.basics.readings import Reading
from dorrik.core.book.house_rules import HouseRules
from dorrik.core.electrical.insulation import LOW_MOHM
from dorrik.core.home.aside import aside
from dorrik.core.home.place_checks import checks_of, unanswered
from dorrik.core.home.placing import by_room, room_name
from dorrik.core.inspection.circuit import INSULATION_PAIRINGS, NO_ZS
from dorrik.core.inspection.kinds import KINDS, asked
from dorrik.core.inspection.records import Board, Circuit, Inspection, Rcd, name_of
from dorrik.core.inspection.set_aside import SetAside
from dorrik.core.inspection.stages import STAGES, TESTED, Stage
from dorrik.core.judging.coverage import not_applicable
from dorrik.core.judging.coverage.tally import (
    NAMED,
    AskedTests,
    Counted,
    Missing,
    Progress,
    StageProgress,
    Tally,
    one_test,
    together,
)

_DEFAULTS = HouseRules()


def dead_fields(circuit: Circuit, house: HouseRules = _DEFAULTS, board: Board | None = None) -> tuple[str, ...]:
    """The dead tests that apply to a circuit under the house rules.

    L–N insulation may be left out where L+N–E is given (rule 6.3); a board measured as a whole stands for its circuits;
    a circuit without a cpc has no continuity of one to measure. Of R1+R2 and R2 by long lead one is asked for.
    """
    if circuit.spare:
        return ()
    ends = ("r1_ohm", "rn_ohm", "r2_ohm") if circuit.form == "ring" else ()
    if circuit.no_cpc:
        return (*ends[:2], *_insulation(circuit, house, board), "polarity")
    by_lead = (circuit.continuity_method or house.ring_method) == "long lead" and circuit.r1_r2_ohm is None
    continuity = "long_lead_r2_ohm" if by_lead or circuit.long_lead_r2_ohm is not None else "r1_r2_ohm"
    return (*ends, continuity, *_insulation(circuit, house, board), "polarity")


def _insulation(circuit: Circuit, house: HouseRules, board: Board | None) -> tuple[str, ...]:
    """A board measured as one stands for its circuits; where it is low its parts are asked for, and of a circuit for
    which pairings were chosen (rule 6.3)."""
    if board is not None and house.insulation_by == "by board" and circuit.insulation_pairings is None:
        whole = board.insulation_lne_mohm
        low = whole is not None and whole.value is not None and whole.bound != ">" and whole.value < LOW_MOHM
        if not low:
            return ()
    if (circuit.insulation_pairings or house.insulation_pairings) == INSULATION_PAIRINGS[1]:
        return ("insulation_ln_mohm", "insulation_le_mohm", "insulation_ne_mohm")
    return ("insulation_lne_mohm",)


def live_fields(circuit: Circuit, house: HouseRules = _DEFAULTS, board: Board | None = None) -> tuple[str, ...]:
    """The live tests that apply to a circuit under the house rules; a device of the board has its own."""
    if circuit.spare:
        return ()
    named = circuit.rcd_id
    behind_device = board is not None and named is not None and any(rcd.id == named for rcd in board.rcds)
    afdd = ("afdd_button",) if circuit.afdd else ()
    if behind_device or not circuit.rcd_rated_ma:
        return ("zs_ohm", *afdd)
    half, five = _more_trips(house, circuit.rcd_rated_ma)
    return (
        "zs_ohm",
        "rcd_trip_ms",
        *(("rcd_half",) if half else ()),
        *(("rcd_five_ms",) if five else ()),
        "rcd_button",
        *afdd,
    )


def rcd_fields(rcd: Rcd, house: HouseRules = _DEFAULTS) -> tuple[str, ...]:
    """The tests of a residual current device under the house rules."""
    half, five = _more_trips(house, rcd.rated_ma)
    return ("trip_ms", *(("half",) if half else ()), *(("five_ms",) if five else ()), "button")


def _more_trips(house: HouseRules, rated_ma: float | None) -> tuple[bool, bool]:
    """Are ½ and 5 × IΔn asked for? Five times the rated current is asked of 30 mA and less only."""
    more = house.rcd_tests != "1 × IΔn"
    return more, more and (rated_ma is None or rated_ma <= 30)


def _words(kind: str, entity: Any, field: str) -> str:
    if field == "proved_dead":
        return f"{entity.name or 'Board'}: proved dead"
    label = KINDS[kind].fields[field].label if field in KINDS[kind].fields else field
    if kind == "circuit":
        return f"{name_of(entity)}: {label}"
    if kind == "board":
        return f"{entity.name or 'Board'}: {label}"
    if kind == "rcd":
        return f"{entity.name or 'RCD'}: {label}"
    if kind == "bond":
        return f"Bond to {entity.service or 'a service'}: {label}"
    if kind == "observation":
        return f"{entity.text or 'An observation'}: {label}"
    return label


class _Home:
    """An inspection by some house rules, as one thing to work things out of."""

    def __init__(self, inspection: Inspection, house: HouseRules, cells: Once | Cells) -> None:
        self.inspection = inspection
        self.house = house
        self.cells = cells

    @property
    def left_out(self) -> Mapping[str, SetAside]:
        """What is set aside by an agreement."""
        set_asides: Mapping[str, SetAside] = self.cells.made(aside, self.inspection)
        return set_asides


def _before_boards(home: _Home) -> Counted:
    """What is asked of the job and of the supply; a missing list counts as a field."""
    i = home.inspection
    counted = [
        _count(home, "brief", "inspection", i, asked("inspection", "brief")),
        _count(home, "intake", "inspection", i, asked("inspection", "intake")),
    ]
    for bond in i.bonds:
        if bond.state == "present" or (bond.state is None and bond.service):
            # At its clamp alone half of a bond was measured, which is never all of it (rule 3.7, principle 3).
            counted.append(_count(home, "intake", "bond", bond, ("at_pipe_ohm",)))
    if not i.rooms:
        counted.append(_count(home, "walk", "inspection", i, ("rooms",)))
    if not i.boards:
        counted.append(_count(home, "boards", "inspection", i, ("boards",)))
    return together(counted)


def _of_board(home: _Home, board: Board) -> Counted:
    """What is asked of a board itself and of its devices."""
    house = home.house
    own = ("electrode_ohm",) if board.earthing == "own electrode" else ()
    listed = () if board.circuits else ("circuits",)
    counted = [
        _count(home, "isolation", "board", board, ("proved_dead",)),
        _count(home, "boards", "board", board, (*asked("board", "boards"), *listed, *own)),
    ]
    if house.insulation_by == "by board" and board.circuits:
        counted.append(_count(home, "dead", "board", board, ("insulation_lne_mohm",)))
    counted.append(_count(home, "live", "board", board, asked("board", "live")))
    for rcd in board.rcds:
        counted.append(_count(home, "boards", "rcd", rcd, asked("rcd", "boards"), board))
        counted.append(_count(home, "live", "rcd", rcd, rcd_fields(rcd, house), board))
    return together(counted)


def _of_circuit(of: tuple[_Home, Board], circuit: Circuit) -> tuple[Counted, ...]:
    """What is asked of a circuit. Of one that is set aside nothing is: that too is said."""
    home, board = of
    if circuit.spare:
        return ()
    if circuit.id in home.left_out or board.id in home.left_out:
        return tuple(_count(home, stage, "circuit", circuit, (), board) for stage in TESTED)
    return (
        _count(home, "boards", "circuit", circuit, _circuit_fields(circuit), board),
        _count(home, "dead", "circuit", circuit, dead_fields(circuit, home.house, board), board),
        _count(home, "live", "circuit", circuit, live_fields(circuit, home.house, board), board),
    )


def _circuits_of(of: tuple[_Home, Board]) -> tuple[tuple[Circuit], ...]:
    return tuple((circuit,) for circuit in of[1].circuits)


def _after_boards(home: _Home) -> Counted:
    """What is asked of observations and of the report."""
    i = home.inspection
    counted = [
        _count(home, "observations", "observation", observation, asked("observation", "observations"))
        for observation in i.observations
    ]
    return together([*counted, _count(home, "report", "inspection", i, asked("inspection", "report"))])


def _walk(home: _Home) -> Counted:
    done, left = 0, []
    for looked, words in _walked(home.inspection, home.left_out):
        done += looked
        left += [] if looked else [words]
    names: tuple[str, ...] = tuple(left[:NAMED])
    return Counted({"walk": done}, {"walk": len(left)}, {"walk": names}, (), (), 0, 0, {})


def _set_aside(home: _Home) -> tuple[int, int]:
    """What was left out by agreement is as little tested as what could not be. What is dead has nothing to test."""
    untested = 0
    for board in home.inspection.boards if home.left_out else ():
        for circuit in board.circuits:
            by = home.left_out.get(circuit.id)
            if by is not None and not by.disconnected and not circuit.spare:
                fields = (*dead_fields(circuit, home.house, board), *live_fields(circuit, home.house, board))
                untested += len(fields)
    return untested, untested


def _walked(inspection: Inspection, left_out: Mapping[str, SetAside]) -> Iterator[tuple[bool, str]]:
    """Every point and check of every room that is in scope: was it looked at, and its name."""
    points = by_room(inspection)
    for number, room in enumerate(inspection.rooms, 1):
        if room.id in left_out:
            continue
        here = [point for point in points.get(room.id, ()) if point.id not in left_out]
        name = room_name(room, number)
        open_ones = list(unanswered(room, here))
        asked = len(here) + len(checks_of(room)) if not room.not_reached else 1
        yield from ((False, f"{name}: {open_one}") for open_one in open_ones)
        yield from ((True, name) for _ in range(asked - len(open_ones)))


def _circuit_fields(circuit: Circuit) -> tuple[str, ...]:
    """A cable by its imperial size has no metric one to ask for; a circuit without a cpc none of its cpc."""
    left_out = {"line_csa_mm2"} if circuit.imperial else set()
    left_out |= {"cpc_csa_mm2"} if circuit.no_cpc else set()
    described = asked("circuit", "boards")
    return tuple(field for field in described if field not in left_out) if left_out else described


def value_of(kind: str, entity: Any, field: str) -> Any:
    """What stands in a field, or in the one that may stand in its place (the two accepted ways to continuity, rule 4.7;
    why there is no Zs); None for nothing."""
    value = getattr(entity, field)
    if value is not None:
        return value
    spec = KINDS[kind].fields.get(field)
    return getattr(entity, spec.instead) if spec is not None and spec.instead else None


def measure_progress(
    inspection: Inspection, house: HouseRules = _DEFAULTS, cells: Once | Cells | None = None
) -> tuple[Progress, Mapping[str, Tally]]:
    """Count what is done and left by stage, and how much of the testing is limited; and each test by its field.

    house: which tests are asked for, and the share of LIM and N/V from which the report is warned about (rule 12.4);
    cells: where what is counted of each thing is kept.
    """
    cells = cells or Once()
    home: _Home = cells.made(_Home, inspection, house, cells)
    parts: list[Counted] = [cells.made(_before_boards, home)]
    for board in inspection.boards:
        if board.id not in home.left_out:
            parts.append(cells.made(_of_board, home, board))
        parts += cells.each(_of_circuit, (home, board), _circuits_of, together)
    parts += [cells.made(_after_boards, home), cells.made(_walk, home)]
    every = together(parts)
    more, more_limited = cells.made(_set_aside, home)
    return Progress(
        stages=tuple(
            StageProgress(stage, every.done[stage], every.left[stage], every.left_names.get(stage, ()))
            for stage in STAGES
        ),
        asked=every.asked,
        tests=every.tests + more,
        limited=every.limited + more_limited,
        missing=tuple(_grouped(every.missing)),
    ), every.tallies


def _count(
    home: _Home, stage: Stage, kind: str, entity: Any, fields: tuple[str, ...], board: Board | None = None
) -> Counted:
    """Count the fields that are asked of one thing in one stage. board: the one that it is on."""
    here = limited = 0
    names: list[str] = []
    not_made, groundless = [], []
    tallies: dict[str, Tally] = {}
    tested = stage in TESTED
    for number, field in enumerate(fields):
        value = value_of(kind, entity, field)
        if isinstance(value, Reading) and value.kind not in _NO_TEST:
            here += 1
            if tested:
                tallies[field] = one_test((number, stage), missing=False, limited=False)
            continue
        unfounded = not_applicable.is_na(value) and not not_applicable.stands(entity, field, board, home.inspection)
        is_test = tested or field in _ORIGIN_TESTS
        if is_test and (value is None or unfounded or is_without_reason(value)):
            not_made.append(field)
            groundless += [field] if unfounded else []
        if value is None or value == () or (unfounded and is_test):
            names.append(_words(kind, entity, field))
        else:
            here += 1
        if tested:
            lim = is_limited(value)
            limited += lim or unfounded
            tallies[field] = one_test((number, stage), missing=value is None or unfounded, limited=lim)
    missing: tuple[Missing, ...] = ()
    if not_made:
        names_of = tuple(_test_name(kind, field) for field in not_made)
        test_names = tuple(_test_name(kind, field) for field in groundless)
        missing = (Missing(kind, entity.id, stage, tuple(not_made), _whom(kind, entity), names_of, test_names),)
    listed = (AskedTests(kind, entity.id, stage, fields, here, _more(kind, stage, fields)),) if tested else ()
    left_names = {stage: tuple(names[:NAMED])} if names else {}
    return Counted(
        {stage: here}, {stage: len(names)}, left_names, listed, missing, len(fields) if tested else 0, limited, tallies
    )


#: Readings that may stand for a test that was not made.
_NO_TEST = frozenset(("limitation", "not-verified", "not-applicable"))
#: Tests of the origin; the others of the intake are looked at or read.
_ORIGIN_TESTS = frozenset(("ze_ohm", "pscc_ka", "pefc_ka", "supply_polarity", "at_pipe_ohm", "at_clamp_ohm"))


def _grouped(missing: Iterable[Missing]) -> Iterator[Missing]:
    """One of the two fault currents stands for both, the higher being recorded (rule 3.4)."""
    for missing_tests in missing:
        pair = {"pscc_ka", "pefc_ka"}
        if (
            missing_tests.entity == "inspection"
            and len(pair & set(missing_tests.fields)) == 1
            and not pair & set(missing_tests.without_fact)
        ):
            kept = [(f, n) for f, n in zip(missing_tests.fields, missing_tests.names, strict=True) if f not in pair]
            if kept:
                yield replace(missing_tests, fields=tuple(f for f, _ in kept), names=tuple(n for _, n in kept))
            continue
        yield missing_tests


def _test_name(kind: str, field: str) -> str:
    spec = KINDS[kind].fields.get(field)
    return spec.label if spec is not None else field


def _whom(kind: str, entity: Any) -> str:
    if kind == "circuit":
        return name_of(entity)
    if kind == "inspection":
        return "Origin"
    if kind == "bond":
        return f"Bond to {entity.service or 'a service'}"
    return entity.name or ("RCD" if kind == "rcd" else "Board")


def is_without_reason(value: Any) -> bool:
    """Is it a limitation whose reason nobody gave? Then it is none yet (rule 1.1)."""
    return isinstance(value, Reading) and value.kind == "limitation" and not value.limitation


def _more(kind: str, stage: Stage, fields: tuple[str, ...]) -> tuple[str, ...]:
    """L–N may be entered beside L+N–E, which is what is asked for (rule 6.3)."""
    if kind == "circuit" and stage == "dead" and "insulation_lne_mohm" in fields:
        return ("insulation_ln_mohm",)
    if kind == "board" and stage == "dead":
        return ("insulation_ln_mohm",)
    return ()


def is_limited(value: Any) -> bool:
    """A test that was not made: LIM, not verified, or a Zs with the reason why there is none."""
    if isinstance(value, Reading):
        return value.kind in ("limitation", "not-verified")
    return value == "LIM" or value in NO_ZS
