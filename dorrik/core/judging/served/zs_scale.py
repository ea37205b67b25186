"""The scale that a circuit's loop impedance is drawn on: its limits, what it should read, and what it read before."""

from collections.abc import Iterator

from dorrik.core.basics.readings import Reading
from dorrik.core.basics.record import record
from dorrik.core.basics.verdict import Verdict
from dorrik.core.electrical import loop
from dorrik.core.inspection.records import Board, Circuit
from dorrik.core.judging.topics.context import Context
from dorrik.core.judging.topics.loops import r1_r2_so_far


@record
class Before:
    """A loop impedance of an earlier report: its day (ISO), as written, and as a number (Ω, None where it is none)."""

    on: str
    text: str
    value: float | None


@record
class ZsScale:
    """Limits of one circuit's Zs (Ω) and what it is held beside.

    full_ohm: what the device needs, or 50 V at IΔn on TT (rules 7.1, 7.2); held_ohm: what a cold reading is held
    against, by the house rule; limit: how the limit was found; sum_ohm: Zdb + (R1+R2), None where one is missing;
    read_ohm: what was measured, None where that is no number; over: was it over range?; before: earlier readings, the
    oldest first.
    """

    circuit_id: str
    full_ohm: float
    held_ohm: float
    limit: str
    sum_ohm: float | None
    read_ohm: float | None
    over: bool
    before: tuple[Before, ...]


def scales(context: Context) -> Iterator[ZsScale]:
    """One for each circuit whose limit is known."""
    yield from context.each_circuit(_scale)


def _scale(context: Context, board: Board, circuit: Circuit) -> Iterator[ZsScale]:
    known = limits(context, board, circuit)
    if known is None:
        return
    full, held, says = known
    zs = circuit.zs_ohm
    yield ZsScale(
        circuit_id=circuit.id,
        full_ohm=full,
        held_ohm=held,
        limit=says,
        sum_ohm=_value(loop.calculated(board.zdb_ohm, r1_r2_so_far(circuit))),
        read_ohm=_value(zs),
        over=zs is not None and zs.kind == "over-range",
        before=tuple(_before(circuit)),
    )


def limits(context: Context, board: Board, circuit: Circuit) -> tuple[float, float, str] | None:
    """The full limit of a circuit's Zs (Ω), what a reading is held against (Ω), and how it was found; None where the
    device is not known."""
    rated = context.rated_ma(circuit)
    if context.behind_rcd(board, circuit) and rated and context.earth(board).tt:
        full = loop.TOUCH_VOLTAGE_V / rated * 1000
        return full, full, f"{rated:g} mA"
    limit = context.zs_limit(board, circuit)
    if isinstance(limit, Verdict):
        return None
    return limit[0], limit[0] * context.house.zs_basis, limit[1]


def _value(reading: Reading | None) -> float | None:
    return reading.value if reading is not None else None


def _before(circuit: Circuit) -> Iterator[Before]:
    known = [
        earlier_figure
        for earlier_figure in circuit.earlier
        if earlier_figure.figure == "zs_ohm" and earlier_figure.reading and earlier_figure.measured_on
    ]
    for earlier_figure in sorted(known, key=lambda each: each.measured_on or ""):
        if earlier_figure.reading is not None:
            yield Before(earlier_figure.measured_on or "", earlier_figure.reading.text, earlier_figure.reading.value)
