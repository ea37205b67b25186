"""The firm's register: clients, properties, installations, jobs, instruments and lead sets; and the search over all."""

from collections.abc import Iterator
from contextlib import contextmanager
from typing import Annotated

from fastapi import Query, Request
from sqlalchemy import Connection

from dorrik.api.common_types import Problem
from dorrik.api.problems import RESPONSES, ProblemError, not_found
from dorrik.api.register_types import (
    BeginningOut,
    CalibrationOut,
    ClientOut,
    EntryPage,
    EstimateOut,
    FieldsIn,
    HitOut,
    InstrumentOut,
    InstrumentsOut,
    JobDayOut,
    JobOut,
    Kind,
    LeadSetOut,
    NullOut,
    PartOut,
    PastOut,
    PropertyOut,
    RegisterEntry,
    RegisterEntryIn,
    WrittenOut,
)
from dorrik.api.routing import router as make_router
from dorrik.api.work import work
from dorrik.core.home.instruments import judge_calibration
from dorrik.core.inspection import former_names
from dorrik.core.work import workflow
from dorrik.office import estimates, job_day, jobs
from dorrik.office.estimates import Estimate
from dorrik.store.database.engine import again_after_deadlock, now
from dorrik.store.firm import numbers
from dorrik.store.register import lead_sets, register, search
from dorrik.store.register.register import RegisterRecord

router = make_router("/api", "register", {**RESPONSES, 422: {"model": Problem}})

#: Nulls of a lead set that are drawn.
NULLS_SHOWN = 60


def _shown(entry: RegisterRecord) -> RegisterEntry:
    return RegisterEntry.model_validate(entry, from_attributes=True)


@contextmanager
def _refusals() -> Iterator[None]:
    """Fields that cannot be kept, each with its reason, as a Problem."""
    try:
        yield
    except register.Refused as error:
        fields = [{"field": name, "message": why} for name, why in error.fields.items()]
        raise ProblemError(422, "invalid", str(error), fields=fields) from None


def _there(entry: RegisterRecord | None, kind: str) -> RegisterRecord:
    if entry is None:
        raise not_found(kind)
    return entry


@router.get("/search")
def find(request: Request, text: str = Query(max_length=200)) -> list[HitOut]:
    """Clients, properties, jobs and inspections that hold every word of the text in any part of a word."""
    with work(request) as (connection, me):
        hits = search.find(connection, me.firm_id, text)
    return [HitOut.model_validate(hit, from_attributes=True) for hit in hits]


_Start = Annotated[int, Query(ge=0, le=10_000_000)]


@router.get("/clients")
def clients(request: Request, start: _Start = 0) -> EntryPage:
    """The firm's clients by name, a page at a time."""
    with work(request) as (connection, me):
        entries, count = register.page(connection, me.firm_id, "client", start=start)
    return EntryPage(entries=[_shown(entry) for entry in entries], count=count)


@router.get("/clients/{entry_id}")
def client(request: Request, entry_id: str, start: _Start = 0) -> ClientOut:
    """A client with their properties by address, a page at a time."""
    with work(request) as (connection, me):
        entry = _there(register.get(connection, me.firm_id, "client", entry_id), "client")
        homes, count = register.page(connection, me.firm_id, "property", entry_id, start)
    return ClientOut(client=_shown(entry), properties=[_shown(home) for home in homes], count=count)


@router.get("/properties/{entry_id}")
def home(request: Request, entry_id: str) -> PropertyOut:
    """A property with its installations, jobs and inspections."""
    with work(request) as (connection, me):
        property_entry = _there(register.get(connection, me.firm_id, "property", entry_id), "property")
        owner = _there(register.get(connection, me.firm_id, "client", property_entry.parent_id), "client")
        return PropertyOut(
            property=_shown(property_entry),
            client=_shown(owner),
            installations=[
                _shown(entry) for entry in register.entries(connection, me.firm_id, "installation", entry_id)
            ],
            access_windows=[
                _shown(entry) for entry in register.entries(connection, me.firm_id, "access_window", entry_id)
            ],
            key_holders=[_shown(entry) for entry in register.entries(connection, me.firm_id, "key_holder")],
            jobs=[_shown(entry) for entry in register.entries(connection, me.firm_id, "job", entry_id)],
            inspections=_past(connection, me.firm_id, entry_id),
            next_number=numbers.next_job(connection, me.firm_id),
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
        for row in register.inspections_of(connection, firm_id, property_id)
    ]


@router.get("/jobs/{entry_id}")
def job(request: Request, entry_id: str) -> JobOut:
    """A job with where and for whom it is, what was begun for it, and its estimate."""
    with work(request) as (connection, me):
        file = jobs.open_file(connection, me.firm_id, entry_id)
        if file is None:
            raise not_found("job")
        past = _past(connection, me.firm_id, file.home.id)
        instruments = _instruments(connection, me.firm_id, file.job.values.get("booked_on"))
        due = tuple(
            str(instrument.entry.values.get("name") or "Instrument")
            for instrument in instruments
            if instrument.calibration.status == "fail" and not instrument.entry.values.get("retired")
        )
        today = now().date()
        return JobOut(
            job=_shown(file.job),
            property=_shown(file.home),
            client=_shown(file.client),
            installations=[_shown(entry) for entry in file.installations],
            inspections=[inspection for inspection in past if inspection.job_id == entry_id],
            estimate=_estimate(estimates.estimate(connection, me.firm_id, file.job)),
            instruments=instruments,
            beginnings=[
                BeginningOut.model_validate(start, from_attributes=True)
                for start in jobs.starts(connection, me.firm_id, file)
            ],
            day=JobDayOut.model_validate(
                job_day.of_job(connection, me.firm_id, file, today, due), from_attributes=True
            ),
            weeks=[_shown(entry) for entry in register.entries(connection, me.firm_id, "working_week")],
        )


def _estimate(estimate: Estimate) -> EstimateOut:
    return EstimateOut(
        minutes=estimate.minutes,
        time=[PartOut(name=name, value=value, how="") for name, value in estimate.time_min.items()],
        price=estimate.price,
        parts=[PartOut.model_validate(part, from_attributes=True) for part in estimate.prices],
        too_much_for_a_day=estimate.too_much_for_a_day,
        currency=estimate.currency,
    )


def _instruments(connection: Connection, firm_id: str, on: str | None = None) -> list[InstrumentOut]:
    instruments_out = []
    for entry in register.entries(connection, firm_id, "instrument"):
        verdict = judge_calibration(entry.values.get("calibration_due"), on or now().date().isoformat())
        left = None if verdict.margin is None else int(verdict.margin)
        calibration = CalibrationOut(status=verdict.status, reason=verdict.reason, days_left=left)
        instruments_out.append(InstrumentOut(entry=_shown(entry), calibration=calibration))
    return instruments_out


@router.get("/instruments")
def instruments(request: Request) -> InstrumentsOut:
    """The firm's instruments with their calibration, and its lead sets with what their nulls should read."""
    with work(request) as (connection, me):
        logged = lead_sets.log(connection, me.firm_id)
        sets = []
        for entry in register.entries(connection, me.firm_id, "leads"):
            kept = logged.get(entry.id, ())
            known, count = lead_sets.mean(kept) or (entry.values.get("known_ohm"), 0)
            history = [NullOut.model_validate(null, from_attributes=True) for null in kept[-NULLS_SHOWN:]]
            sets.append(LeadSetOut(entry=_shown(entry), known_ohm=known, nulls=count, log=history))
        return InstrumentsOut(instruments=_instruments(connection, me.firm_id), lead_sets=sets)


@router.post("/register/{kind}", status_code=201)
def add(request: Request, kind: Kind, given: RegisterEntryIn) -> RegisterEntry:
    """Add an entry. The same id sent twice makes one entry."""

    def do() -> RegisterEntry:
        with work(request) as (connection, me), _refusals():
            made = register.add(connection, me.firm_id, me.id, kind, given.parent_id, given.values, given.id)
            return _shown(_there(made, "place for it"))

    return again_after_deadlock(do)


@router.patch("/register/{kind}/{entry_id}")
def change(request: Request, kind: Kind, entry_id: str, given: FieldsIn) -> RegisterEntry:
    """Change fields of an entry, all or none."""

    def do() -> RegisterEntry:
        with work(request) as (connection, me), _refusals():
            entry = register.change(connection, me.firm_id, me.id, kind, entry_id, given.values)
            return _shown(_there(entry, kind))

    return again_after_deadlock(do)


@router.get("/register/{kind}/{entry_id}/history")
def entry_history(request: Request, kind: Kind, entry_id: str, field: str = Query(max_length=40)) -> list[WrittenOut]:
    """Who changed one field of an entry from what to what, newest first."""
    with work(request) as (connection, me):
        entry = _there(register.get(connection, me.firm_id, kind, entry_id), kind)
        if entry.values.get("removed") and not workflow.may(me.role, "erase data"):
            # What was taken out of the register is looked into by those who answer for keeping it.
            raise not_found(kind)
        written = register.history(connection, me.firm_id, kind, entry_id, former_names.field(kind, field))
    return [WrittenOut.model_validate(entry, from_attributes=True) for entry in written]
