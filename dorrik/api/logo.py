"""The firm's logo: taken in as a picture or an SVG, kept as a drawing of our own."""

from fastapi import Request, Response
from starlette.concurrency import run_in_threadpool

from dorrik.api.fair_pool import FairPool
from dorrik.api.problems import RESPONSES, ProblemError, not_found
from dorrik.api.routing import router as make_router
from dorrik.api.work import note, work
from dorrik.pictures import logo
from dorrik.pictures.renditions import Unshowable
from dorrik.store.people import people
from dorrik.store.people.people import Person

router = make_router("/api/firm", "firm", RESPONSES)
_A_LOGO = {"image/*": {"schema": {"type": "string", "format": "binary"}}}


def _settles(request: Request) -> Person:
    with work(request, "change the letterhead") as (_, me):
        return me


@router.put(
    "/logo", status_code=204, openapi_extra={"requestBody": {"content": _A_LOGO, "required": True}}
)  # fmt: skip
async def take(request: Request) -> Response:
    """Take a logo (JPEG, PNG, WebP, HEIC, SVG). Reports and letters carry it from now on; what was issued stays."""
    me = await run_in_threadpool(_settles, request)
    content = bytearray()
    async for part in request.stream():
        content += part
        if len(content) > logo.LARGEST:
            raise ProblemError(413, "too-large", f"A logo has at most {logo.LARGEST // 1_000_000} MB.")
    pool: FairPool = request.app.state.decoding
    try:
        drawing = await pool.run(me.id, lambda: logo.cleaned(bytes(content)))
    except (logo.NoLogo, Unshowable) as error:
        fields = [{"field": "logo", "message": str(error)}]
        raise ProblemError(422, "invalid", str(error), fields=fields) from None
    await run_in_threadpool(_keep, request, drawing)
    return Response(status_code=204)


@router.delete("/logo", status_code=204)
def leave_out(request: Request) -> Response:
    """Print none from now on."""
    _keep(request, None)
    return Response(status_code=204)


def _keep(request: Request, drawing: str | None) -> None:
    with work(request, "change the letterhead") as (connection, me):
        people.set_logo(connection, me.firm_id, drawing)
        note(request, connection, me, "letterhead changed", "logo")


@router.get("/logo", response_class=Response, responses={200: {"content": {"image/svg+xml": {}}}})
def show(request: Request) -> Response:
    """The logo as it is printed; 404 where there is none."""
    with work(request) as (connection, me):
        logo_bytes = people.firm_details(connection, me.firm_id)["logo"]
    if logo_bytes is None:
        raise not_found("logo")
    # Opened by itself it does nothing either.
    headers = {"Content-Security-Policy": "default-src 'none'; img-src data:", "Cache-Control": "private, no-store"}
    return Response(logo_bytes, media_type="image/svg+xml", headers=headers)
