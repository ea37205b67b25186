"""Insulation resistance of circuits and of the whole board (rules 6.1 to 6.4 and 6.6)."""

from collections.abc import Iterable, Mapping, Sequence
from math import inf

from dorrik.core.basics.comparison import ComparedWords, judge
from dorrik.core.basics.readings import Reading, remembered, rounded, why_unknown
from dorrik.core.basics.record import record
from dorrik.core.basics.verdict import Verdict

SOURCE = "BS 7671 643.3.2, table 64"
#: An over-range insulation tester stands for more than this (MΩ): the shortest range in use, a house rule.
OVER_RANGE_MOHM = 200.0
ATTENTION_MOHM = 2.0
#: Between the minimum and this a reading is an observation of its own (MΩ), whatever the house looks at.
LOW_MOHM = 2.0
#: A board as a whole this many times under the sum of its circuits is asked about (rule 1.2).
FAR_UNDER = 3.0
#: Under this between line and neutral (MΩ) a load is far likelier than damage (rule 6.4).
LOAD_MOHM = 0.1

LOW_LINE_NEUTRAL = (
    "Isolate. Before you record a fault: lamps out, neons and electronic switches bridged, every load unplugged, "
    "switches on, fixed loads isolated. Test again."
)
LOW_TO_EARTH = (
    "Isolate and prove dead. First look for: equipment left in, an SPD still connected, damp or outdoor fittings, a "
    "neutral touching earth; then open the circuit in halves. Restore, test again."
)


#: Tested at 250 V because something could not be disconnected (rule 6.1).
REDUCED_VOLTAGE = Verdict(
    status="pass",
    reason="Tested at 250 V, since something cannot be disconnected: still at least 1 MΩ, and the report says so.",
    source="BS 7671 643.3.3 · rule 6.1",
)


#: Read at 100 V, on the way up to the test (rule 6.1).
ONLY_A_STEP = Verdict(
    status="unknown",
    reason="Read at 100 V: a step on the way, not the test.",
    source="BS 7671 643.3.2 · rule 6.1",
    next_step="Go on to 250 V and then 500 V; enter what that reads, with its voltage.",
    asks=True,
)


def part_not_in_it(open_at: str | None) -> Verdict:
    """What stood open during the test was not tested with the rest (rule 5.3). open_at: what, in words."""
    return Verdict(
        status="attention",
        reason=f"It passes without what lies beyond {open_at or 'the open switches'}.",
        source="BS 7671 643.3 · rules 5.3, 6.2",
        next_step="Close it and test again, or leave it as a limitation.",
    )


def minimum_mohm(nominal_v: float) -> float:
    """Least insulation resistance (MΩ) for a circuit's nominal voltage (V), rule 6.1."""
    return 0.5 if nominal_v <= 50 else 1.0


def test_voltage_v(nominal_v: float) -> int:
    """Direct test voltage (V) for a circuit's nominal voltage (V), rule 6.1."""
    return 250 if nominal_v <= 50 else 500 if nominal_v <= 500 else 1000


def _interval(reading: Reading, over_range_mohm: float) -> tuple[float, float] | None:
    if reading.kind == "over-range":
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


def is_load(line_neutral: Reading | None) -> bool:
    """Does line to neutral (MΩ) read what a load left in reads, and damage nearly never does? (rule 6.4)"""
    span = line_neutral.interval if line_neutral is not None else None
    return span is not None and span[1] < LOAD_MOHM


@remembered
def judge_circuit(
    reading: Reading | None,
    nominal_v: float,
    *,
    to_earth: bool = True,
    attention_mohm: float = ATTENTION_MOHM,
    over_range_mohm: float = OVER_RANGE_MOHM,
    earth_sound: bool = False,
    loads_removed: bool = False,
) -> Verdict:
    """Hold one circuit's insulation resistance (MΩ) against the minimum and the house's attention level.

    nominal_v: nominal voltage of the circuit (V); to_earth: live conductors to earth, else line to neutral;
    earth_sound:
    the same circuit's live conductors to earth are above the minimum; loads_removed: line to neutral was tested with
    every load off. A low line to neutral is a question first where it reads like a load or earth is sound (rule 6.4).
    """
    minimum = minimum_mohm(nominal_v)
    span = _interval(reading, over_range_mohm) if reading else None
    if span is None or reading is None:
        reason = why_unknown(reading, "Insulation")
        return Verdict(status="unknown", reason=reason, source=f"{SOURCE} · rule 6.1", limit=minimum)
    low = span[0]
    margin = None if reading.value is None else reading.value - minimum
    if not to_earth and not loads_removed and span[1] < minimum and (is_load(reading) or earth_sound):
        # Nothing is raised before it was looked for.
        beside = "" if is_load(reading) else "; to earth the circuit is sound"
        return Verdict(
            status="attention",
            reason=(
                f"{reading} MΩ between line and neutral: a load, a lamp or a switch that feeds one is still in{beside}."
            ),
            source=f"{SOURCE} · rule 6.4",
            limit=minimum,
            margin=margin,
            next_step=LOW_LINE_NEUTRAL,
            asks=True,
        )
    step = LOW_TO_EARTH if to_earth else LOW_LINE_NEUTRAL
    words = ComparedWords(
        name="Insulation",
        unit="MΩ",
        source=f"{SOURCE} · rules 6.1, 6.4",
        within=f"{{reading}} is above {minimum:g} MΩ",
        beyond=f"{{reading}} is below the {minimum:g} MΩ that the whole board needs",
        next_step=step,
        observation="insulation-below-minimum",
        close_step=step,
    )
    counted = reading if reading.kind != "over-range" else Reading(reading.text, "number", over_range_mohm, ">")
    verdict = judge(counted, minimum, "insulation", words, least=True)
    if verdict.status in ("fail", "unknown") or low >= max(attention_mohm, minimum):
        return verdict
    # Between the minimum and 2 MΩ is a finding by itself; the house may look at higher ones too, without a code.
    return Verdict(
        status="attention",
        reason=f"{reading} MΩ passes the {minimum:g} MΩ minimum, but is under the firm's {attention_mohm:g} MΩ.",
        source=f"{SOURCE} · rules 6.1, 1.3",
        limit=minimum,
        margin=margin,
        next_step=step,
        observation="insulation-low" if low < LOW_MOHM else None,
    )


def to_earth(
    lne: Reading | None, le: Reading | None, ne: Reading | None, over_range_mohm: float = OVER_RANGE_MOHM
) -> Reading | None:
    """A circuit's live conductors to earth (MΩ): L+N–E as measured, or L–E and N–E in parallel (rule 6.2).

    One of the two alone is an upper bound: the other can only lower it. None where nothing was measured.
    """
    if lne is not None and _interval(lne, over_range_mohm) is not None:
        return lne
    apart = [reading for reading in (le, ne) if reading is not None and _interval(reading, over_range_mohm) is not None]
    if not apart:
        return None
    together = combine(apart, over_range_mohm)
    if len(apart) == 2:
        return together
    return Reading.of(together.value, "<") if together.value is not None and together.bound != ">" else None


def is_load_question(line_neutral: Reading | None, *, earth_sound: bool, loads_removed: bool) -> bool:
    """Is a low line to neutral (MΩ) a question about loads, which says nothing of the insulation yet? (rule 6.4)"""
    span = line_neutral.interval if line_neutral is not None else None
    if span is None or loads_removed or span[1] >= minimum_mohm(230.0):
        return False
    return earth_sound or is_load(line_neutral)


def judge_beside_sum(whole: Reading, combined: Reading) -> Verdict | None:
    """A board measured as one (MΩ) far under what its circuits come to (MΩ) is asked about; None where it is not.

    Something that belongs to no circuit is in it, or one of the figures is a slip (rules 1.2, 6.2).
    """
    if whole.value is None or combined.value is None or whole.bound == ">" or combined.bound == "<":
        return None
    if whole.value * FAR_UNDER >= combined.value:
        return None
    return Verdict(
        status="attention",
        reason=f"The board as a whole reads {whole} MΩ, its circuits come to {combined} MΩ.",
        source=f"{SOURCE} · rules 1.2, 6.2",
        limit=combined.value,
        margin=whole.value - combined.value,
        next_step="Isolate. Look for what is in the board and in no circuit: an SPD, a bell transformer, the meter "
        "side; or a slip in one of the readings. Restore, test again.",
    )


@record(kw_only=True)
class BoardVerdict(Verdict):
    """The verdict on a whole board.

    combined: the parallel combination (MΩ); culprits: names of the circuits whose removal would make the
    board pass, worst first; without: what the others combine to (MΩ) once those are off, or None; missing: names of the
    circuits that are not in it.
    """

    combined: Reading
    culprits: tuple[str, ...] = ()
    without: Reading | None = None
    missing: tuple[str, ...] = ()


def judge_board(
    readings_by_circuit: Mapping[str, Reading],
    nominal_v: float,
    *,
    missing: Sequence[str] = (),
    attention_mohm: float = ATTENTION_MOHM,
    over_range_mohm: float = OVER_RANGE_MOHM,
) -> BoardVerdict:
    """Judge a board with all its circuits, which is what the minimum applies to (rule 6.2).

    readings_by_circuit: one pairing's insulation resistance (MΩ) by circuit; missing: names of the circuits not in
    it; nominal_v: nominal voltage (V). The known circuits can fail a board; without all of them it never passes.
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
            missing=tuple(missing),
        )
    known = f"The {len(spans)} circuits" if len(spans) > 1 else "One circuit"
    low, high = _parallel(sorted(spans.values()))
    if high < minimum:
        return _failing(readings_by_circuit, spans, known, combined, minimum, source, tuple(missing), over_range_mohm)
    if missing:
        # Half a pairing is both: it counts as measured, and is not in it whole.
        total = len({*spans, *missing})
        return BoardVerdict(
            status="unknown",
            reason=f"{known} measured: {combined} MΩ; {len(missing)} of {total} not in it: {_named(missing)}.",
            source=source,
            limit=minimum,
            combined=combined,
            missing=tuple(missing),
            next_step="Measure them, or the board as a whole.",
        )
    if low >= minimum:
        near = low < attention_mohm
        return BoardVerdict(
            status="attention" if near else "pass",
            reason=f"{known} together: {combined} MΩ"
            + (f", under the firm's {attention_mohm:g} MΩ." if near else f", above {minimum:g} MΩ."),
            source=source,
            limit=minimum,
            margin=low - minimum,
            combined=combined,
        )
    return BoardVerdict(
        status="unknown",
        reason=f"{known} together: {combined} MΩ: not judged, some readings only say “more than”.",
        source=source,
        limit=minimum,
        combined=combined,
        next_step="Test those circuits on a higher range, or the whole board.",
    )


def _failing(
    readings: Mapping[str, Reading],
    spans: Mapping[str, tuple[float, float]],
    known: str,
    combined: Reading,
    minimum: float,
    source: str,
    missing: tuple[str, ...],
    over_range_mohm: float,
) -> BoardVerdict:
    high = _parallel(sorted(spans.values()))[1]
    culprits, rest = _culprits(spans, minimum)
    without = combine((readings[name] for name in rest), over_range_mohm) if rest else None
    left_out = f" ({len(missing)} more not measured)" if missing else ""
    return BoardVerdict(
        status="fail",
        reason=f"{known} together: {rounded(high)} MΩ{left_out}, under {minimum:g} MΩ."
        + (f" Without {', '.join(culprits)}: {without} MΩ." if without else ""),
        source=source,
        limit=minimum,
        margin=high - minimum,
        next_step=f"Start with {culprits[0]}. {LOW_TO_EARTH}",
        observation="insulation-below-minimum",
        combined=combined,
        culprits=tuple(culprits),
        without=without,
        missing=missing,
    )


def _named(names: Sequence[str], most: int = 5) -> str:
    return ", ".join(names[:most]) + (f" and {len(names) - most} more" if len(names) > most else "")


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
        reason=f"{reading} MΩ passes, but the board's middle value is {rounded(middle)} MΩ: this one is far lower.",
        source="comparison within the board · rule 6.6",
        limit=middle / 10,
        margin=reading.value - middle / 10,
        next_step="An early sign of damp or ageing in this circuit: renew or dry this one, keep the sound ones.",
    )


#: Legs of an opened ring further apart than this: the fault lies in the lower one.
LEGS_APART = 10.0


def faulty_leg(reading: Reading, other: Reading) -> str | None:
    """Which leg of an opened ring holds the fault, 'first' or 'second' (MΩ both); None where they are alike (rule 6.5).

    The answer must hold for every value that bounds allow.
    """
    spans = (reading.interval, other.interval)
    if spans[0] is None or spans[1] is None:
        return None
    (low_one, high_one), (low_other, high_other) = spans[0], spans[1]
    if high_one * LEGS_APART < low_other:
        return "first"
    return "second" if high_other * LEGS_APART < low_one else None
