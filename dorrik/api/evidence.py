"""Files of evidence: a certificate as PDF or picture, a photo; looked at apart before they are kept."""

from fastapi import Request
from starlette.concurrency import run_in_threadpool

from dorrik.api.fair_pool import FairPool
from dorrik.api.problems import ProblemError
from dorrik.core.basics.text import tidy
from dorrik.pictures import subprocess_reader as pictures
from dorrik.pictures.renditions import Unshowable
from dorrik.report import subprocess_reader
from dorrik.report.papers import UnreadablePaper
from dorrik.store.reports import remedials
from dorrik.store.reports.remedials import By

_TOO_LARGE = f"A file has at most {remedials.LARGEST // 1_000_000} MB."


async def taken(request: Request, inspection_id: str, kind: str, name: str, by: By) -> str:
    """Keep the file that comes as the request's body; returns its id. kind: 'certificate' or 'photo'; by: who sends it,
    which the caller has checked. Raises ProblemError."""
    content = bytearray()
    async for part in request.stream():
        content += part
        if len(content) > remedials.LARGEST:
            raise ProblemError(413, "too-large", _TOO_LARGE)
    if not content:
        raise _at_field("The file is empty.")
    if content.startswith(b"%PDF"):
        if kind == "photo":
            raise _at_field("That is a PDF and no photo: add it as a certificate.")
        try:
            await subprocess_reader.pages(bytes(content), request.is_disconnected)
        except UnreadablePaper as error:
            raise _at_field(str(error)) from None
        except subprocess_reader.Gone:
            raise ProblemError(400, "gone", "Nobody waits for it any more.") from None
        kept, media_type = bytes(content), "application/pdf"
    else:
        pool: FairPool = request.app.state.decoding
        try:
            # Shown as we draw it: nothing of where and with what it was taken stays in it.
            made = await pool.run(by.person_id or by.link_id or "", lambda: pictures.make(bytes(content)))
        except Unshowable as error:
            message = str(error) if kind == "photo" else f"A certificate is a PDF or a photo of it. {error}"
            raise _at_field(message) from None
        kept, media_type = made.by_size["large"], "image/jpeg"
    return await run_in_threadpool(_keep, request, inspection_id, kind, name, media_type, kept, by)


def _keep(request: Request, inspection_id: str, kind: str, name: str, media_type: str, content: bytes, by: By) -> str:
    try:
        named = tidy(name) or kind
    except ValueError as error:
        raise _at_field(str(error)) from None
    try:
        with request.app.state.engine.begin() as connection:
            return remedials.keep_file(connection, inspection_id, kind, named, media_type, content, by)
    except remedials.TooManySteps as error:
        raise ProblemError(409, "too-many", str(error)) from None


def _at_field(message: str) -> ProblemError:
    return ProblemError(422, "invalid", message, fields=[{"field": "file", "message": message}])
