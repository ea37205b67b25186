"""Earlier papers: reading a file, matching its columns, and carrying boards and circuits over into an inspection."""

from dataclasses import asdict
from datetime import UTC, date, datetime

from fastapi import Query, Request
from sqlalchemy import Connection
from starlette.concurrency import run_in_threadpool

from dorrik.api.common_types import Problem
from dorrik.api.once import do_once
from dorrik.api.problems import RESPONSES, ProblemError, not_found
from dorrik.api.register_types import (
    CarriedOut,
    CarryIn,
    ChartIn,
    ChartOut,
    ChartRowOut,
    FoundOut,
    PaperOut,
    PaperTable,
    TargetOut,
)
from dorrik.api.routing import router as make_router
from dorrik.api.work import work
from dorrik.core.basics.text import shown
from dorrik.core.inspection import document
from dorrik.core.inspection.document import DocumentError
from dorrik.core.inspection.kept_inspection import assemble
from dorrik.core.inspection.kinds import compared
from dorrik.core.inspection.records import Inspection
from dorrik.core.work import carry_over, chart
from dorrik.core.work.carry_over import CarriedDraft
from dorrik.core.work.table_heads import head_row
from dorrik.journal.carry import Halfway, carry
from dorrik.journal.change import Author
from dorrik.report import papers, subprocess_reader
from dorrik.store.database.engine import new_id
from dorrik.store.inspections import inspections
from dorrik.store.people.people import Person

router = make_router("/api", "papers", {**RESPONSES, 422: {"model": Problem}})

#: Rows of a table that go to the screen: more are no chart of a home, which the matching then says.
SHOWN_ROWS = 2000


def _signed_in(request: Request) -> None:
    with work(request):
        return


def _wrong(message: str, field: str = "file") -> ProblemError:
    return ProblemError(422, "invalid", message, fields=[{"field": field, "message": message}])


def _content(inspection: Inspection) -> FoundOut:
    circuits = [circuit for board in inspection.boards for circuit in board.circuits]
    return FoundOut(
        reference=inspection.reference,
        property_address=inspection.property_address,
        inspected_on=inspection.inspected_on,
        boards=[board.name or "Board" for board in inspection.boards],
        circuits=len(circuits),
        readings=sum(getattr(circuit, figure) is not None for circuit in circuits for figure in compared("circuit")),
    )


async def read_upload(request: Request, name: str) -> papers.Paper:
    """A file that comes as the request's body, read apart. Raises ProblemError."""
    data = bytearray()
    async for part in request.stream():
        data += part
        if len(data) > papers.LARGEST:
            raise ProblemError(413, "too-large", f"Files of at most {papers.LARGEST // 1_000_000} MB are read.")
    try:
        return await subprocess_reader.read(bytes(data), name, request.is_disconnected)
    except papers.UnreadablePaper as error:
        raise _wrong(str(error)) from None
    except subprocess_reader.Gone:
        # Nobody reads this.
        raise _wrong("The upload was broken off.") from None


#: A file as the body of a request.
A_FILE = {
    "requestBody": {
        "content": {"application/octet-stream": {"schema": {"type": "string", "format": "binary"}}},
        "required": True,
    }
}


@router.post("/papers", openapi_extra=A_FILE)
async def read(request: Request, name: str = Query(max_length=200)) -> PaperOut:
    """What an uploaded file holds. Nothing is kept: what is to be taken over is sent back with the matching."""
    await run_in_threadpool(_signed_in, request)
    paper = await read_upload(request, name)
    tables = []
    for table in paper.tables:
        head = head_row(table.rows, chart.guess)
        tables.append(
            PaperTable(
                sheet=table.sheet,
                rows=[list(row) for row in table.rows[:SHOWN_ROWS]],
                head=head,
                columns=list(chart.guess(table.rows[head])),
            )
        )
    return PaperOut(
        name=shown(name),
        cleaned=paper.cleaned,
        found=_content(paper.inspection) if paper.inspection else None,
        document=paper.document,
        tables=tables,
        targets=[TargetOut(key=target.key, label=target.label) for target in chart.TARGETS],
    )


def _lines(given: ChartIn) -> tuple[chart.ChartRow, ...]:
    try:
        return chart.read(given.rows, given.columns, given.first)
    except ValueError as error:
        raise _wrong(str(error), "columns") from None


@router.post("/papers/chart")
def preview(request: Request, given: ChartIn) -> ChartOut:
    """The rows of a table as they would be taken over, with what is wrong in them."""
    with work(request):
        lines = _lines(given)
    return ChartOut(
        lines=[ChartRowOut.model_validate(asdict(line)) for line in lines], sound=sum(not line.wrong for line in lines)
    )


@router.post("/inspections/{inspection_id}/carry-over", status_code=201, responses={409: {"model": Problem}})
def carry_into(request: Request, inspection_id: str, given: CarryIn) -> CarriedOut:
    """Carry boards and circuits over, all of them or none; everything stands unconfirmed until it was seen.

    The same sent twice, or from two devices at once, is carried over once.
    """
    with work(request) as (connection, me):
        if inspections.sequence(connection, inspection_id, me.firm_id) is None:
            raise not_found()
    asked = (inspection_id, given.model_dump())
    return CarriedOut(
        **do_once(request, me, "carry over", asked, lambda c: _carried(c, me, inspection_id, given).model_dump())
    )


def _carried(connection: Connection, me: Person, inspection_id: str, given: CarryIn) -> CarriedOut:
    source, origin, drafts = _drafts(connection, me, inspection_id, given)
    if not any(draft.kind in ("board", "circuit") for draft in drafts):
        raise _wrong("There is no board or circuit in it to carry over.")
    origin = origin | {"carried_from": source[:200]}
    try:
        applied = carry(connection, me.firm_id, Author(me.id, me.role), inspection_id, origin, drafts)
    except Halfway as error:
        raise _wrong(f"Nothing was copied: {error}") from None
    if applied is None:
        raise not_found()
    return CarriedOut(seq=applied.kept.seq, boards=_count(drafts, "board"), circuits=_count(drafts, "circuit"))


def _drafts(
    connection: Connection, me: Person, inspection_id: str, given: CarryIn
) -> tuple[str, dict[str, object], list[CarriedDraft]]:
    """Where it comes from, fields of the inspection itself, and what is to be made."""
    if given.chart is not None:
        source = given.source or "Chart"
        measured_on = _day(given.measured_on)
        return source, {}, list(chart.drafts(_lines(given.chart), inspection_id, new_id, source, measured_on))
    if given.document is not None:
        try:
            earlier = document.parse(given.document, datetime.now(UTC))
        except DocumentError as error:
            raise _wrong(shown(str(error)), "document") from None
    else:
        if given.inspection_id == inspection_id:
            raise _wrong("An inspection is not copied into itself.", "inspection_id")
        kept = inspections.load(connection, given.inspection_id or "", me.firm_id)
        if kept is None:
            raise not_found()
        earlier = assemble(kept)
    source = given.source or f"Report {earlier.reference or ''} of {earlier.inspected_on or 'no date'}"
    return source, carry_over.origin(earlier), list(carry_over.drafts(earlier, inspection_id, new_id, source))


def _count(drafts: list[CarriedDraft], kind: str) -> int:
    return len({draft.id for draft in drafts if draft.kind == kind})


def _day(text: str | None) -> str | None:
    try:
        return date.fromisoformat(text).isoformat() if text else None
    except ValueError:
        raise _wrong("The day of the figures: enter a date, such as 2026-11-29.", "measured_on") from None
