"""The firm's rates for putting findings right."""

from dataclasses import asdict
from typing import Any

from fastapi import Request
from sqlalchemy import Connection

from dorrik.api.common_types import Problem
from dorrik.api.offer_types import RepairRateOut, RepairRatesIn, RepairRatesOut
from dorrik.api.problems import RESPONSES, ProblemError
from dorrik.api.routing import router as make_router
from dorrik.api.work import note, work
from dorrik.core.book.remedies import priced
from dorrik.core.work import workflow
from dorrik.store.database.engine import now
from dorrik.store.firm import house_rates, repair_rates

router = make_router("/api/firm", "firm", {**RESPONSES, 422: {"model": Problem}})


@router.get("/repair-rates")
def rates(request: Request) -> RepairRatesOut:
    """Every remedy with the firm's rate and the usual one."""
    with work(request) as (connection, me):
        return _rates(connection, me.firm_id, workflow.may(me.role, "settle rates"))


@router.put("/repair-rates")
def settle(request: Request, given: RepairRatesIn) -> RepairRatesOut:
    """Settle the rates, all or none."""
    with work(request, "settle rates") as (connection, me):
        try:
            repair_rates.settle(connection, me.firm_id, given.rates, given.terms, now().date())
        except house_rates.RateError as error:
            fields = [{"field": error.field, "message": str(error)}]
            raise ProblemError(422, "invalid", str(error), fields=fields) from None
        note(request, connection, me, "rates settled", repairs=given.rates)
        return _rates(connection, me.firm_id, True)


def _rates(connection: Connection, firm_id: str, may: bool) -> RepairRatesOut:
    settled = repair_rates.of(connection, firm_id)
    _, _, currency = house_rates.of(connection, firm_id)
    rows: list[dict[str, Any]] = [
        {"key": key, "label": one.label, "at": one.at, "usual": asdict(one.usual)} | asdict(settled.rates[key])
        for key, one in priced().items()
    ]
    return RepairRatesOut(
        may_settle=may,
        currency=currency,
        terms=settled.terms,
        settled_on=settled.settled_on.isoformat() if settled.settled_on else None,
        rates=[RepairRateOut(**row) for row in rows],
    )
