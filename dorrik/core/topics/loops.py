"""Earth fault loop impedance of every circuit (rules 7.1 to 7.4, 9.3)."""

from collections.abc import Iterator

from dorrik.core import continuity, devices, loop, overload
from dorrik.core.circuit import TRIPS
from dorrik.core.inspection import Board, Circuit
from dorrik.core.readings import Reading
from dorrik.core.topics.context import Context, Note, conductor_mm2, is_measured, name_of
from dorrik.core.topics.note import Figure
from dorrik.core.verdict import Verdict


def notes(context: Context) -> Iterator[Note]:
    """Notes on Zs measured, beside what was calculated, or calculated where it could not be measured."""
    for board, circuit in context.circuits:
        name, zs = name_of(circuit), circuit.zs_ohm
        total = loop.calculated(board.zdb_ohm, r1_r2(circuit))
        if zs is not None and is_measured(zs):
            impossible = loop.judge_under_zdb(zs, board.zdb_ohm)
            if impossible is not None and not context.tree.fed_from(circuit):
                # What cannot be is asked about and never judged quietly (rule 1.2).
                yield Note("circuit", circuit.id, "zs_ohm", f"{name}: Zs {zs} Ω", impossible)
                continue
            verdict = judge(context, board, circuit, zs)
            yield Note("circuit", circuit.id, "zs_ohm", f"{name}: Zs {zs} Ω", verdict)
            yield from _crossed(context, board, circuit, zs, failing=verdict.status == "fail")
            yield from _fault(circuit, zs)
        elif zs is not None or circuit.zs_not_possible is not None:
            if trips(circuit):
                yield Note("circuit", circuit.id, "zs_ohm", f"{name}: no loop test", loop.TRIPS_ON_TEST)
            if total is not None:
                title = f"{name}: Zs calculated, Zdb + (R1+R2) = {total} Ω"
                yield Note("circuit", circuit.id, "zs_ohm", title, judge(context, board, circuit, total))
        yield from _from_live(board, circuit)


def trips(circuit: Circuit) -> bool:
    """Was there no loop test because the RCD trips on it? Older documents have it among the words of the limitation."""
    if circuit.zs_not_possible is not None:
        return circuit.zs_not_possible == TRIPS
    zs = circuit.zs_ohm
    return zs is not None and zs.kind == "limitation" and "trip" in (zs.limitation or "").lower()


def r1_r2(circuit: Circuit) -> Reading | None:
    """R1+R2 as measured, or by long lead: R2 with the R1 that its cable leads to (rule 4.7)."""
    measured, r2 = circuit.r1_r2_ohm, circuit.long_lead_r2_ohm
    if is_measured(measured) or r2 is None or r2.value is None:
        return measured
    line = conductor_mm2(circuit)
    if not line or not circuit.cpc_csa_mm2:
        return measured
    try:
        return Reading.of(r2.value + continuity.r1_from_r2_ohm(r2.value, line, circuit.cpc_csa_mm2), r2.bound)
    except LookupError:
        return measured


def judge(context: Context, board: Board, circuit: Circuit, zs: Reading) -> Verdict:
    """A circuit's Zs (Ω) by the earth of its board and what gives its fault protection."""
    rated = context.rated_ma(circuit)
    on_tt = context.earth(board).tt
    if context.behind_rcd(board, circuit) and rated and on_tt:
        return loop.judge_zs_behind_rcd(zs, rated)
    limit = context.zs_limit(board, circuit)
    by_device = limit if isinstance(limit, Verdict) else loop.judge_zs(zs, limit[0], context.house.zs_basis)
    if rated and not on_tt and circuit.fault_protection == "RCD":
        total = loop.calculated(board.zdb_ohm, r1_r2(circuit))
        return loop.judge_zs_on_tn_behind_rcd(zs, rated, by_device, total)
    if zs.kind == "over-range" and by_device.status == "unknown":
        return loop.judge_zs(zs, loop.FEW_OHMS)
    return by_device


def _crossed(context: Context, board: Board, circuit: Circuit, zs: Reading, *, failing: bool) -> Iterator[Note]:
    title = f"{name_of(circuit)}: Zs beside Zdb + (R1+R2)"
    crossed = loop.cross_check(zs, board.zdb_ohm, r1_r2(circuit))
    if crossed.status not in ("unknown", "pass"):
        # Above its limit and above what was calculated is one thing, said by the limit.
        because = (circuit.id, "zs_ohm") if failing else _parallel(context, circuit, zs, crossed)
        yield Note("circuit", circuit.id, "zs_ohm", title, crossed, because_of=because)


def _parallel(context: Context, circuit: Circuit, zs: Reading, crossed: Verdict) -> Figure | None:
    """The ends of a ring with an earth path beside its cpc explain a loop lower than was calculated."""
    analysis = context.rings.get(circuit.id)
    lower = zs.value is not None and crossed.limit is not None and zs.value < crossed.limit
    if lower and analysis is not None and any(found.kind == "parallel-earth" for found in analysis.findings):
        return (circuit.id, "r2_ohm")
    return None


def _from_live(board: Board, circuit: Circuit) -> Iterator[Note]:
    if circuit.r1_r2_ohm is None or is_measured(circuit.r1_r2_ohm):
        return
    found = loop.r1_r2_from_live(circuit.zs_ohm, board.zdb_ohm)
    if found is not None:
        verdict = Verdict(
            status="unknown",
            reason=f"By the live tests Zs − Zdb it comes to {found} Ω; it was not measured dead.",
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
