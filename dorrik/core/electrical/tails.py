"""Meter tails: their size against the service fuse, and their length (rules 3.7, 3.9)."""

from dorrik.core.basics.verdict import Verdict
from dorrik.core.book.reference import cached, rows

TAILS_M = 3.0


@cached
def capacity_a(csa_mm2: float) -> float:
    """Current capacity of meter tails (A). Raises LookupError for a size not in the table."""
    for row in rows("tails"):
        if float(row["csa_mm2"]) == float(csa_mm2):
            return float(row["iz_C"])
    raise LookupError(f"No capacity is tabulated for tails of {csa_mm2:g} mm².")


@cached
def least_mm2(fuse_a: float) -> float:
    """The least tails (mm²) that carry a service fuse (A): In ≤ Iz; the largest of the table for a larger fuse."""
    sizes = [(float(row["csa_mm2"]), float(row["iz_C"])) for row in rows("tails")]
    return next((csa for csa, capacity in sizes if capacity >= fuse_a), sizes[-1][0])


#: Tails a size under their fuse's usual ones are attention, two sizes under it they fail: their capacity over the fuse.
LOOK_SHARE = 0.85


def judge_size(csa_mm2: float, fuse_a: float, *, read_on: str | None = None, demand_a: float | None = None) -> Verdict:
    """Hold the size of the tails (mm²) against the service fuse (A): In ≤ Iz, rule 3.7.

    read_on: where the rating of the fuse was read; its carrier alone says little, and is asked about; demand_a:
    assessed maximum demand (A), which moves what is only a size too small.
    """
    source = "BS 7671 433.1, appendix 4 · rule 3.7"
    try:
        capacity = capacity_a(csa_mm2)
    except LookupError as error:
        return Verdict(status="unknown", reason=str(error), source=source)
    margin = capacity - fuse_a
    if margin >= 0:
        reason = f"{csa_mm2:g} mm² carries {capacity:g} A; the service fuse is {fuse_a:g} A."
        return Verdict(status="pass", reason=reason, source=source, limit=capacity, margin=margin)
    reason = f"{csa_mm2:g} mm² carries {capacity:g} A; the service fuse is {fuse_a:g} A."
    if read_on == "its carrier alone":
        return Verdict(
            status="attention",
            reason=f"{reason} Its rating was read on the carrier alone.",
            source=source,
            limit=capacity,
            margin=margin,
            next_step="Ask the network operator for the rating of the fuse.",
            asks=True,
        )
    small = capacity < LOOK_SHARE * fuse_a
    demanding = demand_a is not None and demand_a > capacity
    demand = f" The assessed demand is {demand_a:g} A." if demand_a is not None else ""
    return Verdict(
        status="fail" if small else "attention",
        reason=f"{reason}{demand}",
        source=source,
        limit=capacity,
        margin=margin,
        next_step="Ask the network operator for a smaller fuse, or have larger tails put in."
        if small or demanding
        else "Compare with the assessed maximum demand.",
        observation="tails-undersized" if small or demanding else None,
    )


def judge_length(length_m: float, *, protected: bool, limit_m: float = TAILS_M) -> Verdict:
    """Hold the length of the tails (m) against what the operator allows without a further device (rule 3.9)."""
    source = "network operator's rules, usually 3 m · rule 3.9"
    if protected or length_m <= limit_m:
        reason = "A switch-fuse protects the tails." if protected else f"{length_m:g} m is within {limit_m:g} m."
        return Verdict(status="pass", reason=reason, source=source, limit=limit_m, margin=limit_m - length_m)
    return Verdict(
        status="attention",
        reason=f"{length_m:g} m of tails without a protective device; {limit_m:g} m is usual.",
        source=source,
        limit=limit_m,
        margin=limit_m - length_m,
        next_step="Look for a switch-fuse near the meter; ask the operator what it allows.",
        observation="tails-long",
    )
