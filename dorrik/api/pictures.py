"""Photos of an inspection: kept under the digest of their content, handed out to the same firm only."""

from pathlib import Path as Folder
from typing import Literal

from fastapi import Path, Request, Response
from starlette.concurrency import run_in_threadpool

from dorrik.api.common_types import Problem
from dorrik.api.fair_pool import FairPool
from dorrik.api.problems import RESPONSES, ProblemError, not_found
from dorrik.api.routing import router as make_router
from dorrik.api.work import work
from dorrik.pictures import subprocess_reader
from dorrik.pictures.renditions import Unshowable
from dorrik.report.content.photos import Fetch, put_into
from dorrik.store.files import photos
from dorrik.store.files.photos import PhotoStore
from dorrik.store.inspections import inspections
from dorrik.store.people.people import Person

router = make_router("/api/inspections", "photos", {**RESPONSES, 422: {"model": Problem}})
_A_PHOTO = {"application/octet-stream": {"schema": {"type": "string", "format": "binary"}}}
_SHA256 = Path(pattern="^[0-9a-f]{64}$")


def _asked_by(request: Request, inspection_id: str) -> Person:
    """Who asks, if the inspection is their firm's."""
    with work(request) as (connection, me):
        if inspections.sequence(connection, inspection_id, me.firm_id) is None:
            raise not_found()
        return me


def _pool(request: Request) -> FairPool:
    """Where photos are decoded: apart from what answers everybody else, and in turn."""
    pool: FairPool = request.app.state.decoding
    return pool


def _sent_to(request: Request, inspection_id: str, sha256: str) -> Person:
    """Who sends a photo; written down first, so that it can be erased whether or not it is ever pinned."""
    with work(request) as (connection, me):
        taken = inspections.send_photo(connection, inspection_id, me.firm_id, sha256)
        if taken is None:
            raise not_found()
        if not taken:
            raise ProblemError(409, "erased", "The data of this client were erased; no photo is kept any more.")
        return me


@router.put(
    "/{inspection_id}/photos/{sha256}",
    status_code=204,
    openapi_extra={"requestBody": {"content": _A_PHOTO, "required": True}},
)
async def keep(request: Request, inspection_id: str, sha256: str = _SHA256) -> Response:
    """Keep a photo. Sending it again changes nothing."""
    me = await run_in_threadpool(_sent_to, request, inspection_id, sha256)
    content = bytearray()
    async for part in request.stream():
        content += part
        if len(content) > photos.LARGEST:
            raise ProblemError(413, "too-large", f"Photos of at most {photos.LARGEST // 1_000_000} MB are kept.")
    try:
        await _pool(request).run(me.id, lambda: _keep(request.app.state.photos, me.firm_id, sha256, bytes(content)))
    except (photos.NotAPhoto, Unshowable) as error:
        fields = [{"field": "photo", "message": str(error)}]
        raise ProblemError(422, "invalid", str(error), fields=fields) from None
    return Response(status_code=204)


def _keep(store: PhotoStore, firm_id: str, sha256: str, content: bytes) -> None:
    """Decoded before it is kept: what cannot be shown is told to whoever took it, while they can take it again."""
    photos.check(sha256, content)
    if store.has(firm_id, sha256):
        return
    store.keep(firm_id, sha256, content, subprocess_reader.make(content).by_size)


@router.get("/{inspection_id}/photos/{sha256}", response_class=Response, responses={200: {"content": {"image/*": {}}}})
async def show(
    request: Request,
    inspection_id: str,
    sha256: str = _SHA256,
    size: Literal["small", "large", "original"] = "original",
) -> Response:
    """A photo as it was kept, or as it is shown: turned the right way up and shrunk."""
    store: PhotoStore = request.app.state.photos
    me = await run_in_threadpool(_asked_by, request, inspection_id)
    content = await run_in_threadpool(store.get, me.firm_id, sha256, "" if size == "original" else size)
    if content is None and size != "original":
        # As after a restore: made anew.
        content = await _pool(request).run(me.id, lambda: shown(store, me.firm_id, sha256, size))
    if content is None:
        raise not_found("photo")
    # Kept by the browser, and asked for again each time: after signing out there is none to be seen.
    headers = {"Cache-Control": "private, no-cache", "ETag": f'"{sha256}-{size}"'}
    if f'"{sha256}-{size}"' in request.headers.get("if-none-match", ""):
        return Response(status_code=304, headers=headers)
    return Response(content, media_type=photos.kind_of(content), headers=headers)


def shown(store: PhotoStore, firm_id: str, sha256: str, size: str) -> bytes | None:
    """What is shown of a photo in a size, made anew where it is missing, as after a restore; the original where nothing
    can be made of it; None without a photo."""
    content = store.get(firm_id, sha256, size)
    original = store.get(firm_id, sha256) if content is None else None
    if original is None:
        return content
    try:
        renditions = subprocess_reader.make(original).by_size
    except Unshowable:
        return original
    store.keep(firm_id, sha256, original, renditions)
    return renditions[size]


def shown_in(request: Request, me: Person, folder: Folder) -> Fetch:
    """What is printed of the firm's photos, put into a folder as it is asked for."""
    store: PhotoStore = request.app.state.photos
    return put_into(folder, lambda sha256, size: shown(store, me.firm_id, sha256, f"printed-{size}"))
