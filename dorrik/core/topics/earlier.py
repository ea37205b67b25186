"""Readings beside those of earlier reports (rules 15.1 to 15.3)."""

from collections import defaultdict
from collections.abc import Iterator
from datetime import date

from dorrik.core import insulation, trend
from dorrik.core.inspection import Circuit, Earlier
from dorrik.core.readings import Quantity, Reading
from dorrik.core.topics.context import NOMINAL_V, Context, Note, name_of
from dorrik.core.verdict import Verdict

_QUANTITY: dict[str, Quantity] = {"zs_ohm": "loop", "rcd_trip_ms": "trip-time"}
SOURCE = "beside earlier readings · rules 15.1, 15.2"


def notes(context: Context) -> Iterator[Note]:
    """A note for every figure that changed by more than two instruments can differ."""
    for _, circuit in context.circuits:
        if not circuit.earlier:
            continue
        by_figure: dict[str, list[Earlier]] = defaultdict(list)
        for one in circuit.earlier:
            if one.figure and one.measured_on and one.reading is not None:
                by_figure[one.figure].append(one)
        for figure, found in by_figure.items():
            yield from _compare(context, circuit, figure, sorted(found, key=lambda one: one.measured_on or ""))


def _compare(context: Context, circuit: Circuit, figure: str, found: list[Earlier]) -> Iterator[Note]:
    now: Reading | None = getattr(circuit, figure)
    quantity: Quantity = _QUANTITY.get(figure, "insulation" if figure.startswith("insulation") else "continuity")
    last = found[-1]
    change = trend.compare(last.reading, now, quantity)
    if change.direction in ("same", "unknown"):
        return
    reason = f"{change.reason[:-1]}, since {last.measured_on}."
    if quantity == "insulation" and change.direction == "worse":
        reason += _leads_to(context, found, now)
    verdict = Verdict(
        status="attention" if change.direction == "worse" else "pass",
        reason=reason,
        source=SOURCE,
        margin=change.difference,
        next_step="See whether it was tested at the same place, in the same way." if change.difference else None,
    )
    yield Note("circuit", circuit.id, figure, f"{name_of(circuit)}: over the years", verdict)


def _leads_to(context: Context, found: list[Earlier], now: Reading | None) -> str:
    if context.inspection.inspected_on is None or now is None:
        return ""
    history = [(date.fromisoformat(one.measured_on or ""), one.reading) for one in found if one.reading is not None]
    today = date.fromisoformat(context.inspection.inspected_on)
    leads = trend.project_insulation([*history, (today, now)], insulation.minimum_mohm(NOMINAL_V))
    if leads is None or leads.reaches is None or leads.reaches <= today:
        return ""
    return f" Going on so it would reach the minimum about {leads.reaches.year}. {leads.weakness}"
