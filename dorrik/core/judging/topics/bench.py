"""What is measured at the points of each circuit, in which order, and where each point stands by its readings."""

from collections.abc import Iterator

from dorrik.core.basics.record import record
from dorrik.core.electrical import continuity, ring, ring_gap, ring_in_place
from dorrik.core.electrical.conductors import per_metre_ohm
from dorrik.core.electrical.ring_ends import Conductor, Pair, plain
from dorrik.core.electrical.ring_points import bent_pairs
from dorrik.core.home import gangs, open_ring
from dorrik.core.inspection.point import NOT_SERVED
from dorrik.core.inspection.records import Board, Circuit, Point
from dorrik.core.judging.topics.context import (
    Context,
    board_on_the_way,
    cable_of,
    conductor_mm2,
    name_of,
    opened_at,
    point_names,
    round_from_ends,
)

#: The figures of a point, by the way that its circuit's continuity is tested (rules 4.3 to 4.8, 5.1).
FIELDS: dict[str, tuple[str, ...]] = {
    "ends cross-connected": ("line_neutral_ohm", "line_cpc_ohm"),
    "ring left in place": ("line_neutral_ohm", "line_cpc_ohm"),
    "long lead": ("r2_ohm",),
    "sockets compared": ("line_neutral_ohm", "line_cpc_ohm"),
}
#: How the continuity of a circuit can be tested, in words (rules 4.5, 4.7, 5.1).
METHODS: dict[str, tuple[tuple[str, str], ...]] = {
    "ring": (
        ("ends cross-connected", "Ends cross-connected"),
        ("ring left in place", "Ring left in place"),
        ("long lead", "R2 by long lead"),
        ("sockets compared", "Sockets compared"),
    ),
    "radial": (("ends cross-connected", "R1+R2, joined at the board"), ("long lead", "R2 by long lead")),
}
#: What is measured live at a point (rules 4.6, 7.1); metal to earth where a front is of metal.
LIVE = ("zs_ohm", "line_neutral_v", "line_earth_v", "neutral_earth_v")
METAL = "metal_earth_v"
#: Where the highest of a point's figure is recorded for the circuit.
_TO = {"r2_ohm": "long_lead_r2_ohm", "line_cpc_ohm": "r1_r2_ohm", "zs_ohm": "zs_ohm"}
LEGS = ("leg_one_ohm", "leg_two_ohm")
#: What is said of the test of a radial as a whole (rule 5.3).
FLAGS = ("switches_both_ways", "controls_bridged")
LEGS_INSULATION = ("insulation_leg_one_mohm", "insulation_leg_two_mohm")
SWAP = ("swap_line_ohm", "swap_neutral_ohm", "swap_cpc_ohm")
_ALL = ("line_neutral_ohm", "line_cpc_ohm", "r2_ohm", *LEGS)
#: What the first reading of a figure stays in once the point is tested again.
FIRST = {
    "line_neutral_ohm": "first_line_neutral_ohm",
    "line_cpc_ohm": "first_line_cpc_ohm",
    "r2_ohm": "first_r2_ohm",
}
#: What stands beside a point in the drawing, by what was found there.
_SAYS = {
    "spur": "spur",
    "spur-off-spur": "spur, or beyond another",
    "contact": "contact",
    "high-at-point": "high",
    "low-at-point": "low",
    "cpc-open-at-point": "cpc open",
    "neutral-open-or-crossed": "neutral open, or cpc swapped",
    "line-open-at-point": "line open, or swapped",
    "bridged": "link across the ring, or a spur",
    "odd-one-out": "odd one out",
}
#: In so many steps the expected values are drawn round the ring.
STEPS = 16


@record
class BenchPoint:
    """A point as it is tested.

    walked: its share of the walk; position: where its reading puts it on the ring, 0 to 1 (None where it cannot be
    said); spur_m: cable of its spur (m); from_board_m: cable from the board that its reading leads to (m, on a radial);
    says: what was found there, in a word; again: does it want a retest?; tested: is there a reading, or was it as
    expected?; live: is there one of the live tests?
    two_gangs: is each gang of it tested?
    """

    id: str
    name: str
    walked: float
    position: float | None = None
    spur_m: float | None = None
    from_board_m: float | None = None
    says: str = ""
    again: bool = False
    tested: bool = False
    live: bool = False
    two_gangs: bool = False


@record
class Curve:
    """What a sound ring reads at its points: places from 0 at the board to 1 round the ring, with its value (Ω)."""

    field: str
    values: tuple[tuple[float, float], ...]


@record
class Highest:
    """The highest reading of a circuit, which is recorded for it (rules 4.7, 5.1); to: the circuit's field for it."""

    point_id: str
    field: str
    text: str
    to: str


@record
class Between:
    """The points on either side of the gap of an open ring, by their ids, and what is said of it."""

    before: str | None
    after: str | None
    says: str


@record
class Bench:
    """The points of a circuit as they are tested, in the order of the walk.

    form: ring or radial; method: how continuity is tested; fields: which figures, in their order;
    first: where the first reading of a figure is kept once it is tested again; open: is the ring
    open, so that its legs are tested apart?; length_m: of the cable, as its ends or the highest reading lead to (m);
    curves: what to expect round the ring; highest: None while nothing was measured; gap: where it is open, once it was
    looked for; methods: how its continuity can be tested, each with its words; flags: what is said of the test as a
    whole, by its fields; legs_insulation: fields of its legs' insulation, while it is open; lower_to_a: the rating that
    one leg allows until it is repaired; swap: fields of the end-swap check, swap_with: the rings it can be tried
    against, by id and name; polarity_offered: did every point read right, and polarity is not entered yet?
    live_fields: figures of the live tests at its points; highest_zs: of those, None while there is none.
    second: the second gang's figure of each; starts_at: the socket where the ring's ends were opened, by its name, ''
    for the board; board_at: where the board lies on the way round, 0 to 1; sockets: where they can be opened, by id and
    name; across: ids of the points at either end of what a link across the ring would join; works_offered: ids of the
    switches that the test has shown to open and close.
    """

    circuit_id: str
    form: str
    method: str
    fields: tuple[str, ...]
    first: dict[str, str]
    open: bool
    length_m: float | None
    points: tuple[BenchPoint, ...]
    curves: tuple[Curve, ...]
    highest: Highest | None
    gap: Between | None
    methods: tuple[tuple[str, str], ...]
    flags: tuple[str, ...]
    legs_insulation: tuple[str, ...]
    lower_to_a: float | None
    swap: tuple[str, ...]
    swap_with: tuple[tuple[str, str], ...]
    polarity_offered: bool
    live_fields: tuple[str, ...]
    highest_zs: Highest | None
    second: dict[str, str]
    starts_at: str
    board_at: float
    sockets: tuple[tuple[str, str], ...]
    across: tuple[tuple[str, str], ...]
    works_offered: tuple[str, ...]


def benches(context: Context) -> Iterator[Bench]:
    """One for each circuit with points, and for each ring."""
    yield from context.each_circuit(bench_of)


def bench_of(context: Context, board: Board, circuit: Circuit) -> Iterator[Bench]:
    """That of one circuit, if it has any."""
    if circuit.points or circuit.form == "ring":
        yield _bench(context, board, circuit)


def _bench(context: Context, board: Board, circuit: Circuit) -> Bench:
    analysis = context.ring(circuit)
    method = context.continuity_method(circuit)
    opened = analysis is not None and analysis.closed is False
    fields = _fields(circuit, method, opened=opened)
    carried = "r2_ohm" if method == "long lead" else "line_cpc_ohm"
    doubtful = frozenset(of for of, field in context.doubtful if field in fields)
    points = tuple(_points(circuit, analysis, carried, doubtful))
    named = point_names(circuit)
    length = analysis.length_m if analysis else max((p.from_board_m or 0.0 for p in points), default=0.0) or None
    return Bench(
        circuit_id=circuit.id,
        form=circuit.form or "radial",
        method=method,
        fields=fields,
        first={field: FIRST[field] for field in fields if field in FIRST},
        open=opened,
        length_m=length,
        points=points,
        curves=_curves(circuit, analysis, method) if analysis is not None else (),
        highest=None if opened else _highest(circuit, carried),
        gap=_between(circuit, analysis) if analysis is not None and opened else None,
        methods=METHODS["ring" if circuit.form == "ring" else "radial"],
        flags=FLAGS if circuit.form != "ring" else (),
        legs_insulation=LEGS_INSULATION if opened else (),
        lower_to_a=allowed.rating_a if opened and (allowed := open_ring.leg_rating(cable_of(circuit))) else None,
        swap=SWAP if opened else (),
        swap_with=tuple(_rings_beside(board, circuit)) if opened else (),
        polarity_offered=_all_right(circuit, analysis, method, fields),
        live_fields=_live_fields(circuit),
        highest_zs=_highest(circuit, "zs_ohm"),
        second={field: second for field, second in gangs.SECOND.items() if field in (*fields, *LIVE)},
        starts_at=next((name for name, point in named.items() if point.id == opened_at(circuit)), ""),
        board_at=board_on_the_way(circuit),
        sockets=tuple((p.id, name) for name, p in named.items() if p.kind == "socket") if analysis is not None else (),
        across=tuple(_across(circuit, analysis)) if analysis is not None else (),
        works_offered=tuple(_worked(circuit, fields)),
    )


def _rings_beside(board: Board, circuit: Circuit) -> Iterator[tuple[str, str]]:
    """The other rings of its board: those whose second ends could be its own (rule 4.1)."""
    for other in board.circuits:
        if other.id != circuit.id and other.form == "ring" and not other.spare:
            yield other.id, name_of(other)


def _all_right(circuit: Circuit, analysis: ring.RingAnalysis | None, method: str, fields: tuple[str, ...]) -> bool:
    """Did every point read as only the right conductors do (rule 4.6)? A long lead cannot show it."""
    if circuit.polarity is not None or method in ("long lead", "sockets compared") or not circuit.points:
        return False
    if analysis is not None and (analysis.closed is not True or analysis.findings):
        return False
    return all(plain(getattr(point, field)) is not None for point in circuit.points for field in fields)


def _across(circuit: Circuit, analysis: ring.RingAnalysis) -> Iterator[tuple[str, str]]:
    """The points at either end of each run that a link across the ring would explain (rule 4.4)."""
    order = {name: (walked, point.id) for name, point, walked in round_from_ends(circuit)}
    for finding in analysis.findings:
        if finding.kind == "bridged":
            run = sorted(order[name] for name in (finding.point, *finding.others) if name in order)
            yield run[0][1], run[-1][1]


def _worked(circuit: Circuit, fields: tuple[str, ...]) -> Iterator[str]:
    """Switches tried both ways in the dead test, with a reading at every point that they feed: they open and close.
    What was entered of one stands."""
    fed = [point for point in circuit.points if point.kind not in NOT_SERVED]
    measured = all(any(plain(getattr(point, field)) is not None for field in fields) for point in fed)
    if circuit.switches_both_ways and fed and measured:
        for point in circuit.points:
            if point.kind in ("switch", "pull cord") and point.functional is None:
                yield point.id


def _live_fields(circuit: Circuit) -> tuple[str, ...]:
    metal = any(point.front == "metal" or point.metal_earth_v is not None for point in circuit.points)
    return (*LIVE, METAL) if metal else LIVE


def open_conductor(analysis: ring.RingAnalysis) -> Conductor | None:
    """The first conductor of a ring that is open; None where none is."""
    return next((f.conductor for f in analysis.findings if f.kind in ("open-conductor", "not-a-ring")), None)


def gap(circuit: Circuit, analysis: ring.RingAnalysis) -> ring_gap.Gap | None:
    """Where a ring is open, by what its legs read (rule 4.8); None where that was not measured, or nothing is open."""
    opened = open_conductor(analysis)
    if opened is None:
        return None
    named = point_names(circuit).items()
    legs = [ring_gap.LegPoint(name, point.leg_one_ohm, point.leg_two_ohm) for name, point in named]
    return ring_gap.find(legs, circuit.cpc_csa_mm2 if opened == "cpc" else conductor_mm2(circuit))


def _between(circuit: Circuit, analysis: ring.RingAnalysis) -> Between | None:
    where = gap(circuit, analysis)
    if where is None:
        return None
    named = point_names(circuit)
    before, after = (named[name].id if name is not None else None for name in (where.before, where.after))
    return Between(None, None, where.says) if where.overlap else Between(before, after, where.says)


def _fields(circuit: Circuit, method: str, *, opened: bool) -> tuple[str, ...]:
    """The figures that the way of testing asks for, and any that were measured otherwise."""
    asked = LEGS if opened else FIELDS[method]
    if circuit.form != "ring" and not opened:
        asked = tuple(field for field in asked if field != "line_neutral_ohm")
    if circuit.no_cpc and not opened:
        asked = ("line_neutral_ohm",)
    more = [f for f in _ALL if f not in asked and any(getattr(p, f) is not None for p in circuit.points)]
    return (*asked, *more)


def _points(
    circuit: Circuit, analysis: ring.RingAnalysis | None, carried: str, doubtful: frozenset[str]
) -> Iterator[BenchPoint]:
    placed = {place.name: place for place in analysis.points} if analysis else {}
    findings = {f.point: f for f in reversed(analysis.findings) if f.point} if analysis else {}
    ohm_a_metre = None if circuit.form == "ring" else _ohm_a_metre(circuit, carried)
    # On the screen in the order of the walk; the way round begins where the ends are.
    share = {name: walked for name, _, walked in round_from_ends(circuit)}
    for name, point in point_names(circuit).items():
        place, finding = placed.get(name), findings.get(name)
        spur = place.spur_length_m if place else None
        value = plain(getattr(point, carried))
        says = "leads in doubt" if point.id in doubtful else _SAYS.get(finding.kind, "") if finding else ""
        yield BenchPoint(
            id=point.id,
            name=name,
            walked=share[name],
            position=place.position if place else None,
            spur_m=spur,
            from_board_m=value / ohm_a_metre if value is not None and ohm_a_metre else None,
            says=f"{says}, about {spur:.1f} m" if finding and says and spur is not None else says,
            # What was measured with leads in doubt is measured again, whatever it showed (rule 1.4).
            again=point.id in doubtful or (finding is not None and not point.retested),
            tested=_is_tested(point),
            live=any(getattr(point, field) is not None for field in LIVE),
            two_gangs=gangs.is_tested_apart(point),
        )


def _is_tested(point: Point) -> bool:
    """Dead: by a reading, or as expected. What was measured live alone is no continuity."""
    measured = (point.line_neutral_ohm, point.line_cpc_ohm, point.r2_ohm, point.leg_one_ohm, point.leg_two_ohm)
    return bool(point.tested) or any(reading is not None for reading in measured)


def _ohm_a_metre(circuit: Circuit, carried: str) -> float | None:
    line, cpc = conductor_mm2(circuit), circuit.cpc_csa_mm2
    if not cpc or (carried != "r2_ohm" and not line):
        return None
    try:
        return per_metre_ohm(cpc) + (0.0 if carried == "r2_ohm" or line is None else per_metre_ohm(line))
    except LookupError:
        return None


def _curves(circuit: Circuit, analysis: ring.RingAnalysis, method: str) -> tuple[Curve, ...]:
    """Nothing where the ends are open or in doubt: what they lead to would be held against sound points."""
    r1, rn, r2 = plain(circuit.r1_ohm), plain(circuit.rn_ohm), plain(circuit.r2_ohm)
    if not analysis.closed or r1 is None or rn is None or r2 is None:
        return ()
    places = [step / STEPS for step in range(STEPS + 1)]
    if method == "long lead":
        if "cpc" in bent_pairs(analysis.findings):
            return ()
        return (Curve("r2_ohm", tuple((x, ring_in_place.expected_ohm(r2, x)) for x in places)),)
    pairs: tuple[tuple[Pair, str, float], ...] = (
        ("neutral", "line_neutral_ohm", rn),
        ("cpc", "line_cpc_ohm", r2),
    )
    drawn = []
    for pair, field, other in pairs:
        if pair in bent_pairs(analysis.findings):
            continue
        if method == "ring left in place":
            values = tuple((x, ring_in_place.expected_ohm(r1 + other, x)) for x in places)
        elif pair == "neutral":
            values = tuple((x, ring.expected_line_neutral_ohm(r1, rn)) for x in (0.0, 1.0))
        else:
            values = tuple((x, ring.expected_line_cpc_ohm(r1, r2, x)) for x in places)
        drawn.append(Curve(field, values))
    return tuple(drawn)


def _highest(circuit: Circuit, field: str) -> Highest | None:
    readings = [(p.id, reading) for p in circuit.points for reading in gangs.readings(p, field)]
    highest = continuity.highest(reading for _, reading in readings)
    over = next((reading for _, reading in readings if reading.kind == "over-range"), None)
    if over is not None and (highest is None or field == "zs_ohm"):
        # A loop over range is above every figure. Of continuity it is a finding of its own, and stands for the circuit
        # only where nothing else reads.
        highest = over
    if highest is None:
        return None
    where = next(point_id for point_id, reading in readings if reading is highest or reading == highest)
    return Highest(where, field, highest.text, _TO[field])
