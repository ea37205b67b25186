"""Inspections: the list, one whole, its changes and their history."""

from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import asdict, dataclass, replace
from typing import Any

from fastapi import Query, Request, Response
from pydantic_core import to_json
from sqlalchemy import Connection, Engine
from sqlalchemy.exc import IntegrityError

from dorrik.api import health
from dorrik.api.change_types import Batch, EntryOut, Malformed, News, Receipt
from dorrik.api.inspection_types import Beginning, CorrectionIn, Home, InspectionLine, InspectionOut, InspectionPage
from dorrik.api.metrics import CHANGES
from dorrik.api.problems import RESPONSES, not_found
from dorrik.api.routing import router as make_router
from dorrik.api.work import note, work
from dorrik.api.worker_pool import WorkerPool
from dorrik.core.inspection import former_names
from dorrik.core.inspection.change import UNSAID, Change
from dorrik.core.inspection.kept_inspection import KeptInspection
from dorrik.core.inspection.kinds import KINDS
from dorrik.core.judging import delta
from dorrik.core.judging.lasting_judge import LastingJudge
from dorrik.core.judging.wire.judgement import as_json
from dorrik.core.work import workflow
from dorrik.core.work.workflow import Action
from dorrik.journal import blind, history, share
from dorrik.journal.apply import apply
from dorrik.journal.blind import BlindView
from dorrik.journal.change import Author, Result
from dorrik.office import jobs
from dorrik.store.database.engine import again_after_deadlock
from dorrik.store.firm import firm_rules, numbers
from dorrik.store.inspections import garbage_collection, inspections, judging, listing, reading_times, reviews
from dorrik.store.inspections.inspection_cache import Memory, Remembered
from dorrik.store.inspections.listing import ListedInspection, Which, is_issued
from dorrik.store.people.people import Person, colleagues

router = make_router("/api", "inspections", RESPONSES)


_ORDER = {kind: at for at, kind in enumerate(KINDS)}


def _judgement(connection: Connection, seen: BlindView) -> dict[str, Any]:
    return as_json(judging.judged(connection, seen.kept)[1], seen.blind)


def _answer(data: dict[str, Any]) -> Response:
    """Plain data as JSON. It comes from our own code in the shape of the response model: checked by the tests,
    not again at every keystroke."""
    return Response(to_json(data), media_type="application/json")


@router.get("/home")
def home(request: Request) -> Home:
    """Inspections in hand with what is left, the latest first, and issued ones by when they are due again."""
    request.app.state.list_figures.write()
    with work(request) as (connection, me):
        in_hand = _page(connection, me.firm_id, "in hand", 0)
        issued = _page(connection, me.firm_id, "issued", 0)
        next_reference = numbers.next_reference(connection, me.firm_id)
        book, chosen = firm_rules.rules(connection, me.firm_id)
        corrected = firm_rules.in_force(connection, me.firm_id)
    return Home(
        in_hand=in_hand.lines,
        in_hand_count=in_hand.count,
        issued=issued.lines,
        issued_count=issued.count,
        next_reference=next_reference,
        trouble=_trouble(),
        beginning=Beginning(
            rule_book=book,
            house_rules=chosen,
            table_corrections=[CorrectionIn(**asdict(correction)) for correction in corrected],
        ),
    )


@router.get("/inspections")
def listed(request: Request, which: Which, start: int = Query(default=0, ge=0, le=10_000_000)) -> InspectionPage:
    """More of the list: inspections in hand, or issued ones, from a line on."""
    request.app.state.list_figures.write()
    with work(request) as (connection, me):
        return _page(connection, me.firm_id, which, start)


def _trouble() -> str | None:
    free = health.room()
    if free >= health.LITTLE_ROOM:
        return None
    return f"The server's disk is nearly full: {free / 1e6:.0f} MB are left. Tell whoever looks after it."


def _page(connection: Connection, firm_id: str, which: Which, start: int) -> InspectionPage:
    page = listing.page(connection, firm_id, which, start)
    lines = [
        _worked_out(connection, firm_id, line) if which == "in hand" and line.left is None else line
        for line in page.lines
    ]
    shown = [InspectionLine.model_validate(line, from_attributes=True) for line in lines]
    return InspectionPage(lines=shown, count=page.count)


def _worked_out(connection: Connection, firm_id: str, line: ListedInspection) -> ListedInspection:
    """What is left of one that was changed without being judged, or was judged by other rules than today's."""
    kept = inspections.load(connection, line.id, firm_id)
    if kept is None:
        return line
    _, judgement = judging.judged(connection, kept)
    left, failing = listing.keep_figures(connection, kept.id, kept.seq, judgement)
    return replace(line, left=left, failing=failing)


@router.get("/inspections/{inspection_id}", response_model=InspectionOut)
def inspection(request: Request, inspection_id: str) -> Response:
    """An inspection whole, with its verdicts."""
    with work(request) as (connection, me), _opened(request, connection, me, inspection_id) as (seen, judgement):
        kept = seen.kept
        # All that is told is taken here: afterwards the next change works on it.
        seq, issue = kept.seq, kept.issue
        held = kept.entities[kept.id].values["held_at"] is not None
        in_review = reviews.in_review(connection, kept.id)
        state = workflow.state_of(held=held, issued=is_issued(connection, kept.id), in_review=in_review)
        may = workflow.allowed(me.role, state)
        entities = [
            {
                "kind": entity.kind,
                "id": entity.id,
                "parent_id": entity.parent_id,
                "values": {name: value for name, value in entity.values.items() if value is not None},
            }
            # In one order, whether they were remembered or have just been read.
            for entity in sorted(kept.entities.values(), key=lambda each: (_ORDER[each.kind], each.id))
        ]
        facts = reading_times.for_device(connection, kept)
    return _answer(
        {
            "id": kept.id, "seq": seq, "issue": issue, "state": state, "may": may, "entities": entities, "facts": facts,
            "judgement": judgement,
        }
    )  # fmt: skip


@contextmanager
def _opened(
    request: Request, connection: Connection, me: Person, inspection_id: str
) -> Iterator[tuple[BlindView, dict[str, Any]]]:
    """An inspection as somebody sees it and its judgement, both as they are remembered where nothing was written since;
    then remembered for the change that comes next. While the block lasts nobody changes it in this process."""
    remembered: Remembered = request.app.state.remembered
    memory = remembered.take(inspection_id)
    try:
        known = memory.kept if memory is not None else None
        kept = inspections.load(connection, inspection_id, me.firm_id, known=known)
        if kept is None:
            raise not_found()
        seen = blind.seen(connection, kept, me)
        if memory is not None and kept is known and memory.judged_seq == kept.seq and not seen.blind:
            yield seen, memory.judgement
            return
        judgement = _judgement(connection, seen)
        if not seen.blind and (memory is None or memory.judged_seq <= kept.seq):
            memory = Memory(kept, judgement, kept.seq, memory.lasting if memory is not None else None)
        yield seen, judgement
    finally:
        if memory is not None:
            remembered.put(memory)


@router.post("/inspections/{inspection_id}/changes", response_model=Receipt)
async def changes(request: Request, inspection_id: str, batch: Batch) -> Response:
    """Apply a batch. Each change is kept, known already, or refused with a reason; the rest is kept all the same.

    A device that says of which sequence number its judgement is gets what became different, where that is known here.
    """
    # In turn, by few threads: many that judge at once in one process only take the interpreter from each other, and all
    # of them answer late.
    pool: WorkerPool = request.app.state.changing
    return await pool.run(lambda: _changes(request, inspection_id, batch))


def sound_changes(batch: Batch) -> list[Change]:
    """The changes of a batch that have the shape of one, as the journal takes them."""
    return [
        Change(
            c.id,
            entity,
            c.entity_id,
            former_names.field(entity, c.field),
            c.value,
            c.based_on,
            c.moment,
            c.device,
            c.instrument_id,
            c.shown_at,
            c.read_by,
            UNSAID if c.issue is None else c.issue,
        )
        for c in batch.changes
        if not isinstance(c, Malformed)
        for entity in (former_names.kind(c.entity),)
    ]


def take(request: Request, inspection_id: str, sound: list[Change], by: Person | None = None) -> "_Done | None":
    """Apply changes and judge what came of it; None where the firm has no such inspection and they make none. by: whose
    they are, where it is not who sends them."""
    try:
        done = again_after_deadlock(lambda: _apply(request, inspection_id, sound, by))
    except IntegrityError:
        # A resend that claims to have seen its own first sending, or a number that somebody took in this moment. It is
        # taken at its word no longer.
        anew = [replace(change, based_on=0) for change in sound]
        done = again_after_deadlock(lambda: _apply(request, inspection_id, anew, by))
    for result in done.results if done is not None else ():
        CHANGES.labels(result.state).inc()
    return done


def _changes(request: Request, inspection_id: str, batch: Batch) -> Response:
    done = take(request, inspection_id, sound_changes(batch))
    if done is None:
        raise not_found()
    fates = iter(done.results)
    results = [
        _refused(change_in) if isinstance(change_in, Malformed) else _result(next(fates), done.names, change_in.value)
        for change_in in batch.changes
    ]
    receipt: dict[str, Any] = {
        "seq": done.seq, "issue": done.issue, "results": results, "may": done.may, "judgement": None, "change": None,
    }  # fmt: skip
    if done.before is not None and batch.judged == done.before_seq:
        receipt["change"] = delta.difference(done.before, done.judgement)
    else:
        receipt["judgement"] = done.judgement
    return _answer(receipt)


@dataclass(frozen=True, slots=True)
class _Done:
    """A batch that was applied and committed: the judgement after it and, where it is known, the one before."""

    seq: int
    issue: int
    results: tuple[Result, ...]
    names: dict[str, str]
    may: list[Action]
    judgement: dict[str, Any]
    before: dict[str, Any] | None
    before_seq: int


def _apply(request: Request, inspection_id: str, sound: list[Change], by: Person | None) -> _Done | None:
    """The batch in its own transaction, with the names of colleagues where somebody was overtaken; then the verdicts,
    while nobody waits for the inspection any more."""
    remembered: Remembered = request.app.state.remembered
    memory = remembered.take(inspection_id)
    with work(request) as (connection, sender):
        me = by or sender
        known = memory.kept if memory is not None else None
        author = Author(me.id, me.role)
        applied = apply(connection, me.firm_id, author, inspection_id, sound, known=known)
        if applied is None:
            return None
        share.fan_out(connection, author, applied.kept, sound, applied.results)
        _note_rules(request, connection, me, inspection_id, sound, applied.results)
        for job_id in _begun_for(sound, applied.results):
            jobs.work_began(connection, me.firm_id, me.id, job_id)
        overtaken = any(result.overtook for result in applied.results)
        names = colleagues(connection, me.firm_id) if overtaken else {}
    # Committed: what is said from here on is of what the database has.
    kept = applied.kept
    request.app.state.streams.tell({inspection_id: kept.seq})
    settles = any(c.entity == "opinion" or c.field == "opinion_asked_at" for c in sound)
    # What is judged once is judged at once; what is judged again is looked at by a judge that stays with it.
    lasting = (memory.lasting or LastingJudge()) if memory is not None else None
    judged = again_after_deadlock(lambda: _judged(request, kept, me, lasting, settles=settles))
    if lasting is not None and memory is not None and memory.lasting is None:
        garbage_collection.set_aside()
    judgement = judged.whole
    same = memory is not None and kept is memory.kept
    before, before_seq = (memory.judgement, memory.judged_seq) if same and memory is not None else (None, -1)
    whole = judgement
    if judged.hidden is not None:
        # Who waits for an opinion, or has just given it, is told the whole of what they may see.
        judgement, before, before_seq = judged.hidden, None, -1
    held = kept.entities[kept.id].values["held_at"] is not None
    # Whether a report was issued opens and closes nothing: it is not asked for at every keystroke.
    may = workflow.allowed(me.role, workflow.state_of(held=held, issued=False))
    secret = frozenset(c.id for c in sound if blind.is_hidden(judged.blind, c.entity_id, c.field))
    results = tuple(_silent(result) if result.id in secret else result for result in applied.results)
    done = _Done(kept.seq, kept.issue, results, names, may, judgement, before, before_seq)
    # Last of all: whoever takes it out next changes what is in hand here.
    remembered.put(Memory(kept, whole, kept.seq, lasting))
    return done


@dataclass(frozen=True, slots=True)
class _Judged:
    """The verdicts on an inspection; hidden: what somebody is told of them, where that is not the whole; blind: the
    observations that wait for their second opinion."""

    whole: dict[str, Any]
    hidden: dict[str, Any] | None
    blind: frozenset[str]


def _judged(
    request: Request, kept: KeptInspection, me: Person, lasting: LastingJudge | None, *, settles: bool
) -> _Judged:
    """Judge what was kept, while nothing is held; what lists show of it is kept soon.
    settles: was a second opinion given, or asked for?"""
    hidden, unseen = None, frozenset[str]()
    plain = not settles and blind.hides_nothing(kept, me)
    judgement = judging.judged_alone(kept, lasting) if plain else None
    if judgement is None:
        engine: Engine = request.app.state.engine
        with engine.begin() as connection:
            _, judgement = judging.judged(connection, kept, lasting)
            seen = blind.seen(connection, kept, me)
            unseen = seen.blind
            hidden = _judgement(connection, seen) if unseen or settles else None
    request.app.state.list_figures.put(kept.id, kept.seq, judgement)
    written = lasting.written if lasting is not None else None
    return _Judged(as_json(judgement, kept=written), hidden, unseen)


def _silent(result: Result) -> Result:
    """That somebody was overtaken, without what stood there."""
    return replace(result, overtook=replace(result.overtook, value=None)) if result.overtook else result


def _note_rules(
    request: Request, connection: Connection, me: Person, inspection_id: str, sound: list[Change],
    results: tuple[Result, ...],
) -> None:  # fmt: skip
    """By what rules an inspection is judged is settled under somebody's name."""
    kept = {result.id for result in results if result.state == "kept"}
    settled = [c.field for c in sound if c.id in kept and c.entity == "inspection" and c.field in workflow.RULES]
    if settled and me.role == "supervisor":
        note(request, connection, me, "inspection rules changed", inspection_id, fields=settled)


def _begun_for(sound: list[Change], results: tuple[Result, ...]) -> list[str]:
    """Jobs for which an inspection was begun by these changes."""
    kept = {result.id for result in results if result.state == "kept"}
    named = [c.value for c in sound if c.id in kept and (c.entity, c.field) == ("inspection", "job_id")]
    return [job_id for job_id in named if isinstance(job_id, str)]


def _refused(malformed: Malformed) -> dict[str, Any]:
    return {
        "id": malformed.id, "state": "refused", "seq": None, "reason": malformed.reason, "overtook": None,
        "waits": False, "as_kept": None,
    }  # fmt: skip


def _result(result: Result, names: dict[str, str], sent: object) -> dict[str, Any]:
    overtook = result.overtook and {
        "seq": result.overtook.seq,
        "author": names.get(result.overtook.author_id, "A colleague"),
        "value": result.overtook.value,
    }
    return {
        "id": result.id,
        "state": result.state,
        "seq": result.seq,
        "reason": result.reason,
        "overtook": overtook,
        "waits": result.waits,
        "as_kept": None if result.state == "refused" or result.value == sent else {"value": result.value},
    }


@router.get("/inspections/{inspection_id}/changes", response_model=News)
def news(request: Request, inspection_id: str, since: int = Query(ge=0, le=2**31 - 1)) -> News:
    """What was kept since a sequence number, with new verdicts where there is something."""
    with work(request) as (connection, me):
        seq = inspections.sequence(connection, inspection_id, me.firm_id)
        if seq is None:
            raise not_found()
        if seq <= since:
            return News(seq=seq, entries=[], judgement=None)
        entries = history.since(connection, inspection_id, since)
        with _opened(request, connection, me, inspection_id) as (seen, whole):
            upto = entries[-1].seq if entries else seen.kept.seq
            # Where there is more than comes at once, verdicts are of a later state than it is: they come with the last.
            judgement = whole if upto == seen.kept.seq else None
            entries = blind.masked(entries, seen.blind)
    return News.model_validate(
        {
            "seq": upto,
            "entries": [EntryOut.model_validate(e, from_attributes=True) for e in entries],
            "judgement": judgement,
        }
    )


@router.get("/inspections/{inspection_id}/history")
def entity_history(request: Request, inspection_id: str, entity_id: str, field: str | None = None) -> list[EntryOut]:
    """Who changed one field of an entity, or any of them, from what to what, newest first."""
    with work(request) as (connection, me):
        if inspections.sequence(connection, inspection_id, me.firm_id) is None:
            raise not_found()
        all_entries = history.of_entity(connection, inspection_id, entity_id, field)
        entries = blind.masked(all_entries, blind.waiting(connection, inspection_id, me))
    return [EntryOut.model_validate(e, from_attributes=True) for e in entries]
