"""Continuity and polarity, point by point and as recorded for the circuit (rules 4.6, 4.7 and 5.1 to 5.3)."""

from collections.abc import Iterator

from dorrik.core.basics.readings import Reading
from dorrik.core.basics.verdict import Verdict
from dorrik.core.electrical import continuity, loop, polarity
from dorrik.core.electrical.ring_points import bent_pairs
from dorrik.core.home import gangs
from dorrik.core.inspection.records import Board, Circuit, Point
from dorrik.core.judging.topics import earths
from dorrik.core.judging.topics.bench import FIRST
from dorrik.core.judging.topics.context import Context, Note, conductor_mm2, is_measured, name_of, point_names
from dorrik.core.judging.topics.note import set_field


def notes(context: Context) -> Iterator[Note]:
    """Notes on every circuit's continuity and polarity."""
    yield from context.each_circuit(_of_circuit)


def _of_circuit(context: Context, board: Board, circuit: Circuit) -> Iterator[Note]:
    name = name_of(circuit)
    yield from _continuity(board, circuit, name)
    yield from earths.notes(context, board, circuit)
    if circuit.polarity == "incorrect":
        yield Note("circuit", circuit.id, "polarity", f"{name}: polarity", continuity.WRONG_POLARITY)
    if circuit.joined_by:
        touches = context.cells.made(_links, context).get(circuit.id)
        if touches is not None:
            title = f"{name} and {circuit.joined_with or 'another circuit'}"
            yield Note("circuit", circuit.id, "joined_by", title, polarity.JOINED[circuit.joined_by], touches=touches)
    if circuit.points:
        yield from _outlets(context, circuit, name)
    yield from _long_lead(context, circuit, name)


def _links(context: Context) -> dict[str, tuple[str, ...]]:
    """By the circuit that is to say it, the circuits that a link joins: the first of two says it for both."""
    joined: set[str] = set()
    linked = {}
    for _, circuit in context.circuits:
        if circuit.joined_by and circuit.id not in joined:
            linked[circuit.id] = (circuit.id, *_other(context, circuit))
            joined.update(linked[circuit.id])
    return linked


def _other(context: Context, circuit: Circuit) -> tuple[str, ...]:
    """The circuit that one was found joined with, where it says the same of this one: one link, one word."""
    for _, other in context.circuits:
        named = (circuit.joined_with or "").strip() in (other.designation, name_of(other), other.way)
        back = (other.joined_with or "").strip() in (circuit.designation, name_of(circuit), circuit.way)
        if other.id != circuit.id and named and back and other.joined_by == circuit.joined_by:
            return (other.id,)
    return ()


def _slipped(board: Board, circuit: Circuit) -> bool:
    """Is R1+R2 asked about as a slip beside Zs and Zdb? Then it is no failing cpc yet (rule 1.2)."""
    zs = circuit.zs_ohm
    return zs is not None and loop.judge_r1_r2_slip(zs, board.zdb_ohm, circuit.r1_r2_ohm) is not None


def _continuity(board: Board, circuit: Circuit, name: str) -> Iterator[Note]:
    reading = circuit.r1_r2_ohm
    line = conductor_mm2(circuit)
    if reading is not None and reading.kind == "over-range" and not circuit.no_cpc:
        verdict = continuity.judge_point(reading)
        yield Note("circuit", circuit.id, "r1_r2_ohm", f"{name}: R1+R2", verdict)
    elif is_measured(reading) and (lost := loop.why_lost(None, 0.0, reading)) and not _slipped(board, circuit):
        # With or without a loop test (rule 5.2).
        yield Note("circuit", circuit.id, "r1_r2_ohm", f"{name}: R1+R2 {reading} Ω", loop.judge_lost(lost))
    elif circuit.form == "radial" and circuit.cable_length_m and line and circuit.cpc_csa_mm2:
        verdict = continuity.judge_length(reading, line, circuit.cpc_csa_mm2, circuit.cable_length_m)
        if verdict.status != "unknown":
            yield Note("circuit", circuit.id, "r1_r2_ohm", f"{name}: R1+R2 beside its length", verdict)


def _outlets(context: Context, circuit: Circuit, name: str) -> Iterator[Note]:
    for point_name, point in point_names(circuit).items():
        title = f"{name}: {point_name}"
        verdict = polarity.judge_voltages(point.line_neutral_v, point.line_earth_v, point.neutral_earth_v)
        if verdict.status in ("fail", "attention") and not earths.says_voltages(context, circuit, point):
            yield Note("point", point.id, "line_neutral_v", f"{title}: voltages", verdict)
        if point.metal_earth_v is not None:
            metal = polarity.judge_metal(point.metal_earth_v)
            if metal.status != "pass":
                yield Note("point", point.id, "metal_earth_v", f"{title}: metal", metal)
        for field, first in FIRST.items():
            stood: Reading | None = getattr(point, first)
            if stood is not None and getattr(point, field) is None:
                yield Note("point", point.id, field, f"{title}: retest", _not_retested(stood))
        if point.polarity == "incorrect":
            yield Note("point", point.id, "polarity", f"{title}: polarity", continuity.WRONG_POLARITY)
        if point.traced == "beyond a point on a spur":
            yield Note("point", point.id, "traced", f"{title}: traced", _SPUR_OFF_SPUR)
    # What a ring's end to end test has not closed has no highest point that could stand for it.
    analysis = context.ring(circuit)
    if analysis is not None and analysis.closed is False:
        return
    highest = continuity.highest(gangs.of_points(circuit.points, "line_cpc_ohm"))
    if highest is None:
        return
    recorded: Verdict | None = continuity.judge_recorded(circuit.r1_r2_ohm, highest)
    if recorded is not None:
        offer = (
            (set_field("circuit", circuit.id, "r1_r2_ohm", highest.text, f"Record {highest.text} Ω"),)
            if not is_measured(circuit.r1_r2_ohm) or recorded.margin
            else ()
        )
        yield Note("circuit", circuit.id, "r1_r2_ohm", f"{name}: R1+R2 to record", recorded, offers=offer)


_SPUR_OFF_SPUR = Verdict(
    status="fail",
    reason="Traced: it is fed beyond another point on one unfused spur.",
    source="BS 7671 433.1.204 · rule 4.4",
    next_step="Isolate and prove dead. Bring the points into the ring, or fit a fused unit before them. Test again.",
    observation="spur-off-spur",
)


def _long_lead(context: Context, circuit: Circuit, name: str) -> Iterator[Note]:
    """R2 by long lead at every point: the other accepted method, for rings and radials (rule 4.7)."""
    analysis = context.ring(circuit)
    if analysis is not None and (analysis.closed is False or "cpc" in bent_pairs(analysis.findings)):
        return  # a ring that is broken or uneven is put right before its points say anything
    readings = [gangs.through_cable(point, "r2_ohm") for point in circuit.points]
    expected = expected_r2_ohm(circuit)
    named = list(point_names(circuit).items())
    for index in continuity.long_lead_outliers(readings, expected):
        point_name, point = named[index]
        yield Note("point", point.id, "r2_ohm", f"{name}: {point_name}", _outlier(point, expected))
    highest = continuity.highest(gangs.of_points(circuit.points, "r2_ohm"))
    if highest is not None:
        judged_beside = continuity.judge_recorded(circuit.long_lead_r2_ohm, highest)
        if judged_beside is not None:
            offer = set_field("circuit", circuit.id, "long_lead_r2_ohm", highest.text, f"Record {highest.text} Ω")
            yield Note(
                "circuit", circuit.id, "long_lead_r2_ohm", f"{name}: R2 to record", judged_beside, offers=(offer,)
            )  # fmt: skip
    recorded = circuit.long_lead_r2_ohm
    if recorded is not None and recorded.kind == "over-range":
        verdict = continuity.judge_point(recorded)
        yield Note("circuit", circuit.id, "long_lead_r2_ohm", f"{name}: R2 by long lead", verdict)
    elif expected is not None and recorded is not None and recorded.value is not None and recorded.bound is None:
        verdict = continuity.judge_long_lead(recorded, expected)
        if verdict.status != "pass" or not readings:
            yield Note("circuit", circuit.id, "long_lead_r2_ohm", f"{name}: R2 by long lead", verdict)


def expected_r2_ohm(circuit: Circuit) -> float | None:
    """The most that R2 by long lead can read at a point of a circuit (Ω): a quarter of a ring's r2, else what the
    length of its cpc leads to; None where neither is known (rule 4.7)."""
    if circuit.form == "ring" and circuit.r2_ohm is not None and circuit.r2_ohm.value and not circuit.r2_ohm.bound:
        return circuit.r2_ohm.value / 4
    if not (circuit.cpc_csa_mm2 and circuit.cable_length_m):
        return None
    try:
        return continuity.expected_long_lead_ohm(
            circuit.cpc_csa_mm2, circuit.cable_length_m, ring=circuit.form == "ring"
        )
    except LookupError:
        return None


def _not_retested(stood: Reading) -> Verdict:
    """What was put aside for a retest still stands against the point until there is one (rule 4.4)."""
    return Verdict(
        status="unknown",
        reason=f"Read {stood} Ω before; the retest is not entered.",
        source="BS 7671 643.2.1 · rule 4.4",
        next_step="Isolate. Re-plug, work the switch a few times, test again; or enter LIM with the reason.",
        asks=True,
    )


def _outlier(point: Point, expected: float | None) -> Verdict:
    than = "its neighbours" if expected is None else f"the {expected:.2f} Ω that the circuit leads to"
    if point.retested:
        step = "Isolate and prove dead. Remove the front: a loose earth terminal, or more cable. Restore, test again."
    else:
        step = "Re-plug, press the lead on bare metal, test again."
    return Verdict(
        status="attention",
        reason=f"{point.r2_ohm} Ω by long lead, higher than {than}.",
        source="BS 7671 643.2.1 · rule 4.7",
        limit=expected,
        next_step=step,
    )
