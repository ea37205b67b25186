"""What stands against “satisfactory”: one list for outcome, readiness and report (the fifth principle, rules 13.1,
13.5).

Satisfactory speaks of everything. While anything is on this list the outcome says what is missing.
"""

from collections.abc import Iterable, Iterator, Sequence
from typing import Literal

from dorrik.core.basics.record import record
from dorrik.core.basics.text import shortened
from dorrik.core.book import board_checks
from dorrik.core.book.codes import UNSATISFACTORY, WEIGHT
from dorrik.core.home.place_checks import room_checks
from dorrik.core.home.placing import room_name
from dorrik.core.inspection.check import NOT_GOOD
from dorrik.core.inspection.kinds import stage_of
from dorrik.core.inspection.point import DEFECT
from dorrik.core.inspection.records import Check, Observation
from dorrik.core.inspection.stages import Stage
from dorrik.core.judging.coverage.schedule import Filled, lines
from dorrik.core.judging.coverage.tally import Progress
from dorrik.core.judging.result.coding import Coding
from dorrik.core.judging.result.come_back import to_come_back
from dorrik.core.judging.result.suggested import Suggestion
from dorrik.core.judging.topics.context import Context, Note
from dorrik.core.judging.topics.insulation_of_boards import BoardSum
from dorrik.core.judging.topics.set_aside_by_agreement import nothing_in_scope

Kind = Literal["code", "suggested", "marked", "uncoded", "test", "failing", "question"]
#: In the order in which they are told, and the words for one and for several.
KINDS: dict[Kind, tuple[str, str]] = {
    "code": ("observation C1, C2 or FI", "observations C1, C2 or FI"),
    "suggested": ("suggestion not answered", "suggestions not answered"),
    "failing": ("failure without a code", "failures without a code"),
    "uncoded": ("observation without a code", "observations without a code"),
    "marked": ("defect without an observation", "defects without an observation"),
    "question": ("open question", "open questions"),
    "test": ("set of tests missing", "sets of tests missing"),
}


@record(kw_only=True)
class Against:
    """One thing that stands against a satisfactory result.

    kind: what it is; says: in words; stage: where it is answered; entity, entity_id, field: what it speaks of;
    observation_id: the observation that it is about, '' for none.
    """

    kind: Kind
    says: str
    stage: Stage
    entity: str
    entity_id: str
    field: str = ""
    observation_id: str = ""


def is_open(observation: Observation) -> bool:
    """Does an observation count to the outcome? Put right, with as left and retest, it does no more (13.5)."""
    return bool(observation.code and observation.code != "note" and not observation.made_good)


def against(
    context: Context,
    wrong: Sequence[Note],
    asking: Sequence[Note],
    sums: Sequence[BoardSum],
    suggested: Sequence[Suggestion],
    coding: Sequence[Coding],
    schedule: Sequence[Filled],
    progress: Progress,
) -> tuple[Against, ...]:
    """Everything that stands against it, in the order of KINDS. wrong: notes that fail, or are worth a look; asking:
    notes that ask, those among them that do."""
    objections = [
        *_recorded(context),
        *_suggested(suggested),
        *_failing(context, wrong, sums, suggested),
        *_marked(context, suggested, schedule),
        *_questions(context, asking, suggested, coding),
        *_left_for_later(context),
        *_tests(context, progress),
    ]
    order = list(KINDS)
    return tuple(sorted(objections, key=lambda objection: order.index(objection.kind)))


def _recorded(context: Context) -> Iterator[Against]:
    # The most serious first, as everywhere; those of one code as they were recorded.
    for observation in sorted(context.inspection.observations, key=lambda o: -WEIGHT.get(o.code or "", 0)):
        words = f"“{shortened(observation.text or 'An observation')}”"
        if is_open(observation) and observation.code in UNSATISFACTORY:
            yield _of_observation("code", f"{observation.code}: {words}", observation)
        elif not observation.code:
            yield _of_observation("uncoded", f"{words} has no code.", observation)


def _of_observation(kind: Kind, says: str, observation: Observation) -> Against:
    return Against(
        kind=kind, says=says, stage="observations", entity="observation", entity_id=observation.id, field="code",
        observation_id=observation.id,
    )  # fmt: skip


def _suggested(suggested: Iterable[Suggestion]) -> Iterator[Against]:
    for suggestion in suggested:
        if suggestion.code in UNSATISFACTORY and not suggestion.settled:
            yield Against(
                kind="suggested",
                says=f"{suggestion.code} suggested: {suggestion.because[0]}",
                stage="observations",
                entity=suggestion.entity,
                entity_id=suggestion.entity_id,
            )


def _failing(
    context: Context, notes: Iterable[Note], sums: Iterable[BoardSum], suggested: Sequence[Suggestion]
) -> Iterator[Against]:
    """Verdicts that fail, are no consequence of another and that nobody has answered."""
    about = {o.about_id for o in context.inspection.observations if o.code}
    settled = {
        (suggestion.key, place)
        for suggestion in suggested
        if suggestion.settled
        for place in (suggestion.entity_id, *suggestion.touches)
    }
    listed = {
        (suggestion.key, place)
        for suggestion in suggested
        if not suggestion.settled and suggestion.code in UNSATISFACTORY
        for place in (suggestion.entity_id, *suggestion.touches)
    }
    answered = settled | listed
    for note in notes:
        key = (note.verdict.observation or "", note.entity_id)
        if note.status != "fail" or note.because_of is not None or note.entity == "check" or key in answered:
            continue
        if not note.verdict.observation and note.entity_id in about:
            continue
        yield Against(
            kind="failing",
            says=f"{note.title} fails and has no observation.",
            stage=note.stage or stage_of(note.entity, note.field),
            entity=note.entity,
            entity_id=note.entity_id,
            field=note.field,
        )
    for board_sum in sums:
        if board_sum.verdict.status != "fail" or board_sum.because_of is not None:
            continue
        places = {(board_sum.verdict.observation or "", place) for place in (board_sum.board_id, *board_sum.touches)}
        if not places & answered:
            yield Against(
                kind="failing", says=f"{board_sum.title} fails and has no observation.", stage="dead", entity="board",
                entity_id=board_sum.board_id, field=board_sum.field,
            )  # fmt: skip


def _marked(context: Context, suggested: Sequence[Suggestion], schedule: Sequence[Filled]) -> Iterator[Against]:
    """Checks, lines of the schedule and points marked as defects, without an observation and without a word why."""
    i = context.inspection
    about = {o.about_id for o in i.observations}
    answered = {suggestion.entity_id for suggestion in suggested if suggestion.settled}
    # What is suggested there with a code that counts is on the list already.
    listed = {
        suggestion.entity_id for suggestion in suggested if not suggestion.settled and suggestion.code in UNSATISFACTORY
    }
    done = about | answered | listed

    def unanswered(check: Check) -> bool:
        return check.state == NOT_GOOD and not check.note and check.id not in done

    for board in i.boards:
        for check in filter(unanswered, board.checks):
            item = board_checks.items().get(check.item or "")
            label = item.label if item is not None else "A check"
            yield _mark(f"{board.name or 'Board'}: {label}", "boards", check)
    for number, room in enumerate(i.rooms, 1):
        for check in filter(unanswered, room.checks):
            wanted = room_checks().get(check.item or "")
            yield _mark(
                f"{room_name(room, number)}: {wanted.label if wanted is not None else 'a check'}", "walk", check
            )
    labels = {line.key: line for line in lines()}
    coded = {o.catalogue_key for o in i.observations if o.code}
    for check in filter(unanswered, i.checks):
        line = labels.get(check.item or "")
        if line is None or coded.isdisjoint(line.observations):
            yield _mark(line.label if line is not None else "A line of the schedule", "walk", check)
    for filled in schedule:
        if filled.state == "not good" and filled.by_field:
            yield Against(
                kind="marked", says=f"{filled.label}: {filled.because}", stage="intake", entity="inspection",
                entity_id=i.id, field=filled.key,
            )  # fmt: skip
    for _, name, point in context.points():
        words = point.note or point.defect
        if point.looked == DEFECT and not words and point.id not in done:
            yield Against(
                kind="marked", says=f"{name} is marked as a defect, and nothing says what is wrong.", stage="walk",
                entity="point", entity_id=point.id, field="looked",
            )  # fmt: skip


def _mark(name: str, stage: Stage, check: Check) -> Against:
    return Against(
        kind="marked", says=f"{name}: marked as a defect, without an observation or a word why.", stage=stage,
        entity="check", entity_id=check.id, field="state",
    )  # fmt: skip


def _questions(
    context: Context, notes: Iterable[Note], suggested: Iterable[Suggestion], coding: Iterable[Coding]
) -> Iterator[Against]:
    """Questions whose answer could be C1, C2 or FI: of verdicts, of suggestions and of what was recorded."""
    answered = {o.about_id for o in context.inspection.observations if o.code}
    for note in notes:
        if note.verdict.asks and note.because_of is None and note.overruled is None and note.entity_id not in answered:
            yield Against(
                kind="question",
                says=f"{note.title}: {note.verdict.reason}",
                stage=note.stage or stage_of(note.entity, note.field),
                entity=note.entity,
                entity_id=note.entity_id,
                field=note.field,
            )
    for suggestion in suggested:
        if (
            not suggestion.settled
            and suggestion.code not in UNSATISFACTORY
            and suggestion.entity_id not in context.aside
        ):
            for question in suggestion.questions:
                if question.code in UNSATISFACTORY:
                    yield Against(
                        kind="question", says=f"{suggestion.title}: {question.ask}", stage="observations",
                        entity=suggestion.entity, entity_id=suggestion.entity_id, field=question.fact,
                    )  # fmt: skip
    observations = {o.id: o for o in context.inspection.observations}
    for asked in coding:
        observation = observations[asked.observation_id]
        # Who gives a reason for a code has answered what would move it.
        if not observation.code or observation.code in UNSATISFACTORY:
            continue
        if observation.code_reason or observation.made_good:
            continue
        if asked.code in UNSATISFACTORY:
            words = shortened(observation.text or "")
            says = f"“{words}” is {observation.code}: what is known leads to {asked.code}. Why?"
            yield _of_observation("question", says, observation)
            continue
        for question in asked.questions:
            if question.code in UNSATISFACTORY:
                says = f"“{shortened(observation.text or '')}”: {question.ask}"
                yield _of_observation("question", says, observation)


def _left_for_later(context: Context) -> Iterator[Against]:
    """What somebody meant to come back to: nobody knows yet what it is worth."""
    for return_visit in to_come_back(context.inspection):
        what = return_visit.what or "to come back to"
        yield Against(
            kind="question", says=f"Come back: {return_visit.where}: {what}", stage=return_visit.stage,
            entity="come_back", entity_id=return_visit.id,
        )  # fmt: skip


def _tests(context: Context, progress: Progress) -> Iterator[Against]:
    i = context.inspection
    if not context.circuits:
        yield Against(
            kind="test", says="No circuit is entered: nothing was tested.", stage="boards", entity="inspection",
            entity_id=i.id, field="boards",
        )  # fmt: skip
    elif nothing_in_scope(context):
        yield Against(
            kind="test", says="Every circuit is set aside by agreement: nothing was tested.", stage="boards",
            entity="inspection", entity_id=i.id, field="boards",
        )  # fmt: skip
    for missing_tests in progress.missing:
        names = ", ".join(missing_tests.names)
        why = ""
        if missing_tests.without_fact:
            why = f" N/A needs the fact that makes it so: {', '.join(missing_tests.without_fact)}."
        yield Against(
            kind="test", says=f"{missing_tests.whom}: {names} neither tested nor limited.{why}",
            stage=missing_tests.stage, entity=missing_tests.entity, entity_id=missing_tests.entity_id,
            field=missing_tests.fields[0],
        )  # fmt: skip


def summary(objections: Sequence[Against]) -> str:
    """What is missing, in words: `2 suggestions not answered, 14 sets of tests missing`; '' for nothing."""
    parts = []
    for kind, (singular, several) in KINDS.items():
        count = sum(item.kind == kind for item in objections)
        if count and kind != "code":
            parts.append(f"{count} {singular if count == 1 else several}")
    return ", ".join(parts)
