"""Letters of a job as PDF: the client's confirmation and the occupier's notice."""

from urllib.parse import quote

from fastapi import APIRouter, Request, Response

from dorrik.api.problems import RESPONSES, not_found
from dorrik.api.rates import estimate_of
from dorrik.api.work import work
from dorrik.report import job_letters
from dorrik.report.issue import on_paper
from dorrik.store import book
from dorrik.store.engine import now

router = APIRouter(prefix="/api", tags=["book"], responses=RESPONSES)
_PDF = {200: {"content": {"application/pdf": {}}}}


@router.get("/jobs/{entry_id}/confirmation.pdf", response_class=Response, responses=_PDF)
def confirmation(request: Request, entry_id: str) -> Response:
    """Scope, access and price for the client to confirm."""
    return _letter(request, entry_id, "confirmation")


@router.get("/jobs/{entry_id}/power-off.pdf", response_class=Response, responses=_PDF)
def power_off(request: Request, entry_id: str) -> Response:
    """The power-off notice for the occupier."""
    return _letter(request, entry_id, "power-off")


def _letter(request: Request, entry_id: str, which: str) -> Response:
    with work(request) as (connection, me):
        job = book.get(connection, me.firm_id, "job", entry_id)
        home = book.get(connection, me.firm_id, "property", job.parent_id) if job else None
        client = book.get(connection, me.firm_id, "client", home.parent_id) if home else None
        if job is None or home is None or client is None:
            raise not_found("job")
        paper = on_paper(connection, me, 0, now().date())
        estimate = estimate_of(connection, me.firm_id, job.values)
        installations = [one.values for one in book.entries(connection, me.firm_id, "installation", home.id)]
    if which == "confirmation":
        price = f"{estimate.currency}{estimate.price:,.2f}"
        said = job_letters.confirmation(
            client.values, home.values, job.values, installations, price, estimate.minutes, paper
        )
    else:
        said = job_letters.power_off_notice(home.values, job.values, paper)
    name = f"{which}-{job.values.get('number') or 'job'}.pdf".replace("/", "-")
    return Response(
        job_letters.letter(said, paper),
        media_type="application/pdf",
        headers={"Content-Disposition": f"attachment; filename*=UTF-8''{quote(name)}"},
    )
