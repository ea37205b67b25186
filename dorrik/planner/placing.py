"""Days as they fill: which units each has, and how it is then timed. What is put somewhere moves nothing else."""

from collections.abc import Iterable, Sequence
from datetime import date

from dorrik.core.work.plan_rules import broken
from dorrik.core.work.visit_plan import DayRoute, Left, PlanProblem, VisitPlan
from dorrik.planner.units import Unit, open_days, shortest_day

#: Whose day, and which.
Slot = tuple[str, date]


class Placing:
    """The days of a problem. Two visits that need one single key are never with two inspectors on one day."""

    def __init__(self, problem: PlanProblem) -> None:
        self._problem = problem
        self._slots = {(inspector.id, day): inspector for inspector, day in open_days(problem)}
        self.here: dict[Slot, list[Unit]] = {}
        self.routes: dict[Slot, DayRoute] = {}

    @property
    def slots(self) -> Iterable[Slot]:
        """Every day of every inspector who works on it, by day."""
        return self._slots

    def at(self, slot: Slot) -> Sequence[Unit]:
        """The units of a day."""
        return self.here.get(slot, ())

    def day(self, slot: Slot, some: Sequence[Unit]) -> DayRoute | None:
        """A day as it would be with exactly those units; None where they do not fit, or a key is elsewhere."""
        inspector = self._slots.get(slot)
        if inspector is None or self._key_elsewhere(slot, some):
            return None
        return shortest_day(self._problem, inspector, slot[1], some)

    def set(self, slot: Slot, some: Sequence[Unit]) -> bool:
        """Have a day have exactly those units; False, and nothing changed, where they do not fit."""
        if not some:
            self.here.pop(slot, None)
            self.routes.pop(slot, None)
            return True
        route = self.day(slot, some)
        if route is None:
            return False
        self.here[slot], self.routes[slot] = list(some), route
        return True

    def put(self, slot: Slot, unit: Unit) -> bool:
        """Put a unit on a day beside what is there; False where it does not fit."""
        return self.set(slot, [*self.at(slot), unit])

    def put_anywhere(self, unit: Unit, but: frozenset[Slot] = frozenset()) -> bool:
        """Put a unit where it makes the least work: beside others before a day of its own. but: not there."""
        best: tuple[bool, float, date, str] | None = None
        for slot in self._slots:
            if slot in but or (route := self.day(slot, [*self.at(slot), unit])) is None:
                continue
            insertion = (slot not in self.routes, self.longer(slot, route), slot[1], slot[0])
            if best is None or insertion < best:
                best = insertion
        return best is not None and self.put((best[3], best[2]), unit)

    def longer(self, slot: Slot, route: DayRoute) -> float:
        """How many minutes more a day is with that route."""
        before = self.routes.get(slot)
        return route.back - route.leaves - (before.back - before.leaves if before is not None else 0.0)

    def _key_elsewhere(self, slot: Slot, some: Sequence[Unit]) -> bool:
        keys = {visit.key for unit in some for visit in unit.visits} & self._problem.single_keys
        return bool(keys) and any(
            visit.key in keys
            for (who, day), others in self.here.items()
            if day == slot[1] and who != slot[0]
            for other in others
            for visit in other.visits
        )

    def plan(self, left: Iterable[Left]) -> VisitPlan:
        """The plan, without whatever would break a hard rule all the same: those days are left, and told."""
        plan = VisitPlan(tuple(self.routes.values()), tuple(left))
        while wrong := broken(self._problem, plan):
            names = {visit for rule in wrong for visit in rule.visits}
            kept = tuple(route for route in plan.routes if not names & set(route.visits))
            if kept == plan.routes:
                raise AssertionError(f"A plan that cannot be corrected: {wrong[0]}")
            gone = (visit for route in plan.routes if route not in kept for visit in route.visits)
            plan = VisitPlan(kept, (*plan.left, *(Left(visit, wrong[0].says) for visit in gone)))
        return plan
