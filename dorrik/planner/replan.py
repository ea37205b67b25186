"""Planning again after something changed: as little as possible moves, and what moves says why.

What still holds stays where it is, to the minute: occupiers were told. What has lost its place is put beside it. Only
where that is not enough do times of a day move, then one other visit, and at last everything.
"""

from collections.abc import Iterator
from dataclasses import replace
from datetime import date

from dorrik.core.basics.record import record
from dorrik.core.work.visit_plan import (
    Left,
    Pin,
    PlanProblem,
    VisitPlan,
    WantedVisit,
    latest_day,
    may_be_on,
    works_on,
)
from dorrik.planner.placing import Placing, Slot
from dorrik.planner.solver import Progress, solve
from dorrik.planner.units import Unit, units, why_left

#: A visit that begins by so much later or earlier has not moved (minutes).
SAME_MIN = 1.0


@record
class Moment:
    """When a visit begins, and with whom."""

    inspector: str
    day: date
    begins: float


@record
class MovedVisit:
    """A visit that is elsewhere now. was, now: None where it had, or has, no place; why: in words."""

    visit_id: str
    was: Moment | None
    now: Moment | None
    why: str


@record
class Replanned:
    """The plan now, and everything in it that is not where it was."""

    plan: VisitPlan
    moved: tuple[MovedVisit, ...]


def moments(plan: VisitPlan) -> dict[str, Moment]:
    """When each visit of a plan begins, by its id."""
    return {
        stop.id: Moment(route.inspector, route.day, stop.begins)
        for route in plan.routes
        for stop in route.stops
        if stop.task == "visit"
    }


def replan(problem: PlanProblem, old: VisitPlan, seconds: float = 1.5, progress: Progress | None = None) -> Replanned:
    """The plan for a problem that is another than the old plan was made for. seconds: for planning everything anew,
    which is done only where more visits find a place by that; 0 for never."""
    wanted, was = units(problem), moments(old)
    why: dict[str, str] = {}
    kept = _Kept(problem, wanted, was, why)
    loose = sorted(kept.loose, key=lambda unit: (_last(problem, unit), -unit.minutes))
    left = [unit for unit in loose if not (kept.place(unit) or kept.shift(unit) or kept.make_room(unit))]
    left_out = [Left(visit.id, why_left(problem, unit)) for unit in left for visit in unit.visits]
    plan = kept.plan(left_out)
    if plan.left and seconds > 0:
        anew = solve(problem, seconds, progress)
        if len(anew.left) < len(plan.left):
            plan = anew
            for visit in problem.visits:
                why.setdefault(visit.id, "planned anew, so that more visits find a place")
    return Replanned(plan, tuple(_moved(problem, was, moments(plan), why)))


def _last(problem: PlanProblem, unit: Unit) -> date:
    return min((day for v in unit.visits if (day := latest_day(v, problem.slack_days))), default=date.max)


def _moved(
    problem: PlanProblem, was: dict[str, Moment], now: dict[str, Moment], why: dict[str, str]
) -> Iterator[MovedVisit]:
    for visit in problem.visits:
        before, after = was.get(visit.id), now.get(visit.id)
        if before is None and after is None:
            continue
        if before is not None and after is not None and _same(before, after):
            continue
        new = "new in the plan" if before is None else "it has lost its place"
        yield MovedVisit(visit.id, before, after, why.get(visit.id, new))


def _same(one: Moment, other: Moment) -> bool:
    where = (one.inspector, one.day) == (other.inspector, other.day)
    return where and abs(one.begins - other.begins) <= SAME_MIN


class _Kept:
    """What still holds of a plan, held by pins: at its minute, or, once a day has to give way, on its day alone."""

    def __init__(
        self, problem: PlanProblem, wanted: tuple[Unit, ...], was: dict[str, Moment], why: dict[str, str]
    ) -> None:
        self._problem, self._why = problem, why
        self._own = {visit.id: visit for visit in problem.visits}
        self._placing = Placing(problem)
        self.loose: list[Unit] = []
        for unit in wanted:
            if not self._hold(unit, was):
                self.loose.append(unit)

    def _hold(self, unit: Unit, was: dict[str, Moment]) -> bool:
        """Keep a unit where it was; False, with the reason noted, where that is no longer possible."""
        there = [was.get(visit.id) for visit in unit.visits]
        if None in there:
            return False
        slots = {(moment.inspector, moment.day) for moment in there if moment is not None}
        slot = next(iter(slots))
        reason = _why_not_there(self._problem, unit, slot) if len(slots) == 1 else "it goes together with another now"
        if reason is None:
            exact = Unit(tuple(
                _pinned(visit, slot, moment.begins)
                for visit, moment in zip(unit.visits, there, strict=True) if moment is not None
            ))  # fmt: skip
            if self._placing.put(slot, exact) or self._placing.put(slot, self._loosened(exact)):
                return True
            reason = "it no longer fits beside the rest of its day"
        for visit in unit.visits:
            self._why[visit.id] = reason
        return False

    def place(self, unit: Unit) -> bool:
        """Put a unit beside what is there; nothing moves."""
        return self._placing.put_anywhere(unit)

    def shift(self, unit: Unit) -> bool:
        """Put a unit on a day whose times give way for it."""
        best: tuple[float, Slot, list[Unit]] | None = None
        for slot in self._placing.slots:
            some = [*(self._loosened(placed) for placed in self._placing.at(slot)), unit]
            route = self._placing.day(slot, some)
            if route is not None and (best is None or self._placing.longer(slot, route) < best[0]):
                best = self._placing.longer(slot, route), slot, some
        if best is None:
            return False
        self._note(best[2], unit, "its time moves, to make room for")
        return self._placing.set(best[1], best[2])

    def make_room(self, unit: Unit) -> bool:
        """Put a unit where one other was, which goes elsewhere."""
        for slot in self._placing.slots:
            before = list(self._placing.at(slot))
            for other in before:
                free = self._free(other)
                if free is None:
                    continue
                rest = [self._loosened(one) for one in before if one is not other]
                if not self._placing.set(slot, [*rest, unit]):
                    continue
                if self._placing.put_anywhere(free, but=frozenset({slot})):
                    self._note([free], unit, "it goes elsewhere, to make room for")
                    self._note(rest, unit, "its time moves, to make room for")
                    return True
                self._placing.set(slot, before)
        return False

    def _note(self, some: list[Unit], unit: Unit, words: str) -> None:
        for one in some:
            for visit in one.visits:
                if one is not unit:
                    self._why[visit.id] = f"{words} {unit.id}"

    def _free(self, unit: Unit) -> Unit | None:
        """A unit as it is wanted, for one that may go elsewhere; None for what was put there by hand."""
        own = tuple(self._own[visit.id] for visit in unit.visits)
        return None if any(visit.pin is not None for visit in own) else Unit(own)

    def _loosened(self, unit: Unit) -> Unit:
        """A unit that stays on its day, at whichever time; what was put at a minute by hand stays there."""
        return Unit(tuple(
            self._own[visit.id] if self._own[visit.id].pin is not None or visit.pin is None
            else replace(visit, pin=replace(visit.pin, start_min=None))
            for visit in unit.visits
        ))  # fmt: skip

    def plan(self, left: list[Left]) -> VisitPlan:
        """The plan as it is now."""
        return self._placing.plan(left)


def _why_not_there(problem: PlanProblem, unit: Unit, slot: Slot) -> str | None:
    """Why a unit can no longer be on that day, in words; None where it can."""
    who, day = slot
    inspector = next((inspector for inspector in problem.inspectors if inspector.id == who), None)
    if inspector is None:
        return f"{who} makes no visits any more"
    if not works_on(inspector, day):
        return f"{who} does not work on {day.isoformat()}"
    if day < problem.first:
        return "its day has passed"
    for visit in unit.visits:
        if visit.pin is not None and (visit.pin.inspector, visit.pin.day) != slot:
            return "it was moved by hand"
        if not may_be_on(problem, visit, inspector, day):
            latest = latest_day(visit, problem.slack_days)
            return "its deadline is earlier now" if latest is not None and day > latest else "nobody can let in then"
    return None


def _pinned(visit: WantedVisit, slot: Slot, begins: float) -> WantedVisit:
    return visit if visit.pin is not None else replace(visit, pin=Pin(slot[0], slot[1], begins))
