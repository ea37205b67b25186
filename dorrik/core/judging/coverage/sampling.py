"""Sampling: what to open before, during and after, and what a sample can say (rules 12.1 to 12.3)."""

from collections import defaultdict
from collections.abc import Mapping, Sequence
from functools import lru_cache
from math import ceil, comb
from typing import Literal

from dorrik.core.basics.record import record

Records = Literal["good", "fair", "poor", "none"]
Condition = Literal["good", "fair", "poor"]
#: Share of points opened by the worse of records and condition, house rules.
FRACTIONS = {"good": 0.25, "fair": 0.5, "poor": 1.0, "none": 1.0}
_WORSE: tuple[Records, ...] = ("good", "fair", "poor", "none")
#: How far each sign of risk lowers the grade that decides, down to poor.
_GRADES: tuple[Condition, ...] = ("good", "fair", "poor")


@record
class SamplePoint:
    """A point that may be opened: its name, circuit and room; risk: weight in the draw, 1 for an ordinary one; always:
    the end of a line or a past defect, opened in any case; key: what stays the same when it is renamed, its name where
    empty; chosen: put in or left out by the inspector."""

    name: str
    circuit: str
    room: str
    risk: float = 1.0
    always: bool = False
    key: str = ""
    chosen: Literal["", "added", "left out"] = ""

    @property
    def id(self) -> str:
        """What the draw and the follow-up know it by."""
        return self.key or self.name


@record
class SamplePlan:
    """Points to open in the order of the list given, the fraction they were drawn for, the seed, and why.

    drawn: ids of those that chance put in, in that order; the others are in by choice or in any case.
    """

    points: tuple[SamplePoint, ...]
    fraction: float
    seed: int
    reason: str
    drawn: tuple[str, ...] = ()


def fraction(records: Records, condition: Condition, fractions: Mapping[str, float] | None = None) -> float:
    """Share of points to open: the larger that records and condition ask for (rule 12.1)."""
    shares = fractions or FRACTIONS
    return max(shares[records], shares[condition])


@record
class SampleProposal:
    """The share of points to open (part of 1) and why, reason by reason; decides: the grade it follows from."""

    share: float
    decides: Records
    reasons: tuple[str, ...]


def propose(
    records: Records, condition: Condition, signs: Sequence[str] = (), fractions: Mapping[str, float] | None = None
) -> SampleProposal:
    """The share of points to open from risk (rule 12.1): the worse of records and condition decides, and each sign of
    risk (its words) lowers that by a grade, down to poor."""
    worse = max(records, condition, key=_WORSE.index)
    decides: Records = worse
    if worse in _GRADES:
        decides = _GRADES[min(_GRADES.index(worse) + len(signs), len(_GRADES) - 1)]
    shares = fractions or FRACTIONS
    reasons = (
        f"Records {records}, condition {condition}: {worse} decides.",
        *(f"{sign}: a grade lower." for sign in signs),
    )
    return SampleProposal(max(shares[decides], fraction(records, condition, fractions)), decides, reasons)


def plan(
    points: Sequence[SamplePoint],
    records: Records,
    condition: Condition,
    seed: int,
    share: float | None = None,
    *,
    shares: Mapping[str, float] | None = None,
    signs: Sequence[str] = (),
) -> SamplePlan:
    """Draw the points to open: at random weighted by risk, every room and circuit at least once (rule 12.1).

    seed: recorded with the plan, so that the draw can be repeated; share: the inspector's own fraction, None for the
    proposed; shares: the house's share by grade of records or condition, None for the defaults; signs: of risk. A
    point keeps its lot when others are added, so that a list that grows during the walk is not drawn anew.
    """
    proposed = propose(records, condition, signs, shares)
    wanted_share = proposed.share if share is None else share
    wanted = ceil(wanted_share * len(points) - 1e-9)
    order = [i for i in _lots(points, seed) if points[i].chosen != "left out"]
    chosen = {i for i in order if points[i].always or points[i].chosen == "added"}
    sure = set(chosen)
    for group in ("circuit", "room"):
        seen = {getattr(points[i], group) for i in chosen}
        for i in order:
            name = getattr(points[i], group)
            if name and name not in seen:
                chosen.add(i)
                seen.add(name)
    for i in order:
        if len(chosen) >= wanted:
            break
        chosen.add(i)
    drawn = tuple(points[i].id for i in sorted(chosen - sure))
    why = f"records {records}, condition {condition} ({max(records, condition, key=_WORSE.index)} decides)"
    if signs:
        why = f"{why}; {', '.join(sign[:1].lower() + sign[1:] for sign in signs)}"
    if share is not None:
        why = f"{why}; the inspector opens {share:.0%}"
    reason = f"{len(chosen)} of {len(points)} points: {why}."
    return SamplePlan(tuple(points[i] for i in sorted(chosen)), wanted_share, seed, reason, drawn)


def _lots(points: Sequence[SamplePoint], seed: int) -> list[int]:
    """Places in the list by lot, weighted by risk: a weighted draw without putting back takes the largest of
    u^(1/weight) first. Each point's u follows from the seed and its own id, and from nothing else."""

    def lot(i: int) -> float:
        return float(_chance(seed, points[i].id) ** (1 / max(points[i].risk, 1e-6)))

    return sorted(range(len(points)), key=lot, reverse=True)


@lru_cache(65_536)
def _chance(seed: int, point_id: str) -> float:
    """Evenly spread over 0 to 1. Kept, since every judgement asks for those of the same points."""
    # Drawing is seldom asked for, and its module is not there at every start.
    from hashlib import sha256

    digest = sha256(f"{seed}/{point_id}".encode()).digest()
    return (int.from_bytes(digest[:8], "big") + 0.5) / 2**64


def widened(share: float, defects_of_one_kind: int) -> float:
    """The share after defects of one kind: one doubles it, a second makes it everything (rule 12.2)."""
    if defects_of_one_kind <= 0:
        return share
    return 1.0 if defects_of_one_kind >= 2 else min(1.0, 2 * share)


@record
class SeenPoint:
    """A point as the inspection stands: opened or not, and the kind of its defect, None where it has none."""

    point: SamplePoint
    kind: str
    opened: bool
    defect: str | None = None


@record
class Widening:
    """A sample that grew: of which circuit or kind of point (group), for which defect, found how often and where (ids
    of points), to which share; added: ids of the points that came in; says:
    all of it in words."""

    group: str
    defect: str
    times: int
    found_at: tuple[str, ...]
    share: float
    added: tuple[str, ...]
    says: str


@record(kw_only=True)
class SampleState:
    """How sampling stands (rules 12.1 to 12.3).

    population, sampled, defective: numbers of all points, of those opened and of those with a defect; planned, left:
    names of those to open, the widened ones among them, and of those not yet opened; to_open, still: their ids;
    frame, drawn, drawn_defective: numbers of the points that could be drawn, that chance put in and were opened, and of
    their defects; closed: of those that chance put in, how many were not opened, each of which counts as defective;
    most: the greatest number of defective ones in the frame at 95 %, None before one was opened; beside,
    beside_defective: opened by choice, in any case or after a finding; says: for the report; plainly: for the client.
    """

    population: int
    sampled: int
    defective: int
    planned: tuple[str, ...]
    left: tuple[str, ...]
    to_open: tuple[str, ...]
    still: tuple[str, ...]
    widened: tuple[str, ...]
    widenings: tuple[Widening, ...]
    share: float
    frame: int
    drawn: int
    drawn_defective: int
    closed: int
    most: int | None
    beside: int
    beside_defective: int
    seed: int
    reason: str
    says: str
    plainly: str


def follow(seen: Sequence[SeenPoint], first: SamplePlan) -> SampleState:
    """How a plan stands after what was found: one defect of a kind doubles the sample on its circuit and on its kind of
    point, a second opens all of them (rule 12.2)."""
    wanted = {point.id for point in first.points}
    widenings = _widen(seen, first, wanted)
    opened = {seen_point.point.id for seen_point in seen if seen_point.opened}
    planned = [seen_point.point for seen_point in seen if seen_point.point.id in wanted]
    left = [point for point in planned if point.id not in opened]
    # What is in by choice or in any case says nothing of the others (rule 12.3): the bound is of what chance drew, and
    # of what it could have drawn.
    by_chance = set(first.drawn)
    frame = sum(not seen_point.point.always and seen_point.point.chosen != "added" for seen_point in seen)
    drawn = [seen_point for seen_point in seen if seen_point.opened and seen_point.point.id in by_chance]
    beside = [seen_point for seen_point in seen if seen_point.opened and seen_point.point.id not in by_chance]
    drawn_defective = sum(seen_point.defect is not None for seen_point in drawn)
    beside_defective = sum(seen_point.defect is not None for seen_point in beside)
    # Drawn points that stayed closed are not replaced by silence: each counts as defective (rule 12.3).
    closed = sum(seen_point.point.id in by_chance and not seen_point.opened for seen_point in seen)
    numbers = (frame, len(drawn), drawn_defective, len(beside), beside_defective, closed)
    return SampleState(
        population=len(seen),
        sampled=len(opened),
        defective=drawn_defective + beside_defective,
        planned=tuple(point.name for point in planned),
        left=tuple(point.name for point in left),
        to_open=tuple(point.id for point in planned),
        still=tuple(point.id for point in left),
        widened=tuple(widening.says for widening in widenings),
        widenings=tuple(widenings),
        share=first.fraction,
        frame=frame,
        drawn=len(drawn),
        drawn_defective=drawn_defective,
        closed=closed,
        most=greatest_defective(frame, len(drawn) + closed, drawn_defective + closed) if drawn else None,
        beside=len(beside),
        beside_defective=beside_defective,
        seed=first.seed,
        reason=first.reason,
        says=in_words(*numbers),
        plainly=plainly(len(seen), *numbers),
    )


def _widen(seen: Sequence[SeenPoint], first: SamplePlan, wanted: set[str]) -> list[Widening]:
    """Let the sample grow, group by group; what comes in is added to `wanted`."""
    defects: dict[tuple[str, str, str], list[str]] = defaultdict(list)
    for seen_point in seen:
        if seen_point.defect:
            for by, name in (("circuit", seen_point.point.circuit), ("kind", seen_point.kind)):
                if name:
                    defects[by, name, seen_point.defect].append(seen_point.point.id)
    order = _lots([seen_point.point for seen_point in seen], first.seed)
    grown = []
    for (by, name, defect), found_at in defects.items():
        share = widened(first.fraction, len(found_at))
        if share <= first.fraction:
            continue
        members = [i for i in order if (seen[i].point.circuit if by == "circuit" else seen[i].kind) == name]
        have = sum(seen[i].point.id in wanted for i in members)
        added = []
        for i in members:
            if have >= ceil(share * len(members) - 1e-9):
                break
            if seen[i].point.id not in wanted:
                wanted.add(seen[i].point.id)
                added.append(seen[i].point.id)
                have += 1
        says = f"{name}: {defect} found {len(found_at)} ×, {share:.0%} of its points"
        grown.append(Widening(name, defect, len(found_at), tuple(found_at), share, tuple(added), says))
    return grown


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
        ways_to_find_so_few = sum(comb(total, k) * comb(population - total, sampled - k) for k in range(defective + 1))
        # 1 − 0.95 is a hair more than 0.05 to a computer, and 1 in 20 is still consistent.
        if ways_to_find_so_few / ways < 1 - confidence - 1e-12:
            break
        greatest = total
    return greatest


def in_words(
    frame: int, sampled: int, defective: int, beside: int = 0, beside_defective: int = 0, closed: int = 0
) -> str:
    """What the sample says, for the report (rule 12.3): of `frame` points that could be drawn `sampled` were drawn and
    opened, `defective` of them with a defect; `closed` were drawn and not opened, each of which counts as defective.
    The bound is of the drawn points alone; `beside`, those opened by choice, in any case or after a finding, are told
    beside it."""
    opened, wrong = sampled + beside, defective + beside_defective
    if opened == 0:
        return "No point was opened: nothing can be said of what lies behind the fronts."
    if sampled == frame:
        return f"All {opened} points were opened; {wrong} had a defect."
    text = ""
    if beside:
        text = f"{_points(beside)} opened by choice or after a finding; {beside_defective} had a defect."
        if not sampled:
            return f"None of the {frame} points that could be drawn was opened. {text}"
        text = f" Beside the draw {text}"
    most = greatest_defective(frame, sampled + closed, defective + closed)
    which = (
        f"{sampled} of {frame} points were drawn and opened" if beside else f"{sampled} of {frame} points were opened"
    )
    of_them = f"those {frame}" if beside else f"all {frame}"
    if closed:
        which = f"{sampled} of the {sampled + closed} points drawn from {frame} were opened, {closed} were not"
        text = f" Each point that stayed closed counts as defective.{text}"
    return f"{which} and {defective} had a defect. At 95 % confidence no more than {most} of {of_them} have one.{text}"


def plainly(
    population: int,
    frame: int,
    sampled: int,
    defective: int,
    beside: int = 0,
    beside_defective: int = 0,
    closed: int = 0,
) -> str:
    """The same for whoever ordered the work, without a word of the trade. population: of all points."""
    opened, wrong = sampled + beside, defective + beside_defective
    if not opened:
        return "We have looked at the sockets, switches and lights from outside and opened none of them."
    had = "none had anything wrong" if wrong == 0 else f"{wrong} had something wrong"
    if opened >= population:
        return f"We opened every socket, switch, light and other point, {population} in all; {had}."
    text = f"We opened {opened} of the {population} sockets, switches, lights and other points; {had}."
    if not sampled:
        return f"{text} They were not picked at random, so they say nothing certain of the others."
    if closed:
        most = greatest_defective(frame, sampled + closed, defective + closed)
        return (
            f"{text} {closed} that were picked at random could not be opened. Counting each of them as faulty, it "
            f"is very "
            f"likely (19 times in 20) that at most {most} of the {frame} have something wrong."
        )
    more = greatest_defective(frame, sampled, defective) - defective
    hidden = "none" if more == 0 else f"no more than {more}"
    return (
        f"{text} Which ones was picked at random, so it is very likely (19 times in 20) that {hidden} of the others "
        f"would turn out to have something wrong as well."
    )


def _points(count: int) -> str:
    return "1 point was" if count == 1 else f"{count} points were"
