"""Judging a whole inspection: every verdict, the rings, the board sums, the outcome and what is left.

The topics are in `topics`; here they are put together.
"""

from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import replace
from typing import Any

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
from dorrik.core.inspection.records import Inspection, Overruling
from dorrik.core.judging.coverage import evidence
from dorrik.core.judging.coverage.evidence import Evidence
from dorrik.core.judging.coverage.limitations import Limited, LimitedShare, gathered, share
from dorrik.core.judging.coverage.progress import Progress, measure_progress
from dorrik.core.judging.coverage.sampling import SampleProposal, SampleState
from dorrik.core.judging.coverage.schedule import Filled, fill
from dorrik.core.judging.result.against import Against, against, is_open, summary
from dorrik.core.judging.result.coding import Coding, coding
from dorrik.core.judging.result.come_back import ToComeBack, to_come_back
from dorrik.core.judging.result.folding import fold
from dorrik.core.judging.result.outcome import Outcome, decide, in_words
from dorrik.core.judging.result.suggested import Suggestion, suggest
from dorrik.core.judging.result.wording import AGE_ALONE, calls_age_unsafe
from dorrik.core.judging.served.expected import Expected, expected
from dorrik.core.judging.served.insulation_bench import InsulationBench
from dorrik.core.judging.served.insulation_bench import benches as insulation_benches
from dorrik.core.judging.served.live_checks import LiveCheck, live_checks
from dorrik.core.judging.served.not_possible import NotPossible, not_possible
from dorrik.core.judging.served.putting_back import PutBack, things
from dorrik.core.judging.served.repairs import RepairView, repairs, settled
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
    their years; labels: each at its place; boards: how each stands isolated; putting_back: what tests took
    apart; sampling: None while no points are listed; sample_proposal: the share of points to open; walk: what is asked
    room by room; schedule: every line of the inspection schedule; limits: what was limited by its own mark;
    limited_share: how much that is; evidence: of the work.
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
    accuracy = instruments.accuracy(inspection.instruments_used)
    with (
        reference.corrected(inspection.table_corrections or ()),
        accurate(accuracy),
        catalogue.with_own(inspection.catalogue),
    ):
        return _judge(inspection, Context(inspection, measured_at, by_trainees))


def _judge(inspection: Inspection, context: Context) -> Judgement:
    said = held(context, asks_nothing(context, (note for topic in TOPICS for note in topic(context))))
    notes = fold(context, _overruled(inspection, said))
    work = repairs(context, notes)
    inspection, context.inspection = settled(inspection, work), settled(context.inspection, work)
    every_sum = tuple(board_sums(context))
    sums = tuple(one for one in every_sum if one.wanted)
    suggested = suggest(context, notes, sums)
    progress = measure_progress(inspection, context.house)
    coded = tuple(coding(context))
    schedule = fill(context.inspection, (one.key for one in suggested if not one.settled), progress.asked)
    standing = against(context, notes, sums, suggested, coded, schedule, progress)
    outcome, says, because = _outcome(inspection, standing)
    ahead = tuple(expected(context))
    apart = tuple(things(context))
    proposal = next_inspection.proposal(context, (one.code for one in suggested if one.recorded is None))
    book = context.book
    if book.other:
        notes = tuple(_spoken(note, book) for note in notes)
        sums = tuple(replace(one, verdict=book.translate_verdict(one.verdict)) for one in sums)
        ahead = tuple(replace(one, says=book.translate(one.says)) for one in ahead)
        suggested = tuple(replace(one, because=tuple(map(book.translate, one.because))) for one in suggested)
        standing = tuple(replace(one, says=book.translate(one.says)) for one in standing)
        apart = tuple(replace(one, says=book.translate(one.says)) for one in apart)
    sampling = sample.state(context)
    limited = gathered(context.inspection, context.open_parts)
    return Judgement(
        notes=notes,
        expected=ahead,
        board_sums=sums,
        insulation=tuple(insulation_benches(context, every_sum)),
        rings=context.rings,
        benches=tuple(benches(context)),
        suggested=suggested,
        coding=coded,
        recorded=tuple(_recorded(inspection)),
        own_entries=tuple(entry for entry in catalogue.entries().values() if entry.own) if inspection.catalogue else (),
        prospective_fault_ka=context.pfc_ka,
        between_lines_ka=breaking_capacity.between_lines_ka(context),
        outcome=outcome,
        outcome_says=says,
        outcome_because=because,
        against=standing,
        interval=proposal,
        duties=next_inspection.duties(context),
        sums=_loop_sums(context),
        zs_scales=tuple(scales(context)),
        boards=tuple(state_of(board, inspection) for board in inspection.boards),
        putting_back=apart,
        to_countersign=tuple(to_countersign(context)),
        not_possible=tuple(not_possible(context)),
        live_checks=tuple(live_checks(context)),
        come_back=to_come_back(context.inspection),
        set_aside=set_aside(context),
        repairs=work,
        room_for_more=room_for_more(context),
        parts=tuple(parts(context.inspection)),
        labels=tuple(labels(context)),
        sampling=sampling,
        sample_proposal=sample.proposal(context),
        walk=walk(context, sampling),
        schedule=schedule,
        limits=limited,
        limited_share=share(
            context.inspection,
            limited,
            progress.tests,
            progress.limited,
            frozenset(c.id for _, c in context.circuits if context.rated_ma(c) is None),
            context.house.limited_share,
        ),
        evidence=evidence.gathered(inspection),
        progress=progress,
        house_rules=context.house,
        rule_book=book,
    )


def _recorded(inspection: Inspection) -> Iterator[Recorded]:
    where = buildings(inspection)
    for one in inspection.observations:
        # The catalogue's words are ours; only what somebody wrote is looked at.
        coded = one.code in UNSATISFACTORY
        hint = AGE_ALONE if coded and calls_age_unsafe(f"{one.text or ''} {one.code_reason or ''}") else ""
        yield Recorded(one.id, one.made_good, one.lacking, where.get(one.about_id or "", HOME), hint)


def _spoken(note: Note, book: RuleBook) -> Note:
    offers = tuple(replace(one, label=book.translate(one.label)) for one in note.offers)
    return replace(note, title=book.translate(note.title), verdict=book.translate_verdict(note.verdict), offers=offers)


def _loop_sums(context: Context) -> dict[str, Reading]:
    found = ((c.id, loop.calculated(board.zdb_ohm, r1_r2_so_far(c))) for board, c in context.circuits)
    return {circuit_id: total for circuit_id, total in found if total is not None}


def _overruled(inspection: Inspection, notes: Iterable[Note]) -> tuple[Note, ...]:
    """Notes with the inspector's own view beside the verdict, where there is one. The verdict itself stays as it is."""
    if not inspection.overrulings:
        return tuple(notes)
    by_figure = {(one.about_id, one.field): one for one in inspection.overrulings if one.status and one.reason}
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
    because = tuple(one.observation_id for one in standing if one.kind == "code")
    codes = [o.code for o in inspection.observations if o.code and is_open(o)]
    outcome = decide(codes, sum(one.kind != "code" for one in standing))
    return outcome, in_words(outcome, summary(standing)), because
