"""Cable against device, and voltage drop (rules 9.1, 9.2, 9.4)."""

from collections.abc import Iterator

from dorrik.core import overload
from dorrik.core.inspection import Circuit
from dorrik.core.topics.context import Context, Note, name_of


def notes(context: Context) -> Iterator[Note]:
    """Notes on every circuit whose device and cable are known; an unknown method is asked for only where it matters."""
    for _, circuit in context.circuits:
        if circuit.device_standard and circuit.device_rating_a and circuit.line_csa_mm2:
            yield from _overload(circuit, circuit.device_standard, circuit.device_rating_a, circuit.line_csa_mm2)
        if circuit.line_csa_mm2 and circuit.cable_length_m and circuit.design_current_a:
            verdict = overload.judge_voltage_drop(
                circuit.line_csa_mm2,
                circuit.cable_length_m,
                circuit.design_current_a,
                lighting=circuit.serves == "lighting",
            )
            if verdict.status != "unknown":
                yield Note("circuit", circuit.id, "design_current_a", f"{name_of(circuit)}: voltage drop", verdict)


def _overload(circuit: Circuit, standard: str, rating_a: float, csa_mm2: float) -> Iterator[Note]:
    arrangement: overload.Arrangement = "radial"
    if circuit.form == "ring":
        arrangement = "ring"
    elif circuit.one_fused_load:
        arrangement = "fused-spur-only"
    method = None if circuit.cable_method == overload.NOT_KNOWN else circuit.cable_method
    verdict = overload.judge(standard, rating_a, csa_mm2, method, arrangement, load_fuse_a=circuit.load_fuse_a)
    # While the method has not been asked yet, only what fails by every method is worth a word.
    if circuit.cable_method or verdict.status == "fail":
        title = f"{name_of(circuit)}: {rating_a:g} A on {csa_mm2:g} mm²"
        yield Note("circuit", circuit.id, "device_rating_a", title, verdict)
    if circuit.design_current_a and circuit.design_current_a > rating_a:
        verdict = overload.judge_demand(circuit.design_current_a, rating_a)
        yield Note("circuit", circuit.id, "design_current_a", f"{name_of(circuit)}: design current", verdict)
