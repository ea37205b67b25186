"""House rates: how long things take and what they cost, and the estimate of a job by them (rule 16.1)."""

from collections.abc import Mapping
from dataclasses import asdict
from typing import Any

from fastapi import Request
from sqlalchemy import Connection

from dorrik.api.book_types import EstimateOut, PartOut, RateOut, RatesIn, RatesOut
from dorrik.api.problems import RESPONSES, ProblemError
from dorrik.api.routing import router as make_router
from dorrik.api.schemas import Problem
from dorrik.api.work import note, work
from dorrik.core import planning, workflow
from dorrik.core.planning import Prices, Rates, Size
from dorrik.store import book, house_rates
from dorrik.store.book import Entry

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
#: An inspector's day (minutes).
DAY_MIN = 450


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
        except house_rates.Wrong as error:
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


def size_of(job: Mapping[str, Any]) -> Size:
    """How large a job looks, by its fields."""
    return Size(
        boards=job.get("boards", 1),
        rings=job.get("rings", 0),
        radials=job.get("radials", 0),
        points_opened=job.get("points_opened", 0),
        points_tested=job.get("points_tested", 0),
    )


def estimate_of(connection: Connection, firm_id: str, entry: Entry) -> EstimateOut:
    """Time and price of a job, part by part. Return visits that came about count beside those that were planned."""
    minutes, prices, currency = house_rates.of(connection, firm_id)
    job = entry.values
    size = size_of(job)
    returns = max(job.get("return_visits", 0), book.return_visits(connection, firm_id, entry.id))
    time = planning.parts_min(size, minutes)
    money = planning.price_parts(size, prices, job.get("travel_km", 0.0), returns)
    total = sum(time.values())
    return EstimateOut(
        minutes=total,
        time=[PartOut(name=name, value=value, how="") for name, value in time.items()],
        price=sum(part.value for part in money),
        parts=[PartOut(name=part.name, value=part.value, how=part.how) for part in money],
        too_much_for_a_day=total > DAY_MIN,
        currency=currency,
    )
