"""Room for more: demand by the usual allowances against the service fuse, with what the client asks about (rule 3.10).

An opinion with its sum, beside what a clamp measured. A home of which the load of one circuit is not known has no sum.
"""

from math import fsum

from dorrik.core.basics.record import record
from dorrik.core.basics.verdict import Status
from dorrik.core.inspection import demand
from dorrik.core.inspection.circuit import Circuit
from dorrik.core.inspection.demand import DemandShare
from dorrik.core.inspection.wanted_load import WantedLoad
from dorrik.core.judging.topics.context import Context, name_of

SOURCE = "rule 3.10 · usual allowances, guidance and no rule"
_SEVERAL = 3


@record(kw_only=True)
class RoomForMore:
    """shares: what each kind of load counts for today; wanted: the same with what is asked about; total_a, with_a:
    their sums, None where a load is not known; fuse_a: of the supply; measured_a: by clamp; status, says: the opinion;
    missing: circuits whose load is not known."""

    shares: tuple[DemandShare, ...]
    wanted: tuple[DemandShare, ...]
    total_a: float | None
    with_a: float | None
    fuse_a: float | None
    measured_a: float | None
    status: Status
    says: str
    missing: tuple[str, ...]


def room_for_more(context: Context) -> RoomForMore | None:
    """None while there is no circuit."""
    i = context.inspection
    circuits = [c for _, c in _of_the_supply(context)]
    if not circuits:
        return None
    missing = tuple(name_of(c) for c in circuits if demand.connected(c) is None)
    shares = demand.shares(circuits) if not missing else ()
    wanted = tuple(
        (wanted_load.what or "", wanted_load.current_a or 0.0)
        for wanted_load in i.wanted_loads
        if wanted_load.what and not wanted_load.sheds
    )
    more = demand.shares(circuits, wanted) if not missing else ()
    total = _sum(shares) if not missing else None
    with_a = _sum(more) if not missing else None
    fuse = i.service_fuse_a
    status, says = _opinion(context, total, with_a, fuse, missing)
    return RoomForMore(
        shares=shares,
        wanted=more,
        total_a=total,
        with_a=with_a,
        fuse_a=fuse,
        measured_a=i.demand_measured_a,
        status=status,
        says=says,
        missing=missing,
    )


def _of_the_supply(context: Context) -> list[tuple[object, Circuit]]:
    """Final circuits of every board: what feeds a board counts by what hangs on that board."""
    feeding = {board.fed_by for board in context.inspection.boards if board.fed_by}
    return [(board, c) for board, c in context.circuits if c.id not in feeding]


def _sum(shares: tuple[DemandShare, ...]) -> float:
    return round(fsum(demand_share.counted_a for demand_share in shares), 1)


def _opinion(
    context: Context, total: float | None, with_a: float | None, fuse: float | None, missing: tuple[str, ...]
) -> tuple[Status, str]:
    i = context.inspection
    if total is None or with_a is None:
        named = ", ".join(missing[:_SEVERAL]) + (
            f" and {len(missing) - _SEVERAL} more" if len(missing) > _SEVERAL else ""
        )
        return "unknown", f"No sum yet: the load of {named} is not known. Enter the device's rating or the current."
    asked = [wanted_load for wanted_load in i.wanted_loads if wanted_load.what]
    lacking = [wanted_load.what or "" for wanted_load in asked if wanted_load.current_a is None]
    if lacking:
        return "unknown", f"Enter the current of the {lacking[0]}."
    sum_now = f"Demand {total:g} A by the usual allowances"
    if fuse is None:
        return "unknown", f"{sum_now}. Enter the service fuse to compare."
    names = _named(asked)
    text = f"{sum_now}{f'; with {names} {with_a:g} A' if names else ''}, of {fuse:g} A."
    if i.phases == "3":
        return "unknown", f"{text} On three phases it depends on which phase each load is: work it out by phase."
    if i.fuse_read == "its carrier alone":
        return "unknown", f"{text} The fuse was read on its carrier alone: ask the network operator."
    # What a clamp read on that day is the least that the home takes, and what is added comes on top of it.
    worst = max(with_a, (i.demand_measured_a or 0.0) + with_a - total)
    if worst > fuse:
        return "attention", f"{text} More than the service fuse carries: ask the network operator first."
    clamp = f" A clamp read {i.demand_measured_a:g} A." if i.demand_measured_a is not None else ""
    sheds = " What sheds load by itself takes what is left." if any(wanted_load.sheds for wanted_load in asked) else ""
    return "pass", f"{text} {round(fuse - worst, 1):g} A are left.{clamp}{sheds}"


def _named(asked: list[WantedLoad]) -> str:
    return " and ".join(
        f"a {wanted_load.what} of {wanted_load.current_a:g} A{', shedding load' if wanted_load.sheds else ''}"
        for wanted_load in asked
    )
