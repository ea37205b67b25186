"""Taking work along and in again, in open formats: document (JSON), circuits (XLSX), calendar (ICS), archives (ZIP)."""

import json
import tempfile
from collections.abc import Iterator

from fastapi import Request, Response
from pydantic import BaseModel
from starlette.concurrency import run_in_threadpool

from dorrik.api.archive import Archive
from dorrik.api.common_types import Problem
from dorrik.api.fair_pool import FairPool
from dorrik.api.files import download, stream
from dorrik.api.problems import RESPONSES, ProblemError, not_found
from dorrik.api.routing import router as make_router
from dorrik.api.work import note, work
from dorrik.core.inspection import document
from dorrik.core.inspection.kept_inspection import assemble
from dorrik.core.inspection.records import Inspection
from dorrik.journal import blind
from dorrik.office import calendar as firm_calendar
from dorrik.office import transfer
from dorrik.pictures import subprocess_reader
from dorrik.report import calendar, workbook
from dorrik.store.database.engine import now, snapshots
from dorrik.store.inspections import inspections
from dorrik.store.people import people
from dorrik.store.people.people import Person

router = make_router("/api", "takeaway", RESPONSES)
_XLSX = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"
_A_FILE = {"application/octet-stream": {"schema": {"type": "string", "format": "binary"}}}
_LARGEST = 20_000_000
_TOO_LARGE = (
    "Files of at most 20 MB are imported here. Whoever runs the server imports larger ones: "
    "python -m dorrik import FILE."
)


class TakenInOut(BaseModel):
    """What was taken in. told: what could not be taken as it was, in words."""

    class One(BaseModel):
        id: str
        reference: str

    inspections: list[One]
    entries: int
    photos: int
    told: list[str]


def _inspection(request: Request, inspection_id: str) -> tuple[Inspection, Person]:
    """The inspection as the person may see it."""
    with work(request, only_reads=True) as (connection, me):
        kept = inspections.load(connection, inspection_id, me.firm_id)
        if kept is None:
            raise not_found()
        return assemble(blind.seen(connection, kept, me).kept), me


@router.get("/inspections/{inspection_id}/document.json", response_class=Response)
def as_document(request: Request, inspection_id: str) -> Response:
    """The inspection as a document (docs/inspection.schema.json)."""
    inspection, _ = _inspection(request, inspection_id)
    text = json.dumps(document.write(inspection), ensure_ascii=False, indent=1)
    return download(text, f"{inspection.reference or 'inspection'}.json", "application/json")


@router.get("/inspections/{inspection_id}/circuits.xlsx", response_class=Response)
def as_workbook(request: Request, inspection_id: str) -> Response:
    """Circuits, observations and points as a workbook."""
    inspection, _ = _inspection(request, inspection_id)
    return download(workbook.write(inspection), f"circuits-{inspection.reference or 'chart'}.xlsx", _XLSX)


@router.get("/inspections/{inspection_id}/inspection.zip", response_class=Response)
async def as_archive(request: Request, inspection_id: str) -> Response:
    """The whole inspection: document, tables, photos, and every paper that was issued."""
    inspection, me = await run_in_threadpool(_inspection, request, inspection_id)

    def packed() -> Iterator[bytes]:
        archive = Archive()
        with snapshots(request.app.state.engine).begin() as connection:
            yield from transfer.of_inspection(connection, request.app.state.photos, me, inspection_id, archive.put)
        yield archive.end()

    return stream(packed(), f"{inspection.reference or 'inspection'}.zip", "application/zip")


@router.get("/firm/export.zip", response_class=Response)
async def firm_archive(request: Request) -> Response:
    """Everything of the firm: register, rules, every inspection with its photos and papers."""

    def who() -> tuple[Person, str]:
        with work(request, "export data") as (connection, me):
            note(request, connection, me, "data exported", "the firm")
            return me, people.firm_details(connection, me.firm_id)["name"]

    me, name = await run_in_threadpool(who)

    def packed() -> Iterator[bytes]:
        archive = Archive()
        with snapshots(request.app.state.engine).begin() as connection:
            yield from transfer.of_firm(connection, request.app.state.photos, me, archive.put)
        yield archive.end()

    return stream(packed(), f"{name}.zip", "application/zip")


@router.post(
    "/import",
    responses={413: {"model": Problem}, 422: {"model": Problem}},
    openapi_extra={"requestBody": {"content": _A_FILE, "required": True}},
)
async def take_in(request: Request) -> TakenInOut:
    """Take an archive or the document of an inspection in, beside what is there; each inspection gets what it needs to
    be one of this firm's."""

    def who() -> Person:
        with work(request, "settle house rules") as (_, me):
            return me

    me = await run_in_threadpool(who)
    pool: FairPool = request.app.state.exporting
    with tempfile.SpooledTemporaryFile(max_size=1_000_000) as file:
        size = 0
        async for part in request.stream():
            size += len(part)
            if size > _LARGEST:
                raise ProblemError(413, "too-large", _TOO_LARGE)
            file.write(part)
        file.seek(0)
        try:
            engine, store = request.app.state.engine, request.app.state.photos
            taken_in = await pool.run(me.id, lambda: transfer.take_in(engine, store, me, file, subprocess_reader.make))
        except transfer.UnreadableArchive as error:
            fields = [{"field": "file", "message": str(error)}]
            raise ProblemError(422, "invalid", str(error), fields=fields) from None

    def noted() -> None:
        with work(request) as (connection, _):
            note(request, connection, me, "data taken in", inspections=len(taken_in.inspections))

    await run_in_threadpool(noted)
    return TakenInOut(
        inspections=[TakenInOut.One(id=one, reference=reference) for one, reference in taken_in.inspections],
        entries=taken_in.entries, photos=taken_in.photos, told=taken_in.told[:200],
    )  # fmt: skip


@router.get("/calendar.ics", response_class=Response)
def as_calendar(request: Request) -> Response:
    """Visits, legal dates and next inspections for any calendar program."""
    with work(request) as (connection, me):
        entries = firm_calendar.of_firm(connection, me.firm_id, now().date())
    return download(calendar.write(me.firm_name, entries, now()), "dorrik.ics", "text/calendar")
