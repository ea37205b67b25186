"""Rings and the points of a circuit as they go over the wire, as exact as they are drawn."""

from dorrik.core.basics.record import record
from dorrik.core.book.rule_book import RuleBook
from dorrik.core.electrical.ring import RingAnalysis
from dorrik.core.judging.topics.bench import Bench, BenchPoint, Between, Highest


@record
class RingFindingView:
    """Something found of a ring, and at which point."""

    kind: str
    point: str | None
    reason: str


@record
class RingPlaceView:
    """A point of a ring: from 0 at the board to 1 round it, and how long its spur is (m)."""

    name: str
    position: float | None
    spur_length_m: float | None


@record
class RingView:
    """What the ends and points of a ring lead to (Ω, m)."""

    circuit_id: str
    closed: bool | None
    expected_line_neutral_ohm: float | None
    expected_line_cpc_ohm: float | None
    recorded_r1_r2_ohm: float | None
    length_m: float | None
    findings: tuple[RingFindingView, ...]
    points: tuple[RingPlaceView, ...]


@record
class CurveView:
    """What a sound ring reads: places from 0 to 1 round the ring, and the value at each (Ω)."""

    field: str
    places: tuple[float, ...]
    values: tuple[float, ...]


@record
class MethodView:
    """A way to test a circuit's continuity, and its words."""

    method: str
    says: str


@record
class NamedView:
    """Something to choose from: its id and its name."""

    id: str
    name: str


@record
class AcrossView:
    """Where a link across a ring may run: the points at either end of those that read high together, by their ids."""

    one_end: str
    other_end: str


@record
class BenchView:
    """The points of a circuit in the order of the walk: how they are tested, and where their readings put them (m). As
    `Bench` has it, as exact as it is drawn."""

    circuit_id: str
    form: str
    method: str
    fields: tuple[str, ...]
    first: dict[str, str]
    open: bool
    length_m: float | None
    points: tuple[BenchPoint, ...]
    curves: tuple[CurveView, ...]
    highest: Highest | None
    gap: Between | None
    methods: tuple[MethodView, ...]
    flags: tuple[str, ...]
    legs_insulation: tuple[str, ...]
    lower_to_a: float | None
    swap: tuple[str, ...]
    swap_with: tuple[NamedView, ...]
    polarity_offered: bool
    live_fields: tuple[str, ...]
    second: dict[str, str]
    starts_at: str
    board_at: float
    across: tuple[AcrossView, ...]
    works_offered: tuple[str, ...]
    sockets: tuple[NamedView, ...]
    highest_zs: Highest | None


def ring_view(circuit_id: str, ring: RingAnalysis) -> RingView:
    """The analysis of a ring as it goes over the wire."""
    return RingView(
        circuit_id,
        ring.closed,
        ring.expected_line_neutral_ohm,
        ring.expected_line_cpc_ohm,
        ring.recorded_r1_r2_ohm,
        ring.length_m,
        tuple(RingFindingView(f.kind, f.point, f.reason) for f in ring.findings),
        tuple(RingPlaceView(p.name, p.position, p.spur_length_m) for p in ring.points),
    )


def bench_view(bench: Bench, book: RuleBook) -> BenchView:
    """A bench as it goes over the wire, in the words of a rule book."""
    return BenchView(
        bench.circuit_id,
        bench.form,
        bench.method,
        bench.fields,
        bench.first,
        bench.open,
        _short(bench.length_m),
        tuple(_bench_point(point, book) for point in bench.points),
        tuple(
            CurveView(c.field, tuple(round(at, 4) for at, _ in c.values), tuple(round(ohm, 4) for _, ohm in c.values))
            for c in bench.curves
        ),
        bench.highest,
        bench.gap,
        tuple(MethodView(key, book.translate(says)) for key, says in bench.methods),
        bench.flags,
        bench.legs_insulation,
        bench.lower_to_a,
        bench.swap,
        tuple(NamedView(*ring) for ring in bench.swap_with),
        bench.polarity_offered,
        bench.live_fields,
        bench.second,
        bench.starts_at,
        round(bench.board_at, 4),
        tuple(AcrossView(*ends) for ends in bench.across),
        bench.works_offered,
        tuple(NamedView(*socket) for socket in bench.sockets),
        bench.highest_zs,
    )


def _bench_point(p: BenchPoint, book: RuleBook) -> BenchPoint:
    return BenchPoint(
        p.id, p.name, round(p.walked, 4), _short(p.position), _short(p.spur_m), _short(p.from_board_m),
        book.translate(p.says), p.again, p.tested, p.live, p.two_gangs,
    )  # fmt: skip


def _short(value: float | None) -> float | None:
    """As exact as it is drawn."""
    return None if value is None else round(value, 4)
