"""Earth fault loop impedance of every circuit (rules 7.1 to 7.4, 9.3)."""

from collections.abc import Iterator
from math import inf

from dorrik.core.basics.readings import Reading, at_most
from dorrik.core.basics.verdict import Verdict
from dorrik.core.electrical import continuity, devices, loop, overload, supply
from dorrik.core.home import gangs
from dorrik.core.inspection.circuit import TRIPS
from dorrik.core.inspection.records import Board, Circuit
from dorrik.core.judging.topics import soundness
from dorrik.core.judging.topics.context import (
    Context,
    Note,
    conductor_mm2,
    has_sockets,
    is_measured,
    name_of,
    point_names,
)
from dorrik.core.judging.topics.note import Figure, set_field


def notes(context: Context) -> Iterator[Note]:
    """Notes on Zs measured, beside what was calculated, or calculated where it could not be measured."""
    yield from context.each_circuit(_of_circuit)


def _of_circuit(context: Context, board: Board, circuit: Circuit) -> Iterator[Note]:
    name, zs = name_of(circuit), circuit.zs_ohm
    total = loop.calculated(board.zdb_ohm, r1_r2(circuit))
    if zs is not None and is_measured(zs):
        impossible = _impossible(context, board, circuit, zs)
        if impossible is not None and not context.tree.fed_from(circuit):
            # What cannot be is asked about and never judged quietly (rule 1.2).
            yield Note("circuit", circuit.id, "zs_ohm", f"{name}: Zs {zs} Ω", impossible)
            return
        verdict, because = judge(context, board, circuit, zs)
        yield Note("circuit", circuit.id, "zs_ohm", f"{name}: Zs {zs} Ω", verdict, because_of=because)
        yield from _crossed(context, board, circuit, zs, failing=verdict.status == "fail")
        yield from _fault(circuit, zs)
    elif zs is not None or circuit.zs_not_possible is not None:
        if trips(circuit):
            yield Note("circuit", circuit.id, "zs_ohm", f"{name}: no loop test", loop.TRIPS_ON_TEST)
        if total is not None:
            title = f"{name}: Zs calculated, Zdb + (R1+R2) = {total} Ω"
            verdict, because = judge(context, board, circuit, total)
            yield Note("circuit", circuit.id, "zs_ohm", title, verdict, because_of=because)
    yield from _from_live(board, circuit)
    yield from _live_beside_dead(circuit)
    yield from _at_points(context, board, circuit)


def _at_points(context: Context, board: Board, circuit: Circuit) -> Iterator[Note]:
    """Zs of points: each is judged, the worst speaks for the others, and the highest is the circuit's (rule 7.1)."""
    read = list(_zs_read(circuit))
    if not read:
        return
    # Over range is above every figure.
    where, (worst_id, worst_field), worst = max(read, key=lambda pair: _figure(pair[2]))
    own = circuit.zs_ohm
    recorded = own is not None and own.text == worst.text
    speaker = (circuit.id, "zs_ohm") if recorded else (worst_id, worst_field)
    for name, figure, zs in read:
        verdict, _ = judge(context, board, circuit, zs)
        if verdict.status in ("fail", "attention"):
            because = None if figure == speaker else speaker
            title = f"{name_of(circuit)}: {name}, Zs {_ohm(zs)}"
            yield Note("point", *figure, title, verdict, because_of=because)
    higher = own is None or (is_measured(own) and at_most(worst, _figure(own)) is not True)
    if higher and not recorded:
        stands = "no Zs is recorded for the circuit" if own is None else f"the circuit has {_ohm(own)}"
        verdict = Verdict(
            status="attention",
            reason=f"{_ohm(worst)} at {where} is the highest of its points; {stands}.",
            source="highest of the points · rule 7.1",
            next_step="Record the highest.",
        )
        offer = set_field("circuit", circuit.id, "zs_ohm", worst.text, f"Record {_ohm(worst)}")
        yield Note("circuit", circuit.id, "zs_ohm", f"{name_of(circuit)}: Zs of its points", verdict, offers=(offer,))


def _zs_read(circuit: Circuit) -> Iterator[tuple[str, Figure, Reading]]:
    """Every Zs that was read at a point or at one of its gangs: where, which figure, and what it read."""
    for name, point in point_names(circuit).items():
        for field, at in (("zs_ohm", name), (gangs.SECOND["zs_ohm"], f"{name}, second gang")):
            zs: Reading | None = getattr(point, field)
            if zs is not None and is_measured(zs):
                yield at, (point.id, field), zs


def _ohm(reading: Reading) -> str:
    """As it is read out: what is over range has no unit."""
    return f"{reading} Ω" if reading.kind == "number" else reading.text


def _figure(reading: Reading) -> float:
    return inf if reading.kind == "over-range" else reading.value or 0.0


def _impossible(context: Context, board: Board, circuit: Circuit, zs: Reading) -> Verdict | None:
    """A Zs of nothing, one under Zdb, or an R1+R2 a hundred times what Zs − Zdb allows (rule 1.2)."""
    if supply.is_impossible(zs):
        return supply.loop_impossible("Zs", zs)
    under = loop.judge_under_zdb(zs, board.zdb_ohm)
    if under is not None or context.earth(board).tt:
        return under
    return loop.judge_r1_r2_slip(zs, board.zdb_ohm, circuit.r1_r2_ohm)


def trips(circuit: Circuit) -> bool:
    """Was there no loop test because the RCD trips on it?"""
    return circuit.zs_not_possible == TRIPS


def r1_r2(circuit: Circuit) -> Reading | None:
    """R1+R2 as measured, or by long lead: R2 with the R1 that its cable leads to (rule 4.7)."""
    measured, r2 = circuit.r1_r2_ohm, circuit.long_lead_r2_ohm
    if is_measured(measured) or r2 is None or r2.value is None:
        return measured
    return _with_r1(circuit, r2) or measured


def measured_share(circuit: Circuit) -> Reading | None:
    """R1+R2 as measured, or R2 by long lead alone: with a joint that fails in it the cable's ratio says nothing of
    R1."""
    return circuit.r1_r2_ohm if is_measured(circuit.r1_r2_ohm) else circuit.long_lead_r2_ohm


def _with_r1(circuit: Circuit, r2: Reading) -> Reading | None:
    line = conductor_mm2(circuit)
    if not line or not circuit.cpc_csa_mm2 or r2.value is None:
        return None
    try:
        return Reading.of(r2.value + continuity.r1_from_r2_ohm(r2.value, line, circuit.cpc_csa_mm2), r2.bound)
    except LookupError:
        return None


def r1_r2_so_far(circuit: Circuit) -> Reading | None:
    """R1+R2 as recorded, or the highest of the points before it was recorded (rules 4.7, 7.3)."""
    recorded = r1_r2(circuit)
    if is_measured(recorded):
        return recorded
    highest = continuity.highest(gangs.of_points(circuit.points, "line_cpc_ohm"))
    if highest is not None:
        return highest
    by_lead = continuity.highest(gangs.of_points(circuit.points, "r2_ohm"))
    return recorded if by_lead is None else _with_r1(circuit, by_lead) or recorded


def judge(context: Context, board: Board, circuit: Circuit, zs: Reading) -> tuple[Verdict, Figure | None]:
    """A circuit's Zs (Ω) by the earth of its board and what gives its fault protection, and the figure that it
    follows from: an RCD that is relied on and does not work speaks for itself."""
    limit = context.zs_limit(board, circuit)
    by_device = limit if isinstance(limit, Verdict) else loop.judge_zs(zs, limit[0], context.house.zs_basis)
    if context.earth(board).tt:
        return _on_tt(context, circuit, zs, by_device)
    lost = loop.why_lost(zs, before_ohm(context, board), measured_share(circuit))
    if lost is not None:
        return loop.judge_lost(lost), None
    if zs.kind == "over-range":
        return (loop.judge_zs(zs, loop.FEW_OHMS) if by_device.status == "unknown" else by_device), None
    working, proof = soundness.fault_rcd(context, circuit)
    if circuit.fault_protection == "RCD" and working is not None and working.rated_ma and proof.sound:
        return loop.judge_zs_on_tn_behind_rcd(zs, working.rated_ma, by_device, proof.says), None
    if isinstance(limit, Verdict) and at_most(zs, devices.most_permissive_ohm()) is False:
        return loop.judge_no_device(zs, devices.most_permissive_ohm()), None
    if by_device.status == "fail" and _older_fixed(context, circuit, zs):
        return loop.within_older_time(by_device), None
    return by_device, None


def before_ohm(context: Context, board: Board) -> float:
    """What stands before the circuits of a board (Ω): its Zdb, else Ze, else the most that is usually declared."""
    for reading in (board.zdb_ohm, context.inspection.ze_ohm if context.tree.feed(board) is None else None):
        if reading is not None and reading.value is not None and reading.bound != "<":
            return reading.value
    usual = supply.DECLARED_MAXIMUM_OHM.get(context.inspection.earthing or "")
    return usual if usual is not None else max(supply.DECLARED_MAXIMUM_OHM.values())


def _on_tt(context: Context, circuit: Circuit, zs: Reading, by_device: Verdict) -> tuple[Verdict, Figure | None]:
    """On an electrode an RCD gives the fault protection, if it works (rules 7.2, 8.1)."""
    before = [device for device in context.rcds_before(circuit) if device.rated_ma]
    if not before or circuit.fault_protection == "overcurrent device":
        return by_device, None
    own = measured_share(circuit)
    if zs.kind != "over-range" and own is not None and at_most(own, loop.FEW_OHMS) is False:
        # An open one has no figure.
        why = loop.why_lost(None, 0.0, own) or f"R1+R2 of {own} Ω is more than {loop.FEW_OHMS:g} Ω"
        return loop.judge_lost(why), None
    working, proof = soundness.fault_rcd(context, circuit)
    if proof.sound and working is not None and working.rated_ma:
        return loop.judge_zs_behind_rcd(zs, working.rated_ma), None
    nearest = before[0]
    verdict = loop.judge_zs_behind_rcd(zs, nearest.rated_ma or 0.0)
    if verdict.status == "fail" or by_device.status == "pass":
        return (verdict if verdict.status == "fail" else by_device), None
    unproved = loop.judge_unproved_rcd(verdict, proof.says, failing=proof.sound is False)
    field = "button" if nearest.button == "incorrect" and proof.sound is False else "trip_ms"
    return unproved, (nearest.id, nearest.field(field)) if proof.sound is False else None


def _older_fixed(context: Context, circuit: Circuit, zs: Reading) -> bool:
    """Is it fixed equipment alone, fitted before 2008, within the 5 s limit of then? (rule 7.2)"""
    fixed = circuit.serves in ("fixed", "lighting") and not has_sockets(circuit)
    _, last = context.fitted(circuit)
    if not fixed or last is None or last >= loop.SHORTER_TIME_YEAR:
        return False
    if not (circuit.device_standard and circuit.device_type and circuit.device_rating_a):
        return False
    try:
        limit = devices.zs_limit_ohm(circuit.device_standard, circuit.device_type, circuit.device_rating_a, 5.0)
    except LookupError:
        return False
    return at_most(zs, limit) is True


def _crossed(context: Context, board: Board, circuit: Circuit, zs: Reading, *, failing: bool) -> Iterator[Note]:
    if (circuit.id, "r1_r2_ohm") in context.open_parts or (circuit.id, "zs_ohm") in context.open_parts:
        # Of a part each: neither says anything of the other.
        return
    title = f"{name_of(circuit)}: Zs beside Zdb + (R1+R2)"
    crossed = loop.cross_check(zs, board.zdb_ohm, r1_r2(circuit))
    if crossed.status not in ("unknown", "pass"):
        # Above its limit and above what was calculated is one thing, said by the limit.
        because = (circuit.id, "zs_ohm") if failing else _parallel(context, circuit, zs, crossed)
        yield Note("circuit", circuit.id, "zs_ohm", title, crossed, because_of=because)


def _parallel(context: Context, circuit: Circuit, zs: Reading, crossed: Verdict) -> Figure | None:
    """The ends of a ring with an earth path beside its cpc explain a loop lower than was calculated."""
    analysis = context.ring(circuit)
    lower = zs.value is not None and crossed.limit is not None and zs.value < crossed.limit
    if lower and analysis is not None and any(finding.kind == "parallel-earth" for finding in analysis.findings):
        return (circuit.id, "r2_ohm")
    return None


def _live_beside_dead(circuit: Circuit) -> Iterator[Note]:
    """R1+R2 by a live test stands beside the dead one and never for it (rule 7.3)."""
    live, dead = circuit.live_r1_r2_ohm, circuit.r1_r2_ohm
    if live is None or not is_measured(live):
        return
    title = f"{name_of(circuit)}: R1+R2 by live test"
    over = live.kind == "over-range" and not circuit.no_cpc
    verdict = continuity.judge_point(live) if over else loop.judge_live_r1_r2(live, dead)
    yield Note("circuit", circuit.id, "live_r1_r2_ohm", title, verdict)


def _from_live(board: Board, circuit: Circuit) -> Iterator[Note]:
    if circuit.r1_r2_ohm is None or is_measured(circuit.r1_r2_ohm):
        return
    reading = loop.r1_r2_from_live(circuit.zs_ohm, board.zdb_ohm)
    if reading is not None:
        verdict = Verdict(
            status="unknown",
            reason=f"By the live tests Zs − Zdb it comes to {reading} Ω; it was not measured dead.",
            source="R1+R2 = Zs − Zdb · rule 7.3",
        )
        yield Note("circuit", circuit.id, "r1_r2_ohm", f"{name_of(circuit)}: R1+R2 by live tests", verdict)


def _fault(circuit: Circuit, zs: Reading) -> Iterator[Note]:
    """Is the cpc thick enough for the fault its device lets through? Said only where it may not be, and never coded."""
    device = (circuit.device_standard, circuit.device_type, circuit.device_rating_a)
    if not (circuit.cpc_csa_mm2 and device[0] and device[1] and device[2]) or not zs.value or zs.bound is not None:
        return
    try:
        row = devices.find(device[0], device[1], device[2])
    except LookupError:
        return
    let_through = overload.let_through_a2s(row, device[2], devices.U0_V / zs.value)
    if let_through is None:
        return
    verdict = overload.judge_let_through(circuit.cpc_csa_mm2, let_through)
    if verdict.status != "pass":
        yield Note("circuit", circuit.id, "cpc_csa_mm2", f"{name_of(circuit)}: cpc in a fault", verdict)
