"""The rules that no plan of visits may break, held against a plan as it stands (rule 16.2)."""

from collections.abc import Iterator, Mapping
from datetime import date

from dorrik.core.basics.record import record
from dorrik.core.work.visit_plan import (
    TOLERANCE,
    DayRoute,
    Inspector,
    PlanProblem,
    Stop,
    VisitPlan,
    WantedVisit,
    latest_day,
    works_on,
)  # fmt: skip


@record
class Broken:
    """A rule that a plan breaks: which, in words, and the visits that it concerns."""

    rule: str
    says: str
    visits: tuple[str, ...]


def broken(problem: PlanProblem, plan: VisitPlan) -> tuple[Broken, ...]:
    """Every hard rule that a plan breaks; none where it can be kept. Only the plan counts, however it was made."""
    broken_rules = [*_counted(problem, plan), *_groups(problem, plan), *_keys_apart(problem, plan)]
    seen: set[tuple[str, date]] = set()
    for route in plan.routes:
        if (route.inspector, route.day) in seen:
            broken_rules.append(
                Broken("one route a day", f"Two routes of {route.inspector} on {route.day}.", route.visits)
            )
        seen.add((route.inspector, route.day))
        broken_rules += _day(problem, route)
    return tuple(broken_rules)


def _counted(problem: PlanProblem, plan: VisitPlan) -> Iterator[Broken]:
    placed = [visit for route in plan.routes for visit in route.visits] + [left.visit_id for left in plan.left]
    wanted = {visit.id for visit in problem.visits}
    for visit_id in sorted({*wanted, *placed}):
        times = placed.count(visit_id)
        if visit_id not in wanted:
            yield Broken("known", f"{visit_id} is not wanted.", (visit_id,))
        elif times != 1:
            yield Broken("once", f"{visit_id} is planned or left {times} times.", (visit_id,))


def _groups(problem: PlanProblem, plan: VisitPlan) -> Iterator[Broken]:
    """Visits that go together are in one route, one after the other, or all left."""
    groups: dict[str, list[str]] = {}
    for visit in problem.visits:
        if visit.together:
            groups.setdefault(visit.together, []).append(visit.id)
    for name, ids in groups.items():
        places = {
            (route.inspector, route.day): [at for at, visit in enumerate(route.visits) if visit in ids]
            for route in plan.routes
            if set(ids) & set(route.visits)
        }
        if not places:
            continue
        at = next(iter(places.values()))
        if len(places) > 1 or len(at) < len(ids) or at[-1] - at[0] != len(ids) - 1:
            yield Broken("together", f"The visits of {name} are not made one after the other on one day.", tuple(ids))


def _keys_apart(problem: PlanProblem, plan: VisitPlan) -> Iterator[Broken]:
    """A single key is with one inspector a day."""
    single = problem.single_keys
    with_whom: dict[tuple[str, date], set[str]] = {}
    for route in plan.routes:
        for stop in route.stops:
            if stop.task == "fetch key" and stop.id in single:
                with_whom.setdefault((stop.id, route.day), set()).add(route.inspector)
    for (key, day), inspectors in with_whom.items():
        if len(inspectors) > 1:
            yield Broken("key", f"Key {key} is with two inspectors on {day}.", ())


def _day(problem: PlanProblem, route: DayRoute) -> Iterator[Broken]:
    visits = {visit.id: visit for visit in problem.visits}
    inspector = next((who for who in problem.inspectors if who.id == route.inspector), None)
    if inspector is None:
        yield Broken("inspector", f"Nobody is called {route.inspector}.", route.visits)
        return
    if not works_on(inspector, route.day):
        yield Broken("day off", f"{inspector.id} does not work on {route.day}.", route.visits)
    if not problem.first <= route.day <= problem.last:
        yield Broken("day", f"{route.day} is not planned.", route.visits)
    if len(route.visits) > inspector.most_visits:
        yield Broken("visits a day", f"{len(route.visits)} visits, {inspector.most_visits} at most.", route.visits)
    late = route.back - inspector.end_min > TOLERANCE or inspector.start_on(route.day) - route.leaves > TOLERANCE
    if late or route.back - route.leaves - inspector.most_minutes > TOLERANCE:
        yield Broken("overtime", f"{route.back - route.leaves:.0f} minutes on {route.day}.", route.visits)
    yield from _on_the_way(problem, inspector, route, visits)
    for stop in route.stops:
        if stop.task == "visit" and stop.id in visits:
            yield from _visit(problem, visits[stop.id], route, stop)
    yield from _keys_of_day(problem, route, visits)


def _on_the_way(
    problem: PlanProblem, inspector: Inspector, route: DayRoute, visits: Mapping[str, WantedVisit]
) -> Iterator[Broken]:
    """There is time for every way."""
    keys = {key.id: key for key in problem.keys}
    here, left = inspector.home, route.leaves
    for stop in route.stops:
        known = visits.get(stop.id) if stop.task == "visit" else keys.get(stop.id)
        if known is None:
            continue
        if left + problem.travel.minutes(here, known.place) - stop.begins > TOLERANCE:
            yield Broken("travel", f"{stop.id} cannot be reached in time.", (stop.id,))
        here, left = known.place, stop.ends
    if left + problem.travel.minutes(here, inspector.home) - route.back > TOLERANCE:
        yield Broken("travel", "There is no time for the way home.", route.visits)


def _visit(problem: PlanProblem, visit: WantedVisit, route: DayRoute, stop: Stop) -> Iterator[Broken]:
    if stop.ends - stop.begins < visit.minutes - TOLERANCE:
        yield Broken("length", f"{visit.id} takes {visit.minutes:.0f} minutes.", (visit.id,))
    if visit.windows is not None and not any(
        window.day == route.day
        and window.from_min - stop.begins <= TOLERANCE
        and stop.ends - window.until_min <= TOLERANCE
        for window in visit.windows
    ):
        yield Broken("access", f"Nobody opens {visit.id} then.", (visit.id,))
    latest = latest_day(visit, problem.slack_days if visit.pin is None else 0)
    if latest is not None and route.day > latest:
        yield Broken("deadline", f"{visit.id} is to be made by {latest}.", (visit.id,))
    pin = visit.pin
    if pin is not None and (
        (pin.inspector, pin.day) != (route.inspector, route.day)
        or (pin.start_min is not None and abs(pin.start_min - stop.begins) > TOLERANCE)
    ):
        yield Broken("kept by hand", f"{visit.id} was put elsewhere by hand.", (visit.id,))


def _keys_of_day(problem: PlanProblem, route: DayRoute, visits: Mapping[str, WantedVisit]) -> Iterator[Broken]:
    """A key is in hand at each visit that needs it, fetched and brought back while somebody is there."""
    keys = {key.id: key for key in problem.keys}
    held: set[str] = set()
    for stop in route.stops:
        key = keys.get(stop.id)
        if stop.task == "visit":
            needs = visits[stop.id].key if stop.id in visits else ""
            if needs and needs not in held:
                yield Broken("key", f"Nobody has fetched the key of {stop.id}.", (stop.id,))
        elif key is None or key.from_min - stop.begins > TOLERANCE or stop.ends - key.until_min > TOLERANCE:
            yield Broken("key", f"Nobody is there for key {stop.id}.", route.visits)
        elif stop.task == "fetch key":
            held.add(key.id)
        else:
            held.discard(key.id)
    for key_id in sorted(held):
        yield Broken("key", f"Key {key_id} is not brought back.", route.visits)
