"""What is kept of somebody: to be told, to be taken along, and to be erased once its time is over."""

import itertools
import json
from collections.abc import Iterator
from typing import Any

from fastapi import Request, Response
from pydantic import BaseModel
from sqlalchemy import Connection, Engine
from starlette.concurrency import run_in_threadpool

from dorrik.api.archive import Archive
from dorrik.api.common_types import Problem
from dorrik.api.fair_pool import FairPool
from dorrik.api.files import stream
from dorrik.api.problems import RESPONSES, ProblemError, not_found
from dorrik.api.routing import router as make_router
from dorrik.api.work import note, work
from dorrik.core.work.workflow import Action
from dorrik.journal import blind
from dorrik.store.data_protection import erasing, exporting, forgetting, retention
from dorrik.store.database.engine import now
from dorrik.store.files.photos import PhotoStore
from dorrik.store.people import people
from dorrik.store.people.people import Person
from dorrik.store.register import register
from dorrik.store.reports import remedials, reports

router = make_router("/api", "data protection", {**RESPONSES, 403: {"model": Problem}})
_ZIP: dict[int | str, dict[str, Any]] = {200: {"content": {"application/zip": {}}}}


class KeptOut(BaseModel):
    """What is kept of a client, and from when on it may be erased; reports_until: the reports stay longer."""

    properties: int
    jobs: int
    inspections: int
    reports: int
    photos: int
    last_work: str | None
    erasable_from: str | None
    reports_until: str | None


class ErasedOut(BaseModel):
    """What an erasure took."""

    values: int
    lines: int
    reports: int
    photos: int


def _client(connection: Connection, firm_id: str, client_id: str) -> register.RegisterRecord:
    entry = register.get(connection, firm_id, "client", client_id)
    if entry is None:
        raise not_found("client")
    return entry


@router.get("/clients/{client_id}/kept")
def kept(request: Request, client_id: str) -> KeptOut:
    """What is kept of a client."""
    with work(request, "export data") as (connection, me):
        _client(connection, me.firm_id, client_id)
        kept_item = retention.kept(connection, me.firm_id, client_id)

    def day(value: Any) -> str | None:
        return value.isoformat() if value else None

    return KeptOut(
        properties=kept_item.properties,
        jobs=kept_item.jobs,
        inspections=kept_item.inspections,
        reports=kept_item.reports,
        photos=kept_item.photos,
        last_work=day(kept_item.last_work),
        erasable_from=day(kept_item.erasable_from),
        reports_until=day(kept_item.reports_until),
    )


@router.get("/clients/{client_id}/export.zip", response_class=Response, responses=_ZIP)
async def export_client(request: Request, client_id: str) -> Response:
    """Everything of a client: register and inspections with their histories as JSON, photos, every report issued.

    Packed while it is sent, photo by photo and report by report: it takes neither memory nor disk however much there
    is. What is known of the client is gathered first, for one a person at a time.
    """
    me = await run_in_threadpool(_who_may, request, "export data")
    pool: FairPool = request.app.state.exporting
    name, data = await pool.run(me.id, lambda: _gathered(request, client_id))
    packed = _client_packed(request.app.state.engine, request.app.state.photos, me.firm_id, data)
    return stream(packed, f"{name}.zip", "application/zip")


def _who_may(request: Request, action: Action) -> Person:
    with work(request, action) as (_, me):
        return me


def _gathered(request: Request, client_id: str) -> tuple[str, dict[str, Any]]:
    """The client's name, and what is kept of them as data."""
    with work(request, "export data") as (connection, me):
        entry = _client(connection, me.firm_id, client_id)
        data = exporting.of_client(connection, me.firm_id, client_id)
        for inspection in data["inspections"]:
            _mask(inspection["journal"], "id", blind.waiting(connection, inspection["id"], me))
        note(request, connection, me, "data exported", f"client {client_id}")
    return entry.values.get("name") or "client", data


def _client_packed(engine: Engine, photos: PhotoStore, firm_id: str, data: dict[str, Any]) -> Iterator[bytes]:
    """The archive of a client, part by part."""
    archive = Archive()
    yield from archive.add("data.json", _json_parts(data))
    # Once, however many inspections show it.
    for sha256 in dict.fromkeys(sha256 for inspection in data["inspections"] for sha256 in inspection["photos"]):
        photo = photos.get(firm_id, sha256)
        if photo is not None:
            yield from archive.add(f"photos/{sha256}", [photo], packed=False)
    for report in (report for inspection in data["inspections"] for report in inspection["reports"]):
        with engine.connect() as connection:
            frozen = reports.frozen_pdf(connection, report["id"], firm_id)
        if frozen is not None:
            yield from archive.add(f"reports/{report['id']}.pdf", [frozen[1]], packed=False)
    for inspection in data["inspections"]:
        for file in (file for step in inspection["remedials"] for file in step["files"]):
            with engine.connect() as connection:
                kept_file = remedials.content(connection, inspection["id"], file["id"])
            if kept_file is not None:
                end = "pdf" if kept_file[0].media_type == "application/pdf" else "jpg"
                yield from archive.add(f"evidence/{file['id']}.{end}", [kept_file[1]], packed=False)
    yield archive.end()


@router.get("/people/{person_id}/export.zip", response_class=Response, responses=_ZIP)
async def export_person(request: Request, person_id: str) -> Response:
    """Everything of one of the firm's own people."""

    def gathered() -> tuple[str, dict[str, Any]]:
        with work(request, "manage people") as (connection, me):
            colleague = people.colleague(connection, me.firm_id, person_id)
            if colleague is None:
                raise not_found("person")
            data = exporting.of_person(connection, me.firm_id, person_id)
            waiting = {
                one: blind.waiting(connection, one, me) for one in {line["inspection_id"] for line in data["changes"]}
            }
            for line in data["changes"]:
                _mask([line], "entity_id", waiting[line.pop("inspection_id")])
            note(request, connection, me, "data exported", colleague.email)
        return colleague.name, data

    def packed(data: dict[str, Any]) -> Iterator[bytes]:
        archive = Archive()
        yield from archive.add("data.json", _json_parts(data))
        yield archive.end()

    me = await run_in_threadpool(_who_may, request, "manage people")
    pool: FairPool = request.app.state.exporting
    name, data = await pool.run(me.id, gathered)
    return stream(packed(data), f"{name}.zip", "application/zip")


def _mask(lines: list[dict[str, Any]], name: str, waiting: frozenset[str]) -> None:
    """Leave empty what waits for the second opinion of whoever takes it along. name: of the id in a line."""
    for line in lines:
        if blind.is_hidden(waiting, line[name], line["field"]):
            line |= {key: None for key in ("value", "before") if key in line}


def _json_parts(data: Any) -> Iterator[bytes]:
    """Data as JSON text in small parts: others are served between them."""
    parts = json.JSONEncoder(ensure_ascii=False, indent=1).iterencode(data)
    while part := "".join(itertools.islice(parts, 5_000)):
        yield part.encode()


@router.post("/clients/{client_id}/erase", responses={409: {"model": Problem}})
def erase(request: Request, client_id: str) -> ErasedOut:
    """Erase a client, once the firm's time for keeping is over. What was there cannot be had back."""
    with work(request, "erase data") as (connection, me):
        _client(connection, me.firm_id, client_id)
        try:
            done = erasing.erase(connection, me.firm_id, client_id, now().date())
            erasing.remove_strays(connection, me.firm_id, request.app.state.photos)
        except retention.TooEarly as error:
            years, _ = retention.years(connection, me.firm_id)
            message = (
                f"Your firm keeps this until {error.until:%-d %B %Y}, {years} years after the last work. "
                "Nothing was erased."
            )
            raise ProblemError(409, "too-early", message) from None
        note(request, connection, me, "data erased", f"client {client_id}", values=done.values, reports=done.reports)
    erasing.remove_photos(request.app.state.engine, request.app.state.photos)
    request.app.state.drafts.forget(done.inspections)
    forgetting.forget(request.app.state.remembered)
    return ErasedOut(values=done.values, lines=done.lines, reports=done.reports, photos=len(done.photos))
