"""What is kept of somebody: to be told, to be taken along, and to be erased once its time is over."""

import io
import json
import tempfile
import zipfile
from typing import Any

from fastapi import Request, Response
from pydantic import BaseModel
from sqlalchemy import Connection

from dorrik.api.common_types import Problem
from dorrik.api.files import download, stream
from dorrik.api.problems import RESPONSES, ProblemError, not_found
from dorrik.api.routing import router as make_router
from dorrik.api.work import note, work
from dorrik.journal import blind
from dorrik.store import erasing, exporting, forgetting, people, register, reports, retention
from dorrik.store.engine import now

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


def _client(connection: Connection, firm_id: str, client_id: str) -> register.Entry:
    found = register.get(connection, firm_id, "client", client_id)
    if found is None:
        raise not_found("client")
    return found


@router.get("/clients/{client_id}/kept")
def kept(request: Request, client_id: str) -> KeptOut:
    """What is kept of a client."""
    with work(request, "export data") as (connection, me):
        _client(connection, me.firm_id, client_id)
        found = retention.kept(connection, me.firm_id, client_id)

    def day(value: Any) -> str | None:
        return value.isoformat() if value else None

    return KeptOut(
        properties=found.properties,
        jobs=found.jobs,
        inspections=found.inspections,
        reports=found.reports,
        photos=found.photos,
        last_work=day(found.last_work),
        erasable_from=day(found.erasable_from),
        reports_until=day(found.reports_until),
    )


@router.get("/clients/{client_id}/export.zip", response_class=Response, responses=_ZIP)
def export_client(request: Request, client_id: str) -> Response:
    """Everything of a client: register and inspections with their histories as JSON, photos, every report issued.

    Written to a file on the disk, photo by photo and report by report, and sent from there: it takes no memory however
    much there is.
    """
    packed_file = tempfile.TemporaryFile(prefix="dorrik-export-")  # noqa: SIM115 - sent and closed after this returns
    try:
        with work(request, "export data") as (connection, me):
            found = _client(connection, me.firm_id, client_id)
            data = exporting.of_client(connection, me.firm_id, client_id)
            for one in data["inspections"]:
                _mask(one["journal"], "id", blind.waiting(connection, one["id"], me))
            photos = dict.fromkeys(sha256 for one in data["inspections"] for sha256 in one["photos"])
            with zipfile.ZipFile(packed_file, "w", zipfile.ZIP_DEFLATED) as packed:
                packed.writestr("data.json", _json(data))
                # Once, however many inspections show it.
                for sha256 in photos:
                    photo = request.app.state.photos.get(me.firm_id, sha256)
                    if photo is not None:
                        packed.writestr(f"photos/{sha256}", photo, zipfile.ZIP_STORED)
                for report in (report for one in data["inspections"] for report in one["reports"]):
                    frozen = reports.frozen_pdf(connection, report["id"], me.firm_id)
                    if frozen is not None:
                        packed.writestr(f"reports/{report['id']}.pdf", frozen[1], zipfile.ZIP_STORED)
            note(request, connection, me, "data exported", f"client {client_id}")
    except BaseException:
        packed_file.close()
        raise
    return stream(packed_file, f"{found.values.get('name') or 'client'}.zip", "application/zip")


@router.get("/people/{person_id}/export.zip", response_class=Response, responses=_ZIP)
def export_person(request: Request, person_id: str) -> Response:
    """Everything of one of the firm's own people."""
    with work(request, "manage people") as (connection, me):
        found = people.colleague(connection, me.firm_id, person_id)
        if found is None:
            raise not_found("person")
        data = exporting.of_person(connection, me.firm_id, person_id)
        for one in {line["inspection_id"] for line in data["changes"]}:
            _mask(data["changes"], "entity_id", blind.waiting(connection, one, me))
        for line in data["changes"]:
            del line["inspection_id"]
        note(request, connection, me, "data exported", found.email)
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as packed:
        packed.writestr("data.json", _json(data))
    return download(out.getvalue(), f"{found.name}.zip", "application/zip")


def _mask(lines: list[dict[str, Any]], name: str, waiting: frozenset[str]) -> None:
    """Leave empty what waits for the second opinion of whoever takes it along. name: of the id in a line."""
    for line in lines:
        if blind.is_hidden(waiting, line[name], line["field"]):
            line |= {key: None for key in ("value", "before") if key in line}


def _json(data: Any) -> str:
    return json.dumps(data, ensure_ascii=False, indent=1)


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
