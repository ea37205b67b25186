"""The firm's own catalogue: entries made or changed one by one, or taken from a table and given out as one."""

from typing import Any

from fastapi import Query, Request, Response
from sqlalchemy import Connection
from starlette.concurrency import run_in_threadpool

from dorrik.api.coding_types import FirmCatalogue, OwnEntryIn, OwnEntryOut, TakenOut
from dorrik.api.common_types import Problem
from dorrik.api.files import download
from dorrik.api.papers import A_FILE, read_upload
from dorrik.api.problems import RESPONSES, ProblemError, not_found
from dorrik.api.routing import router as make_router
from dorrik.api.work import note, work
from dorrik.core.book import catalogue
from dorrik.core.judging.wire.judgement import catalogue_view
from dorrik.core.work import workflow
from dorrik.report import catalogue_table
from dorrik.store.firm import own_entries
from dorrik.store.people.people import Person

router = make_router("/api/firm/catalogue", "firm", {**RESPONSES, 422: {"model": Problem}})


def _whole(connection: Connection, me: Person) -> FirmCatalogue:
    kept = own_entries.kept(connection, me.firm_id)
    built_in = set(catalogue.entries())
    with catalogue.with_own([entry.says for entry in kept]):
        entries = [catalogue_view(catalogue_entry) for catalogue_entry in catalogue.entries().values()]
    return FirmCatalogue(
        entries=entries,
        own=[
            OwnEntryOut(
                key=entry.says["key"],
                says={name: text for name, text in entry.says.items() if name != "key"},
                author=entry.author,
                made_at=entry.made_at,
                built_in=entry.says["key"] in built_in,
            )
            for entry in kept
        ],
        may_settle=workflow.may(me.role, "settle house rules"),
    )


@router.get("")
def whole(request: Request) -> FirmCatalogue:
    """The catalogue as inspections begun from now on have it."""
    with work(request) as (connection, me):
        return _whole(connection, me)


@router.put("/{key}")
def keep(request: Request, key: str, given: OwnEntryIn) -> FirmCatalogue:
    """Make an entry, or change what a built-in one says. Inspections that were begun keep what they had."""
    with work(request, "settle house rules") as (connection, me):
        values = {name: text for name, text in given.model_dump().items() if text}
        try:
            entry = catalogue.check({"key": key[:80], **values})
            own_entries.keep(connection, me.firm_id, me.id, [entry])
        except catalogue.UnfitEntry as error:
            raise _at(error.field, str(error)) from None
        except own_entries.TooManyEntries as error:
            raise _at("key", str(error)) from None
        note(request, connection, me, "catalogue changed", key)
        return _whole(connection, me)


@router.delete("/{key}")
def withdraw(request: Request, key: str) -> FirmCatalogue:
    """Take an entry out, or let a built-in one say again what it said."""
    with work(request, "settle house rules") as (connection, me):
        if not own_entries.withdraw(connection, me.firm_id, me.id, key[:80]):
            raise not_found("entry")
        note(request, connection, me, "catalogue changed", key)
        return _whole(connection, me)


@router.get("/own.csv", response_class=Response, responses={200: {"content": {"text/csv": {}}}})
def table(request: Request) -> Response:
    """The whole catalogue as a table; what begins like a formula is written as text."""
    with work(request) as (connection, me):
        kept = own_entries.in_force(connection, me.firm_id)
    with catalogue.with_own(kept):
        text = catalogue_table.write(catalogue.entries().values())
    return download("\ufeff" + text, "catalogue.csv", "text/csv")


@router.post("/table", openapi_extra=A_FILE)
async def take(request: Request, name: str = Query(default="table.csv", max_length=200)) -> TakenOut:
    """Take entries from a table (CSV or a workbook): each line is an entry; what a built-in one says already is left
    out. With anything wrong nothing is taken, and each line says what."""
    await run_in_threadpool(_may_settle, request)
    paper = await read_upload(request, name)
    entries, wrong = catalogue_table.read(paper.tables)
    return await run_in_threadpool(_take, request, entries, wrong)


def _may_settle(request: Request) -> None:
    with work(request, "settle house rules"):
        return


def _take(request: Request, entries: list[dict[str, str]], wrong: list[dict[str, Any]]) -> TakenOut:
    with work(request, "settle house rules") as (connection, me):
        changed = 0
        if not wrong:
            try:
                changed = own_entries.keep(connection, me.firm_id, me.id, entries)
            except own_entries.TooManyEntries as error:
                raise _at("file", str(error)) from None
            note(request, connection, me, "catalogue changed", f"{changed} from a file")
        return TakenOut(entries=len(entries), changed=changed, wrong=wrong, catalogue=_whole(connection, me))


def _at(field: str, message: str) -> ProblemError:
    return ProblemError(422, "invalid", message, fields=[{"field": field, "message": message}])
