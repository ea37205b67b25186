"""Ring final circuits: their ends, and what to expect at every point (rules 4.1 to 4.3)."""

from collections.abc import Sequence
from math import fsum
from typing import Literal

from dorrik.core.basics.readings import Reading, rounded
from dorrik.core.basics.record import record
from dorrik.core.electrical import conductors

SOURCE = "BS 7671 643.2.1, ring continuity"
#: From this end-to-end resistance on a conductor counts as open: a few ohms can come back another way.
OPEN_OHM = 5.0
LEAST_TOLERANCE_OHM = 0.05
TOLERANCE = 0.08

Conductor = Literal["line", "neutral", "cpc"]
#: What is measured at a point: the line against one of these.
Pair = Literal["neutral", "cpc"]
Kind = Literal[
    "open-conductor",
    "not-a-ring",
    "loose-joint",
    "other-cable",
    "parallel-earth",
    "spur",
    "spur-off-spur",
    "contact",
    "wrong-pairing",
    "high-at-point",
    "low-at-point",
    "cpc-open-at-point",
    "neutral-open-or-crossed",
    "line-open-at-point",
    "turned-round",
    "equal-cpc",
    "slip",
    "all-high",
    "bridged",
    "odd-one-out",
]


@record
class RingPoint:
    """What was measured at one point with the ends cross-connected (Ω), points in the order of the walk.

    retested: re-plugged, its switch worked, and measured again, so that dirt is out of it; walked: at which share of
    the walk it stands among all points of the ring, measured or not (None: as it stands among those given).
    """

    name: str
    line_neutral: Reading | None
    line_cpc: Reading | None
    retested: bool = False
    walked: float | None = None


@record
class PlacedPoint:
    """Where a point stands: position round the ring from 0 to 1 (None where it cannot be said); spur_length_m: cable
    of its spur (m), None for a point on the ring."""

    name: str
    position: float | None = None
    spur_length_m: float | None = None


@record
class RingTest:
    """What was measured on a ring: end-to-end resistances of line, neutral, cpc (Ω), its cable (mm²), its points.

    recorded: R1+R2 as recorded for it; leads: names of lead sets with what they read (Ω); in_place: the ring was left
    in place with one link at the board, rather than cross-connected (rule 4.5); compared: its sockets were compared
    with each other alone (rule 4.7).
    """

    r1: Reading | None
    rn: Reading | None
    r2: Reading | None
    line_csa_mm2: float | None = None
    cpc_csa_mm2: float | None = None
    points: Sequence[RingPoint] = ()
    recorded: Reading | None = None
    leads: tuple[tuple[str, float], ...] = ()
    in_place: bool = False
    compared: bool = False


@record
class Finding:
    """Something the ring says: its kind, the conductor it speaks of, one sentence, what to do, how it is raised.

    fitting_cpc_mm2: cpc size of another cable that fits; point: name of the point that it speaks of, or None; others:
    names of further points that it speaks of; asks: could its answer be C1, C2 or FI?
    """

    kind: Kind
    conductor: Conductor
    reason: str
    next_step: str
    source: str
    observation: str | None = None
    fitting_cpc_mm2: float | None = None
    point: str | None = None
    others: tuple[str, ...] = ()
    asks: bool = False


@record
class RingAnalysis:
    """What the ends say.

    findings: empty for a sound ring; closed: all three conductors closed, None while one is not measured;
    expected_line_neutral_ohm, expected_line_cpc_ohm: what each point should read with opposite ends
    cross-connected (Ω; line to cpc at most); expected_line_cpc_least_ohm: the same at the board;
    expected_r2_ohm: least and greatest cpc end to end that the line's value leads to (Ω);
    length_m: cable round the ring by the line's resistance (m); recorded_r1_r2_ohm: the highest line to cpc (Ω), which
    is recorded; points: where each stands. None where an input is missing.
    """

    findings: tuple[Finding, ...]
    closed: bool | None
    expected_line_neutral_ohm: float | None = None
    expected_line_cpc_ohm: float | None = None
    expected_line_cpc_least_ohm: float | None = None
    expected_r2_ohm: tuple[float, float] | None = None
    length_m: float | None = None
    recorded_r1_r2_ohm: float | None = None
    points: tuple[PlacedPoint, ...] = ()


def expected_line_neutral_ohm(r1_ohm: float, rn_ohm: float) -> float:
    """Line to neutral at every point with opposite ends cross-connected (Ω): (r1 + rn)/4, rule 4.3."""
    return (r1_ohm + rn_ohm) / 4


def expected_line_cpc_ohm(r1_ohm: float, r2_ohm: float, fraction: float = 0.5) -> float:
    """Line to cpc at a fraction of the way round, opposite ends cross-connected (Ω), rule 4.3.

    With a = (1−x)·r1 + x·r2 and b = x·r1 + (1−x)·r2: R = a·b/(a + b). Half-way this is (r1 + r2)/4, the
    highest; at the board, fraction 0 or 1, it is r1·r2/(r1 + r2).
    """
    a = (1 - fraction) * r1_ohm + fraction * r2_ohm
    b = fraction * r1_ohm + (1 - fraction) * r2_ohm
    return a * b / (a + b) if a + b else 0.0


def plain(reading: Reading | None) -> float | None:
    """The figure of a reading that is neither a bound nor a limitation, else None."""
    return reading.value if reading is not None and reading.bound is None else None


def _open(reading: Reading | None) -> bool | None:
    """Is the conductor open end to end? None while nothing was measured."""
    if reading is None or reading.interval is None:
        return None
    if reading.kind == "over-range":
        return True
    return reading.value is not None and reading.value >= OPEN_OHM and reading.bound != "<"


def tolerance_ohm(value_ohm: float) -> float:
    """How far two conductors of one ring may be apart (Ω): the greater of 0.05 Ω and 8 %, rule 4.2."""
    return max(LEAST_TOLERANCE_OHM, TOLERANCE * value_ohm)


def analyse(test: RingTest) -> RingAnalysis:
    """Judge the ends of a ring and say what its points should read (rules 4.1 to 4.3); its points are left aside."""
    slip = _slipped(test)
    if slip is not None:
        return RingAnalysis(findings=(slip,), closed=None)
    by_conductor: dict[Conductor, Reading | None] = {"line": test.r1, "neutral": test.rn, "cpc": test.r2}
    states = {name: _open(reading) for name, reading in by_conductor.items()}
    opened: list[Conductor] = [name for name, state in states.items() if state]
    findings: list[Finding] = []
    if len(opened) == 3:
        findings.append(
            Finding(
                "not-a-ring",
                "line",
                "All three conductors are open: two radials, or a ring exchanged with another circuit.",
                "Isolate and prove dead. Try the ends against those of the other rings on this board before fronts "
                "are removed.",
                f"{SOURCE} · rules 4.1, 4.8",
                "ring-open",
            )
        )
    else:
        for name in opened:
            findings.append(
                Finding(
                    "open-conductor",
                    name,
                    f"The {name} is open end to end ({by_conductor[name]}): the break is at one accessory or joint.",
                    "Isolate and prove dead. Test outward from both ends to find the gap. Until repaired: no more "
                    "than one "
                    "leg carries (20 A for 2.5 mm²).",
                    f"{SOURCE} · rules 4.1, 4.8",
                    "ring-open",
                )
            )
    r1, rn, r2 = plain(test.r1), plain(test.rn), plain(test.r2)
    if not opened:
        apart = r1 is not None and rn is not None and abs(r1 - rn) > tolerance_ohm(min(r1, rn)) + 1e-9
        if apart and _turned_round(test.r1, test.rn):
            findings.append(
                Finding(
                    "turned-round",
                    "neutral",
                    f"Line {test.r1} and neutral {test.rn} Ω are the same digits turned round: one may be a slip.",
                    "Check the instrument, or test both again.",
                    f"{SOURCE} · rules 4.2, 1.2",
                    asks=True,
                )
            )
        elif apart and r1 is not None and rn is not None:
            higher: Conductor = "line" if r1 > rn else "neutral"
            findings.append(
                Finding(
                    "loose-joint",
                    higher,
                    f"Line {test.r1} and neutral {test.rn} Ω should be alike; the {higher} is higher.",
                    f"Isolate and prove dead. Check for a loose or dirty joint in the {higher}; work the switches, "
                    f"test again.",
                    f"{SOURCE} · rule 4.2",
                )
            )
        slipped = any(finding.kind == "turned-round" for finding in findings)
        if r1 is not None and r2 is not None and test.line_csa_mm2 and test.cpc_csa_mm2 and not slipped:
            # With a loose joint in the line its value says nothing of the cable; the neutral's does.
            sound = test.rn if rn is not None and rn < r1 and findings else test.r1
            findings.extend(_judge_cpc(test, sound, r2, test.line_csa_mm2, test.cpc_csa_mm2))
    closed = None if None in states.values() else not opened
    return RingAnalysis(
        findings=tuple(findings),
        closed=closed,
        expected_line_neutral_ohm=None if opened or r1 is None or rn is None else expected_line_neutral_ohm(r1, rn),
        expected_line_cpc_ohm=None if opened or r1 is None or r2 is None else expected_line_cpc_ohm(r1, r2),
        expected_line_cpc_least_ohm=None if opened or r1 is None or r2 is None else expected_line_cpc_ohm(r1, r2, 0.0),
        expected_r2_ohm=_expected_r2(r1, test.line_csa_mm2, test.cpc_csa_mm2),
        length_m=_length_m(r1, test.line_csa_mm2) if "line" not in opened else None,
    )


#: Powers of ten by which three ends slip together.
_SLIPS = (1e-3, 1e-2, 1e-1, 1e1, 1e2, 1e3)
#: A figure within this share of what a slip leads to is the slip's own.
_SLIP_SHARE = 0.35


def _slipped(test: RingTest) -> Finding | None:
    """All three ends nothing, or off by one power of ten against what the points or the record read (rule 1.2)."""
    ends = [plain(test.r1), plain(test.rn), plain(test.r2)]
    known = [end for end in ends if end is not None]
    if len(known) < 3:
        return None
    r1, rn, r2 = known
    shown = f"{test.r1}, {test.rn} and {test.r2} Ω"
    source = f"{SOURCE} · rules 4.1, 1.2"
    if max(known) < LEAST_END_OHM:
        step = "Check the leads: were they nulled into the ring, or joined? Test the ends again."
        reason = f"Line, neutral and cpc read {shown}: no ring is so short."
        return Finding("slip", "line", reason, step, source, asks=True)
    implausible = min(known) >= 2.0 or max(known) < 0.06
    for expected, read in _beside(test, r1, rn, r2, recorded=implausible):
        if read <= 0 or expected <= 0 or 0.3 <= expected / read <= 3.0:
            continue
        factor = next((f for f in _SLIPS if abs(expected * f - read) <= _SLIP_SHARE * read), None)
        if factor is not None:
            return _slip(shown, factor, test, source)
    # Three open conductors show nothing, or ohms that have nothing to do with each other.
    alike = abs(r1 - rn) <= 0.15 * max(r1, rn) and 0.85 <= r2 / max(r1, 1e-9) <= 2.8
    if min(known) >= OPEN_OHM and alike:
        return _slip(shown, 1e-2 if r1 >= 10 else 1e-1, test, source)
    return None


#: Ends under this are no ring at all (Ω): less than 2 m of 2.5 mm².
LEAST_END_OHM = 0.015


def _beside(test: RingTest, r1: float, rn: float, r2: float, *, recorded: bool) -> list[tuple[float, float]]:
    """What the ends lead to, and what was read: for line to neutral, line to cpc, and the record where that is
    asked."""
    pairs = []
    for values, expected in (
        ([plain(p.line_neutral) for p in test.points], (r1 + rn) / 4),
        ([plain(p.line_cpc) for p in test.points], (r1 + r2) / 4),
        ([plain(test.recorded) if recorded else None], (r1 + r2) / 4),
    ):
        read = sorted(v for v in values if v is not None)
        if read:
            pairs.append((expected, read[len(read) // 2]))
    return pairs


def _slip(shown: str, factor: float, test: RingTest, source: str) -> Finding:
    fits = " and ".join(rounded((plain(end) or 0.0) * factor) for end in (test.r1, test.r2))
    return Finding(
        "slip",
        "line",
        f"Line, neutral and cpc read {shown}, all off by one power of ten. Line and cpc of {fits} Ω would fit.",
        "Check the unit and the decimal point of all three, then test again.",
        source,
        asks=True,
    )


def _turned_round(reading: Reading | None, other: Reading | None) -> bool:
    """The same digits in another order, as a tired hand writes them."""
    if reading is None or other is None or reading.text == other.text:
        return False
    return sorted(reading.text) == sorted(other.text)


def _equal_cpc_fits(test: RingTest, sound: Reading | None, r2: float, cpc_csa_mm2: float) -> bool:
    """Does the cpc read what the line does, where a thinner one was entered?"""
    base = plain(sound)
    if base is None or not test.line_csa_mm2 or cpc_csa_mm2 >= test.line_csa_mm2:
        return False
    span = _expected_r2(base, test.line_csa_mm2, cpc_csa_mm2)
    too_low = span is not None and r2 < span[0] - tolerance_ohm(span[0]) - 1e-9
    return too_low and abs(r2 - base) <= LEAST_TOLERANCE_OHM / 2 + 0.02 * base


def _length_m(r1: float | None, line_csa_mm2: float | None) -> float | None:
    if r1 is None or line_csa_mm2 is None:
        return None
    try:
        return conductors.length_m(line_csa_mm2, r1)
    except LookupError:
        return None


def _expected_r2(r1: float | None, line_csa_mm2: float | None, cpc_csa_mm2: float | None) -> tuple[float, float] | None:
    if r1 is None or not line_csa_mm2 or not cpc_csa_mm2:
        return None
    try:
        least, greatest = conductors.cpc_ratio_span(line_csa_mm2, cpc_csa_mm2)
    except LookupError:
        return None
    return (r1 * least, r1 * greatest)


def _judge_cpc(
    test: RingTest, sound: Reading | None, r2: float, line_csa_mm2: float, cpc_csa_mm2: float
) -> list[Finding]:
    """The cpc against what the line leads to, trying other cables of the table before a loose joint."""
    if _equal_cpc_fits(test, sound, r2, cpc_csa_mm2):
        return [
            Finding(
                "equal-cpc",
                "cpc",
                f"{test.r2} Ω is what the line reads: a cpc as thick as the line, as with single conductors.",
                f"Look at the cable: if its cpc is {line_csa_mm2:g} mm², set that; else an earth path in parallel.",
                f"{SOURCE} · rules 4.2, 2.2",
                fitting_cpc_mm2=line_csa_mm2,
            )
        ]
    of_sound = f"the {'line' if sound is test.r1 else 'neutral'}'s {sound}"
    base = plain(sound)
    span = _expected_r2(base, line_csa_mm2, cpc_csa_mm2)
    if span is None:
        return []
    least, greatest = span
    wanted = f"{rounded(least)} to {rounded(greatest)}" if rounded(least) != rounded(greatest) else rounded(least)
    if r2 < least - tolerance_ohm(least) - 1e-9:
        return [
            Finding(
                "parallel-earth",
                "cpc",
                f"{test.r2} Ω, where {wanted} was expected from {of_sound}: an earth path runs in parallel.",
                "Isolate and prove dead. Disconnect bonded appliances or metal containment on this ring to confirm. "
                "Reconnect, test again.",
                f"{SOURCE} · rule 4.2",
            )
        ]
    if r2 <= greatest + tolerance_ohm(greatest) + 1e-9:
        return []
    fitting = None
    for other in conductors.cpc_choices_mm2(line_csa_mm2):
        other_span = _expected_r2(base, line_csa_mm2, other)
        if (
            other != cpc_csa_mm2
            and other_span
            and abs(r2 - fsum(other_span) / 2)
            <= tolerance_ohm(fsum(other_span) / 2) + (other_span[1] - other_span[0]) / 2
        ):
            fitting = other
    if fitting is not None:
        return [
            Finding(
                "other-cable",
                "cpc",
                f"{test.r2} Ω, where {wanted} was expected from {of_sound}. A {line_csa_mm2:g}/{fitting:g} cable fits.",
                f"Look at the cable: if it is {line_csa_mm2:g}/{fitting:g}, set that; otherwise a loose cpc joint.",
                f"{SOURCE} · rules 4.2, 2.2",
                fitting_cpc_mm2=fitting,
            )
        ]
    return [
        Finding(
            "loose-joint",
            "cpc",
            f"{test.r2} Ω, where {wanted} was expected from {of_sound}: a loose joint in the cpc.",
            "Isolate and prove dead. Check the cpc terminals at the board and at each point. Restore, test again.",
            f"{SOURCE} · rule 4.2",
            "ring-cpc-high",
        )
    ]
