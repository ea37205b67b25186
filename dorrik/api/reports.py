"""Reports: the draft to look at, issuing, the issues, and the frozen PDF."""

from fastapi import Request, Response

from dorrik.api.common_types import Problem
from dorrik.api.files import download
from dorrik.api.pictures import shown as shown_photo
from dorrik.api.problems import RESPONSES, ProblemError, not_found
from dorrik.api.report_types import HindranceOut, IssuedOut, IssueIn, NotReadyOut, Preview
from dorrik.api.routing import router as make_router
from dorrik.api.work import must, note, work
from dorrik.core.workflow import state_of
from dorrik.journal import blind
from dorrik.report import circuit_chart
from dorrik.report import issue as issuing
from dorrik.report import operator_letter as letters
from dorrik.report.content.photos import Fetch
from dorrik.store import inspections, judging, reports
from dorrik.store.engine import now
from dorrik.store.people import Person

router = make_router("/api", "reports", RESPONSES)


@router.get("/inspections/{inspection_id}/preview")
def preview(request: Request, inspection_id: str) -> Preview:
    """The draft's pages, and what stands in the way of issuing it."""
    with work(request) as (connection, me):
        kept = inspections.load(connection, inspection_id, me.firm_id)
        if kept is None:
            raise not_found()
        seen = blind.seen(connection, kept, me).kept
        points, pages = issuing.preview(connection, seen, me, _photos(request, me))
    shown = [HindranceOut.model_validate(point, from_attributes=True) for point in points]
    return Preview(seq=kept.seq, points=shown, pages=pages)


def _photos(request: Request, me: Person) -> Fetch:
    """What is shown of the firm's photos."""
    return lambda sha256: shown_photo(request.app.state.photos, me.firm_id, sha256, "large")


@router.get("/inspections/{inspection_id}/reports")
def issues(request: Request, inspection_id: str) -> list[IssuedOut]:
    """Every issue of the inspection, oldest first."""
    with work(request) as (connection, me):
        if inspections.sequence(connection, inspection_id, me.firm_id) is None:
            raise not_found()
        found = reports.issues(connection, inspection_id)
    return [IssuedOut.model_validate(one, from_attributes=True) for one in found]


@router.post(
    "/inspections/{inspection_id}/reports",
    status_code=201,
    responses={409: {"model": Problem}, 422: {"model": NotReadyOut}},
)
def issue(request: Request, inspection_id: str, given: IssueIn) -> IssuedOut:
    """Issue the report: freeze document and PDF. From the second issue on a reason is needed."""
    with work(request) as (connection, me):
        must(me, "issue")
        kept = inspections.load(connection, inspection_id, me.firm_id, lock=True)
        if kept is None:
            raise not_found()
        if blind.blind_to(connection, kept, me):
            raise ProblemError(409, "blind", "An observation waits for your second opinion. Give it, then issue.")
        held = kept.entities[kept.id].values["held_at"] is not None
        must(me, "issue", state_of(held=held, issued=False))
        try:
            found = issuing.issue(connection, kept, me, given.seen_seq, given.reason, _photos(request, me))
        except issuing.Moved:
            raise ProblemError(
                409, "moved", "The inspection has changed since you looked at it. Look at the draft again."
            ) from None
        except issuing.NotReady as error:
            points = [HindranceOut.model_validate(p, from_attributes=True).model_dump() for p in error.points]
            raise ProblemError(422, "not-ready", str(error), points=points) from None
        reference = kept.entities[kept.id].values["reference"] or kept.id
        note(request, connection, me, "report issued", reference, issue=found.number, sha256=found.sha256)
    return IssuedOut.model_validate(found, from_attributes=True)


@router.get(
    "/inspections/{inspection_id}/operator-letter.pdf",
    response_class=Response,
    responses={200: {"content": {"application/pdf": {}}}, 409: {"model": Problem}},
)
def operator_letter(request: Request, inspection_id: str) -> Response:
    """The letter to the network operator, as things stand now; 409 where nothing measured gives a reason to write."""
    with work(request) as (connection, me):
        kept = inspections.load(connection, inspection_id, me.firm_id)
        if kept is None:
            raise not_found()
        paper = issuing.on_paper(connection, me, 0, now().date())
        inspection, judgement = judging.judged(connection, kept)
    try:
        letter = letters.letter(inspection, judgement, paper, paper.issued_on)
    except letters.NoCause as error:
        raise ProblemError(409, "no-cause", str(error)) from None
    return download(letter, f"operator-{inspection.reference or 'letter'}.pdf", "application/pdf")


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
    inspection = inspections.assemble(kept)
    name = f"circuits-{inspection.reference or 'chart'}.csv"
    return download("\ufeff" + circuit_chart.chart(inspection), name, "text/csv")


@router.get("/reports/{report_id}.pdf", response_class=Response, responses={200: {"content": {"application/pdf": {}}}})
def frozen(request: Request, report_id: str) -> Response:
    """An issued report's PDF, exactly as it was frozen."""
    with work(request) as (connection, me):
        found = reports.frozen_pdf(connection, report_id, me.firm_id)
        if found is None:
            raise not_found("report")
        note(request, connection, me, "report read", found[0])
    name, pdf = found
    return download(pdf, name, "application/pdf")
