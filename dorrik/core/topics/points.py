"""Continuity and polarity, point by point and as recorded for the circuit (rules 4.7 and 5.1 to 5.3)."""

from collections.abc import Iterator

from dorrik.core import continuity, polarity
from dorrik.core.inspection import Circuit
from dorrik.core.topics.context import Context, Note, name_of, point_names, spoken
from dorrik.core.verdict import Verdict


def notes(context: Context) -> Iterator[Note]:
    """Notes on every circuit's continuity and polarity."""
    for _, circuit in context.circuits:
        name = name_of(circuit)
        reading = circuit.r1_r2_ohm
        if reading is not None and reading.sort == "over-range":
            yield Note("circuit", circuit.id, "r1_r2_ohm", f"{name}: R1+R2", continuity.judge_point(reading))
        elif circuit.form == "radial" and circuit.cable_length_m and circuit.line_csa_mm2 and circuit.cpc_csa_mm2:
            verdict = continuity.judge_length(
                reading, circuit.line_csa_mm2, circuit.cpc_csa_mm2, circuit.cable_length_m
            )
            if verdict.status != "unknown":
                yield Note("circuit", circuit.id, "r1_r2_ohm", f"{name}: R1+R2 beside its length", verdict)
        if circuit.polarity == "incorrect":
            yield Note("circuit", circuit.id, "polarity", f"{name}: polarity", continuity.WRONG_POLARITY)
        if circuit.joined_by:
            title = f"{name} and {circuit.joined_with or 'another circuit'}"
            yield Note("circuit", circuit.id, "joined_by", title, polarity.JOINED[circuit.joined_by])
        if circuit.outlets:
            yield from _outlets(context, circuit, name)


def _outlets(context: Context, circuit: Circuit, name: str) -> Iterator[Note]:
    # What the ring analysis has said of a point is not said twice.
    said = {f.point for f in context.rings[circuit.id].findings} if circuit.id in context.rings else set()
    for point_name, point in point_names(circuit).items():
        title = f"{name}: {point_name}"
        for field in ("line_cpc_ohm", "r2_ohm"):
            reading = getattr(point, field)
            if reading is not None and reading.sort == "over-range" and point_name not in said:
                verdict = continuity.judge_point(reading, class_ii=bool(point.class_ii))
                yield Note("point", point.id, field, title, verdict)
        if point.line_neutral_v is not None:
            verdict = polarity.judge_voltages(point.line_neutral_v, point.line_earth_v, point.neutral_earth_v)
            if verdict.status == "fail":
                yield Note("point", point.id, "line_neutral_v", f"{title}: voltages", verdict)
        if point.polarity == "incorrect":
            yield Note("point", point.id, "polarity", f"{title}: polarity", continuity.WRONG_POLARITY)
    highest = continuity.highest(point.line_cpc_ohm for point in circuit.outlets)
    if highest is None:
        return
    verdict_or_none: Verdict | None = continuity.judge_recorded(circuit.r1_r2_ohm, highest)
    if verdict_or_none is not None:
        offer = ("r1_r2_ohm", highest.text) if not spoken(circuit.r1_r2_ohm) or verdict_or_none.margin else None
        yield Note("circuit", circuit.id, "r1_r2_ohm", f"{name}: R1+R2 to record", verdict_or_none, offer)
