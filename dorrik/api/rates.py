"""House rates: how long things take and what they cost (rule 16.1)."""

from dataclasses import asdict
from typing import Any

from fastapi import Request
from sqlalchemy import Connection

from dorrik.api.common_types import Problem
from dorrik.api.problems import RESPONSES, ProblemError
from dorrik.api.register_types import RateOut, RatesIn, RatesOut
from dorrik.api.routing import router as make_router
from dorrik.api.work import note, work
from dorrik.core.work import workflow
from dorrik.core.work.planning import Prices, Rates
from dorrik.store.firm import house_rates

router = make_router("/api/firm", "firm", {**RESPONSES, 422: {"model": Problem}})

_LABELS = {
    "arrival": "Arriving, keys, occupier",
    "intake": "Intake",
    "board": "Each board",
    "ring": "Each ring",
    "radial": "Each radial",
    "point_opened": "Each point opened",
    "point_tested": "Each point tested",
    "writing": "Writing the report",
    "base": "Base",
    "circuit": "Each further circuit",
    "circuits_included": "Circuits in the base",
    "travel_per_km": "Travel, a kilometre",
    "return_visit": "Return visit",
}


@router.get("/rates")
def rates(request: Request) -> RatesOut:
    """The firm's rates and prices, with the usual ones."""
    with work(request) as (connection, me):
        return _rates(connection, me.firm_id, workflow.may(me.role, "settle rates"))


@router.put("/rates")
def settle(request: Request, given: RatesIn) -> RatesOut:
    """Settle rates and prices, all or none."""
    with work(request, "settle rates") as (connection, me):
        try:
            house_rates.settle(connection, me.firm_id, given.rates, given.prices)
        except house_rates.RateError as error:
            fields = [{"field": error.field, "message": str(error)}]
            raise ProblemError(422, "invalid", str(error), fields=fields) from None
        note(request, connection, me, "rates settled", rates=given.rates, prices=given.prices)
        return _rates(connection, me.firm_id, True)


def _rates(connection: Connection, firm_id: str, may: bool) -> RatesOut:
    minutes, prices, currency = house_rates.of(connection, firm_id)

    def shown(now: Any, usual: Any, unit: str) -> list[RateOut]:
        return [
            RateOut(
                name=name,
                label=_LABELS[name],
                unit="circuits" if name == "circuits_included" else unit,
                value=value,
                usual=asdict(usual)[name],
            )
            for name, value in asdict(now).items()
        ]

    return RatesOut(
        may_settle=may,
        currency=currency,
        rates=shown(minutes, Rates(), "min"),
        prices=shown(prices, Prices(), currency),
    )
