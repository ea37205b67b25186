"""Review: signing and submitting, reading, sending back. Authorising is issuing (`reports`)."""

from fastapi import Request
from sqlalchemy import Connection

from dorrik.api.common_types import Problem
from dorrik.api.problems import RESPONSES, ProblemError, not_found
from dorrik.api.report_types import HindranceOut, NotReadyOut
from dorrik.api.review_types import ChangedOut, LookedIn, ReviewOut, SendBackIn, StepOut, SubmitIn
from dorrik.api.routing import router as make_router
from dorrik.api.work import must, note, work
from dorrik.core.inspection.kept_inspection import KeptInspection
from dorrik.core.work.workflow import state_of
from dorrik.office import review
from dorrik.report.issue import MovedOn, NotReady
from dorrik.store.database.engine import now
from dorrik.store.inspections import inspections, reviews
from dorrik.store.people.people import Person

router = make_router("/api/inspections/{inspection_id}/review", "reviews", RESPONSES)


def _kept(connection: Connection, me: Person, inspection_id: str, *, lock: bool = False) -> KeptInspection:
    kept = inspections.load(connection, inspection_id, me.firm_id, lock=lock)
    if kept is None:
        raise not_found()
    return kept


@router.get("")
def state(request: Request, inspection_id: str) -> ReviewOut:
    """How the report stands on its way, and what changed since it was submitted and since one read it last."""
    with work(request) as (connection, me):
        kept = _kept(connection, me, inspection_id)
        return _out(kept.seq, review.state(connection, kept, me))


@router.post("/submit", responses={409: {"model": Problem}, 422: {"model": NotReadyOut}})
def submit(request: Request, inspection_id: str, given: SubmitIn) -> ReviewOut:
    """Sign for the inspection as it stands, and submit it for review."""
    with work(request) as (connection, me):
        must(me, "submit")
        kept = _kept(connection, me, inspection_id, lock=True)
        held = kept.entities[kept.id].values["held_at"] is not None
        must(me, "submit", state_of(held=held, issued=False))
        try:
            with_changes = frozenset(given.with_changes)
            review.submit(connection, kept, me, given.seen_seq, given.signed(me, now()), with_changes)
        except MovedOn:
            message = "The inspection has changed since you looked at it. Look at the draft again."
            raise ProblemError(409, "moved", message) from None
        except NotReady as error:
            points = [HindranceOut.model_validate(p, from_attributes=True).model_dump() for p in error.points]
            raise ProblemError(422, "not-ready", str(error), points=points) from None
        note(request, connection, me, "report submitted", _reference(kept))
        return _out(kept.seq, review.state(connection, kept, me))


@router.post("/send-back", responses={409: {"model": Problem}})
def send_back(request: Request, inspection_id: str, given: SendBackIn) -> ReviewOut:
    """Send it back to whoever submitted it, with what is to be done."""
    with work(request, "review") as (connection, me):
        kept = _kept(connection, me, inspection_id, lock=True)
        try:
            review.send_back(connection, kept, me, given.words)
        except review.NotSubmitted:
            raise ProblemError(409, "not-submitted", "It is not submitted, so there is nothing to send back.") from None
        note(request, connection, me, "report sent back", _reference(kept))
        return _out(kept.seq, review.state(connection, kept, me))


@router.post("/looked")
def looked(request: Request, inspection_id: str, given: LookedIn) -> ReviewOut:
    """Say up to where one has read it: what changes from there on is told at the next look."""
    with work(request, "review") as (connection, me):
        kept = _kept(connection, me, inspection_id, lock=True)
        reviews.look(connection, kept.id, me.id, min(given.seq, kept.seq))
        return _out(kept.seq, review.state(connection, kept, me))


def _reference(kept: KeptInspection) -> str:
    return str(kept.entities[kept.id].values["reference"] or kept.id)


def _out(seq: int, state: review.Review) -> ReviewOut:
    return ReviewOut(
        seq=seq,
        steps=[
            StepOut(
                number=step.number,
                kind=step.kind,
                at=step.at,
                name=step.name,
                words=step.words,
                signed=None if step.signature is None else "drawn" if "strokes" in step.signature else "typed",
                signed_at=(step.signature or {}).get("signed_at"),
            )
            for step in state.steps
        ],
        in_review=state.in_review,
        reopened=[ChangedOut.model_validate(changed, from_attributes=True) for changed in state.reopened],
        since_look=None
        if state.since_look is None
        else [ChangedOut.model_validate(changed, from_attributes=True) for changed in state.since_look],
    )
