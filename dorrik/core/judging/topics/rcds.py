"""Residual current devices: trip times, button, kind, leakage, two in line, and where one is missing (rules 3.8, 8.1 to
8.3). A device speaks once for all circuits behind it."""

from collections.abc import Iterator
from dataclasses import replace
from itertools import pairwise

from dorrik.core.basics.readings import Reading, add, at_most
from dorrik.core.basics.verdict import Verdict
from dorrik.core.electrical import loop, rcd, supply
from dorrik.core.home.ages import required_since
from dorrik.core.home.rcd_devices import RcdDevice
from dorrik.core.inspection import demand
from dorrik.core.inspection.records import Board, Circuit
from dorrik.core.judging.topics.context import Context, Note, has_sockets, is_measured, name_of
from dorrik.core.judging.topics.loops import trips
from dorrik.core.judging.topics.soundness import gives_additional
from dorrik.core.judging.topics.special_loads import HOOK_UPS, OUTDOOR_WATER


def notes(context: Context) -> Iterator[Note]:
    """Notes on every device, and on each board where one is missing."""
    for device in context.rcds:
        if device.standard == rcd.VOLTAGE_OPERATED:
            yield _note(device, "standard", f"{device.name}: voltage-operated", _VOLTAGE_OPERATED)
            continue
        yield from _times(device)
        yield from _button(device)
        yield from _kind(device)
        yield from _unwanted(device)
        yield from _rating(device)
    yield from _in_line(context)
    for board in context.inspection.boards:
        yield from _differing(board)
        yield from _missing(context, board)
    for _, circuit in context.circuits:
        if circuit.afdd_button == "incorrect":
            verdict = Verdict(
                status="fail",
                reason="The arc fault device does not answer to its test button.",
                source="BS 7671 643.10 · rule 8.2",
                next_step="Read the meaning of its indicator in the maker's instructions.",
            )
            yield Note("circuit", circuit.id, "afdd_button", f"{name_of(circuit)}: AFDD button", verdict)


_VOLTAGE_OPERATED = Verdict(
    status="fail",
    reason="A voltage-operated earth-leakage breaker is relied on: it is no RCD, and parallel earths blind it.",
    source="BS 7671 411.5.2, 531.3 · rule 8.1",
    next_step="Isolate. Have it replaced by an RCD. Restore, test again.",
    observation="rcd-voltage-operated",
)


def _note(device: RcdDevice, field: str, title: str, verdict: Verdict, because_of: str | None = None) -> Note:
    touches = tuple(circuit.id for circuit in device.circuits)
    because = (device.id, device.field(because_of)) if because_of else None
    return Note(device.entity, device.id, device.field(field), title, verdict, touches=touches, because_of=because)


def _does_not_trip(device: RcdDevice) -> bool:
    return device.trip_ms is not None and device.trip_ms.kind == "over-range"


def _times(device: RcdDevice) -> Iterator[Note]:
    standard, delay = device.standard or "BS EN 61008", device.delay or "none"
    failed = False
    for field, multiple in (("trip_ms", 1), ("five_ms", 5)):
        reading: Reading | None = getattr(device, field)
        if reading is None or not is_measured(reading):
            continue
        if device.rated_ma:
            at = "" if multiple == 1 else f" at {multiple} × IΔn"
            verdict = rcd.judge_trip(standard, delay, device.rated_ma, reading, multiple, delay_ms=device.delay_ms)
            because = "trip_ms" if failed and multiple == 5 and verdict.status == "fail" else None
            yield _note(device, field, f"{device.name}: {reading} ms{at}", verdict, because)
            failed = failed or verdict.status == "fail"
        else:
            verdict = Verdict(status="unknown", reason="The RCD's rated residual current is needed.", source=rcd.SOURCE)
            yield _note(device, field, device.name, verdict)


def _button(device: RcdDevice) -> Iterator[Note]:
    if device.button != "incorrect":
        return
    trips_on_test = device.trip_ms is not None and device.trip_ms.value is not None
    verdict = Verdict(
        status="fail",
        reason="The test button does not trip the device.",
        source="BS 7671 643.10 · rule 8.2",
        next_step="Isolate. Disconnect the load side, restore, press again. If it still fails, replace the RCD.",
        observation="rcd-button-fails" if trips_on_test else "rcd-no-trip",
    )
    # A device that trips on no test trips on its button neither.
    yield _note(device, "button", f"{device.name}: button", verdict, "trip_ms" if _does_not_trip(device) else None)


def _kind(device: RcdDevice) -> Iterator[Note]:
    if not device.kind or not device.rated_ma:
        return
    kind = rcd.KINDS[device.kind]
    worst: tuple[Circuit, Verdict] | None = None
    for circuit in device.circuits:
        if circuit.load:
            verdict = rcd.judge_kind(kind, rcd.LOADS[circuit.load], dc_detection=circuit.dc_detection)
            if verdict.status != "pass" and (worst is None or verdict.status == "fail"):
                worst = (circuit, verdict)
    if worst is not None:
        yield _note(device, "kind", f"{device.name}: type, for {name_of(worst[0])}", worst[1])
        return
    if any(has_sockets(circuit) and not circuit.load for circuit in device.circuits):
        unknown = rcd.judge_unknown_load(kind)
        if unknown is not None:
            yield _note(device, "kind", f"{device.name}: type", unknown)


def _leakage(device: RcdDevice) -> Reading | None:
    """What leaks behind the device (mA): measured for it, or its circuits' figures added up."""
    if device.entity == "rcd" and is_measured(device.leakage_ma):
        return device.leakage_ma
    each = [c.leakage_ma for c in device.circuits if c.leakage_ma is not None and is_measured(c.leakage_ma)]
    return add(*each) if each else None


def leaks_too_much(device: RcdDevice) -> bool:
    """Is what leaks behind it above the share of its rating that is allowed (rule 3.8)?"""
    leakage = _leakage(device)
    if not device.rated_ma or leakage is None:
        return False
    verdict = supply.judge_leakage(leakage, device.rated_ma)
    return verdict.status == "attention" and at_most(leakage, supply.LEAKAGE_SHARE * device.rated_ma) is False


def _unwanted(device: RcdDevice) -> Iterator[Note]:
    """Tripping that nobody wants: its circuits leak, or the device is too eager; said once (rules 3.8, 7.4, 8.1)."""
    leakage = _leakage(device)
    leaks = leaks_too_much(device)
    if device.rated_ma and leakage is not None:
        verdict = supply.judge_leakage(leakage, device.rated_ma)
        yield _note(device, "leakage_ma", f"{device.name}: standing leakage", verdict)
    if device.half == "incorrect":
        verdict = Verdict(
            status="attention",
            reason="It trips at half its rated current: expect unwanted tripping.",
            source="BS EN 61008, ½ × IΔn · rules 8.1, 7.4",
            next_step=(
                "Isolate. Disconnect the load side, restore, test again: leakage of the circuits adds to the test."
            ),
            observation="rcd-trips-on-test",
        )
        yield _note(device, "half", f"{device.name}: at ½ × IΔn", verdict, "leakage_ma" if leaks else None)
    elif leaks:
        return
    stopped = [circuit for circuit in device.circuits if trips(circuit)]
    if stopped and device.half in (None, "correct"):
        named = "" if len(device.circuits) == 1 else f" ({', '.join(name_of(circuit) for circuit in stopped)})"
        title = f"{device.name}: trips on the loop test{named}"
        # Held at half its rating it is no eager device: the loop tests alone take it out (rule 7.4).
        alone = replace(loop.TRIPS_ON_TEST, reason=_LOOP_TESTS_ALONE, observation="rcd-trips-on-test")
        yield _note(device, "half", title, alone if device.half == "correct" else loop.TRIPS_ON_TEST)


_LOOP_TESTS_ALONE = "The RCD trips on the loop test and holds at ½ × IΔn: the test current of the loop tester trips it."


def _rating(device: RcdDevice) -> Iterator[Note]:
    """The rating of an RCCB against the assessed demand of its own circuits (rule 3.10); an RCBO protects itself."""
    if device.entity != "rcd" or not device.rating_a or len(device.circuits) < 2 or device.standard == "BS EN 61009":
        return
    verdict = supply.judge_rccb(device.rating_a, device.name, demand.assess(device.circuits))
    if verdict.status != "pass":
        yield _note(device, "rating_a", f"{device.name}: rating", verdict)


def _in_line(context: Context) -> Iterator[Note]:
    pairs_noted: set[tuple[str, str]] = set()
    for _, circuit in context.circuits:
        chain = context.rcds_before(circuit)
        for lower, upper in pairwise(chain):
            if (lower.id, upper.id) in pairs_noted or not (lower.rated_ma and upper.rated_ma):
                continue
            pairs_noted.add((lower.id, upper.id))
            verdict = rcd.judge_in_line(
                (upper.rated_ma, upper.delay), (lower.rated_ma, lower.delay), (upper.name, lower.name)
            )
            if verdict is not None:
                touches = tuple(circuit.id for circuit in lower.circuits)
                title = f"{upper.name} before {lower.name}"
                yield Note(upper.entity, upper.id, upper.field("delay"), title, verdict, touches=touches)


#: What the circuits behind one RCD have in common, and what one test gave for all of them.
_OF_THE_RCD = {
    "rcd_rated_ma": "rated current",
    "rcd_standard": "standard",
    "rcd_kind": "kind",
    "rcd_delay": "delay",
    "rcd_trip_ms": "trip time",
}


def _differing(board: Board) -> Iterator[Note]:
    """One device with two sets of data, or two trip times (rule 1.2)."""
    groups: dict[str, list[Circuit]] = {}
    for circuit in board.circuits:
        if circuit.rcd_group and not circuit.spare:
            groups.setdefault(circuit.rcd_group, []).append(circuit)
    for group, members in groups.items():
        for field, word in _OF_THE_RCD.items():
            values = {getattr(c, field) for c in members}
            if field == "rcd_trip_ms":
                values = {value for value in values if value is not None}
            if len(values) > 1:
                ways = ", ".join(c.way or "?" for c in members)
                verdict = Verdict(
                    status="attention",
                    reason=f"Ways {ways} are behind RCD {group}, yet its {word} differs.",
                    source="circuit chart · rule 1.2",
                    next_step="One device, one set of data: look which of them is right.",
                )
                touches = tuple(c.id for c in members)
                title = f"{board.name or 'Board'}: RCD {group}"
                yield Note("circuit", members[0].id, "rcd_group", title, verdict, touches=touches)
                break


def _missing(context: Context, board: Board) -> Iterator[Note]:
    """Where 30 mA is expected today and nothing, or something less sensitive, stands in front: once for the board."""
    on_tt = context.earth(board).tt
    older: list[tuple[Circuit, str, float | None]] = []
    younger: list[tuple[Circuit, str, float | None]] = []
    for circuit in board.circuits:
        rated = context.rated_ma(circuit)
        described = circuit.device_standard is not None or context.rcds_before(circuit)
        if circuit.spare or not described or any(map(gives_additional, context.rcds_before(circuit))):
            continue
        if rated is None and (on_tt or context.rcds_before(circuit)):
            continue  # the electrode's own word covers it, or the rating of its device is still to be entered
        if circuit.appliance == "alarm system":
            title = f"{name_of(circuit)}: additional protection"
            yield Note("circuit", circuit.id, "appliance", title, _ALARM)
            continue
        if circuit.load == "vehicle":
            continue  # it has an RCD of its own (`special_loads`)
        key = rcd.expected_protection(_use(circuit))
        if key is None or context.tree.fed_from(circuit):
            continue
        (younger if needed_in_its_day(context, circuit, key) else older).append((circuit, key, rated))
    if older:
        title = f"{board.name or 'Board'}: additional protection"
        verdict = _lacking(context, older)
        yield Note("board", board.id, "rcds", title, verdict, touches=tuple(c.id for c, _, _ in older))
    # An addition of yesterday in an old board is held against yesterday's edition, apart from its neighbours.
    for circuit, key, rated in younger:
        verdict = _lacking(context, [(circuit, key, rated)])
        _, edition = required_since()[key]
        fitted = f"Fitted in {context.fitted(circuit)[0]} or later, when the {edition} already needed it."
        title = f"{name_of(circuit)}: additional protection"
        yield Note("circuit", circuit.id, "rcd_id", title, replace(verdict, reason=f"{fitted} {verdict.reason}"))


def _lacking(context: Context, circuits: list[tuple[Circuit, str, float | None]]) -> Verdict:
    needs: dict[str, list[str]] = {}
    for circuit, key, _ in circuits:
        needs.setdefault(key, []).append(name_of(circuit))
    rated_there = [rated for _, _, rated in circuits if rated is not None]
    everywhere = max(rated_there) if rated_there and len(rated_there) == len(circuits) else None
    delayed = any(d.delay == "S" for c, _, _ in circuits for d in context.rcds_before(c))
    return rcd.judge_missing(needs, everywhere, delayed=delayed)


def needed_in_its_day(context: Context, circuit: Circuit, entry: str) -> bool:
    """Did the edition of a circuit's day already need what it lacks? False where its years are unknown (rule 13.6)."""
    first, _ = context.fitted(circuit)
    return first is not None and entry in required_since() and first >= required_since()[entry][0]


_ALARM = Verdict(
    status="unknown",
    reason="An alarm circuit without a 30 mA RCD: usual where its cable is protected otherwise.",
    source="BS 7671 411.3.4, 560.7 · rule 8.3",
    next_step="See how its cable runs, and say so in the report.",
)


def _use(circuit: Circuit) -> rcd.Use:
    return rcd.Use(
        socket_rating_a=circuit.device_rating_a
        if has_sockets(circuit) or circuit.appliance in (*OUTDOOR_WATER, *HOOK_UPS)
        else None,
        feeds_outdoors=bool(circuit.outdoors) or circuit.appliance in (*OUTDOOR_WATER, *HOOK_UPS),
        bathroom=bool(circuit.bathroom) or any(point.bathroom for point in circuit.points),
        cable_depth_mm=0.0 if circuit.cable_hidden else None,
        dwelling_lighting=circuit.serves == "lighting",
    )
