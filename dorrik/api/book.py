"""The firm's book: clients, properties, installations, jobs, instruments and lead sets; and the search over all."""

from collections.abc import Iterator
from contextlib import contextmanager
from datetime import timedelta
from typing import Annotated

from fastapi import Query, Request
from sqlalchemy import Connection

from dorrik.api.book_types import (
    BeginningOut,
    BookedOut,
    BookEntry,
    BookEntryIn,
    CalibrationOut,
    ClientOut,
    EntryPage,
    FieldsIn,
    HitOut,
    InstrumentOut,
    InstrumentsOut,
    JobOut,
    Kind,
    LeadSetOut,
    PastOut,
    PropertyOut,
    WrittenOut,
)
from dorrik.api.problems import RESPONSES, ProblemError, not_found
from dorrik.api.rates import estimate_of
from dorrik.api.routing import router as make_router
from dorrik.api.schemas import Problem
from dorrik.api.work import work
from dorrik.core import workflow
from dorrik.core.beginning import from_job
from dorrik.core.instruments import judge_calibration
from dorrik.core.numbering import FIRST_JOB, following
from dorrik.store import book, lead_sets, search
from dorrik.store.book import Entry
from dorrik.store.engine import again_after_deadlock, now
from dorrik.store.firm_rules import rules

router = make_router("/api", "book", {**RESPONSES, 422: {"model": Problem}})

#: Booked visits of the coming days stand on the home screen.
SOON = timedelta(days=7)


def _shown(entry: Entry) -> BookEntry:
    return BookEntry.model_validate(entry, from_attributes=True)


@contextmanager
def _refusals() -> Iterator[None]:
    """Fields that cannot be kept, each with its reason, as a Problem."""
    try:
        yield
    except book.Refused as error:
        fields = [{"field": name, "message": why} for name, why in error.fields.items()]
        raise ProblemError(422, "invalid", str(error), fields=fields) from None


def _there(entry: Entry | None, kind: str) -> Entry:
    if entry is None:
        raise not_found(kind)
    return entry


@router.get("/search")
def find(request: Request, text: str = Query(max_length=200)) -> list[HitOut]:
    """Clients, properties, jobs and inspections that hold every word of the text in any part of a word."""
    with work(request) as (connection, me):
        hits = search.find(connection, me.firm_id, text)
    return [HitOut.model_validate(hit, from_attributes=True) for hit in hits]


@router.get("/booked")
def booked(request: Request) -> list[BookedOut]:
    """Jobs that are booked for the coming week, and those whose day has gone by."""
    with work(request) as (connection, me):
        found = book.booked(connection, me.firm_id, now().date() + SOON)
    return [BookedOut(job=_shown(job), property=_shown(home)) for job, home in found]


_Start = Annotated[int, Query(ge=0, le=10_000_000)]


@router.get("/clients")
def clients(request: Request, start: _Start = 0) -> EntryPage:
    """The firm's clients by name, a page at a time."""
    with work(request) as (connection, me):
        found, count = book.page(connection, me.firm_id, "client", start=start)
    return EntryPage(entries=[_shown(one) for one in found], count=count)


@router.get("/clients/{entry_id}")
def client(request: Request, entry_id: str, start: _Start = 0) -> ClientOut:
    """A client with their properties by address, a page at a time."""
    with work(request) as (connection, me):
        found = _there(book.get(connection, me.firm_id, "client", entry_id), "client")
        homes, count = book.page(connection, me.firm_id, "property", entry_id, start)
    return ClientOut(client=_shown(found), properties=[_shown(home) for home in homes], count=count)


@router.get("/properties/{entry_id}")
def home(request: Request, entry_id: str) -> PropertyOut:
    """A property with its installations, jobs and inspections."""
    with work(request) as (connection, me):
        found = _there(book.get(connection, me.firm_id, "property", entry_id), "property")
        owner = _there(book.get(connection, me.firm_id, "client", found.parent_id), "client")
        return PropertyOut(
            property=_shown(found),
            client=_shown(owner),
            installations=[_shown(one) for one in book.entries(connection, me.firm_id, "installation", entry_id)],
            jobs=[_shown(one) for one in book.entries(connection, me.firm_id, "job", entry_id)],
            inspections=_past(connection, me.firm_id, entry_id),
            next_number=following(book.latest_number(connection, me.firm_id), FIRST_JOB),
        )


def _past(connection: Connection, firm_id: str, property_id: str) -> list[PastOut]:
    return [
        PastOut(
            id=row.id,
            reference=row.reference,
            inspected_on=row.inspected_on.isoformat() if row.inspected_on else None,
            outcome=row.declared_outcome,
            installation=row.installation_name,
            job_id=row.job_id,
            on_hold=row.held_at is not None,
            return_on=row.return_on.isoformat() if row.return_on else None,
        )
        for row in book.inspections_of(connection, firm_id, property_id)
    ]


@router.get("/jobs/{entry_id}")
def job(request: Request, entry_id: str) -> JobOut:
    """A job with where and for whom it is, what was begun for it, and its estimate."""
    with work(request) as (connection, me):
        found = _there(book.get(connection, me.firm_id, "job", entry_id), "job")
        where = _there(book.get(connection, me.firm_id, "property", found.parent_id), "property")
        owner = _there(book.get(connection, me.firm_id, "client", where.parent_id), "client")
        parts = book.entries(connection, me.firm_id, "installation", where.id)
        firm_book, _ = rules(connection, me.firm_id)
        return JobOut(
            job=_shown(found),
            property=_shown(where),
            client=_shown(owner),
            installations=[_shown(one) for one in parts],
            inspections=[one for one in _past(connection, me.firm_id, where.id) if one.job_id == entry_id],
            estimate=estimate_of(connection, me.firm_id, found),
            instruments=_instruments(connection, me.firm_id, found.values.get("booked_on")),
            beginnings=[_beginning(connection, found, where, owner, one, firm_book) for one in parts or [None]],
        )


def _beginning(
    connection: Connection, job: Entry, where: Entry, owner: Entry, part: Entry | None, firm_book: str | None
) -> BeginningOut:
    values = [one.values | {"id": one.id} for one in (job, where, owner)]
    installation = None if part is None else part.values | {"id": part.id}
    begun = from_job(*values, installation, firm_book)
    inspection_id = book.beginning_id(connection, owner.parent_id, job.id, part and part.id)
    common = book.derived_id(inspection_id, "limitations")
    return BeginningOut(
        inspection_id=inspection_id,
        installation_id=part and part.id,
        name=str((installation or {}).get("name") or ""),
        fields=begun.fields,
        limitations=[
            # In the order in which they were agreed: ids sort as they are made.
            {"id": f"{common[:-4]}{at:04x}", **one}
            for at, one in enumerate(begun.limitations)
        ],
    )


def _instruments(connection: Connection, firm_id: str, on: str | None = None) -> list[InstrumentOut]:
    found = []
    for one in book.entries(connection, firm_id, "instrument"):
        verdict = judge_calibration(one.values.get("calibration_due"), on)
        calibration = CalibrationOut(status=verdict.status, reason=verdict.reason)
        found.append(InstrumentOut(entry=_shown(one), calibration=calibration))
    return found


@router.get("/instruments")
def instruments(request: Request) -> InstrumentsOut:
    """The firm's instruments with their calibration, and its lead sets with what their nulls should read."""
    with work(request) as (connection, me):
        known = lead_sets.known(connection, me.firm_id)
        sets = []
        for one in book.entries(connection, me.firm_id, "leads"):
            mean, count = known.get(one.id, (one.values.get("known_ohm"), 0))
            sets.append(LeadSetOut(entry=_shown(one), known_ohm=mean, nulls=count))
        return InstrumentsOut(instruments=_instruments(connection, me.firm_id), lead_sets=sets)


@router.post("/book/{kind}", status_code=201)
def add(request: Request, kind: Kind, given: BookEntryIn) -> BookEntry:
    """Add an entry. The same id sent twice makes one entry."""

    def do() -> BookEntry:
        with work(request) as (connection, me), _refusals():
            made = book.add(connection, me.firm_id, me.id, kind, given.parent_id, given.values, given.id)
            return _shown(_there(made, "place for it"))

    return again_after_deadlock(do)


@router.patch("/book/{kind}/{entry_id}")
def change(request: Request, kind: Kind, entry_id: str, given: FieldsIn) -> BookEntry:
    """Change fields of an entry, all or none."""

    def do() -> BookEntry:
        with work(request) as (connection, me), _refusals():
            found = book.change(connection, me.firm_id, me.id, kind, entry_id, given.values)
            return _shown(_there(found, kind))

    return again_after_deadlock(do)


@router.get("/book/{kind}/{entry_id}/history")
def entry_history(request: Request, kind: Kind, entry_id: str, field: str = Query(max_length=40)) -> list[WrittenOut]:
    """Who changed one field of an entry from what to what, newest first."""
    with work(request) as (connection, me):
        found = _there(book.get(connection, me.firm_id, kind, entry_id), kind)
        if found.values.get("removed") and not workflow.may(me.role, "erase data"):
            # What was taken out of the register is looked into by those who answer for keeping it.
            raise not_found(kind)
        written = book.history(connection, me.firm_id, kind, entry_id, field)
    return [WrittenOut.model_validate(one, from_attributes=True) for one in written]
