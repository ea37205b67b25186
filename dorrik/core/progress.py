"""What is done, what is left and how much is limited, by stage of the work (rules 12.4, 13)."""

from collections.abc import Iterator
from typing import Any

from dorrik.core.house_rules import HouseRules
from dorrik.core.inspection import KINDS, Board, Circuit, Inspection, name_of
from dorrik.core.readings import Reading
from dorrik.core.record import record

STAGES = ("brief", "intake", "isolation", "boards", "dead", "live", "observations", "report")

#: How many of the things left are named.
NAMED = 20

_BRIEF = ("reference", "client_name", "property_address", "tenure", "purpose", "extent", "inspected_on")
_INTAKE = (
    "earthing",
    "phases",
    "service_fuse_a",
    "tails_mm2",
    "ze_ohm",
    "pscc_ka",
    "pefc_ka",
    "supply_polarity",
)
_CIRCUIT = (
    "designation",
    "form",
    "line_csa_mm2",
    "cpc_csa_mm2",
    "device_standard",
    "device_type",
    "device_rating_a",
)
_BOARD_WITHOUT_CIRCUITS = ("name", "main_switch_a", "circuits")


@record
class StageProgress:
    """One stage: how many things are done and left, and the names of those left (the first NAMED)."""

    stage: str
    done: int
    left: int
    left_names: tuple[str, ...]


@record
class Progress:
    """All stages; tests: how many apply; limited: how many of them are LIM or N/V; the warning, if due."""

    stages: tuple[StageProgress, ...]
    tests: int
    limited: int
    limited_warning: str | None


_DEFAULTS = HouseRules()


def dead_fields(circuit: Circuit, house: HouseRules = _DEFAULTS, board: Board | None = None) -> tuple[str, ...]:
    """The dead tests that apply to a circuit under the house rules.

    L–N insulation may be left out where L+N–E is given (rule 6.3); a board measured as a whole stands for its circuits.
    """
    if circuit.spare:
        return ()
    ends = ("r1_ohm", "rn_ohm", "r2_ohm") if circuit.form == "ring" else ()
    return (*ends, "r1_r2_ohm", *_insulation(house, board), "polarity")


def _insulation(house: HouseRules, board: Board | None) -> tuple[str, ...]:
    if board is not None and house.insulation_by == "by board" and board.insulation_lne_mohm is not None:
        return ()
    if house.insulation_pairings == "all three":
        return ("insulation_ln_mohm", "insulation_le_mohm", "insulation_ne_mohm")
    return ("insulation_lne_mohm",)


def live_fields(circuit: Circuit, house: HouseRules = _DEFAULTS) -> tuple[str, ...]:
    """The live tests that apply to a circuit under the house rules."""
    if circuit.spare:
        return ()
    if not circuit.rcd_rated_ma:
        return ("zs_ohm",)
    more: tuple[str, ...] = ()
    if house.rcd_tests != "1 × IΔn":
        # Five times the rated current is asked of 30 mA and less only.
        more = ("rcd_half", "rcd_five_ms") if circuit.rcd_rated_ma <= 30 else ("rcd_half",)
    return ("zs_ohm", "rcd_trip_ms", *more, "rcd_button")


def _words(kind: str, entity: Any, field: str) -> str:
    if field == "proved_dead":
        return f"{entity.name or 'Board'}: proved dead"
    label = KINDS[kind].fields[field].label if field in KINDS[kind].fields else field
    if kind == "circuit":
        return f"{name_of(entity)}: {label}"
    if kind == "board":
        return f"{entity.name or 'Board'}: {label}"
    if kind == "observation":
        return f"{entity.text or 'An observation'}: {label}"
    return label


def _asked(inspection: Inspection, house: HouseRules) -> Iterator[tuple[str, str, Any, tuple[str, ...]]]:
    """Stage, kind, entity and fields of everything that is asked for; a missing list counts as a field."""
    yield "brief", "inspection", inspection, _BRIEF
    yield "intake", "inspection", inspection, _INTAKE
    if not inspection.boards:
        yield "boards", "inspection", inspection, ("boards",)
    for board in inspection.boards:
        yield "isolation", "board", board, ("proved_dead",)
        yield "boards", "board", board, ("name", "main_switch_a") if board.circuits else _BOARD_WITHOUT_CIRCUITS
        if house.insulation_by == "by board" and board.circuits:
            yield "dead", "board", board, ("insulation_lne_mohm",)
        yield "live", "board", board, ("zdb_ohm",)
        for circuit in board.circuits:
            if not circuit.spare:
                yield "boards", "circuit", circuit, _CIRCUIT
                yield "dead", "circuit", circuit, dead_fields(circuit, house, board)
                yield "live", "circuit", circuit, live_fields(circuit, house)
    for observation in inspection.observations:
        yield "observations", "observation", observation, ("code",)
    yield "report", "inspection", inspection, ("declared_outcome", "next_years")


def measure_progress(inspection: Inspection, house: HouseRules = _DEFAULTS) -> Progress:
    """Count what is done and left by stage, and how much of the testing is limited.

    house: which tests are asked for, and the share of LIM and N/V from which the report is warned about (rule 12.4).
    """
    done = dict.fromkeys(STAGES, 0)
    left = dict.fromkeys(STAGES, 0)
    names: dict[str, list[str]] = {stage: [] for stage in STAGES}
    tests = limited = 0
    for stage, kind, entity, fields in _asked(inspection, house):
        for field in fields:
            value = getattr(entity, field)
            if value is None or value == ():
                left[stage] += 1
                if len(names[stage]) < NAMED:
                    names[stage].append(_words(kind, entity, field))
            else:
                done[stage] += 1
            if stage in ("dead", "live"):
                tests += 1
                if value == "LIM" or (isinstance(value, Reading) and value.sort in ("limitation", "not-verified")):
                    limited += 1
    warning = None
    if tests and limited / tests > house.limited_share:
        warning = (
            f"{limited} of {tests} tests are limitations ({limited / tests:.0%}). The report speaks only of what was "
            "tested; agree with the client how the rest will be reached."
        )
    return Progress(
        stages=tuple(StageProgress(stage, done[stage], left[stage], tuple(names[stage])) for stage in STAGES),
        tests=tests,
        limited=limited,
        limited_warning=warning,
    )
