"""Reports: the draft to look at, issuing, the issues, and the frozen PDF."""

import gzip
from collections.abc import Callable
from typing import Any, TypeVar

from fastapi import Path, Request, Response
from sqlalchemy import Connection
from starlette.concurrency import run_in_threadpool

from dorrik.api.common_types import Problem
from dorrik.api.fair_pool import FairPool
from dorrik.api.files import download
from dorrik.api.pictures import shown_in
from dorrik.api.problems import RESPONSES, ProblemError, not_found
from dorrik.api.report_types import HindranceOut, IssuedOut, IssueIn, NotReadyOut, PageOut, Preview
from dorrik.api.routing import router as make_router
from dorrik.api.work import must, note, work
from dorrik.core.inspection.kept_inspection import KeptInspection, assemble
from dorrik.core.work.workflow import state_of
from dorrik.journal import blind
from dorrik.office import after_report, review
from dorrik.report import circuit_chart
from dorrik.report import issue as issuing
from dorrik.store.files.drafts import Drafts
from dorrik.store.inspections import inspections
from dorrik.store.people.people import Person
from dorrik.store.reports import reports
from dorrik.store.reports.reports import Issued

router = make_router("/api", "reports", RESPONSES)
_TOO_MUCH: dict[int | str, dict[str, Any]] = {422: {"model": Problem}}
_DRAFT, _PAGE = Path(pattern="^[0-9a-f-]{36}$"), Path(ge=1, le=100_000)
T = TypeVar("T")


@router.get("/inspections/{inspection_id}/preview", responses=_TOO_MUCH)
async def preview(request: Request, inspection_id: str) -> Preview:
    """What stands in the way of issuing, and a draft, whose pages are fetched one by one."""
    me = await run_in_threadpool(_who_may_see, request, inspection_id)
    drafts: Drafts = request.app.state.drafts

    def as_seen() -> issuing.ReportDraft:
        with work(request) as (connection, me):
            kept = inspections.load(connection, inspection_id, me.firm_id)
            if kept is None:
                raise not_found()
            return issuing.draft(connection, blind.seen(connection, kept, me).kept, me)

    def typeset() -> Preview:
        # All of it in its turn: judging and wording 1,500 observations takes its time too.
        draft = as_seen()
        with drafts.workplace() as folder:
            (pages_in := folder / "pages").mkdir()
            points, pages = issuing.preview(draft, pages_in, shown_in(request, me, folder))
            draft_id = drafts.keep(inspection_id, me.id, pages_in)
        if _is_erased(request, inspection_id):
            drafts.forget([inspection_id])
        return Preview(
            seq=draft.seq,
            points=[HindranceOut.model_validate(point, from_attributes=True) for point in points],
            draft=draft_id,
            pages=[PageOut(width=width, height=height) for width, height in pages],
        )

    return await _typeset(request, me, typeset)


def _who_may_see(request: Request, inspection_id: str) -> Person:
    """Who asks, if the inspection is their firm's."""
    with work(request) as (connection, me):
        if inspections.sequence(connection, inspection_id, me.firm_id) is None:
            raise not_found()
        return me


def _is_erased(request: Request, inspection_id: str) -> bool:
    with work(request) as (connection, me):
        return inspections.is_erased(connection, inspection_id, me.firm_id)


@router.get(
    "/inspections/{inspection_id}/drafts/{draft_id}/{number}",
    response_class=Response,
    responses={200: {"content": {"image/svg+xml": {}}}},
)
def page(
    request: Request,
    inspection_id: str,
    draft_id: str = _DRAFT,
    number: int = _PAGE,
) -> Response:
    """A page of a draft, for whom it was made; 404 where it was made anew or some time ago."""
    me = _who_may_see(request, inspection_id)
    drafts: Drafts = request.app.state.drafts
    packed = drafts.page(inspection_id, me.id, draft_id, number)
    if packed is None:
        raise not_found("draft")
    if "gzip" in request.headers.get("accept-encoding", ""):
        return Response(packed, media_type="image/svg+xml", headers={"Content-Encoding": "gzip"})
    return Response(gzip.decompress(packed), media_type="image/svg+xml")


async def _typeset(request: Request, me: Person, do: Callable[[], T]) -> T:
    """Typeset when the person's turn comes."""
    pool: FairPool = request.app.state.typesetting
    return await pool.run(me.id, do)


@router.get("/inspections/{inspection_id}/reports")
def issues(request: Request, inspection_id: str) -> list[IssuedOut]:
    """Every issue of the inspection, oldest first."""
    with work(request) as (connection, me):
        if inspections.sequence(connection, inspection_id, me.firm_id) is None:
            raise not_found()
        issued = reports.issues(connection, inspection_id)
    return [IssuedOut.model_validate(copy, from_attributes=True) for copy in issued]


@router.post(
    "/inspections/{inspection_id}/reports",
    status_code=201,
    responses={409: {"model": Problem}, 422: {"model": NotReadyOut}},
)
async def issue(request: Request, inspection_id: str, given: IssueIn) -> IssuedOut:
    """Authorise and issue the report: freeze document and PDF. It was submitted before, and not changed since; from the
    second issue on a reason is needed."""

    def copy() -> tuple[issuing.Fair, Person]:
        with work(request) as (connection, me):
            kept = _to_issue(connection, me, inspection_id)
            signed = review.signatures(connection, kept, me, given.signature.of(me))
            return issuing.fair_copy(connection, kept, me, given.seen_seq, given.reason, signed), me

    def keep(fair: issuing.Fair, made: issuing.Typeset) -> Issued:
        with work(request) as (connection, me):
            kept = _to_issue(connection, me, inspection_id, lock=True)
            issued = issuing.keep(connection, kept.id, kept.seq, me, fair, made)
            review.authorised(connection, kept, me, given.signature.of(me))
            after_report.remember(connection, me.firm_id, kept.id)
            reference = kept.entities[kept.id].values["reference"] or kept.id
            note(request, connection, me, "report issued", reference, issue=issued.number, sha256=issued.sha256)
        return issued

    try:
        fair, me = await run_in_threadpool(copy)
        if (issued := fair.already) is None:
            drafts: Drafts = request.app.state.drafts
            with drafts.workplace() as folder:
                photos = shown_in(request, me, folder)
                url = request.app.state.url
                made = await _typeset(request, me, lambda: issuing.typeset(fair, me, photos, url))
            # Nobody waited for it meanwhile; what came since is told, and the draft looked at again.
            issued = await run_in_threadpool(keep, fair, made)
    except issuing.MovedOn:
        raise ProblemError(
            409, "moved", "The inspection has changed since you looked at it. Look at the draft again."
        ) from None
    except issuing.NotReady as error:
        points = [HindranceOut.model_validate(p, from_attributes=True).model_dump() for p in error.points]
        raise ProblemError(422, "not-ready", str(error), points=points) from None
    return IssuedOut.model_validate(issued, from_attributes=True)


def _to_issue(connection: Connection, me: Person, inspection_id: str, *, lock: bool = False) -> KeptInspection:
    """The inspection, if this person may issue its report as things stand."""
    must(me, "issue")
    kept = inspections.load(connection, inspection_id, me.firm_id, lock=lock)
    if kept is None:
        raise not_found()
    if blind.blind_to(connection, kept, me):
        raise ProblemError(409, "blind", "An observation waits for your second opinion. Give it, then issue.")
    held = kept.entities[kept.id].values["held_at"] is not None
    must(me, "issue", state_of(held=held, issued=False))
    return kept


@router.get(
    "/inspections/{inspection_id}/circuits.csv",
    response_class=Response,
    responses={200: {"content": {"text/csv": {}}}},
)
def circuits(request: Request, inspection_id: str) -> Response:
    """The circuits as a table for other programs; what begins like a formula is written as text."""
    with work(request) as (connection, me):
        kept = inspections.load(connection, inspection_id, me.firm_id)
        if kept is None:
            raise not_found()
    inspection = assemble(kept)
    name = f"circuits-{inspection.reference or 'chart'}.csv"
    return download("\ufeff" + circuit_chart.chart(inspection), name, "text/csv")


@router.get("/reports/{report_id}.pdf", response_class=Response, responses={200: {"content": {"application/pdf": {}}}})
def frozen(request: Request, report_id: str) -> Response:
    """An issued report's PDF, exactly as it was frozen."""
    with work(request) as (connection, me):
        named_pdf = reports.frozen_pdf(connection, report_id, me.firm_id)
        if named_pdf is None:
            raise not_found("report")
        note(request, connection, me, "report read", named_pdf[0])
    name, pdf = named_pdf
    return download(pdf, name, "application/pdf")
