"""What a judgement is on the wire, as `core.judgement_json` writes it."""

from typing import Any, Literal

from pydantic import BaseModel

from dorrik.api.stages import Stage, Status


class FigureOut(BaseModel):
    """One figure: which field of which entity."""

    id: str
    field: str


class ActionOut(BaseModel):
    """What a note offers, carried out in one tap: 'set' a field, 'observe' a catalogue entry, 'letter', 'hold'."""

    kind: Literal["set", "observe", "letter", "hold"]
    label: str
    entity: str
    id: str
    field: str
    value: Any
    key: str


class NoteOut(BaseModel):
    """A verdict on a figure. stage: where it stands; standing: the status that counts, the inspector's own where it was
    overruled; touches: ids of the circuits it is about; because_of: the figure under which it is folded; actions: what
    it offers."""

    entity: str
    id: str
    field: str
    title: str
    status: Status
    reason: str
    limit: float | None
    margin: float | None
    next_step: str | None
    observation: str | None
    source: str
    stage: Stage
    standing: Status
    touches: list[str]
    because_of: FigureOut | None
    actions: list[ActionOut]
    on_record: bool
    overruled: "OverruledOut | None"


class OverruledOut(BaseModel):
    """The inspector's own view of a figure, beside the verdict."""

    status: Status
    reason: str


class ExpectedOut(BaseModel):
    id: str
    field: str
    least: float | None
    greatest: float | None
    says: str


class RingFindingOut(BaseModel):
    kind: str
    point: str | None
    reason: str


class RingPlaceOut(BaseModel):
    name: str
    position: float | None
    spur_length_m: float | None


class RingOut(BaseModel):
    """What the ends and points of a ring lead to (Ω, m); places from 0 at the board to 1 round the ring."""

    circuit_id: str
    closed: bool | None
    expected_line_neutral_ohm: float | None
    expected_line_cpc_ohm: float | None
    recorded_r1_r2_ohm: float | None
    length_m: float | None
    findings: list[RingFindingOut]
    points: list[RingPlaceOut]


class QuestionOut(BaseModel):
    """What would move a code and is not known; says: the reason that a yes leaves."""

    fact: str
    ask: str
    code: str
    says: str


class SuggestionOut(BaseModel):
    """An observation that the verdicts would raise; recorded: the id of one that says it already; moved: what moved its
    code from the school's own; questions: what else would; touches: ids of all that it is about."""

    key: str
    title: str
    code: str
    why: str
    moved: str
    questions: list[QuestionOut]
    entity: str
    entity_id: str
    touches: list[str]
    because: list[str]
    recorded: str | None


class SamplingOut(BaseModel):
    """How sampling stands; planned and left name points, says is for the report."""

    population: int
    sampled: int
    defective: int
    planned: list[str]
    left: list[str]
    widened: list[str]
    seed: int
    reason: str
    says: str


class BoardSumOut(BaseModel):
    board_id: str
    field: str
    combined: str
    status: Status
    reason: str
    next_step: str | None
    source: str
    observation: str | None
    culprits: list[str]
    title: str
    missing: list[str]
    touches: list[str]
    because_of: FigureOut | None


class StageOut(BaseModel):
    stage: Stage
    done: int
    left: int
    left_names: list[str]


class AskedOut(BaseModel):
    """The tests that apply to one entity in a stage, in the order of the work, and how many are done; more: what
    may be entered beside them."""

    entity: str
    id: str
    stage: Stage
    fields: list[str]
    done: int
    more: list[str]


class IntervalOut(BaseModel):
    """A proposal for the next inspection: years, why, and the longest that is usual for the tenure."""

    years: int
    reason: str
    longest: int


class DutyOut(BaseModel):
    """A duty that follows the report; due: its last day where that is known."""

    duty: str
    who: str
    days: int | None
    counted_from: str
    due: str | None


class PairingsOut(BaseModel):
    """Conductors to be proved dead at the busbar or a way; a record names them `at between`."""

    at: str
    between: list[str]


class BoardStateOut(BaseModel):
    """How a board stands isolated, and what there is to prove: proved_at None where it never was proved dead."""

    board_id: str
    proved_at: str | None
    lock: str | None
    restored: bool
    pairings: list[PairingsOut]


class JudgementOut(BaseModel):
    notes: list[NoteOut]
    expected: list[ExpectedOut]
    board_sums: list[BoardSumOut]
    rings: list[RingOut]
    suggested: list[SuggestionOut]
    prospective_fault_ka: str | None
    between_lines_ka: str | None
    outcome: Literal["satisfactory", "unsatisfactory", "open"]
    outcome_says: str
    outcome_because: list[str]
    interval: IntervalOut | None
    duties: list[DutyOut]
    sums: dict[str, str]
    boards: list[BoardStateOut]
    sampling: SamplingOut | None
    stages: list[StageOut]
    asked: list[AskedOut]
    limited: int
    tests: int
    limited_warning: str | None
    rule_book: str
    words: dict[str, str]
    caution: str
