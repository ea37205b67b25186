"""What a figure should be before it is measured, from what is known already."""

from collections.abc import Iterator

from dorrik.core import insulation, loop, rcd
from dorrik.core.inspection import Circuit
from dorrik.core.readings import figure
from dorrik.core.record import record
from dorrik.core.topics.context import NOMINAL_V, Context
from dorrik.core.verdict import Verdict


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
    minimum = insulation.minimum_mohm(NOMINAL_V)
    first = "250 V first, then 500 V; " if context.house.insulation_first == "250 V" else ""
    told = f"{first}at least {minimum:g} MΩ"
    for _, circuit in context.circuits:
        yield from _ring(context, circuit)
        yield Expected(circuit.id, "insulation_lne_mohm", minimum, None, told)
        yield from _loop(context, circuit)
        if circuit.rcd_rated_ma:
            yield from _trips(context, circuit)


def _ring(context: Context, circuit: Circuit) -> Iterator[Expected]:
    analysis = context.rings.get(circuit.id)
    if analysis is None:
        return
    if analysis.expected_r2_ohm is not None:
        least, greatest = analysis.expected_r2_ohm
        yield Expected(circuit.id, "r2_ohm", least, greatest, _span("expected", least, greatest, "Ω"))
    if analysis.expected_line_cpc_ohm is not None:
        highest = analysis.expected_line_cpc_ohm
        yield Expected(circuit.id, "r1_r2_ohm", None, highest, f"expected up to {figure(highest)} Ω")
        for point in circuit.outlets:
            yield Expected(point.id, "line_cpc_ohm", None, highest, f"up to {figure(highest)} Ω")
            flat = analysis.expected_line_neutral_ohm
            if flat is not None:
                yield Expected(point.id, "line_neutral_ohm", flat, flat, f"{figure(flat)} Ω everywhere")


def _loop(context: Context, circuit: Circuit) -> Iterator[Expected]:
    if context.behind_rcd(circuit) and circuit.rcd_rated_ma:
        highest = loop.TOUCH_VOLTAGE_V / circuit.rcd_rated_ma * 1000
        says = f"at most {highest:.0f} Ω ({circuit.rcd_rated_ma:g} mA)"
        yield Expected(circuit.id, "zs_ohm", None, highest, says)
    elif not isinstance(limit := context.zs_limit(circuit), Verdict):
        highest = limit[0] * context.house.zs_basis
        yield Expected(circuit.id, "zs_ohm", None, highest, f"at most {highest:.2f} Ω ({limit[1]})")


def _trips(context: Context, circuit: Circuit) -> Iterator[Expected]:
    for field, multiple in (("rcd_trip_ms", 1), ("rcd_five_ms", 5)):
        if multiple == 5 and context.house.rcd_tests == "1 × IΔn":
            continue
        try:
            standard, delay = circuit.rcd_standard or "BS EN 61008", circuit.rcd_delay or "none"
            least, greatest = rcd.trip_limits_ms(standard, delay, multiple)
        except LookupError:
            continue
        says = f"{least:g} to {greatest:g} ms" if least else f"at most {greatest:g} ms"
        yield Expected(circuit.id, field, least or None, greatest, says)


def _span(word: str, least: float, greatest: float, unit: str) -> str:
    low, high = figure(least), figure(greatest)
    return f"{word} {low} {unit}" if low == high else f"{word} {low} to {high} {unit}"
