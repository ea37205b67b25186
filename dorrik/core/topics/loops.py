"""Earth fault loop impedance of every circuit (rules 7.1 to 7.4, 9.3)."""

from collections.abc import Iterator

from dorrik.core import devices, loop, overload
from dorrik.core.inspection import Board, Circuit
from dorrik.core.readings import Reading
from dorrik.core.topics.context import Context, Note, name_of, spoken
from dorrik.core.verdict import Verdict


def notes(context: Context) -> Iterator[Note]:
    """Notes on Zs measured, beside what was calculated, or calculated where it could not be measured."""
    for board, circuit in context.circuits:
        if circuit.zs_ohm is not None and spoken(circuit.zs_ohm):
            verdict = _judge(context, circuit, circuit.zs_ohm)
            yield Note("circuit", circuit.id, "zs_ohm", f"{name_of(circuit)}: Zs {circuit.zs_ohm} Ω", verdict)
            crossed = loop.cross_check(circuit.zs_ohm, board.zdb_ohm, circuit.r1_r2_ohm)
            if crossed.status not in ("unknown", "pass"):
                title = f"{name_of(circuit)}: Zs beside Zdb + (R1+R2)"
                yield Note("circuit", circuit.id, "zs_ohm", title, crossed)
            yield from _fault(circuit, circuit.zs_ohm)
        elif circuit.zs_ohm is not None:
            yield from _without(context, board, circuit, circuit.zs_ohm)
        yield from _from_live(board, circuit)


def _judge(context: Context, circuit: Circuit, zs: Reading) -> Verdict:
    if context.behind_rcd(circuit) and circuit.rcd_rated_ma:
        return loop.judge_zs_behind_rcd(zs, circuit.rcd_rated_ma)
    limit = context.zs_limit(circuit)
    return limit if isinstance(limit, Verdict) else loop.judge_zs(zs, limit[0], context.house.zs_basis)


def _without(context: Context, board: Board, circuit: Circuit, zs: Reading) -> Iterator[Note]:
    """No Zs: because the RCD trips (rule 7.4), and what it comes to by calculation (rule 7.3)."""
    if zs.sort == "limitation" and "trip" in (zs.limitation or "").lower():
        yield Note("circuit", circuit.id, "zs_ohm", f"{name_of(circuit)}: no loop test", loop.TRIPS_ON_TEST)
    calculated = loop.calculated(board.zdb_ohm, circuit.r1_r2_ohm)
    if calculated is not None:
        title = f"{name_of(circuit)}: Zs calculated, Zdb + (R1+R2) = {calculated} Ω"
        yield Note("circuit", circuit.id, "zs_ohm", title, _judge(context, circuit, calculated))


def _from_live(board: Board, circuit: Circuit) -> Iterator[Note]:
    if circuit.r1_r2_ohm is None or spoken(circuit.r1_r2_ohm):
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
    """Is the cpc thick enough for the fault its device lets through? Said only where it may not be."""
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
