"""What a figure should be before it is measured, from what is known already."""

from collections.abc import Iterator

from dorrik.core.basics.readings import rounded
from dorrik.core.basics.record import record
from dorrik.core.electrical import continuity, insulation, loop, rcd
from dorrik.core.electrical.ring_points import bent_pairs
from dorrik.core.home.rcd_devices import RcdDevice
from dorrik.core.inspection.records import Board, Circuit
from dorrik.core.judging.served.zs_scale import limits
from dorrik.core.judging.topics.context import NOMINAL_V, Context
from dorrik.core.judging.topics.loops import r1_r2_so_far
from dorrik.core.judging.topics.points import expected_r2_ohm


@record
class Expected:
    """What a figure should be, before it is measured (least and greatest, in the unit of the field)."""

    entity_id: str
    field: str
    least: float | None
    greatest: float | None
    says: str


def expected(context: Context) -> Iterator[Expected]:
    """Expectations for every circuit."""
    yield from context.each_circuit(_of_circuit)
    yield from context.cells.made(_of_devices, context)


def _of_circuit(context: Context, board: Board, circuit: Circuit) -> Iterator[Expected]:
    minimum = insulation.minimum_mohm(NOMINAL_V)
    first = "250 V first, then 500 V; " if context.house.insulation_first == "250 V" else ""
    yield from _ring(context, circuit)
    yield from _long_lead(circuit)
    yield Expected(circuit.id, "insulation_lne_mohm", minimum, None, f"{first}min {minimum:g} MΩ")
    yield from _loop(context, board, circuit)


def _of_devices(context: Context) -> Iterator[Expected]:
    for device in context.rcds:
        if device.rated_ma:
            yield from _trips(context, device)


def _ring(context: Context, circuit: Circuit) -> Iterator[Expected]:
    analysis = context.ring(circuit)
    if analysis is None:
        return
    if analysis.expected_r2_ohm is not None:
        least, greatest = analysis.expected_r2_ohm
        yield Expected(circuit.id, "r2_ohm", least, greatest, _span("expected", least, greatest, "Ω"))
    # Ends that are in doubt lead to nothing that a point could be held against; what bends the cpc leaves L–N as it is.
    bent = bent_pairs(analysis.findings)
    in_place = context.continuity_method(circuit) == "ring left in place"
    if analysis.expected_line_cpc_ohm is not None and "cpc" not in bent:
        highest = analysis.expected_line_cpc_ohm
        least = 0.0 if in_place else analysis.expected_line_cpc_least_ohm or highest
        yield Expected(circuit.id, "r1_r2_ohm", None, highest, f"expected up to {rounded(highest)} Ω")
        for point in circuit.points:
            yield Expected(point.id, "line_cpc_ohm", least, highest, _round_the_ring(least, highest))
    flat = analysis.expected_line_neutral_ohm
    if flat is not None and "neutral" not in bent:
        least = 0.0 if in_place else flat
        for point in circuit.points:
            yield Expected(point.id, "line_neutral_ohm", least, flat, _round_the_ring(least, flat))


def _round_the_ring(least: float, highest: float) -> str:
    return _span("expected", least, highest, "Ω") if least else f"0 at the board, up to {rounded(highest)} Ω half-way"


def _long_lead(circuit: Circuit) -> Iterator[Expected]:
    """R2 by long lead: a quarter of a ring's cpc at most, else what the cpc's length leads to (rule 4.7)."""
    most = expected_r2_ohm(circuit)
    if most is not None:
        yield Expected(circuit.id, "long_lead_r2_ohm", None, most, f"expected up to {rounded(most)} Ω")
        allowed = most + max(continuity.LEAST_TOLERANCE_OHM, continuity.OUTLIER * most)
        for point in circuit.points:
            yield Expected(point.id, "r2_ohm", None, allowed, f"max {rounded(most)} Ω by long lead")


def _loop(context: Context, board: Board, circuit: Circuit) -> Iterator[Expected]:
    total = loop.calculated(board.zdb_ohm, r1_r2_so_far(circuit))
    loop_text = f", about {total} Ω by Zdb + (R1+R2)" if total is not None and circuit.zs_ohm is None else ""
    known = limits(context, board, circuit)
    if known is not None:
        full, held, limit = known
        by_touch = context.behind_rcd(board, circuit) and context.earth(board).tt
        most = f"{full:.0f}" if by_touch else f"{held:.2f}"
        yield Expected(circuit.id, "zs_ohm", None, held, f"max {most} Ω ({limit}){loop_text}")


def _trips(context: Context, device: RcdDevice) -> Iterator[Expected]:
    for field, multiple in (("trip_ms", 1), ("five_ms", 5)):
        if multiple == 5 and context.house.rcd_tests == "1 × IΔn":
            continue
        try:
            standard, delay = device.standard or "BS EN 61008", device.delay or "none"
            least, greatest = rcd.trip_limits_ms(standard, delay, multiple)
        except LookupError:
            continue
        says = f"{least:g} to {greatest:g} ms" if least else f"max {greatest:g} ms"
        places = (device.id,) if device.entity == "rcd" else tuple(circuit.id for circuit in device.circuits)
        for place in places:
            yield Expected(place, device.field(field), least or None, greatest, says)


def _span(word: str, least: float, greatest: float, unit: str) -> str:
    low, high = rounded(least), rounded(greatest)
    return f"{word} {low} {unit}" if low == high else f"{word} {low} to {high} {unit}"
