"""An open ring today: the rating that one leg allows until it is repaired, and whether its ends are another ring's
(rules 4.1, 4.8)."""

from dorrik.core.basics.readings import Reading
from dorrik.core.basics.record import record
from dorrik.core.basics.verdict import Verdict
from dorrik.core.electrical import overload
from dorrik.core.electrical.overload import Cable
from dorrik.core.electrical.ring_ends import OPEN_OHM
from dorrik.core.inspection.circuit import Circuit

SOURCE = "BS 7671 643.2.1, ring continuity · rules 4.1, 4.8"


@record
class LegRating:
    """The greatest device of one leg (A): to begin with, and where a method that was seen allows more (None: not)."""

    rating_a: float
    seen_a: float | None


def leg_rating(cable: Cable | None) -> LegRating | None:
    """What one leg of a cable allows; None where it is not known or not tabulated."""
    if cable is None:
        return None
    try:
        usual = overload.leg_rating_a(cable.csa_mm2, None, cable.type)
        seen = overload.leg_rating_a(cable.csa_mm2, cable.method, cable.type) if cable.method else None
    except LookupError:
        return None
    return LegRating(min(usual, seen) if seen is not None else usual, seen)


def judge_lowered(circuit: Circuit, cable: Cable | None) -> Verdict | None:
    """Is what the circuit was lowered to for today within one leg, and agreed? None where it was not lowered."""
    lowered = circuit.lowered_to_a
    allowed = leg_rating(cable)
    if lowered is None:
        return None
    most = max(allowed.rating_a, allowed.seen_a or 0.0) if allowed is not None else None
    if most is None:
        return Verdict(
            status="unknown",
            reason=f"Lowered to {lowered:g} A; its cable is not known, so neither is what a leg carries.",
            source=SOURCE,
            next_step="Enter the cable.",
        )
    if lowered > most:
        return Verdict(
            status="fail",
            reason=f"{lowered:g} A is more than one leg carries ({most:g} A).",
            source=SOURCE,
            limit=most,
            margin=most - lowered,
            next_step="Isolate. Fit a lower rating, or leave the circuit off.",
        )
    if not circuit.lowered_agreed_with:
        return Verdict(
            status="attention",
            reason=f"Lowered to {lowered:g} A for today; nobody is named who agreed.",
            source=SOURCE,
            limit=most,
            next_step="Say with whom it was agreed.",
        )
    return Verdict(
        status="pass",
        reason=f"Lowered to {lowered:g} A until it is repaired, agreed with {circuit.lowered_agreed_with}.",
        source=SOURCE,
        limit=most,
        margin=most - lowered,
    )


def judge_swapped(readings: tuple[Reading | None, Reading | None, Reading | None], other: str) -> Verdict | None:
    """What a ring's first ends read to the second ends of another one, line, neutral and cpc (Ω): do they belong
    together? None while nothing was measured."""
    measured = [r for r in readings if r is not None and r.kind in ("number", "over-range")]
    if not measured:
        return None
    through = [r for r in measured if r.value is not None and r.value < OPEN_OHM and r.bound != ">"]
    shown = ", ".join(r.text for r in measured)
    if len(measured) < len(readings):
        if through:
            return Verdict(
                status="unknown",
                reason=f"{shown}: not all three conductors were tried against {other}.",
                source=SOURCE,
                next_step="Isolate and prove dead. Try the others too.",
            )
        return Verdict(status="unknown", reason=f"{shown} to {other} so far.", source=SOURCE)
    if len(through) == len(readings):
        return Verdict(
            status="attention",
            reason=f"All three read through to the second ends of {other} ({shown} Ω): the ends are exchanged.",
            source=SOURCE,
            next_step="Isolate and prove dead. Put the ends back in pairs at the board, then test both rings again.",
        )
    if through:
        return Verdict(
            status="attention",
            reason=f"{len(through)} of 3 read through to {other} ({shown}): they are joined somewhere.",
            source=SOURCE,
            next_step="Isolate both before anything is opened; then find where they meet.",
        )
    return Verdict(
        status="pass", reason=f"Nothing reads through to {other}: its ends are not exchanged.", source=SOURCE
    )
