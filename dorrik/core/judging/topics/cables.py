"""Cable against device, and voltage drop (rules 9.1, 9.2, 9.4)."""

from collections.abc import Iterator
from dataclasses import replace

from dorrik.core.basics.verdict import Verdict
from dorrik.core.electrical import overload
from dorrik.core.inspection.records import Board, Circuit
from dorrik.core.judging.topics.context import Action, Context, Note, cable_of, has_sockets, name_of
from dorrik.core.judging.topics.note import set_field

_ONE_LOAD = ("fused unit", "fixed equipment")


def notes(context: Context) -> Iterator[Note]:
    """Notes on every circuit whose device and cable are known; an unknown method is asked for only where it matters."""
    yield from context.each_circuit(_of_circuit)


def _of_circuit(context: Context, board: Board, circuit: Circuit) -> Iterator[Note]:
    cable = cable_of(circuit)
    if cable is None:
        return
    contradiction = _contradiction(circuit)
    if contradiction is not None:
        yield Note(
            "circuit", circuit.id, "one_fused_load", f"{name_of(circuit)}: one fused load", contradiction,
            offers=(set_field("circuit", circuit.id, "one_fused_load", False, "It feeds more than one"),),
        )  # fmt: skip
    if circuit.device_standard and circuit.device_rating_a:
        yield from _overload(circuit, _governing(circuit, cable), circuit.device_standard, circuit.device_rating_a)
    if circuit.cable_length_m and circuit.design_current_a:
        verdict = overload.judge_voltage_drop(
            cable.csa_mm2,
            circuit.cable_length_m,
            circuit.design_current_a,
            lighting=circuit.serves == "lighting",
            cable_type=cable.type,
            ring=circuit.form == "ring",
            spread=circuit.form == "radial" and (circuit.served or 0) > 1,
        )
        if verdict.status != "unknown":
            yield Note("circuit", circuit.id, "design_current_a", f"{name_of(circuit)}: voltage drop", verdict)


def _governing(circuit: Circuit, cable: overload.Cable) -> overload.Cable:
    """Of two sizes in one circuit the smallest that the device protects alone (rule 9.2); an unfused branch of a ring
    to one socket or fused unit is sound in the size of the ring's own legs (appendix 15)."""
    second = circuit.second_csa_mm2
    branch = circuit.form == "ring" and circuit.second_at == "branch" and (second or 0.0) >= overload.RING_LEAST_MM2
    if second is None or second >= cable.csa_mm2 or branch:
        return cable
    return replace(cable, csa_mm2=second)


def _lone_fused_unit(circuit: Circuit) -> bool:
    """Do the points themselves show one fused load alone?"""
    return len(circuit.points) == 1 and circuit.points[0].kind in _ONE_LOAD and (circuit.points_served or 1) == 1


def _contradiction(circuit: Circuit) -> Verdict | None:
    """`One fused load` with sockets among the points cannot be (rules 9.2, 1.2)."""
    if not circuit.one_fused_load or not has_sockets(circuit):
        return None
    return Verdict(
        status="attention",
        reason="It is said to feed one fused load, and has a socket among its points.",
        source=f"{overload.SOURCE}.2, 1.2",
        next_step="Say which: with a socket the cable has to be protected at the board.",
    )


def _overload(circuit: Circuit, cable: overload.Cable, standard: str, rating_a: float) -> Iterator[Note]:
    arrangement: overload.Arrangement = "radial"
    offers: tuple[Action, ...] = ()
    if circuit.form == "ring":
        arrangement = "ring"
    elif circuit.one_fused_load and not has_sockets(circuit):
        arrangement = "fused-spur-only"
    elif circuit.one_fused_load is None and _lone_fused_unit(circuit):
        arrangement = "fused-spur-only"
        offers = (set_field("circuit", circuit.id, "one_fused_load", True, "It feeds this one fused load"),)
    verdict = overload.judge(standard, rating_a, cable, arrangement, load_fuse_a=circuit.load_fuse_a)
    # While the method has not been asked yet, only what fails by every method is worth a word.
    if circuit.cable_method or verdict.status == "fail":
        title = f"{name_of(circuit)}: {rating_a:g} A on {cable.csa_mm2:g} mm²"
        yield Note(
            "circuit", circuit.id, "device_rating_a", title, verdict, offers=() if verdict.status == "pass" else offers
        )
    if circuit.design_current_a and circuit.design_current_a > rating_a:
        verdict = overload.judge_demand(circuit.design_current_a, rating_a)
        yield Note("circuit", circuit.id, "design_current_a", f"{name_of(circuit)}: design current", verdict)
