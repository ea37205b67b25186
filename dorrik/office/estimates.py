"""What a job takes and costs by the firm's own rates (rule 16.1)."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from sqlalchemy import Connection

from dorrik.core.work import planning
from dorrik.core.work.planning import PricePart, Rates, Size
from dorrik.core.work.register import REPAIRS
from dorrik.store.firm import house_rates
from dorrik.store.register import register
from dorrik.store.register.register import RegisterRecord

#: An inspector's day (minutes).
DAY_MIN = 450.0


@dataclass(frozen=True, slots=True)
class Estimate:
    """Time (minutes) by part of the work, and price by part in the firm's currency."""

    time_min: Mapping[str, float]
    prices: tuple[PricePart, ...]
    currency: str

    @property
    def minutes(self) -> float:
        return sum(self.time_min.values())

    @property
    def price(self) -> float:
        return sum(part.value for part in self.prices)

    @property
    def too_much_for_a_day(self) -> bool:
        return self.minutes > DAY_MIN


def size_of(job: Mapping[str, Any]) -> Size:
    """How large a job looks, by its fields."""
    return Size(
        boards=job.get("boards", 1),
        rings=job.get("rings", 0),
        radials=job.get("radials", 0),
        points_opened=job.get("points_opened", 0),
        points_tested=job.get("points_tested", 0),
    )


def minutes_of(job: Mapping[str, Any], rates: Rates) -> float:
    """How long a job takes (minutes): repairs as they were offered, an inspection by its size."""
    if job.get("work") == REPAIRS:
        return float(job.get("offered_min", 0))
    return planning.estimate_min(size_of(job), rates)


def estimate(connection: Connection, firm_id: str, job: RegisterRecord) -> Estimate:
    """Time and price of a job. Return visits that came about count beside those that were planned."""
    rates, prices, currency = house_rates.of(connection, firm_id)
    if job.values.get("work") == REPAIRS:
        # What was offered holds: the rates of an inspection say nothing of it.
        offered = PricePart("repairs", job.values.get("offered_price", 0.0), "as offered")
        return Estimate({"repairs": minutes_of(job.values, rates)}, (offered,), currency)
    size = size_of(job.values)
    returns = max(job.values.get("return_visits", 0), register.return_visits(connection, firm_id, job.id))
    parts = planning.price_parts(size, prices, job.values.get("travel_km", 0.0), returns)
    return Estimate(planning.parts_min(size, rates), parts, currency)
