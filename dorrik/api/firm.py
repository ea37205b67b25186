"""The firm: its rule book, its house rules, and the reference tables as it reads them."""

from dataclasses import asdict

from fastapi import APIRouter, Request
from sqlalchemy import Connection

from dorrik.api.problems import RESPONSES, ProblemError, not_found
from dorrik.api.schemas import CorrectionIn, CorrectionOut, FirmOut, FirmRules, TableOut
from dorrik.api.work import work
from dorrik.core import house_rules, reference
from dorrik.core.reference import Correction, CorrectionError
from dorrik.core.rule_book import keys
from dorrik.store import firm_rules
from dorrik.store.people import Person

router = APIRouter(prefix="/api/firm", tags=["firm"], responses=RESPONSES)


def _must_settle(me: Person) -> None:
    """Rules of the house are settled by those who answer for it."""
    if me.role != "supervisor":
        raise ProblemError(403, "not-yours", "A supervisor of your firm settles this; you can read it.")


def _firm(connection: Connection, me: Person) -> FirmOut:
    book, chosen = firm_rules.rules(connection, me.firm_id)
    return FirmOut(
        name=me.firm_name,
        may_settle=me.role == "supervisor",
        rule_book=book,
        house_rules=chosen,
        corrections=[
            CorrectionOut(
                id=one.id,
                **asdict(one.correction),
                printed=one.printed,
                author=one.author,
                made_at=one.made_at,
                withdrawn_at=one.withdrawn_at,
            )
            for one in firm_rules.corrections(connection, me.firm_id)
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
    with work(request) as (connection, me):
        _must_settle(me)
        try:
            chosen = house_rules.clean(given.house_rules)
        except ValueError as error:
            raise _at("house_rules", error) from None
        if given.rule_book is not None and given.rule_book not in keys():
            raise _at("rule_book", ValueError("There is no such rule book."))
        firm_rules.settle(connection, me.firm_id, given.rule_book, chosen)
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
                rows=[{"row": reference.row_key(name, row), "cells": row} for row in reference.printed(name)],
            )
            for name, key in reference.KEYS.items()
        ]


@router.post("/corrections")
def correct(request: Request, given: CorrectionIn) -> FirmOut:
    """Read one cell of a table otherwise, from now on."""
    with work(request) as (connection, me):
        _must_settle(me)
        try:
            correction = reference.check(Correction(**given.model_dump()))
        except CorrectionError as error:
            raise _at("value", error) from None
        firm_rules.correct(connection, me.firm_id, me.id, correction)
        return _firm(connection, me)


@router.delete("/corrections/{identity}")
def withdraw(request: Request, identity: str) -> FirmOut:
    """Read a cell as printed again. The correction stays, with the day it was withdrawn."""
    with work(request) as (connection, me):
        _must_settle(me)
        if not firm_rules.withdraw(connection, me.firm_id, me.id, identity):
            raise not_found("correction")
        return _firm(connection, me)


def _at(field: str, error: ValueError) -> ProblemError:
    return ProblemError(422, "invalid", str(error), fields=[{"field": field, "message": str(error)}])
