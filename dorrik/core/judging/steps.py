"""The steps of a judgement: each is a function of the context, worked out once (`cells`) and read by those after it.

The topics say what they find (`said`). What is set aside or read in part is taken out (`standing`). Notes with one
cause are folded (`folded`). What is served is made of that.
"""

from collections.abc import Iterator, Mapping

from dorrik.core.basics.drawing import Drawing
from dorrik.core.basics.readings import Reading
from dorrik.core.basics.record import record
from dorrik.core.book.codes import UNSATISFACTORY
from dorrik.core.book.intervals import IntervalProposal
from dorrik.core.electrical import loop
from dorrik.core.electrical.ring import RingAnalysis
from dorrik.core.home.buildings import HOME, buildings
from dorrik.core.home.isolation import BoardState, state_of
from dorrik.core.inspection.records import Inspection
from dorrik.core.judging.coverage.limitations import Limited, LimitedShare, gathered, share
from dorrik.core.judging.coverage.progress import measure_progress
from dorrik.core.judging.coverage.schedule import Filled, fill
from dorrik.core.judging.coverage.tally import Progress, Tally
from dorrik.core.judging.result.against import Against, against
from dorrik.core.judging.result.coding import coding
from dorrik.core.judging.result.folding import fold, wrong
from dorrik.core.judging.result.overruling import overruled
from dorrik.core.judging.result.suggested import Suggestion, suggest
from dorrik.core.judging.result.wording import AGE_ALONE, calls_age_unsafe
from dorrik.core.judging.served.board_tree_drawing import board_tree_drawing
from dorrik.core.judging.served.insulation_bench import InsulationBench
from dorrik.core.judging.served.insulation_bench import benches as insulation_benches
from dorrik.core.judging.served.intake_drawing import intake_drawing
from dorrik.core.judging.served.marks import Marks, marks
from dorrik.core.judging.served.repairs import RepairView, repairs
from dorrik.core.judging.served.walk import Walk, walk
from dorrik.core.judging.topics import TOPICS, next_inspection, sample
from dorrik.core.judging.topics.context import Context, Note
from dorrik.core.judging.topics.insulation_of_boards import BoardSum, board_sums
from dorrik.core.judging.topics.loops import r1_r2_so_far
from dorrik.core.judging.topics.part_read import held
from dorrik.core.judging.topics.set_aside_by_agreement import asks_nothing


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


def said(context: Context) -> tuple[Note, ...]:
    """What every topic says."""
    by_topic: list[Note] = []
    for topic in TOPICS:
        by_topic += context.cells.made(topic, context)
    return tuple(by_topic)


def standing(context: Context) -> tuple[Note, ...]:
    """What is left of it where things are set aside, read in part or seen otherwise."""
    left: tuple[Note, ...] = context.cells.made(said, context)
    if context.aside:
        left = tuple(asks_nothing(context, left))
    if context.open_parts:
        left = tuple(held(context, left))
    return overruled(context.entered, left)


def wrong_notes(context: Context) -> tuple[tuple[int, Note], ...]:
    """What is wrong, each with its place among all notes: nothing else is a cause or a consequence."""
    return tuple(wrong(context.cells.made(standing, context)))


def folded(context: Context) -> tuple[Note, ...]:
    """The notes of `wrong_notes`, those with one cause folded into one."""
    return fold(context, [note for _, note in context.cells.made(wrong_notes, context)])


def notes(context: Context) -> tuple[Note, ...]:
    """Every note, folded where it is wrong."""
    made = context.cells.made
    every = list(made(standing, context))
    for (place, _), note in zip(made(wrong_notes, context), made(folded, context), strict=True):
        every[place] = note
    return tuple(every)


def asking(context: Context) -> tuple[Note, ...]:
    """What asks, wrong or not."""
    return tuple(note for note in context.cells.made(notes, context) if note.verdict.asks)


def repair_views(context: Context) -> tuple[RepairView, ...]:
    """The inspector's own repairs, with their retests."""
    return repairs(context, context.cells.made(notes, context))


def sums(context: Context) -> tuple[BoardSum, ...]:
    """What is wanted of the insulation of each board as a sum of its circuits."""
    return tuple(one for one in context.cells.made(board_sums, context) if one.wanted)


def suggested(context: Context) -> tuple[Suggestion, ...]:
    """The observations that the notes lead to."""
    made = context.cells.made
    return suggest(context, made(folded, context), made(sums, context))


def counted(context: Context) -> tuple[Progress, Mapping[str, Tally]]:
    """How much of the work is done, whole and thing by thing."""
    return measure_progress(context.entered, context.house, context.cells)


def progress(context: Context) -> Progress:
    """How much of the work is done."""
    both: tuple[Progress, Mapping[str, Tally]] = context.cells.made(counted, context)
    return both[0]


def tallies(context: Context) -> Mapping[str, Tally]:
    """The same of each thing, by its id."""
    both: tuple[Progress, Mapping[str, Tally]] = context.cells.made(counted, context)
    return both[1]


def schedule(context: Context) -> tuple[Filled, ...]:
    """Every line of the inspection schedule."""
    made = context.cells.made
    open_keys = (one.key for one in made(suggested, context) if not one.settled)
    return fill(context.inspection, open_keys, made(tallies, context))


def objections(context: Context) -> tuple[Against, ...]:
    """Everything that stands against a satisfactory result."""
    made = context.cells.made
    return against(
        context, made(folded, context), made(asking, context), made(sums, context), made(suggested, context),
        made(coding, context), made(schedule, context), made(progress, context),
    )  # fmt: skip


def proposal(context: Context) -> IntervalProposal | None:
    """When the home should be inspected next; None where nothing can be proposed."""
    open_codes = (one.code for one in context.cells.made(suggested, context) if one.recorded is None)
    return next_inspection.proposal(context, open_codes)


def insulation(context: Context) -> tuple[InsulationBench, ...]:
    """How the insulation of each board adds up."""
    return tuple(insulation_benches(context, context.cells.made(board_sums, context)))


def boards(context: Context) -> tuple[BoardState, ...]:
    """How each board stands isolated."""
    return tuple(state_of(board, context.entered) for board in context.entered.boards)


def limits(context: Context) -> tuple[Limited, ...]:
    """What was limited by its own mark."""
    return gathered(context.inspection, context.entered, context.cells)


def limited_share(context: Context) -> LimitedShare:
    """How much of the work is limited."""
    made = context.cells.made
    done: Progress = made(progress, context)
    without_rcd = frozenset(c.id for _, c in context.circuits if context.rated_ma(c) is None)
    return share(
        context.inspection, made(limits, context), done.tests, done.limited, without_rcd,
        context.house.limited_share,
    )  # fmt: skip


def walk_view(context: Context) -> Walk:
    """What is asked room by room."""
    return walk(context, sample.state(context))


def drawing_marks(context: Context) -> Marks:
    """The marks on drawn parts."""
    return marks(context.cells.made(notes, context))


def intake(context: Context) -> Drawing:
    """The drawing of the supply and the boards."""
    return intake_drawing(context, context.cells.made(drawing_marks, context))


def board_tree(context: Context) -> Drawing | None:
    """The drawing of boards that feed boards; None where there are not several."""
    return board_tree_drawing(context, context.cells.made(drawing_marks, context))


def rings(context: Context) -> dict[str, RingAnalysis]:
    """The analysis of each ring, by circuit id."""
    analyses = ((circuit.id, context.ring(circuit)) for _, circuit in context.circuits)
    return {circuit_id: analysis for circuit_id, analysis in analyses if analysis is not None}


def recorded(inspection: Inspection) -> Iterator[Recorded]:
    """How each observation stands."""
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


def loop_sums(context: Context) -> dict[str, Reading]:
    """Zdb + (R1+R2) by circuit id (Ω)."""
    loop_readings = ((c.id, loop.calculated(board.zdb_ohm, r1_r2_so_far(c))) for board, c in context.circuits)
    return {circuit_id: total for circuit_id, total in loop_readings if total is not None}
