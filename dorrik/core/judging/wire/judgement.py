"""The judgement as it goes over the wire: into the API, files and people's own scripts.

Records whose fields are the wire's. JSON is made of them by `plain`; schema, contract and the front end's types are
derived from them. A record of the rules that has nothing to hide or to rename goes over the wire as it is.
"""

from typing import Any

from dorrik.core.basics.drawing import Drawing
from dorrik.core.basics.identity_cache import IdentityCache
from dorrik.core.basics.readings import Reading
from dorrik.core.basics.record import record
from dorrik.core.book.catalogue import CatalogueEntry, Fact
from dorrik.core.book.intervals import IntervalProposal
from dorrik.core.home.ages import Part, shown
from dorrik.core.home.isolation import BoardState
from dorrik.core.inspection.stages import Stage
from dorrik.core.judging.coverage.limitations import Limited, LimitedShare
from dorrik.core.judging.coverage.sampling import SampleProposal, SampleState
from dorrik.core.judging.coverage.schedule import Filled
from dorrik.core.judging.coverage.tally import AskedTests, StageProgress
from dorrik.core.judging.judgement import Judgement, Note, Suggestion
from dorrik.core.judging.result.against import Against
from dorrik.core.judging.result.classification import Question, SchoolView
from dorrik.core.judging.result.coding import Coding, Known
from dorrik.core.judging.result.come_back import ToComeBack
from dorrik.core.judging.result.outcome import Outcome
from dorrik.core.judging.served.insulation_bench import InsulationBench
from dorrik.core.judging.served.live_checks import LiveCheck
from dorrik.core.judging.served.not_possible import NotPossible
from dorrik.core.judging.served.putting_back import PutBack
from dorrik.core.judging.served.repairs import RepairView
from dorrik.core.judging.served.room_for_more import RoomForMore
from dorrik.core.judging.served.walk import Looked, PointView, RoomView
from dorrik.core.judging.served.zs_scale import ZsScale
from dorrik.core.judging.steps import Recorded
from dorrik.core.judging.topics.labels_needed import LabelView
from dorrik.core.judging.topics.next_inspection import DutyDue
from dorrik.core.judging.topics.set_aside_by_agreement import Aside
from dorrik.core.judging.topics.trainees import ToCountersign
from dorrik.core.judging.wire.benches import BenchView, RingView, bench_view, ring_view
from dorrik.core.judging.wire.notes import (
    BoardSumView,
    ExpectedView,
    FigureView,
    NoteView,
    board_sum_view,
    expected_view,
    note_view,
)


@record
class CatalogueView:
    """An entry of the catalogue: `CatalogueEntry` without what only the rules ask of it."""

    key: str
    group: str
    title: str
    look: str
    code: str
    why: str
    strict: str
    strict_why: str
    mild: str
    mild_why: str
    moves: str
    plain: str
    remedy: str
    rule: str
    facts: tuple[Fact, ...]
    words: str
    own: bool


@record
class CodingView:
    """What an observation is worth: the three views, the house's school, where that leads here and why, what is known,
    and what else would move it."""

    id: str
    key: str
    views: tuple[SchoolView, ...]
    school: str
    code: str
    moved: str
    known: tuple[Known, ...]
    questions: tuple[Question, ...]


@record
class PairingsView:
    """Conductors to be proved dead at the busbar or a way; a record names them `at between`."""

    at: str
    between: tuple[str, ...]


@record
class BoardStateView:
    """How a board stands isolated, what stays live in it, and what there is to prove: proved_at None where it never was
    proved dead."""

    board_id: str
    proved_at: str | None
    lock: str | None
    key_with: str | None
    stays_live: str
    restored: bool
    pairings: tuple[PairingsView, ...]


@record
class ToCountersignView:
    """A trainee, by their attendance, and the figures of theirs that nobody has signed for yet."""

    attendance_id: str
    who: str
    figures: tuple[FigureView, ...]


@record
class AskedView:
    """The tests that apply to one entity in a stage, in the order of the work, and how many are done; more: what may be
    entered beside them."""

    entity: str
    id: str
    stage: Stage
    fields: tuple[str, ...]
    done: int
    more: tuple[str, ...]


@record(kw_only=True)
class JudgementView:
    """A judgement on the wire; what each part is stands at `Judgement`.

    words: by the word of the first rule book; blind: observations that wait for the second opinion of whoever is told.
    """

    notes: tuple[NoteView, ...]
    expected: tuple[ExpectedView, ...]
    board_sums: tuple[BoardSumView, ...]
    insulation: tuple[InsulationBench, ...]
    rings: tuple[RingView, ...]
    benches: tuple[BenchView, ...]
    suggested: tuple[Suggestion, ...]
    coding: tuple[CodingView, ...]
    recorded: tuple[Recorded, ...]
    own_entries: tuple[CatalogueView, ...]
    prospective_fault_ka: str | None
    between_lines_ka: str | None
    outcome: Outcome
    outcome_says: str
    outcome_because: tuple[str, ...]
    against: tuple[Against, ...]
    interval: IntervalProposal | None
    duties: tuple[DutyDue, ...]
    boards: tuple[BoardStateView, ...]
    not_possible: tuple[NotPossible, ...]
    live_checks: tuple[LiveCheck, ...]
    come_back: tuple[ToComeBack, ...]
    set_aside: tuple[Aside, ...]
    repairs: tuple[RepairView, ...]
    parts: tuple[Part, ...]
    labels: tuple[LabelView, ...]
    intake_drawing: Drawing
    board_tree: Drawing | None
    ring_drawings: dict[str, Drawing]
    room_for_more: RoomForMore | None
    to_countersign: tuple[ToCountersignView, ...]
    putting_back: tuple[PutBack, ...]
    sums: dict[str, str]
    zs_scales: tuple[ZsScale, ...]
    sampling: SampleState | None
    sample_proposal: SampleProposal
    rooms: tuple[RoomView, ...]
    points: tuple[PointView, ...]
    looks: dict[str, Looked]
    starting_codes: dict[str, str]
    points_served: dict[str, int]
    schedule: tuple[Filled, ...]
    limits: tuple[Limited, ...]
    limited_share: LimitedShare
    evidence: str
    stages: tuple[StageProgress, ...]
    asked: tuple[AskedView, ...]
    limited: int
    tests: int
    rule_book: str
    words: dict[str, str]
    caution: str
    blind: tuple[str, ...] = ()


def as_json(
    judgement: Judgement, blind: frozenset[str] = frozenset(), kept: IdentityCache | None = None
) -> dict[str, Any]:
    """Everything in the judgement, as JSON can hold it. blind: ids of observations that whoever is told sees without
    their code; kept: what was written of the judgement before it, of the same inspection by the same rules: what is
    given back shares its parts, and nobody may change them."""
    kept = kept or IdentityCache()
    viewed = view(judgement, blind, kept)
    return {part: kept.written(part, getattr(viewed, part)) for part in _PARTS}


def view(judgement: Judgement, blind: frozenset[str], kept: IdentityCache) -> JudgementView:
    """The judgement as it goes over the wire."""
    book = judgement.rule_book
    raised = [suggestion for suggestion in judgement.suggested if suggestion.recorded is not None]
    on_record = {
        (suggestion.key, place) for suggestion in raised for place in (suggestion.entity_id, *suggestion.touches)
    }
    progress, walk = judgement.progress, judgement.walk

    def is_on_record(note: Note) -> bool:
        return (note.verdict.observation or "", note.entity_id) in on_record

    def told(note: Note) -> NoteView:
        return note_view(note, book.translate(note.words), is_on_record(note))

    return JudgementView(
        notes=kept.each("notes", judgement.notes, told, is_on_record if on_record else None),
        expected=kept.each("expected", judgement.expected, expected_view),
        board_sums=kept.each("board_sums", judgement.board_sums, board_sum_view),
        insulation=judgement.insulation,
        rings=tuple(ring_view(circuit_id, ring) for circuit_id, ring in judgement.rings.items()),
        benches=kept.each("benches", judgement.benches, lambda bench: bench_view(bench, book)),
        suggested=judgement.suggested,
        coding=kept.each("coding", judgement.coding, _coding),
        recorded=judgement.recorded,
        own_entries=kept.each("own_entries", judgement.own_entries, catalogue_view),
        prospective_fault_ka=_text(judgement.prospective_fault_ka),
        between_lines_ka=_text(judgement.between_lines_ka),
        outcome=judgement.outcome,
        outcome_says=judgement.outcome_says,
        outcome_because=judgement.outcome_because,
        against=judgement.against,
        interval=judgement.interval,
        duties=judgement.duties,
        boards=kept.each("boards", judgement.boards, _board),
        not_possible=judgement.not_possible,
        live_checks=judgement.live_checks,
        come_back=judgement.come_back,
        set_aside=judgement.set_aside,
        repairs=judgement.repairs,
        parts=tuple(shown(judgement.parts)),
        labels=judgement.labels,
        intake_drawing=judgement.intake_drawing,
        board_tree=judgement.board_tree,
        ring_drawings=judgement.ring_drawings,
        room_for_more=judgement.room_for_more,
        to_countersign=tuple(map(_to_countersign, judgement.to_countersign)),
        putting_back=judgement.putting_back,
        sums={circuit_id: total.text for circuit_id, total in judgement.sums.items()},
        zs_scales=judgement.zs_scales,
        sampling=judgement.sampling,
        sample_proposal=judgement.sample_proposal,
        rooms=walk.rooms,
        points=walk.points,
        looks=walk.looks,
        starting_codes=walk.starting,
        points_served=walk.served,
        schedule=judgement.schedule,
        limits=judgement.limits,
        limited_share=judgement.limited_share,
        evidence=judgement.evidence.says,
        stages=progress.stages,
        asked=kept.each("asked", progress.asked, _asked),
        limited=progress.limited,
        tests=progress.tests,
        rule_book=book.name,
        words=book.words,
        caution=book.caution,
        blind=tuple(sorted(blind)),
    )


_PARTS = tuple(JudgementView.__dataclass_fields__)


def _asked(asked_observation: AskedTests) -> AskedView:
    return AskedView(
        asked_observation.entity,
        asked_observation.entity_id,
        asked_observation.stage,
        asked_observation.fields,
        asked_observation.done,
        asked_observation.more,
    )


def catalogue_view(entry: CatalogueEntry) -> CatalogueView:
    """An entry of the catalogue as it goes over the wire."""
    return CatalogueView(**{name: getattr(entry, name) for name in CatalogueView.__dataclass_fields__})


def _text(reading: Reading | None) -> str | None:
    return None if reading is None else reading.text


def _board(state: BoardState) -> BoardStateView:
    rows: dict[str, list[str]] = {}
    for pairing in state.pairings:
        rows.setdefault(pairing.at, []).append(pairing.between)
    pairings = tuple(PairingsView(at, tuple(between)) for at, between in rows.items())
    return BoardStateView(
        state.board_id, state.proved_at, state.lock, state.key_with, state.stays_live, state.restored, pairings
    )


def _to_countersign(trainee: ToCountersign) -> ToCountersignView:
    return ToCountersignView(
        trainee.attendance_id, trainee.who, tuple(FigureView(*figure) for figure in trainee.figures)
    )


def _coding(coding: Coding) -> CodingView:
    return CodingView(
        coding.observation_id, coding.key, coding.views, coding.school, coding.code, coding.moved, coding.known,
        coding.questions,
    )  # fmt: skip
