"""What needs more than an ordinary circuit: vehicle charge points, hot tubs, pools, hook-ups and sources of its own
(rules 8.2 to 8.4). What was not entered is asked and never coded."""

from collections.abc import Iterator

from dorrik.core.basics.verdict import Verdict
from dorrik.core.inspection.records import Board, Circuit
from dorrik.core.judging.topics.context import Context, Note, name_of
from dorrik.core.judging.topics.soundness import gives_additional

#: Circuits whose RCD is their own affair and not that of the board's other circuits.
OUTDOOR_WATER = ("hot tub", "swimming pool")
HOOK_UPS = ("caravan hook-up", "boat supply")


def notes(context: Context) -> Iterator[Note]:
    """Notes on each such circuit, and on the devices that a source of its own feeds back through."""
    yield from context.each_circuit(_of_circuit)
    yield from _both_ways(context)


def _of_circuit(context: Context, board: Board, circuit: Circuit) -> Iterator[Note]:
    if circuit.load == "vehicle":
        yield from _vehicle(context, board, circuit)
    if circuit.appliance in OUTDOOR_WATER or circuit.appliance in HOOK_UPS:
        yield from _on_the_neutral(context, board, circuit)


def _vehicle(context: Context, board: Board, circuit: Circuit) -> Iterator[Note]:
    name = name_of(circuit)
    verdict = _own_rcd(context, circuit)
    if verdict is not None:
        yield Note("circuit", circuit.id, "own_rcd", f"{name}: 30 mA RCD of its own", verdict)
    arrangement = context.earth(board).arrangement
    if arrangement == "TN-C-S" and circuit.vehicle_outdoors is not False and circuit.earthed_by != "own electrode":
        broken_neutral = _broken_neutral(circuit)
        if broken_neutral is not None:
            yield Note("circuit", circuit.id, "neutral_guard", f"{name}: broken supply neutral", broken_neutral)


def _own_rcd(context: Context, circuit: Circuit) -> Verdict | None:
    """Every vehicle charge point has a 30 mA RCD of its own, before it or in it (BS 7671 722.531.3)."""
    source = "BS 7671 722.531.3 · rule 8.3"
    if circuit.own_rcd == "30 mA or less":
        return None
    able = [device for device in context.rcds_before(circuit) if gives_additional(device)]
    if any(len(device.circuits) == 1 and not device.whole_board for device in able):
        return None
    if able:
        return Verdict(
            status="attention",
            reason=f"{able[0].name} protects the charge point and other circuits too: a fault of either takes both.",
            source=source,
            next_step="Isolate before anything is opened. Give the charge point a 30 mA RCD of its own. Test again.",
            observation="rcd-missing-vehicle",
        )
    if circuit.own_rcd is None:
        return Verdict(
            status="unknown",
            reason="No 30 mA RCD before the charge point; whether one is built in was not entered.",
            source=source,
            next_step="Read it in the maker's instructions, and enter it.",
            asks=True,
        )
    return Verdict(
        status="fail",
        reason="No 30 mA RCD before the charge point or in it.",
        source=source,
        next_step="Keep off charging until then. Isolate. Fit a 30 mA RCD for this circuit. Restore, test again.",
        observation="rcd-missing-vehicle",
    )


def _broken_neutral(circuit: Circuit) -> Verdict | None:
    """On the supply neutral's earth something guards against a broken neutral where a vehicle stands outdoors
    (722.411.4.1)."""
    source = "BS 7671 722.411.4.1 · rule 8.4"
    if circuit.vehicle_outdoors is None:
        return Verdict(
            status="unknown",
            reason="On TN-C-S it matters whether the vehicle can be outdoors, which was not entered.",
            source=source,
            next_step="Say whether the vehicle can be outdoors.",
            asks=True,
        )
    if circuit.neutral_guard in (None, "not known"):
        return Verdict(
            status="unknown",
            reason=(
                "The vehicle can be outdoors on TN-C-S; what guards against a broken supply neutral was not entered."
            ),
            source=source,
            next_step="Look for an electrode of its own, or a device that watches the neutral.",
            asks=True,
        )
    if circuit.neutral_guard == "none":
        return Verdict(
            status="fail",
            reason="The vehicle can be outdoors on TN-C-S, and nothing guards against a broken supply neutral.",
            source=source,
            next_step="Keep off charging outdoors until then. Fit a device that watches the neutral, or an electrode.",
            observation="vehicle-broken-neutral",
        )
    return None


def _on_the_neutral(context: Context, board: Board, circuit: Circuit) -> Iterator[Note]:
    """Water and hook-ups outdoors on the earth of the supply's neutral (BS 7671 702, 708.411.4, 709.411.4 · rule
    8.4)."""
    if context.earth(board).arrangement != "TN-C-S" or circuit.earthed_by == "own electrode":
        return
    hook_up = circuit.appliance in HOOK_UPS
    source = "BS 7671 708.411.4, 709.411.4 · rule 8.4" if hook_up else "BS 7671 702.411.3, 411.3.1.2 · rule 8.4"
    title = f"{name_of(circuit)}: earth of the {circuit.appliance}"
    if circuit.earthed_by is None:
        verdict = Verdict(
            status="unknown",
            reason=f"Whether the {circuit.appliance} is on the earth of the supply's neutral was not entered.",
            source=source,
            next_step="See where its earth comes from, and enter it.",
            asks=True,
        )
    else:
        verdict = Verdict(
            status="fail" if hook_up else "attention",
            reason=f"The {circuit.appliance} is on the earth of the supply's neutral.",
            source=source,
            next_step="Keep off until then. Give it an electrode of its own and an RCD."
            if hook_up
            else "Advise an electrode of its own with an RCD.",
            observation="hook-up-on-supply-earth" if hook_up else "hot-tub-on-supply-earth",
        )
    yield Note("circuit", circuit.id, "earthed_by", title, verdict)


def _both_ways(context: Context) -> Iterator[Note]:
    """Devices through which current of the home's own source flows back are made for it (BS 7671 551, 530.3.201 ·
    rule 8.4)."""
    own = context.inspection.other_source not in (None, "none")
    fed = [(board, circuit) for board, circuit in context.circuits if circuit.load == "inverter"]
    if not own and not fed:
        return
    devices_noted: set[str] = set()
    for _, circuit in fed:
        if circuit.both_ways in (None, "no", "not marked") and circuit.device_standard is not None:
            yield Note("circuit", circuit.id, "both_ways", f"{name_of(circuit)}: device", _one_way(circuit.both_ways))
        for device in context.rcds_before(circuit):
            state = next((r.both_ways for r in device.board.rcds if r.id == device.id), circuit.both_ways)
            if state != "yes" and device.id not in devices_noted and device.entity == "rcd":
                devices_noted.add(device.id)
                yield Note("rcd", device.id, "both_ways", f"{device.name}: current both ways", _one_way(state))
    if own and not fed:
        i = context.inspection
        verdict = Verdict(
            status="unknown",
            reason=f"The home has a source of its own ({i.other_source}), and no circuit is entered as its own.",
            source="BS 7671 551.7 · rule 8.4",
            next_step="Say which way it feeds into: load “inverter”.",
            asks=True,
        )
        yield Note("inspection", i.id, "other_source", "Source of its own", verdict)


def _one_way(state: str | None) -> Verdict:
    marked = "is made for one direction only" if state == "no" else "may not be made for current both ways"
    return Verdict(
        status="attention" if state == "no" else "unknown",
        reason=f"Current from the home's own source flows back through it, and it {marked}.",
        source="BS 7671 530.3.201, 551.7 · rule 8.4",
        next_step="Treat as live from both sides: isolate the home's own source too. Read the marking of the device.",
        asks=True,
    )
