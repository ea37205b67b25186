"""The points of a ring, measured with opposite ends cross-connected: where each stands, spurs, contacts, wrong pairing
(rules 4.3 to 4.7).

On a sound ring line to neutral is the same everywhere and line to cpc hardly varies. A spur lifts both by its own
cable, a bad contact lifts them otherwise, the same ends joined by mistake let them rise from nothing at the board.
"""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import replace

from dorrik.core.basics.readings import Reading
from dorrik.core.basics.record import record
from dorrik.core.electrical.ring_ends import (
    LEAST_TOLERANCE_OHM,
    SOURCE,
    Finding,
    Pair,
    PlacedPoint,
    RingAnalysis,
    RingPoint,
    RingTest,
    expected_line_cpc_ohm,
    expected_line_neutral_ohm,
    plain,
)
from dorrik.core.electrical.ring_places import placed, walked
from dorrik.core.electrical.ring_spurs import Excess, length_by, spur_findings, spur_length_m

#: A point higher than expected by more than this share, and by LEAST_TOLERANCE_OHM, is looked at (rule 4.4).
POINT_TOLERANCE = 0.10
#: From this share of points well under what a cross-connected ring reads, the ends are joined the wrong way.
WRONG_PAIRING_SHARE = 0.3
#: Under it by this much: nothing on a sound ring lowers line to neutral.
WRONG_PAIRING_OHM = 0.03

RETEST = "Isolate. Re-plug, work the switch a few times, test again. The same again: remove the front."
LOW_STEP = "Test again. Look for bonded metal or pipework at this point, and for a slip in the reading."


def _open(reading: Reading | None) -> bool:
    if reading is None:
        return False
    return reading.kind == "over-range" or (reading.bound == ">" and (reading.value or 0.0) >= 5.0)


def analyse(test: RingTest, ends: RingAnalysis) -> tuple[tuple[Finding, ...], tuple[PlacedPoint, ...]]:
    """Findings at the points and where each stands. Without closed and even ends only open conductors and the odd one
    out among the points themselves can be told."""
    # On a ring that is broken itself a pair that reads nothing says nothing of its point.
    opened = (f for f in open_at_points(test.points) if ends.closed or f.kind == "cpc-open-at-point")
    findings = list(opened)
    r1, rn, r2 = plain(test.r1), plain(test.rn), plain(test.r2)
    bent = bent_pairs(ends.findings)
    nowhere = tuple(PlacedPoint(point.name) for point in test.points)
    named_points = {finding.point for finding in findings}
    if not ends.closed or len(bent) == 2 or r1 is None or rn is None or r2 is None:
        if ends.closed is not False or bent:
            findings.extend(_odd_ones(test.points, ("neutral", "cpc"), named_points))
        return tuple(findings), nowhere
    ring = _Ends(r1, rn, r2)
    wrong = [pair for pair in _wrongly_paired(test.points, ring) if pair not in bent]
    if wrong:
        findings[:0] = [_same_ends(pair, wrong) for pair in wrong[:1]]
        if len(wrong) == 2:
            return tuple(findings), nowhere
    aside: list[Pair] = [*wrong, *bent]
    findings.extend(_odd_ones(test.points, tuple(bent), named_points))
    lifted, points = _all_high(test, ring, aside)
    findings.extend(lifted)
    spurs: dict[int, float] = {}
    for index, point in enumerate(points):
        if point.name in named_points:
            continue
        length, finding = _at_point(point, walked(points, index), test, ring, aside)
        if length is not None:
            spurs[index] = length
        if finding is not None:
            findings.append(finding)
    bridged = _bridged(points, spurs)
    findings.extend(bridged)
    within = {name for finding in bridged for name in (finding.point, *finding.others)}
    alone = {index: length for index, length in spurs.items() if points[index].name not in within}
    findings.extend(spur_findings(points, alone))
    return tuple(findings), nowhere if bent else placed(points, spurs, r1, r2)


def compare(points: Sequence[RingPoint]) -> tuple[tuple[Finding, ...], tuple[PlacedPoint, ...]]:
    """Sockets compared with each other: what is open at one of them, and which stands out (rule 4.7). Nothing that the
    ends lead to is held against them, and no place follows."""
    opened = tuple(open_at_points(points))
    odd = _odd_ones(points, ("neutral", "cpc"), {finding.point for finding in opened})
    return (*opened, *odd), tuple(PlacedPoint(point.name) for point in points)


#: Findings at the ends with which no expected value of a point can be trusted; what bends the cpc alone leaves line to
#: neutral as it is.
BENDING = frozenset(("loose-joint", "parallel-earth", "turned-round", "equal-cpc"))


def bent_pairs(findings: Sequence[Finding]) -> tuple[Pair, ...]:
    """The pairs whose expected values the ends leave in doubt."""
    conductors_bent = {f.conductor for f in findings if f.kind in BENDING}
    slipped = any(f.kind == "turned-round" for f in findings)
    neutral = slipped or bool(conductors_bent & {"line", "neutral"})
    cpc = slipped or bool(conductors_bent & {"line", "cpc"})
    bent: tuple[tuple[Pair, bool], ...] = (("neutral", neutral), ("cpc", cpc))
    return tuple(pair for pair, in_doubt in bent if in_doubt)


@record
class _Ends:
    """End-to-end resistances of line, neutral and cpc (Ω)."""

    r1: float
    rn: float
    r2: float

    def flat(self) -> float:
        """Line to neutral, everywhere."""
        return expected_line_neutral_ohm(self.r1, self.rn)

    def least(self, pair: Pair) -> float:
        """The lowest that any place on the ring can give."""
        return self.flat() if pair == "neutral" else expected_line_cpc_ohm(self.r1, self.r2, 0.0)

    def total(self, pair: Pair) -> float:
        """Both conductors of a pair, once round."""
        return self.r1 + (self.rn if pair == "neutral" else self.r2)


def open_at_points(points: Sequence[RingPoint]) -> Iterator[Finding]:
    """A pair that does not read where the other does, or neither; the dangerous reading first (rule 4.6)."""
    for point in points:
        neutral_open, cpc_open = _open(point.line_neutral), _open(point.line_cpc)
        if cpc_open and plain(point.line_neutral) is not None:
            yield Finding(
                "cpc-open-at-point",
                "cpc",
                f"{point.name}: line to neutral reads, line to cpc does not: cpc open here, or line and neutral "
                f"swapped.",
                "Isolate and prove dead. Test polarity here, then check the cpc terminal. Restore, test again.",
                f"{SOURCE} · rule 4.6",
                "no-cpc-at-point",
                point=point.name,
            )
        elif neutral_open and plain(point.line_cpc) is not None:
            yield Finding(
                "neutral-open-or-crossed",
                "neutral",
                f"{point.name}: line to cpc reads, line to neutral does not: line and cpc swapped, so that earthed "
                "metal here would be live, or the neutral is open.",
                "Treat the earth as live. Isolate and prove dead; remove the front before anything is switched on.",
                f"{SOURCE} · rule 4.6",
                "polarity-wrong",
                point=point.name,
            )
        elif neutral_open and cpc_open:
            yield Finding(
                "line-open-at-point",
                "line",
                f"{point.name}: neither pair reads: line open here, neutral and cpc swapped, or all three rotated.",
                "Treat the earth as live. Isolate and prove dead; remove the front before anything is switched on. "
                "A plug-in "
                "tester cannot see neutral and cpc swapped.",
                f"{SOURCE} · rule 4.6",
                "polarity-wrong",
                point=point.name,
            )


#: A point this far from all its fellows stands out among them (Ω, share), where nothing else can be held against it.
ODD_OHM, ODD_SHARE = 0.08, 0.4


def _odd_ones(points: Sequence[RingPoint], pairs: tuple[Pair, ...], named_points: set[str | None]) -> Iterator[Finding]:
    """Points that stand out among their neighbours, where the ends themselves are in doubt (rule 4.4)."""
    for pair in pairs:
        known = [(i, v) for i, v in enumerate(_values(points, pair)) if v is not None]
        if len(known) < 3:
            continue
        middle = sorted(v for _, v in known)[len(known) // 2]
        for place, (index, value) in enumerate(known):
            point = points[index]
            beside = [known[n][1] for n in (place - 1, place + 1) if 0 <= n < len(known)]
            apart = [value - other for other in (*beside, middle)]
            least = max(ODD_OHM, ODD_SHARE * middle)
            if point.name in named_points or not (all(d > least for d in apart) or all(d < -least for d in apart)):
                continue
            reading = point.line_neutral if pair == "neutral" else point.line_cpc
            lower = apart[0] < 0
            yield Finding(
                "odd-one-out",
                pair,
                f"{point.name} reads {reading} Ω line to {pair} among {middle:.2f} Ω at its neighbours.",
                LOW_STEP if lower else RETEST,
                f"{SOURCE} · rules 4.4, 1.2",
                point=point.name,
            )


def _all_high(test: RingTest, ring: "_Ends", aside: Sequence[Pair]) -> tuple[list[Finding], Sequence[RingPoint]]:
    """Every point high by one equal amount is a lead, an adaptor or the link at the board; said once, and taken off
    before the points are judged (rule 4.4)."""
    findings: list[Finding] = []
    points = list(test.points)
    pairs: tuple[Pair, ...] = ("neutral", "cpc")
    offsets: dict[Pair, float] = {}
    for pair in pairs:
        if pair in aside:
            continue
        over = _over(test.points, pair, ring)
        if len(over) < 3:
            continue
        middle = sorted(over.values())[len(over) // 2]
        alike = [d for d in over.values() if abs(d - middle) <= EQUAL_OHM + 0.1 * middle]
        if middle > LEAST_TOLERANCE_OHM and len(alike) >= max(3, 0.8 * len(over)) and min(over.values()) > 0.03:
            offsets[pair] = middle
    if not offsets:
        return findings, points
    shown = " and ".join(f"{over:.2f} Ω line to {pair}" for pair, over in offsets.items())
    amount = max(offsets.values())
    fits = next(
        (f", which is what {name} reads ({ohm:.2f} Ω)" for name, ohm in test.leads if abs(ohm - amount) <= 0.03), ""
    )
    findings.append(
        Finding(
            "all-high",
            "cpc" if "cpc" in offsets else "neutral",
            f"Every point reads high by the same: {shown}. A lead, a plug adaptor or the link at the board adds "
            f"it{fits}.",
            "Null the leads with the adaptor on, check the link at the board, test one point again.",
            f"{SOURCE} · rules 4.4, 1.4",
        )
    )
    return findings, [_less(point, offsets) for point in points]


#: Points high by one amount differ by no more than this (Ω).
EQUAL_OHM = 0.03


def _over(points: Sequence[RingPoint], pair: Pair, ring: "_Ends") -> dict[int, float]:
    """By place in the walk, how far each point is above what a sound ring reads there (Ω)."""
    over = {}
    for index, value in enumerate(_values(points, pair)):
        place = walked(points, index)
        there = ring.flat() if pair == "neutral" else expected_line_cpc_ohm(ring.r1, ring.r2, place)
        if value is not None:
            over[index] = value - there
    return over


def _less(point: RingPoint, offsets: Mapping[Pair, float]) -> RingPoint:
    """A point without what every point has too much of."""

    def lower(reading: Reading | None, pair: Pair) -> Reading | None:
        value = plain(reading)
        if value is None or pair not in offsets:
            return reading
        return Reading.of(max(0.0, value - offsets[pair]))

    return replace(point, line_neutral=lower(point.line_neutral, "neutral"), line_cpc=lower(point.line_cpc, "cpc"))


def _bridged(points: Sequence[RingPoint], spurs: dict[int, float]) -> list[Finding]:
    """Three or more neighbours that rise and fall together are not so many spurs: a link across the ring, or points
    joined wrongly, is offered beside them (rule 4.4)."""
    findings = []
    run: list[int] = []
    for index in (*sorted(spurs), 10**6):
        if run and index != run[-1] + 1:
            if len(run) >= 3:
                findings.append(_link(points, run, spurs))
            run = []
        run.append(index)
    return findings


def _link(points: Sequence[RingPoint], run: Sequence[int], spurs: dict[int, float]) -> Finding:
    highest = max(run, key=lambda index: spurs[index])
    names = [points[index].name for index in run]
    return Finding(
        "bridged",
        "line",
        f"{len(run)} neighbours read high together, {', '.join(names)}: a link across the ring (bridged), points "
        f"joined "
        "wrongly, or a spur each.",
        "Isolate and prove dead. Trace the cables between these points. Restore, test again.",
        f"{SOURCE} · rule 4.4",
        point=points[highest].name,
        others=tuple(name for name in names if name != points[highest].name),
    )


def _same_ends(pair: Pair, wrong: Sequence[Pair]) -> Finding:
    other = "cpc" if pair == "neutral" else "neutral"
    which = "" if len(wrong) == 2 else f" of line and {pair}, not of line and {other}"
    return Finding(
        "wrong-pairing",
        "line" if len(wrong) == 2 else pair,
        f"The readings rise from near nothing at the board to the middle: the same ends are joined{which}.",
        "Isolate and prove dead. Swap the pairs at the board, line of one leg with cpc or neutral of the other; "
        "test again.",
        f"{SOURCE} · rule 4.5",
    )


def _wrongly_paired(points: Sequence[RingPoint], ring: _Ends) -> list[Pair]:
    """The pairs joined at the same ends: they read x(1−x) of both conductors, each judged for itself (rule 4.5)."""
    pairs: tuple[Pair, ...] = ("neutral", "cpc")
    suspects = [pair for pair in pairs if _rises(_values(points, pair), ring.least(pair), ring.total(pair))]
    if len(suspects) == 2 and not _agree(points, ring):
        return []
    return suspects


def _values(points: Sequence[RingPoint], pair: Pair) -> list[float | None]:
    return [plain(p.line_neutral if pair == "neutral" else p.line_cpc) for p in points]


def _rises(values: Sequence[float | None], least: float, total: float) -> bool:
    known = [(index, value) for index, value in enumerate(values) if value is not None]
    low = [value for _, value in known if value < least - max(WRONG_PAIRING_OHM, 0.08 * least)]
    if len(low) < 2 or len(low) < WRONG_PAIRING_SHARE * len(known):
        return False
    # From nothing at the board to a quarter of both in the middle: the ends of the walk are its lowest points.
    by_place = [value for _, value in known]
    middle = max(by_place[len(by_place) // 4 : max(len(by_place) // 4 + 1, (3 * len(by_place) + 3) // 4)])
    return min(by_place[0], by_place[-1]) < middle + 1e-9 and middle <= 1.15 * total / 4 + 0.05


def _agree(points: Sequence[RingPoint], ring: _Ends) -> bool:
    """Where both pairs are low, the same ends give the same share of each."""
    both = [(plain(p.line_neutral), plain(p.line_cpc)) for p in points]
    flat = ring.flat()
    measured = [(ln, lc) for ln, lc in both if ln is not None and lc is not None]
    low = [(ln, lc) for ln, lc in measured if ln < flat - max(WRONG_PAIRING_OHM, 0.08 * flat)]
    if not low:
        return True
    agree = [abs(ln / ring.total("neutral") - lc / ring.total("cpc")) <= 0.06 for ln, lc in low]
    return sum(agree) >= 0.7 * len(agree)


def _at_point(
    point: RingPoint, walked: float, test: RingTest, ring: _Ends, wrong: Sequence[Pair]
) -> tuple[float | None, Finding | None]:
    """The spur that a point is on (m), or what else is to be said of it."""
    low = _low(point, ring, wrong)
    if low is not None:
        return None, low
    ln = None if "neutral" in wrong else plain(point.line_neutral)
    lc = None if "cpc" in wrong else plain(point.line_cpc)
    if ln is not None and lc is not None:
        excess = _excess(ln, lc, walked, ring)
        if excess is None:
            return None, None
        length = spur_length_m(excess, test)
        return (length, None) if length is not None else (None, _contact(point, excess))
    pair: Pair = "neutral" if lc is None else "cpc"
    value = ln if lc is None else lc
    most = ring.flat() if pair == "neutral" else expected_line_cpc_ohm(ring.r1, ring.r2)
    if value is None or value - most <= max(LEAST_TOLERANCE_OHM, POINT_TOLERANCE * most) + 1e-9:
        return None, None
    return None, _high_alone(point, pair, value - most, test)


def _low(point: RingPoint, ring: _Ends, wrong: Sequence[Pair]) -> Finding | None:
    """Lower than any place on this ring can give (rule 1.2)."""
    pairs: tuple[Pair, ...] = ("cpc", "neutral")
    for pair in pairs:
        reading = point.line_neutral if pair == "neutral" else point.line_cpc
        value, least = plain(reading), ring.least(pair)
        if pair in wrong or value is None or value >= least - max(LEAST_TOLERANCE_OHM, POINT_TOLERANCE * least) - 1e-9:
            continue
        cause = "an earth path in parallel here, or a slip" if pair == "cpc" else "a slip, or other ends were joined"
        return Finding(
            "low-at-point",
            pair,
            f"{point.name} reads {reading} Ω line to {pair}; no place on it gives less than {least:.2f} Ω: {cause}.",
            LOW_STEP,
            f"{SOURCE} · rules 4.3, 1.2",
            point=point.name,
        )
    return None


def _high_alone(point: RingPoint, pair: Pair, over: float, test: RingTest) -> Finding:
    """One pair alone was measured and is high: a retest first, then both readings of it (rule 4.4)."""
    reading = point.line_neutral if pair == "neutral" else point.line_cpc
    text = f"{point.name} reads {reading} Ω line to {pair}, {over:.2f} Ω more than the ends lead to"
    if not point.retested:
        reason, step = f"{text}.", RETEST
    else:
        length = length_by(over, pair, test)
        spur = f"a spur of about {length:.0f} m" if length is not None else "a spur"
        reason = f"{text}, and the same after the retest: {spur}, or a loose terminal of the line or the {pair}."
        step = (
            "Test line to neutral here too: high alike is a spur. Isolate before the front is removed; trace the cable."
        )
    return Finding("high-at-point", pair, reason, step, f"{SOURCE} · rule 4.4", point=point.name)


def _excess(ln: float, lc: float, walked: float, ring: _Ends) -> Excess | None:
    """How far a point is above what a sound ring reads; None where it is not.

    walked: share of the walk at which the point stands; line to cpc varies by a few per cent along the ring.
    """
    flat, there = ring.flat(), expected_line_cpc_ohm(ring.r1, ring.r2, walked)
    most = expected_line_cpc_ohm(ring.r1, ring.r2)
    high_ln = ln - flat > max(LEAST_TOLERANCE_OHM, POINT_TOLERANCE * flat)
    high_lc = lc - most > max(LEAST_TOLERANCE_OHM, POINT_TOLERANCE * most)
    return (ln - flat, lc - there) if high_ln or high_lc else None


def _contact(point: RingPoint, excess: Excess) -> Finding:
    over_ln, over_lc = excess
    if over_ln > LEAST_TOLERANCE_OHM and over_lc > LEAST_TOLERANCE_OHM:
        where = "line contact or terminal, since both pairs are high but not as a cable would make them"
    elif over_ln > over_lc:
        where = "neutral contact or terminal, since only line to neutral is high"
    else:
        where = "cpc contact or terminal, since only line to cpc is high"
    again = ", the same after the retest" if point.retested else ""
    return Finding(
        "contact",
        "cpc" if over_lc > over_ln else "neutral",
        f"{point.name} reads {point.line_neutral} and {point.line_cpc} Ω{again}: a {where}.",
        (
            "Isolate and prove dead. Remove the front: a loose terminal, or a worn pin. Restore, test again."
            if point.retested
            else RETEST
        ),
        f"{SOURCE} · rule 4.4",
        point=point.name,
    )
