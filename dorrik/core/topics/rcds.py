"""Residual current devices: trip times, button, kind, leakage, and where one is missing (rules 3.8, 8.1 to 8.3)."""

from collections.abc import Iterator

from dorrik.core import rcd, supply
from dorrik.core.inspection import Circuit
from dorrik.core.topics.context import Context, Note, name_of, spoken
from dorrik.core.verdict import Verdict


def notes(context: Context) -> Iterator[Note]:
    """Notes on every circuit's RCD or its absence."""
    for _, circuit in context.circuits:
        yield from _trip(circuit)
        yield from _buttons(circuit)
        if circuit.rcd_kind and circuit.load and circuit.rcd_rated_ma:
            # Both fields are choices of just these words.
            kind, load = rcd.KINDS[circuit.rcd_kind], rcd.LOADS[circuit.load]
            verdict = rcd.judge_kind(kind, load, dc_detection=bool(circuit.dc_detection))
            if verdict.status != "pass":
                yield Note("circuit", circuit.id, "rcd_kind", f"{name_of(circuit)}: kind of RCD", verdict)
        if circuit.rcd_rated_ma and spoken(circuit.leakage_ma):
            verdict = supply.judge_leakage(circuit.leakage_ma, circuit.rcd_rated_ma)
            yield Note("circuit", circuit.id, "leakage_ma", f"{name_of(circuit)}: standing leakage", verdict)
        yield from _missing(context, circuit)


def _trip(circuit: Circuit) -> Iterator[Note]:
    standard, delay = circuit.rcd_standard or "BS EN 61008", circuit.rcd_delay or "none"
    for field, multiple in (("rcd_trip_ms", 1), ("rcd_five_ms", 5)):
        reading = getattr(circuit, field)
        if reading is None or not spoken(reading):
            continue
        if circuit.rcd_rated_ma:
            at = "" if multiple == 1 else f" at {multiple} × IΔn"
            verdict = rcd.judge_trip(standard, delay, circuit.rcd_rated_ma, reading, multiple)
            yield Note("circuit", circuit.id, field, f"{name_of(circuit)}: RCD {reading} ms{at}", verdict)
        else:
            verdict = Verdict(status="unknown", reason="The RCD's rated residual current is needed.", source=rcd.SOURCE)
            yield Note("circuit", circuit.id, field, f"{name_of(circuit)}: RCD", verdict)


def _buttons(circuit: Circuit) -> Iterator[Note]:
    if circuit.rcd_button == "incorrect":
        verdict = Verdict(
            status="fail",
            reason="The test button does not trip the device.",
            source="BS 7671 643.10 · rule 8.2",
            observation="rcd-button-fails" if circuit.rcd_trip_ms and circuit.rcd_trip_ms.value else "rcd-no-trip",
        )
        yield Note("circuit", circuit.id, "rcd_button", f"{name_of(circuit)}: RCD button", verdict)
    if circuit.afdd_button == "incorrect":
        verdict = Verdict(
            status="attention",
            reason="The arc fault device does not answer to its test button.",
            source="BS 7671 643.10 · rule 8.2",
            next_step="Look for its indicator's meaning in the maker's instructions.",
        )
        yield Note("circuit", circuit.id, "afdd_button", f"{name_of(circuit)}: AFDD button", verdict)
    if circuit.rcd_half == "incorrect":
        verdict = Verdict(
            status="attention",
            reason="It trips at half its rated current: expect unwanted tripping.",
            source="BS EN 61008, ½ × IΔn · rule 8.1",
            next_step="Disconnect the load side and test again: leakage of the circuits adds to the test.",
            observation="rcd-trips-on-test",
        )
        yield Note("circuit", circuit.id, "rcd_half", f"{name_of(circuit)}: RCD at ½ × IΔn", verdict)


def _missing(context: Context, circuit: Circuit) -> Iterator[Note]:
    """Where 30 mA is expected today and nothing, or something less sensitive, stands in front (rules 3.2, 8.3)."""
    rated = circuit.rcd_rated_ma
    if rated is not None and rated <= rcd.ADDITIONAL_MA:
        return
    if rated is None and circuit.device_standard is None and circuit.rcd_trip_ms is None:
        return  # the way has not been described yet
    if context.inspection.earthing == "TT" and rated is None:
        yield Note("circuit", circuit.id, "rcd_rated_ma", f"{name_of(circuit)}: no RCD on TT", rcd.MISSING_ON_TT)
        return
    sockets = circuit.serves == "sockets"
    use = rcd.Use(
        socket_rating_a=circuit.device_rating_a if sockets else None,
        feeds_outdoors=bool(circuit.outdoors),
        bathroom=bool(circuit.bathroom),
        cable_depth_mm=0.0 if circuit.cable_hidden else None,
        dwelling_lighting=circuit.serves == "lighting",
    )
    key = rcd.expected_protection(use)
    if key is not None:
        verdict = rcd.judge_missing(key, rated)
        yield Note("circuit", circuit.id, "rcd_rated_ma", f"{name_of(circuit)}: additional protection", verdict)
