"""The firm: its rule book, its house rules, and the reference tables as it reads them."""

from dataclasses import asdict

from fastapi import Request
from sqlalchemy import Connection

from dorrik.api.account_types import Letterhead
from dorrik.api.accounts import at_field
from dorrik.api.firm_types import CorrectionOut, FirmOut, FirmRules, RetentionIn, TableOut, TableRowOut
from dorrik.api.inspection_types import CorrectionIn
from dorrik.api.problems import RESPONSES, ProblemError, not_found
from dorrik.api.routing import router as make_router
from dorrik.api.work import note, work
from dorrik.core.book import house_rules, reference
from dorrik.core.book.reference import Correction, CorrectionError
from dorrik.core.book.rule_book import keys
from dorrik.core.inspection.records import NATIONS
from dorrik.core.work import workflow
from dorrik.store.data_protection import retention
from dorrik.store.firm import firm_rules
from dorrik.store.people import people
from dorrik.store.people.people import Person, Unfit

router = make_router("/api/firm", "firm", RESPONSES)


def _firm(connection: Connection, me: Person) -> FirmOut:
    book, chosen = firm_rules.rules(connection, me.firm_id)
    details = people.firm_details(connection, me.firm_id)
    keep, keep_reports = retention.years(connection, me.firm_id)
    return FirmOut(
        name=details["name"],
        may_settle=workflow.may(me.role, "settle house rules"),
        letterhead=Letterhead(**{name: details[name] or "" for name in Letterhead.model_fields}),
        logo=details["logo"] is not None,
        may_change_letterhead=workflow.may(me.role, "change the letterhead"),
        keep_years=keep,
        keep_reports_years=keep_reports,
        rule_book=book,
        house_rules=chosen,
        corrections=[
            CorrectionOut(
                id=correction.id,
                **asdict(correction.correction),
                printed=correction.printed,
                author=correction.author,
                made_at=correction.made_at,
                withdrawn_at=correction.withdrawn_at,
            )
            for correction in firm_rules.corrections(connection, me.firm_id)
        ],
    )


@router.get("")
def firm(request: Request) -> FirmOut:
    """What the firm has settled, with every correction that it ever made."""
    with work(request) as (connection, me):
        return _firm(connection, me)


@router.put("/rules")
def settle(request: Request, given: FirmRules) -> FirmOut:
    """Settle the rule book and the house rules for inspections begun from now on."""
    with work(request, "settle house rules") as (connection, me):
        try:
            chosen = house_rules.clean(given.house_rules)
        except ValueError as error:
            raise _at("house_rules", error) from None
        if given.rule_book is not None and given.rule_book not in keys():
            raise _at("rule_book", ValueError("There is no such rule book."))
        firm_rules.settle(connection, me.firm_id, given.rule_book, chosen)
        note(request, connection, me, "rules settled", rule_book=given.rule_book, house_rules=chosen)
        return _firm(connection, me)


@router.put("/letterhead")
def change_letterhead(request: Request, given: Letterhead) -> FirmOut:
    """Change what stands on the firm's paper from now on. Reports that were issued keep what they were issued with."""
    with work(request, "change the letterhead") as (connection, me):
        if given.nation and given.nation not in NATIONS:
            raise _at("nation", ValueError("There is no such nation here."))
        try:
            people.change_firm(connection, me.firm_id, **given.model_dump())
        except Unfit as error:
            raise at_field(error) from None
        note(request, connection, me, "letterhead changed", given.name)
        return _firm(connection, me)


@router.put("/retention")
def settle_retention(request: Request, given: RetentionIn) -> FirmOut:
    """Settle how long what is kept of somebody stays before it may be erased, and how long reports are kept."""
    with work(request, "erase data") as (connection, me):
        retention.settle(connection, me.firm_id, given.keep_years, given.keep_reports_years)
        note(request, connection, me, "retention settled", **given.model_dump())
        return _firm(connection, me)


@router.get("/tables")
def tables(request: Request) -> list[TableOut]:
    """The reference tables as printed: what names a row, the columns, the rows, and where the numbers come from."""
    with work(request):
        return [
            TableOut(
                name=name,
                source=reference.source(name),
                keys=list(key),
                columns=[column for column in reference.printed(name)[0] if column not in key],
                rows=[TableRowOut(row=reference.row_key(name, row), cells=row) for row in reference.printed(name)],
            )
            for name, key in reference.KEYS.items()
        ]


@router.post("/corrections")
def correct(request: Request, given: CorrectionIn) -> FirmOut:
    """Read one cell of a table otherwise, from now on."""
    with work(request, "settle house rules") as (connection, me):
        try:
            correction = reference.check(Correction(**given.model_dump()))
        except CorrectionError as error:
            raise _at("value", error) from None
        firm_rules.correct(connection, me.firm_id, me.id, correction)
        note(request, connection, me, "table corrected", f"{given.table} {given.row} {given.column}", value=given.value)
        return _firm(connection, me)


@router.delete("/corrections/{identity}")
def withdraw(request: Request, identity: str) -> FirmOut:
    """Read a cell as printed again. The correction stays, with the day it was withdrawn."""
    with work(request, "settle house rules") as (connection, me):
        if not firm_rules.withdraw(connection, me.firm_id, me.id, identity):
            raise not_found("correction")
        note(request, connection, me, "correction withdrawn", identity)
        return _firm(connection, me)


def _at(field: str, error: ValueError) -> ProblemError:
    return ProblemError(422, "invalid", str(error), fields=[{"field": field, "message": str(error)}])
