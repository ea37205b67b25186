"""What visits took against what they were estimated at: of the firm, by kind, client and inspector, with the spread."""

from typing import Any

from fastapi import Request
from pydantic import BaseModel

from dorrik.api.problems import RESPONSES
from dorrik.api.routing import router as make_router
from dorrik.api.work import work
from dorrik.core.work import visit_lengths
from dorrik.core.work.visit_lengths import Factor, RecordedVisit
from dorrik.office import recorded_visits
from dorrik.store.firm import house_rates
from dorrik.store.register import register

router = make_router("/api/visit-times", "planner", RESPONSES)


class FactorOut(BaseModel):
    """Actual over estimated time of some visits: the middle, what a quarter is below and above; of how many. says: in
    words, what follows from it."""

    name: str
    middle: float
    low: float
    high: float
    visits: int
    says: str


class TimedVisitOut(BaseModel):
    """A visit whose time is known (minutes)."""

    estimated: float
    actual: float
    kind: str
    client: str
    inspector: str


class VisitTimesOut(BaseModel):
    """All visits whose time is known, and what they say of the estimates."""

    visits: list[TimedVisitOut]
    firm: FactorOut | None
    by_kind: list[FactorOut]
    by_client: list[FactorOut]
    by_inspector: list[FactorOut]


@router.get("")
def visit_times(request: Request) -> VisitTimesOut:
    """What visits took against what they were estimated at."""
    with work(request) as (connection, me):
        rates, _, _ = house_rates.of(connection, me.firm_id)
        recorded = visit_lengths.usable(recorded_visits.recorded_visits(connection, me.firm_id, rates))
        names = {
            entry.id: str(entry.values.get("name") or "")
            for entry in register.entries(connection, me.firm_id, "client")
        }
        names |= {
            entry.id: str(entry.values.get("name") or "")
            for entry in register.entries(connection, me.firm_id, "working_week")
        }
    firm = visit_lengths.factor(recorded)

    def by(key: Any) -> list[FactorOut]:
        factors = visit_lengths.factors(recorded, key)
        named = [_out(names.get(name, name) or "not known", one) for name, one in factors.items()]
        return sorted(named, key=lambda factor: _natural(factor.name))

    return VisitTimesOut(
        visits=[_visit(visit, names) for visit in recorded],
        firm=_out("all visits", firm) if firm is not None else None,
        by_kind=by(lambda visit: visit.kind),
        by_client=by(lambda visit: visit.client_id),
        by_inspector=by(lambda visit: visit.inspector_id),
    )


def _natural(name: str) -> tuple[int, str]:
    """Sizes of homes by their figure, other names by their letters."""
    first = name.split(" ", 1)[0]
    return (int(first), name) if first.isdecimal() else (10**6, name)


def _visit(timed: RecordedVisit, names: dict[str, str]) -> TimedVisitOut:
    return TimedVisitOut(
        estimated=timed.estimated_min, actual=timed.actual_min, kind=timed.kind, client=names.get(timed.client_id, ""),
        inspector=names.get(timed.inspector_id, timed.inspector_id),
    )  # fmt: skip


def _out(name: str, factor: Factor) -> FactorOut:
    return FactorOut(
        name=name, middle=factor.middle, low=factor.low, high=factor.high, visits=factor.visits,
        says=visit_lengths.in_words(factor),
    )  # fmt: skip
