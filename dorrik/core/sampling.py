"""Sampling: what to open before, during and after, and what a sample can say (rules 12.1 to 12.3)."""

from collections import Counter
from collections.abc import Mapping, Sequence
from math import ceil, comb
from typing import TYPE_CHECKING, Literal

from dorrik.core.record import record

if TYPE_CHECKING:
    from random import Random

Records = Literal["good", "fair", "poor", "none"]
Condition = Literal["good", "fair", "poor"]
#: Share of points opened by the worse of records and condition, house rules.
FRACTIONS = {"good": 0.25, "fair": 0.5, "poor": 1.0, "none": 1.0}
_WORSE = ("good", "fair", "poor", "none")


@record
class SamplePoint:
    """A point that may be opened: its name, circuit and room; risk: weight in the draw, 1 for an ordinary one; always:
    the end of a line or a past defect, opened in any case."""

    name: str
    circuit: str
    room: str
    risk: float = 1.0
    always: bool = False


@record
class Plan:
    """Points to open in the order of the list given, the fraction they were drawn for, the seed, and why."""

    points: tuple[SamplePoint, ...]
    fraction: float
    seed: int
    reason: str


def fraction(records: Records, condition: Condition, fractions: Mapping[str, float] | None = None) -> float:
    """Share of points to open: the larger that records and condition ask for (rule 12.1)."""
    shares = fractions or FRACTIONS
    return max(shares[records], shares[condition])


def plan(
    points: Sequence[SamplePoint],
    records: Records,
    condition: Condition,
    seed: int,
    share: float | None = None,
    *,
    shares: Mapping[str, float] | None = None,
) -> Plan:
    """Draw the points to open: at random weighted by risk, every room and circuit at least once (rule 12.1).

    seed: recorded with the plan, so that the draw can be repeated; share: the inspector's own fraction, None for the
    house's; shares: the house's share by grade of records or condition, None for the defaults.
    """
    wanted_share = fraction(records, condition, shares) if share is None else share
    wanted = ceil(wanted_share * len(points) - 1e-9)
    chance = _chance(seed)
    # Weighted draw without putting back: the largest of u^(1/weight) come first.
    order = sorted(range(len(points)), key=lambda i: chance.random() ** (1 / max(points[i].risk, 1e-6)), reverse=True)
    chosen = {i for i, point in enumerate(points) if point.always}
    for group in ("circuit", "room"):
        seen = {getattr(points[i], group) for i in chosen}
        for i in order:
            if getattr(points[i], group) not in seen:
                chosen.add(i)
                seen.add(getattr(points[i], group))
    for i in order:
        if len(chosen) >= wanted:
            break
        chosen.add(i)
    worse = max(records, condition, key=_WORSE.index)
    reason = f"{len(chosen)} of {len(points)} points: records {records}, condition {condition} ({worse} decides)."
    return Plan(tuple(points[i] for i in sorted(chosen)), wanted_share, seed, reason)


def _chance(seed: int) -> "Random":
    # Drawing is seldom asked for, and its module is slow to start.
    from random import Random

    return Random(seed)


def widened(share: float, defects_of_one_kind: int) -> float:
    """The share after defects of one kind: one doubles it, a second makes it everything (rule 12.2)."""
    if defects_of_one_kind <= 0:
        return share
    return 1.0 if defects_of_one_kind >= 2 else min(1.0, 2 * share)


@record
class Seen:
    """A point as the inspection stands: opened or not, and the kind of its defect, None where it has none."""

    point: SamplePoint
    kind: str
    opened: bool
    defect: str | None = None


@record
class State:
    """How sampling stands (rules 12.1 to 12.3).

    population, sampled, defective: numbers of points; planned: names of those to open, the widened ones among them;
    left: planned and not yet opened; widened: circuits and kinds whose sample grew, with why; says: for the report.
    """

    population: int
    sampled: int
    defective: int
    planned: tuple[str, ...]
    left: tuple[str, ...]
    widened: tuple[str, ...]
    seed: int
    reason: str
    says: str


def follow(seen: Sequence[Seen], first: Plan) -> State:
    """How a plan stands after what was found: one defect of a kind doubles the sample on its circuit and on its kind of
    point, a second opens all of them (rule 12.2)."""
    wanted = {point.name for point in first.points}
    grown: list[str] = []
    defects = Counter(
        (by, name, one.defect)
        for one in seen
        if one.defect
        for by, name in (("circuit", one.point.circuit), ("kind", one.kind))
    )
    chance = _chance(first.seed)
    order = sorted(range(len(seen)), key=lambda i: chance.random() ** (1 / max(seen[i].point.risk, 1e-6)), reverse=True)
    for (by, name, defect), times in defects.items():
        members = [i for i in order if (seen[i].point.circuit if by == "circuit" else seen[i].kind) == name]
        share = widened(first.fraction, times)
        if share <= first.fraction:
            continue
        grown.append(f"{name}: {defect} found {times} ×, {share:.0%} of its points")
        have = sum(seen[i].point.name in wanted for i in members)
        for i in members:
            if have >= ceil(share * len(members) - 1e-9):
                break
            if seen[i].point.name not in wanted:
                wanted.add(seen[i].point.name)
                have += 1
    opened = {one.point.name for one in seen if one.opened}
    planned = tuple(one.point.name for one in seen if one.point.name in wanted)
    defective = sum(one.opened and one.defect is not None for one in seen)
    return State(
        population=len(seen),
        sampled=len(opened),
        defective=defective,
        planned=planned,
        left=tuple(name for name in planned if name not in opened),
        widened=tuple(grown),
        seed=first.seed,
        reason=first.reason,
        says=in_words(len(seen), len(opened), defective),
    )


def greatest_defective(population: int, sampled: int, defective: int, confidence: float = 0.95) -> int:
    """Greatest number of defective points in all that is still consistent with the sample (rule 12.3).

    population, sampled, defective: numbers of points; confidence: 0.95 usual. Hypergeometric: the greatest D for which
    finding so few in the sample is not less likely than 1 − confidence. Raises ValueError for impossible numbers.
    """
    if not 0 <= defective <= sampled <= population or not 0 < confidence < 1:
        raise ValueError("A sample is part of the population, its defects part of the sample.")
    ways = comb(population, sampled)
    greatest = defective
    for total in range(defective, population - (sampled - defective) + 1):
        found = sum(comb(total, k) * comb(population - total, sampled - k) for k in range(defective + 1))
        # 1 − 0.95 is a hair more than 0.05 to a computer, and 1 in 20 is still consistent.
        if found / ways < 1 - confidence - 1e-12:
            break
        greatest = total
    return greatest


def in_words(population: int, sampled: int, defective: int) -> str:
    """What the sample says, for the report."""
    if sampled == population:
        return f"All {population} points were opened; {defective} had a defect."
    most = greatest_defective(population, sampled, defective)
    return (
        f"{sampled} of {population} points were opened and {defective} had a defect. At 95 % confidence no more "
        f"than {most} of all {population} have one."
    )
