"""What a judgement is on the wire, as `core.judging.judgement_json` writes it."""

from typing import Any, Literal

from pydantic import BaseModel

from dorrik.api.bench_types import BenchOut, ZsScaleOut
from dorrik.api.follow_up_types import AgedPartOut, AsideOut, LabelOut, RepairOut, RoomForMoreOut, ToComeBackOut
from dorrik.api.measuring_types import InsulationOut, LiveCheckOut, NotPossibleOut
from dorrik.api.reference_types import CatalogueOut, LookOut
from dorrik.api.stages import Stage, Status


class FigureOut(BaseModel):
    """One figure: which field of which entity."""

    id: str
    field: str


class ActionOut(BaseModel):
    """What a note offers, carried out in one tap: 'set' a field, 'observe' a catalogue entry, 'letter', 'hold', and
    that the operator was called ('call')."""

    kind: Literal["set", "observe", "letter", "hold", "call"]
    label: str
    entity: str
    id: str
    field: str
    value: Any
    key: str


class NoteOut(BaseModel):
    """A verdict on a figure. stage: where it stands; of: the name of what it speaks of; words: what was looked at or
    measured; standing: the status that counts, the inspector's own where it was overruled; touches: ids of the circuits
    it is about; because_of: the figure under which it is folded; actions: what it offers."""

    entity: str
    id: str
    field: str
    title: str
    of: str
    words: str
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
    asks: bool
    overruled: "OverruledOut | None"


class OverruledOut(BaseModel):
    """The inspector's own view of a figure, beside the verdict."""

    status: Status
    reason: str


class AgainstOut(BaseModel):
    """One thing that stands against a satisfactory result; stage: where it is answered."""

    kind: Literal["code", "suggested", "marked", "uncoded", "test", "failing", "question"]
    says: str
    stage: Stage
    entity: str
    entity_id: str
    field: str
    observation_id: str


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
    declined: str


class ViewOut(BaseModel):
    """One school's code and its reason."""

    school: str
    code: str
    reason: str


class KnownOut(BaseModel):
    """A fact that is known: its words, whether it is so, and whether the inspector answered it."""

    fact: str
    says: str
    so: bool
    answered: bool


class CodingOut(BaseModel):
    """What an observation is worth: the three views, the house's school, where that leads here and why, what is known,
    and what else would move it."""

    id: str
    key: str
    views: list[ViewOut]
    school: str
    code: str
    moved: str
    known: list[KnownOut]
    questions: list[QuestionOut]


class RecordedOut(BaseModel):
    """An observation as it stands: whether it counts as made good, what its record still lacks, in which
    outbuilding it is ('' for the home), and a hint on its words."""

    id: str
    made_good: bool
    lacking: list[str]
    building: str
    hint: str


class WideningOut(BaseModel):
    """A sample that grew: of which circuit or kind of point, for which defect, and the points that came in."""

    group: str
    defect: str
    times: int
    found_at: list[str]
    share: float
    added: list[str]
    says: str


class SamplingOut(BaseModel):
    """How sampling stands; planned and left name points, to_open and still are their ids; frame, drawn: of the points
    that could be drawn and were; most: the greatest number of defective ones among them at 95 %; says is for the
    report, plainly for the client."""

    population: int
    sampled: int
    defective: int
    planned: list[str]
    left: list[str]
    to_open: list[str]
    still: list[str]
    widened: list[str]
    widenings: list[WideningOut]
    share: float
    frame: int
    drawn: int
    drawn_defective: int
    closed: int
    most: int | None
    beside: int
    beside_defective: int
    seed: int
    reason: str
    says: str
    plainly: str


class SampleProposalOut(BaseModel):
    """The share of points to open (part of 1), the grade it follows from, and why."""

    share: float
    decides: str
    reasons: list[str]


class WalkCheckOut(BaseModel):
    """Something to look at once in a room; check_id: of what was answered, None before."""

    key: str
    label: str
    observation: str
    state: str | None
    check_id: str | None


class ZonesOut(BaseModel):
    """Zones round a bath or shower for drawing them (m): corners of the basin or the outlet; strips of the plan as y
    and x from and to, each `step_m` high."""

    basin: list[list[float]]
    zone_1: list[list[float]]
    zone_2: list[list[float]]
    step_m: float
    top_m: float
    reach_m: float
    length_m: float
    width_m: float


class RoomOut(BaseModel):
    """A room on the walk: what is left to look at, whether it is seen (walked round with nothing left, or not reached),
    how many points the sample still asks for, and its checks."""

    id: str
    name: str
    left: int
    seen: bool
    unopened: int
    checks: list[WalkCheckOut]
    zones: ZonesOut | None


class MovedOut(BaseModel):
    """A code that what is known of a point has moved from where the school starts, and why."""

    code: str
    why: str


class PointOut(BaseModel):
    """A point on the walk: its name within the room, what is known of it, its zone and what that asks for, why it is to
    be opened ('' where it is not), what to look at (a key of `looks`), and entries whose code starts elsewhere here."""

    id: str
    room_id: str | None
    circuit_id: str | None
    name: str
    line: str
    zone: str | None
    needs: str | None
    wanting: bool
    to_open: str
    look: str
    moved: dict[str, MovedOut]


class ScheduleLineOut(BaseModel):
    """A line of the inspection schedule. codes: of observations that speak of it; stage: where it is answered while it
    is left, '' where here; asked: may it be answered here?"""

    key: str
    part: str
    label: str
    clause: str
    state: Literal["good", "not good", "coded", "LIM", "N/A", "left"]
    codes: list[str]
    because: str
    stage: str
    asked: bool


class LimitedOut(BaseModel):
    """Something that was limited by its own mark: what, of whom, why, and where that was said."""

    what: str
    whom: str
    why: str
    entity: str
    entity_id: str
    field: str
    circuit_id: str | None


class LimitedShareOut(BaseModel):
    """How much is limited: of the tests and of the points; share: the larger part (of 1); riskiest: what hides the
    circuit at most risk; says: all of it in a line; warning: where that is more than the house allows."""

    tests: int
    limited_tests: int
    points: int
    limited_points: int
    share: float
    riskiest: str
    says: str
    warning: str | None


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
    """A duty that follows the report; due: its last day where that is known; only_if: the outcome that it follows from,
    '' for every one."""

    duty: str
    who: str
    days: int | None
    counted_from: str
    due: str | None
    short: str
    only_if: str


class PairingsOut(BaseModel):
    """Conductors to be proved dead at the busbar or a way; a record names them `at between`."""

    at: str
    between: list[str]


class BoardStateOut(BaseModel):
    """How a board stands isolated, what stays live in it, and what there is to prove: proved_at None where it never was
    proved dead."""

    board_id: str
    proved_at: str | None
    lock: str | None
    key_with: str | None
    restored: bool
    stays_live: str
    pairings: list[PairingsOut]


class PutBackOut(BaseModel):
    """Something that a test took off, or that has to come off before one; open: off, and not ticked as back."""

    item: str
    about_entity: str
    about_id: str
    board_id: str
    says: str
    because: str
    before: bool
    off: bool
    back: bool
    open: bool
    record_id: str


class ToCountersignOut(BaseModel):
    """A trainee, by their attendance, and the figures of theirs that nobody has signed for yet."""

    attendance_id: str
    who: str
    figures: list[FigureOut]


class JudgementOut(BaseModel):
    notes: list[NoteOut]
    expected: list[ExpectedOut]
    board_sums: list[BoardSumOut]
    insulation: list[InsulationOut]
    rings: list[RingOut]
    benches: list[BenchOut]
    suggested: list[SuggestionOut]
    coding: list[CodingOut]
    recorded: list[RecordedOut]
    own_entries: list[CatalogueOut]
    prospective_fault_ka: str | None
    between_lines_ka: str | None
    outcome: Literal["satisfactory", "unsatisfactory", "open"]
    outcome_says: str
    outcome_because: list[str]
    against: list[AgainstOut]
    blind: list[str]
    interval: IntervalOut | None
    duties: list[DutyOut]
    sums: dict[str, str]
    zs_scales: list[ZsScaleOut]
    boards: list[BoardStateOut]
    putting_back: list[PutBackOut]
    to_countersign: list[ToCountersignOut]
    not_possible: list[NotPossibleOut]
    live_checks: list[LiveCheckOut]
    come_back: list[ToComeBackOut]
    set_aside: list[AsideOut]
    repairs: list[RepairOut]
    parts: list[AgedPartOut]
    labels: list[LabelOut]
    room_for_more: RoomForMoreOut | None
    evidence: str
    sampling: SamplingOut | None
    sample_proposal: SampleProposalOut
    rooms: list[RoomOut]
    points: list[PointOut]
    looks: dict[str, LookOut]
    starting_codes: dict[str, str]
    points_served: dict[str, int]
    schedule: list[ScheduleLineOut]
    limits: list[LimitedOut]
    limited_share: LimitedShareOut
    stages: list[StageOut]
    asked: list[AskedOut]
    limited: int
    tests: int
    rule_book: str
    words: dict[str, str]
    caution: str
