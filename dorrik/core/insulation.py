"""Insulation resistance of circuits and of the whole board (rules 6.1 to 6.4 and 6.6)."""

from collections.abc import Iterable, Mapping
from math import inf

from dorrik.core.readings import Reading, figure, why_unknown
from dorrik.core.record import record
from dorrik.core.verdict import Verdict

SOURCE = "BS 7671 643.3.2, table 64"
#: An over-range insulation tester stands for more than this (MΩ): the shortest range in use, a house rule.
OVER_RANGE_MOHM = 200.0
ATTENTION_MOHM = 2.0
#: Under this between line and neutral (MΩ) a load is far likelier than damage (rule 6.4).
LOAD_MOHM = 0.1

LOW_LINE_NEUTRAL = (
    "Before any talk of damage: lamps out, neons and electronic switches bridged, every load unplugged, "
    "switches on, fixed loads isolated; then test again."
)
LOW_TO_EARTH = (
    "First look for: equipment left in, a surge device not removed, damp or outdoor fittings, a neutral "
    "touching earth; then open the circuit in halves."
)


#: Tested at 250 V because something could not be disconnected (rule 6.1).
REDUCED_VOLTAGE = Verdict(
    status="pass",
    reason="Tested at 250 V, since something cannot be disconnected: still at least 1 MΩ, and the report says so.",
    source="BS 7671 643.3.3 · rule 6.1",
)


def minimum_mohm(nominal_v: float) -> float:
    """Least insulation resistance (MΩ) for a circuit's nominal voltage (V), rule 6.1."""
    return 0.5 if nominal_v <= 50 else 1.0


def test_voltage_v(nominal_v: float) -> int:
    """Direct test voltage (V) for a circuit's nominal voltage (V), rule 6.1."""
    return 250 if nominal_v <= 50 else 500 if nominal_v <= 500 else 1000


def _interval(reading: Reading, over_range_mohm: float) -> tuple[float, float] | None:
    if reading.sort == "over-range":
        return (over_range_mohm, inf)
    return reading.interval


def _parallel(spans: Iterable[tuple[float, float]]) -> tuple[float, float]:
    """Interval of the parallel combination of resistances known by intervals."""
    low_conductance = high_conductance = 0.0
    for low, high in spans:
        high_conductance += inf if low == 0 else 1 / low
        low_conductance += 0.0 if high == inf else inf if high == 0 else 1 / high
    low = 0.0 if high_conductance == inf else inf if high_conductance == 0 else 1 / high_conductance
    high = inf if low_conductance == 0 else 0.0 if low_conductance == inf else 1 / low_conductance
    return (low, high)


def combine(readings: Iterable[Reading], over_range_mohm: float = OVER_RANGE_MOHM) -> Reading:
    """Insulation resistances in parallel (MΩ): 1/R = Σ 1/Ri, in any order (rule 6.2).

    With a lower bound among them the result is itself a lower bound, with an upper bound an upper one
    (rule 1.2). Readings that hold no figure (LIM, N/A, empty) are passed over; without any the result is empty.
    """
    spans = [span for reading in readings if (span := _interval(reading, over_range_mohm)) is not None]
    if not spans:
        return Reading("", "empty")
    low, high = _parallel(sorted(spans))
    if low == high:
        return Reading.of(low)
    if low > 0:
        return Reading.of(low, ">")
    if high < inf:
        return Reading.of(high, "<")
    return Reading("", "empty")


def judge_circuit(
    reading: Reading | None,
    nominal_v: float,
    *,
    to_earth: bool = True,
    attention_mohm: float = ATTENTION_MOHM,
    over_range_mohm: float = OVER_RANGE_MOHM,
) -> Verdict:
    """Hold one circuit's insulation resistance (MΩ) against the minimum and the house's attention level.

    nominal_v: nominal voltage of the circuit (V); to_earth: live conductors to earth, else line to neutral.
    """
    minimum = minimum_mohm(nominal_v)
    span = _interval(reading, over_range_mohm) if reading else None
    if span is None or reading is None:
        reason = why_unknown(reading, "Insulation")
        return Verdict(status="unknown", reason=reason, source=f"{SOURCE} · rule 6.1", limit=minimum)
    low, high = span
    margin = None if reading.value is None else reading.value - minimum
    if not to_earth and high < LOAD_MOHM:
        # A load left in reads so; damage nearly never does. Nothing is raised before it was looked for.
        return Verdict(
            status="attention",
            reason=f"{reading} MΩ between line and neutral: a load, a lamp or a switch that feeds one is still in.",
            source=f"{SOURCE} · rule 6.4",
            limit=minimum,
            margin=margin,
            next_step=LOW_LINE_NEUTRAL,
        )
    step = LOW_TO_EARTH if to_earth else LOW_LINE_NEUTRAL
    if high < minimum or (high == minimum and low < minimum and not reading.inclusive):
        return Verdict(
            status="fail",
            reason=f"{reading} MΩ is below the {minimum:g} MΩ that the whole board needs.",
            source=f"{SOURCE} · rules 6.1, 6.4",
            limit=minimum,
            margin=margin,
            next_step=step,
            observation="insulation-below-minimum",
        )
    if low < minimum:
        reason = why_unknown(reading, "Insulation")
        return Verdict(status="unknown", reason=reason, source=f"{SOURCE} · rule 6.1", limit=minimum)
    uncertainty = reading.uncertainty("insulation")
    if low < attention_mohm or (reading.bound is None and margin is not None and margin < uncertainty):
        return Verdict(
            status="attention",
            reason=f"{reading} MΩ passes the {minimum:g} MΩ minimum, but is under the house's {attention_mohm:g} MΩ.",
            source=f"{SOURCE} · rules 6.1, 1.3",
            limit=minimum,
            margin=margin,
            next_step=step,
            observation="insulation-low",
        )
    return Verdict(
        status="pass",
        reason=f"{reading} MΩ is above {minimum:g} MΩ.",
        source=f"{SOURCE} · rule 6.1",
        limit=minimum,
        margin=margin,
    )


@record(kw_only=True)
class BoardVerdict(Verdict):
    """The verdict on a whole board.

    combined: the parallel combination (MΩ); culprits: names of the circuits whose removal would make the
    board pass, worst first; without: what the others combine to (MΩ) once those are off, or None.
    """

    combined: Reading
    culprits: tuple[str, ...] = ()
    without: Reading | None = None


def judge_board(
    readings_by_circuit: Mapping[str, Reading],
    nominal_v: float,
    *,
    attention_mohm: float = ATTENTION_MOHM,
    over_range_mohm: float = OVER_RANGE_MOHM,
) -> BoardVerdict:
    """Judge a board with all its circuits, which is what the minimum applies to (rule 6.2).

    readings_by_circuit: one pairing's insulation resistance (MΩ) by circuit; nominal_v: nominal voltage (V).
    """
    source = f"{SOURCE}, 1/R = Σ 1/Ri · rule 6.2"
    minimum = minimum_mohm(nominal_v)
    spans = {
        name: span
        for name, reading in readings_by_circuit.items()
        if (span := _interval(reading, over_range_mohm)) is not None
    }
    combined = combine(readings_by_circuit.values(), over_range_mohm)
    if not spans:
        return BoardVerdict(
            status="unknown",
            reason="No circuit of this board has an insulation reading yet.",
            source=source,
            limit=minimum,
            combined=combined,
        )
    low, high = _parallel(sorted(spans.values()))
    if low >= minimum:
        near = low < attention_mohm
        return BoardVerdict(
            status="attention" if near else "pass",
            reason=f"The {len(spans)} circuits together come to {combined} MΩ"
            + (f", under the house's {attention_mohm:g} MΩ." if near else f", above {minimum:g} MΩ."),
            source=source,
            limit=minimum,
            margin=low - minimum,
            combined=combined,
            observation="insulation-low" if near else None,
        )
    if high >= minimum:
        return BoardVerdict(
            status="unknown",
            reason=f"The {len(spans)} circuits together come to {combined} MΩ: the bounds cannot say whether "
            f"{minimum:g} MΩ is reached.",
            source=source,
            limit=minimum,
            combined=combined,
            next_step="Measure the circuits written as bounds on a longer range, or the board as a whole.",
        )
    culprits, rest = _culprits(spans, minimum)
    without = combine((readings_by_circuit[name] for name in rest), over_range_mohm) if rest else None
    named = ", ".join(culprits)
    return BoardVerdict(
        status="fail",
        reason=f"The {len(spans)} circuits together come to {figure(high)} MΩ, under {minimum:g} MΩ."
        + (f" Without {named}: {without} MΩ." if without else ""),
        source=source,
        limit=minimum,
        margin=high - minimum,
        next_step=f"Start with {culprits[0]}. {LOW_TO_EARTH}",
        observation="insulation-below-minimum",
        combined=combined,
        culprits=tuple(culprits),
        without=without,
    )


def _culprits(spans: Mapping[str, tuple[float, float]], minimum: float) -> tuple[list[str], list[str]]:
    """Take off the worst circuits until the rest pass: those taken off, worst first, and those left.

    Built up from the soundest circuit, so that a board of any length takes one pass.
    """
    worst_first = sorted(spans, key=lambda name: spans[name])
    conductance, keep = 0.0, 0
    for name in reversed(worst_first):
        conductance += 1 / spans[name][0] if spans[name][0] else inf
        if conductance and 1 / conductance < minimum:
            break
        keep += 1
    cut = len(worst_first) - keep
    return worst_first[:cut], worst_first[cut:]


def middle_mohm(board: Iterable[Reading]) -> float | None:
    """The median of a board's insulation readings (MΩ), bounds by their figure; None under three of them."""
    known = [reading.value for reading in board if reading.value is not None]
    if len(known) < 3:
        return None
    known.sort()
    half = len(known) // 2
    return known[half] if len(known) % 2 else (known[half - 1] + known[half]) / 2


def stands_out(reading: Reading, middle: float | None) -> Verdict | None:
    """An early sign of ageing or damp: under a tenth of the board's median and under 50 MΩ (rule 6.6).

    reading: one circuit's insulation (MΩ); middle: see `middle_mohm`. None where it does not stand out.
    """
    if middle is None or reading.value is None or reading.bound == ">":
        return None
    if reading.value >= 50 or reading.value >= middle / 10:
        return None
    return Verdict(
        status="attention",
        reason=f"{reading} MΩ passes, but the board's middle value is {figure(middle)} MΩ: this circuit stands out.",
        source="comparison within the board · rule 6.6",
        limit=middle / 10,
        margin=reading.value - middle / 10,
        next_step="An early sign of damp or ageing in this circuit: renew or dry this one, keep the sound ones.",
    )


#: Legs of an opened ring further apart than this: the fault lies in the lower one.
LEGS_APART = 10.0


def faulty_leg(one: Reading, other: Reading) -> str | None:
    """Which leg of an opened ring holds the fault, 'first' or 'second' (MΩ both); None where they are alike (rule 6.5).

    The answer must hold for every value that bounds allow.
    """
    spans = (one.interval, other.interval)
    if spans[0] is None or spans[1] is None:
        return None
    (low_one, high_one), (low_other, high_other) = spans[0], spans[1]
    if high_one * LEGS_APART < low_other:
        return "first"
    return "second" if high_other * LEGS_APART < low_one else None
