"""Readings stored in an instrument: a file of them beside the figures that they belong to. Nothing is kept by it."""

from dataclasses import asdict
from typing import Literal

from fastapi import Query, Request
from pydantic import BaseModel
from starlette.concurrency import run_in_threadpool

from dorrik.api.common_types import Problem
from dorrik.api.papers import A_FILE, read_upload
from dorrik.api.problems import RESPONSES, ProblemError, not_found
from dorrik.api.routing import router as make_router
from dorrik.api.work import work
from dorrik.core.inspection.kept_inspection import assemble
from dorrik.core.inspection.records import Inspection
from dorrik.core.work import stored_readings
from dorrik.store.inspections import inspections

router = make_router("/api", "papers", {**RESPONSES, 422: {"model": Problem}})


class StoredOut(BaseModel):
    """A line of the file: its number, its words, the figure it belongs to and the text that this takes; why: where it
    is wrong, or what stands there."""

    row: int
    says: str
    entity: str
    entity_id: str
    field: str
    text: str
    at: str | None
    state: Literal["new", "same", "other", "wrong"]
    why: str


@router.post("/inspections/{inspection_id}/stored-readings", openapi_extra=A_FILE)
async def read(request: Request, inspection_id: str, name: str = Query(default="", max_length=200)) -> list[StoredOut]:
    """What an uploaded file of stored readings holds, matched to the inspection as it stands."""
    inspection = await run_in_threadpool(_inspection, request, inspection_id)
    paper = await read_upload(request, name)
    rows = paper.tables[0].rows if paper.tables else ()
    try:
        lines = await run_in_threadpool(stored_readings.match, inspection, rows)
    except ValueError as error:
        raise ProblemError(422, "invalid", str(error), fields=[{"field": "file", "message": str(error)}]) from None
    return [StoredOut(**asdict(line)) for line in lines]


def _inspection(request: Request, inspection_id: str) -> Inspection:
    with work(request, only_reads=True) as (connection, me):
        kept = inspections.load(connection, inspection_id, me.firm_id)
        if kept is None:
            raise not_found()
        return assemble(kept)
