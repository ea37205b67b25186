"""Judging a whole inspection: every verdict, the rings, the board sums, the outcome and what is left.

The topics are in `topics`; here they are put together.
"""

from collections.abc import Iterator, Mapping, Sequence
from contextlib import contextmanager
from dataclasses import replace

from dorrik.core.basics.cells import Once
from dorrik.core.basics.drawing import Drawing
from dorrik.core.basics.readings import Reading, accurate
from dorrik.core.basics.record import record
from dorrik.core.book import catalogue, reference
from dorrik.core.book.house_rules import HouseRules
from dorrik.core.book.intervals import IntervalProposal
from dorrik.core.book.rule_book import RuleBook
from dorrik.core.electrical.ring import RingAnalysis
from dorrik.core.home import instruments
from dorrik.core.home.ages import Part, parts
from dorrik.core.home.instruments import MeasuredAt
from dorrik.core.home.isolation import BoardState
from dorrik.core.home.read_right import read_right
from dorrik.core.inspection.records import Inspection
from dorrik.core.judging import steps
from dorrik.core.judging.coverage import evidence
from dorrik.core.judging.coverage.evidence import Evidence
from dorrik.core.judging.coverage.limitations import Limited, LimitedShare
from dorrik.core.judging.coverage.sampling import SampleProposal, SampleState
from dorrik.core.judging.coverage.schedule import Filled
from dorrik.core.judging.coverage.tally import Progress
from dorrik.core.judging.result.against import Against, is_open, summary
from dorrik.core.judging.result.coding import Coding, coding
from dorrik.core.judging.result.come_back import ToComeBack, to_come_back
from dorrik.core.judging.result.outcome import Outcome, decide, in_words
from dorrik.core.judging.result.suggested import Suggestion
from dorrik.core.judging.served.expected import Expected, expected
from dorrik.core.judging.served.insulation_bench import InsulationBench
from dorrik.core.judging.served.live_checks import LiveCheck, live_checks
from dorrik.core.judging.served.not_possible import NotPossible, not_possible
from dorrik.core.judging.served.putting_back import PutBack, things
from dorrik.core.judging.served.repairs import RepairView, settled
from dorrik.core.judging.served.ring_drawing import ring_drawings
from dorrik.core.judging.served.room_for_more import RoomForMore, room_for_more
from dorrik.core.judging.served.walk import Walk
from dorrik.core.judging.served.zs_scale import ZsScale, scales
from dorrik.core.judging.steps import Recorded
from dorrik.core.judging.topics import breaking_capacity, next_inspection, sample
from dorrik.core.judging.topics.bench import Bench, benches
from dorrik.core.judging.topics.context import Context, Note
from dorrik.core.judging.topics.insulation_of_boards import BoardSum
from dorrik.core.judging.topics.labels_needed import LabelView, labels
from dorrik.core.judging.topics.next_inspection import DutyDue
from dorrik.core.judging.topics.note import Figure
from dorrik.core.judging.topics.set_aside_by_agreement import Aside, set_aside
from dorrik.core.judging.topics.trainees import ToCountersign, to_countersign

__all__ = ["Against", "BoardSum", "Expected", "Judgement", "Note", "Suggestion", "is_open", "judge"]


@record
class Judgement:
    """Everything that can be said of an inspection as it stands.

    coding: what the schools say of each observation recorded; recorded: how each stands; own_entries: of the catalogue
    that the firm made or changed; insulation: how each board's adds up; rings: analysis by circuit id; benches: the
    points of each circuit as they are tested; prospective_fault_ka: the higher of PSCC and PEFC; between_lines_ka: the
    estimate of a three-phase supply; outcome_says: the outcome in words, with what is missing; outcome_because: ids of
    the open observations that make it unsatisfactory; against: everything that stands against a satisfactory result;
    interval: a proposal for the next inspection; duties: those of a landlord; sums: Zdb + (R1+R2) by circuit id (Ω);
    to_countersign: readings of trainees that nobody signed for; not_possible: what choosing a reason for no Zs raises;
    live_checks: what is checked live beside Zs and RCDs; come_back: what is still to do, in walking order;
    set_aside: what is left disconnected or out of scope by agreement; repairs: those of one's own, with their retests;
    room_for_more: the demand against the service fuse; parts: the home's parts with
    their years; labels: each at its place; boards: how each stands isolated; putting_back: what tests took apart;
    intake_drawing, board_tree (None where there are not several boards), ring_drawings (by circuit id): what is drawn
    on screen and in the report; sampling: None while no points are listed; sample_proposal: the share of points to
    open; walk: what is asked room by room; schedule: every line of the inspection schedule; limits: what was limited
    by its own mark; limited_share: how much that is; evidence: of the work.
    """

    notes: tuple[Note, ...]
    expected: tuple[Expected, ...]
    board_sums: tuple[BoardSum, ...]
    insulation: tuple[InsulationBench, ...]
    rings: dict[str, RingAnalysis]
    benches: tuple[Bench, ...]
    suggested: tuple[Suggestion, ...]
    coding: tuple[Coding, ...]
    recorded: tuple[Recorded, ...]
    own_entries: tuple[catalogue.CatalogueEntry, ...]
    prospective_fault_ka: Reading | None
    between_lines_ka: Reading | None
    outcome: Outcome
    outcome_says: str
    outcome_because: tuple[str, ...]
    against: tuple[Against, ...]
    interval: IntervalProposal | None
    duties: tuple[DutyDue, ...]
    sums: dict[str, Reading]
    zs_scales: tuple[ZsScale, ...]
    boards: tuple[BoardState, ...]
    putting_back: tuple[PutBack, ...]
    to_countersign: tuple[ToCountersign, ...]
    not_possible: tuple[NotPossible, ...]
    live_checks: tuple[LiveCheck, ...]
    come_back: tuple[ToComeBack, ...]
    set_aside: tuple[Aside, ...]
    repairs: tuple[RepairView, ...]
    room_for_more: RoomForMore | None
    parts: tuple[Part, ...]
    labels: tuple[LabelView, ...]
    intake_drawing: Drawing
    board_tree: Drawing | None
    ring_drawings: dict[str, Drawing]
    sampling: SampleState | None
    sample_proposal: SampleProposal
    walk: Walk
    schedule: tuple[Filled, ...]
    limits: tuple[Limited, ...]
    limited_share: LimitedShare
    evidence: Evidence
    progress: Progress
    house_rules: HouseRules
    rule_book: RuleBook


def judge(
    inspection: Inspection,
    measured_at: MeasuredAt | None = None,
    by_trainees: Mapping[str, tuple[Figure, ...]] | None = None,
) -> Judgement:
    """Judge an inspection as it stands. Pure; never raises on an inspection that `document.parse` accepts.

    measured_at: when each reading was entered (ISO 8601, UTC), by entity id and field, as far as that is known: what
    was taken while leads were in doubt is not leaned on (rule 1.4). by_trainees: figures that a trainee read and nobody
    countersigned, by the trainee's attendance. Raises ValueError on a time that is none.
    """
    with judged_by(inspection):
        cells = Once()
        try:
            cells.put("measured at", measured_at or {})
            cells.put("by trainees", by_trainees or {})
            house = HouseRules.using(inspection.house_rules)
            context = Context(inspection, read_right(inspection, house), house, cells)
            work = cells.made(steps.repair_views, context)
            after = context
            if work:
                after = Context(settled(inspection, work), settled(context.inspection, work), house, cells)
            return assemble(context, after)
        finally:
            cells.clear()


@contextmanager
def judged_by(inspection: Inspection) -> Iterator[None]:
    """Tables, catalogue and accuracy as an inspection has them, while the block lasts."""
    with (
        reference.corrected(inspection.table_corrections or ()),
        accurate(instruments.accuracy(inspection.instruments_used)),
        catalogue.with_own(inspection.catalogue),
    ):
        yield


def assemble(before: Context, context: Context) -> Judgement:
    """Everything that can be said. before: as it was found; context: with its observations put right, or not, as their
    repairs say. They are one where nothing was repaired."""
    cells, book = context.cells, context.book
    made = cells.made
    notes, work = made(steps.notes, before), made(steps.repair_views, before)
    sums, suggested, standing = (
        made(steps.sums, context),
        made(steps.suggested, context),
        made(steps.objections, context),
    )
    ahead, apart = made(expected, context), made(things, context)
    outcome, says, because = _outcome(context.entered, standing)
    if book.other:
        notes = cells.kept.each("notes", notes, lambda note: _in_rule_book_words(note, book))
        sums = tuple(replace(board_sum, verdict=book.translate_verdict(board_sum.verdict)) for board_sum in sums)
        ahead = tuple(replace(part, says=book.translate(part.says)) for part in ahead)
        suggested = tuple(
            replace(suggestion, because=tuple(map(book.translate, suggestion.because))) for suggestion in suggested
        )
        standing = tuple(replace(observation, says=book.translate(observation.says)) for observation in standing)
        apart = tuple(replace(part, says=book.translate(part.says)) for part in apart)
    own = context.entered.catalogue
    return Judgement(
        notes=notes,
        expected=ahead,
        board_sums=sums,
        insulation=made(steps.insulation, context),
        rings=made(steps.rings, context),
        benches=made(benches, context),
        suggested=suggested,
        coding=made(coding, context),
        recorded=made(steps.recorded, context.entered),
        own_entries=tuple(entry for entry in catalogue.entries().values() if entry.own) if own else (),
        prospective_fault_ka=context.pfc_ka,
        between_lines_ka=breaking_capacity.between_lines_ka(context),
        outcome=outcome,
        outcome_says=says,
        outcome_because=because,
        against=standing,
        interval=made(steps.proposal, context),
        duties=made(next_inspection.duties, context),
        sums=made(steps.loop_sums, context),
        zs_scales=made(scales, context),
        boards=made(steps.boards, context),
        putting_back=apart,
        to_countersign=made(to_countersign, context),
        not_possible=made(not_possible, context),
        live_checks=made(live_checks, context),
        come_back=made(to_come_back, context.inspection),
        set_aside=made(set_aside, context),
        repairs=work,
        room_for_more=made(room_for_more, context),
        parts=made(parts, context.inspection),
        labels=made(labels, context),
        intake_drawing=made(steps.intake, context),
        board_tree=made(steps.board_tree, context),
        ring_drawings=made(ring_drawings, context),
        sampling=sample.state(context),
        sample_proposal=made(sample.proposal, context),
        walk=made(steps.walk_view, context),
        schedule=made(steps.schedule, context),
        limits=made(steps.limits, context),
        limited_share=made(steps.limited_share, context),
        evidence=made(evidence.gathered, context.entered, context.cells),
        progress=made(steps.progress, context),
        house_rules=context.house,
        rule_book=book,
    )


def _in_rule_book_words(note: Note, book: RuleBook) -> Note:
    offers = tuple(replace(action, label=book.translate(action.label)) for action in note.offers)
    return replace(note, title=book.translate(note.title), verdict=book.translate_verdict(note.verdict), offers=offers)


def _outcome(inspection: Inspection, standing: Sequence[Against]) -> tuple[Outcome, str, tuple[str, ...]]:
    """By the codes of observations that are still open, and by what else stands against it (rules 13.1, 13.5)."""
    because = tuple(objection.observation_id for objection in standing if objection.kind == "code")
    codes = [o.code for o in inspection.observations if o.code and is_open(o)]
    outcome = decide(codes, sum(objection.kind != "code" for objection in standing))
    return outcome, in_words(outcome, summary(standing)), because
