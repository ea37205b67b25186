"""Judging a whole inspection: every verdict, the rings, the board sums, the outcome and what is left.

The topics are in `topics`; here they are put together.
"""

from collections.abc import Iterator, Mapping, Sequence
from contextlib import contextmanager
from dataclasses import replace
from typing import Any

from dorrik.core.basics.cells import Cells, Once
from dorrik.core.basics.drawing import Drawing
from dorrik.core.basics.identity_cache import IdentityCache
from dorrik.core.basics.readings import Reading, accurate
from dorrik.core.basics.record import record
from dorrik.core.book import catalogue, reference
from dorrik.core.book.codes import UNSATISFACTORY
from dorrik.core.book.house_rules import HouseRules
from dorrik.core.book.intervals import IntervalProposal
from dorrik.core.book.rule_book import RuleBook
from dorrik.core.electrical import loop
from dorrik.core.electrical.ring import RingAnalysis
from dorrik.core.home import instruments
from dorrik.core.home.ages import Part, parts
from dorrik.core.home.buildings import HOME, buildings
from dorrik.core.home.instruments import MeasuredAt
from dorrik.core.home.isolation import BoardState, state_of
from dorrik.core.home.read_right import read_right
from dorrik.core.inspection.incremental_rewrite import Rewritten
from dorrik.core.inspection.records import Inspection, Overruling
from dorrik.core.inspection.tracked_inspection import TrackedInspection
from dorrik.core.judging.coverage import evidence
from dorrik.core.judging.coverage.evidence import Evidence
from dorrik.core.judging.coverage.limitations import Limited, LimitedShare, gathered, share
from dorrik.core.judging.coverage.progress import measure_progress
from dorrik.core.judging.coverage.sampling import SampleProposal, SampleState
from dorrik.core.judging.coverage.schedule import Filled, fill
from dorrik.core.judging.coverage.tally import Progress, Tally
from dorrik.core.judging.result.against import Against, against, is_open, summary
from dorrik.core.judging.result.coding import Coding, coding
from dorrik.core.judging.result.come_back import ToComeBack, to_come_back
from dorrik.core.judging.result.folding import fold, wrong
from dorrik.core.judging.result.outcome import Outcome, decide, in_words
from dorrik.core.judging.result.suggested import Suggestion, suggest
from dorrik.core.judging.result.wording import AGE_ALONE, calls_age_unsafe
from dorrik.core.judging.served.board_tree_drawing import board_tree_drawing
from dorrik.core.judging.served.expected import Expected, expected
from dorrik.core.judging.served.insulation_bench import InsulationBench
from dorrik.core.judging.served.insulation_bench import benches as insulation_benches
from dorrik.core.judging.served.intake_drawing import intake_drawing
from dorrik.core.judging.served.live_checks import LiveCheck, live_checks
from dorrik.core.judging.served.marks import Marks, marks
from dorrik.core.judging.served.not_possible import NotPossible, not_possible
from dorrik.core.judging.served.putting_back import PutBack, things
from dorrik.core.judging.served.repairs import RepairView, repairs, settled
from dorrik.core.judging.served.ring_drawing import ring_drawings
from dorrik.core.judging.served.room_for_more import RoomForMore, room_for_more
from dorrik.core.judging.served.walk import Walk, walk
from dorrik.core.judging.served.zs_scale import ZsScale, scales
from dorrik.core.judging.topics import TOPICS, breaking_capacity, next_inspection, sample
from dorrik.core.judging.topics.bench import Bench, benches
from dorrik.core.judging.topics.context import Context, Note
from dorrik.core.judging.topics.insulation_of_boards import BoardSum, board_sums
from dorrik.core.judging.topics.labels_needed import LabelView, labels
from dorrik.core.judging.topics.loops import r1_r2_so_far
from dorrik.core.judging.topics.next_inspection import DutyDue
from dorrik.core.judging.topics.note import Figure
from dorrik.core.judging.topics.part_read import held
from dorrik.core.judging.topics.set_aside_by_agreement import Aside, asks_nothing, set_aside
from dorrik.core.judging.topics.trainees import ToCountersign, to_countersign

__all__ = ["Against", "BoardSum", "Expected", "Judgement", "Note", "Suggestion", "is_open", "judge"]


@record
class Recorded:
    """An observation as it stands: does it count as made good, and what does its record lack, in words? (rule 13.5)

    building: the outbuilding that it is in, '' for the home; hint: on its words, '' for none.
    """

    id: str
    made_good: bool
    lacking: tuple[str, ...]
    building: str = ""
    hint: str = ""


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
    with _by(inspection):
        cells = Once()
        try:
            cells.put("measured at", measured_at or {})
            cells.put("by trainees", by_trainees or {})
            house = HouseRules.using(inspection.house_rules)
            context = Context(inspection, read_right(inspection, house), house, cells)
            work = cells.made(_repairs, context)
            after = context
            if work:
                after = Context(settled(inspection, work), settled(context.inspection, work), house, cells)
            return _judgement(context, after)
        finally:
            cells.clear()


@contextmanager
def _by(inspection: Inspection) -> Iterator[None]:
    """Tables, catalogue and accuracy as an inspection has them, while the block lasts."""
    with (
        reference.corrected(inspection.table_corrections or ()),
        accurate(instruments.accuracy(inspection.instruments_used)),
        catalogue.with_own(inspection.catalogue),
    ):
        yield


class LastingJudge:
    """Judges one inspection again and again while it changes, and works out only what a change touches.

    What it says is what `judge` says of the same inspection. Of one thread at a time; after anything raised it begins
    anew. written: what was written of its judgements, for `as_json`.
    """

    def __init__(self) -> None:
        self._by: object = None
        self._most = 0
        self._cells = Cells()
        self._contexts: dict[bool, tuple[TrackedInspection, TrackedInspection, Context]] = {}
        self.written = IdentityCache()

    def judge(
        self,
        inspection: Inspection,
        measured_at: MeasuredAt | None = None,
        by_trainees: Mapping[str, tuple[Figure, ...]] | None = None,
    ) -> Judgement:
        """As `judge`. Entities that are the same objects as the time before are not looked at."""
        by = _rules_of(inspection)
        # Cells of what was taken out or said otherwise stay: with too many of them everything is thrown away.
        if by != self._by or len(self._cells) > self._most > 0:
            self._begin(inspection, by)
        try:
            with _by(inspection):
                judgement = self._judge(inspection, measured_at or {}, by_trainees or {})
            self._most = self._most or _TIMES * len(self._cells) + _AT_LEAST
            return judgement
        except BaseException:
            self._by = None
            raise

    def forget(self) -> None:
        """Let go of everything that is kept; the next judgement begins anew."""
        self._by = None
        self._cells.clear()
        self._contexts = {}
        self.written = IdentityCache()

    def _begin(self, inspection: Inspection, by: object) -> None:
        self.forget()
        self._by = by
        self._most = 0
        self._house = HouseRules.using(inspection.house_rules)
        self._cells = Cells()
        self._rewritten = Rewritten()
        self.written = IdentityCache()

    def _judge(
        self, inspection: Inspection, measured_at: MeasuredAt, by_trainees: Mapping[str, tuple[Figure, ...]]
    ) -> Judgement:
        self._cells.put("measured at", measured_at)
        self._cells.put("by trainees", by_trainees)
        right = read_right(inspection, self._house, self._rewritten)
        context = after = self._context(inspection, right, settled=False)
        work = self._cells.made(_repairs, context)
        if work:
            after = self._context(settled(inspection, work), settled(right, work), settled=True)
        return _judgement(context, after)

    def _context(self, entered: Inspection, right: Inspection, *, settled: bool) -> Context:
        known = self._contexts.get(settled)
        if known is None:
            watched = TrackedInspection(self._cells), TrackedInspection(self._cells)
            watched[0].becomes(entered)
            watched[1].becomes(right)
            context = Context(watched[0].top, watched[1].top, self._house, self._cells)
            self._contexts[settled] = (*watched, context)
            return context
        known[0].becomes(entered)
        known[1].becomes(right)
        return known[2]


#: How many cells there may be, as a multiple of those of the first judgement, and beyond that.
_TIMES, _AT_LEAST = 2, 500


def _rules_of(inspection: Inspection) -> tuple[Any, ...]:
    """What an inspection is judged by. Where that becomes another, everything is worked out anew."""
    i = inspection
    return (
        i.rule_book, i.house_rules, i.table_corrections, i.catalogue, instruments.accuracy(i.instruments_used),
    )  # fmt: skip


def _said(context: Context) -> tuple[Note, ...]:
    """What every topic says."""
    notes: list[Note] = []
    for topic in TOPICS:
        notes += context.cells.made(topic, context)
    return tuple(notes)


def _standing(context: Context) -> tuple[Note, ...]:
    """What is left of it where things are set aside, read in part or seen otherwise."""
    said: tuple[Note, ...] = context.cells.made(_said, context)
    if context.aside:
        said = tuple(asks_nothing(context, said))
    if context.open_parts:
        said = tuple(held(context, said))
    return _overruled(context.entered, said)


def _wrong(context: Context) -> tuple[tuple[int, Note], ...]:
    """What is wrong, each with its place among all notes: nothing else is a cause or a consequence."""
    return tuple(wrong(context.cells.made(_standing, context)))


def _folded(context: Context) -> tuple[Note, ...]:
    return fold(context, [note for _, note in context.cells.made(_wrong, context)])


def _notes(context: Context) -> tuple[Note, ...]:
    made = context.cells.made
    every = list(made(_standing, context))
    for (place, _), note in zip(made(_wrong, context), made(_folded, context), strict=True):
        every[place] = note
    return tuple(every)


def _asking(context: Context) -> tuple[Note, ...]:
    """What asks, wrong or not."""
    return tuple(note for note in context.cells.made(_notes, context) if note.verdict.asks)


def _repairs(context: Context) -> tuple[RepairView, ...]:
    return repairs(context, context.cells.made(_notes, context))


def _sums(context: Context) -> tuple[BoardSum, ...]:
    return tuple(one for one in context.cells.made(board_sums, context) if one.wanted)


def _suggested(context: Context) -> tuple[Suggestion, ...]:
    made = context.cells.made
    return suggest(context, made(_folded, context), made(_sums, context))


def _counted(context: Context) -> tuple[Progress, Mapping[str, Tally]]:
    return measure_progress(context.entered, context.house, context.cells)


def _progress(context: Context) -> Progress:
    counted: tuple[Progress, Mapping[str, Tally]] = context.cells.made(_counted, context)
    return counted[0]


def _tallies(context: Context) -> Mapping[str, Tally]:
    counted: tuple[Progress, Mapping[str, Tally]] = context.cells.made(_counted, context)
    return counted[1]


def _schedule(context: Context) -> tuple[Filled, ...]:
    made = context.cells.made
    open_keys = (one.key for one in made(_suggested, context) if not one.settled)
    return fill(context.inspection, open_keys, made(_tallies, context))


def _against(context: Context) -> tuple[Against, ...]:
    made = context.cells.made
    return against(
        context, made(_folded, context), made(_asking, context), made(_sums, context), made(_suggested, context),
        made(coding, context), made(_schedule, context), made(_progress, context),
    )  # fmt: skip


def _proposal(context: Context) -> IntervalProposal | None:
    open_codes = (one.code for one in context.cells.made(_suggested, context) if one.recorded is None)
    return next_inspection.proposal(context, open_codes)


def _insulation(context: Context) -> tuple[InsulationBench, ...]:
    return tuple(insulation_benches(context, context.cells.made(board_sums, context)))


def _boards(context: Context) -> tuple[BoardState, ...]:
    return tuple(state_of(board, context.entered) for board in context.entered.boards)


def _limits(context: Context) -> tuple[Limited, ...]:
    return gathered(context.inspection, context.entered, context.cells)


def _limited_share(context: Context) -> LimitedShare:
    made = context.cells.made
    progress: Progress = made(_progress, context)
    without_rcd = frozenset(c.id for _, c in context.circuits if context.rated_ma(c) is None)
    return share(
        context.inspection, made(_limits, context), progress.tests, progress.limited, without_rcd,
        context.house.limited_share,
    )  # fmt: skip


def _walk(context: Context) -> Walk:
    return walk(context, sample.state(context))


def _marks(context: Context) -> Marks:
    return marks(context.cells.made(_notes, context))


def _intake_drawing(context: Context) -> Drawing:
    return intake_drawing(context, context.cells.made(_marks, context))


def _board_tree(context: Context) -> Drawing | None:
    return board_tree_drawing(context, context.cells.made(_marks, context))


def _rings(context: Context) -> dict[str, RingAnalysis]:
    found = ((circuit.id, context.ring(circuit)) for _, circuit in context.circuits)
    return {circuit_id: analysis for circuit_id, analysis in found if analysis is not None}


def _judgement(before: Context, context: Context) -> Judgement:
    """Everything that can be said. before: as it was found; context: with its observations put right, or not, as their
    repairs say. They are one where nothing was repaired."""
    cells, book = context.cells, context.book
    made = cells.made
    notes, work = made(_notes, before), made(_repairs, before)
    sums, suggested, standing = made(_sums, context), made(_suggested, context), made(_against, context)
    ahead, apart = made(expected, context), made(things, context)
    outcome, says, because = _outcome(context.entered, standing)
    if book.other:
        notes = cells.kept.each("notes", notes, lambda note: _in_rule_book_words(note, book))
        sums = tuple(replace(one, verdict=book.translate_verdict(one.verdict)) for one in sums)
        ahead = tuple(replace(one, says=book.translate(one.says)) for one in ahead)
        suggested = tuple(replace(one, because=tuple(map(book.translate, one.because))) for one in suggested)
        standing = tuple(replace(one, says=book.translate(one.says)) for one in standing)
        apart = tuple(replace(one, says=book.translate(one.says)) for one in apart)
    own = context.entered.catalogue
    return Judgement(
        notes=notes,
        expected=ahead,
        board_sums=sums,
        insulation=made(_insulation, context),
        rings=made(_rings, context),
        benches=made(benches, context),
        suggested=suggested,
        coding=made(coding, context),
        recorded=made(_recorded, context.entered),
        own_entries=tuple(entry for entry in catalogue.entries().values() if entry.own) if own else (),
        prospective_fault_ka=context.pfc_ka,
        between_lines_ka=breaking_capacity.between_lines_ka(context),
        outcome=outcome,
        outcome_says=says,
        outcome_because=because,
        against=standing,
        interval=made(_proposal, context),
        duties=made(next_inspection.duties, context),
        sums=made(_loop_sums, context),
        zs_scales=made(scales, context),
        boards=made(_boards, context),
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
        intake_drawing=made(_intake_drawing, context),
        board_tree=made(_board_tree, context),
        ring_drawings=made(ring_drawings, context),
        sampling=sample.state(context),
        sample_proposal=made(sample.proposal, context),
        walk=made(_walk, context),
        schedule=made(_schedule, context),
        limits=made(_limits, context),
        limited_share=made(_limited_share, context),
        evidence=made(evidence.gathered, context.entered, context.cells),
        progress=made(_progress, context),
        house_rules=context.house,
        rule_book=book,
    )


def _recorded(inspection: Inspection) -> Iterator[Recorded]:
    where = buildings(inspection)
    for observation in inspection.observations:
        # The catalogue's words are ours; only what somebody wrote is looked at.
        coded = observation.code in UNSATISFACTORY
        hint = (
            AGE_ALONE if coded and calls_age_unsafe(f"{observation.text or ''} {observation.code_reason or ''}") else ""
        )
        yield Recorded(
            observation.id,
            observation.made_good,
            observation.lacking,
            where.get(observation.about_id or "", HOME),
            hint,
        )


def _in_rule_book_words(note: Note, book: RuleBook) -> Note:
    offers = tuple(replace(action, label=book.translate(action.label)) for action in note.offers)
    return replace(note, title=book.translate(note.title), verdict=book.translate_verdict(note.verdict), offers=offers)


def _loop_sums(context: Context) -> dict[str, Reading]:
    found = ((c.id, loop.calculated(board.zdb_ohm, r1_r2_so_far(c))) for board, c in context.circuits)
    return {circuit_id: total for circuit_id, total in found if total is not None}


def _overruled(inspection: Inspection, notes: tuple[Note, ...]) -> tuple[Note, ...]:
    """Notes with the inspector's own view beside the verdict, where there is one. The verdict itself stays as it is."""
    if not inspection.overrulings:
        return notes
    by_figure = {
        (overruling.about_id, overruling.field): overruling
        for overruling in inspection.overrulings
        if overruling.status and overruling.reason
    }
    found = []
    for note in notes:
        view = by_figure.get(note.figure)
        found.append(replace(note, overruled=view) if view is not None and _still(inspection, note, view) else note)
    return tuple(found)


def _still(inspection: Inspection, note: Note, view: Overruling) -> bool:
    """Is a figure still what it read when the inspector saw it otherwise? A new reading is judged anew."""
    if view.of_reading is None:
        return True
    thing = _thing(inspection, note.entity_id)
    now = getattr(thing, note.field, None) if thing is not None else None
    if isinstance(now, Reading):
        return view.of_reading == now.text
    return view.of_reading == now if isinstance(now, str) else True


def _thing(inspection: Inspection, entity_id: str) -> object | None:
    boards = inspection.boards
    circuits = [c for board in boards for c in board.circuits]
    every: list[Any] = [inspection, *inspection.bonds, *boards, *circuits, *inspection.points]
    every += [rcd for board in boards for rcd in board.rcds] + [point for c in circuits for point in c.points]
    return next((thing for thing in every if thing.id == entity_id), None)


def _outcome(inspection: Inspection, standing: Sequence[Against]) -> tuple[Outcome, str, tuple[str, ...]]:
    """By the codes of observations that are still open, and by what else stands against it (rules 13.1, 13.5)."""
    because = tuple(objection.observation_id for objection in standing if objection.kind == "code")
    codes = [o.code for o in inspection.observations if o.code and is_open(o)]
    outcome = decide(codes, sum(objection.kind != "code" for objection in standing))
    return outcome, in_words(outcome, summary(standing)), because
