"""Readings beside those of earlier reports (rules 15.1 to 15.3)."""

from collections import defaultdict
from collections.abc import Iterator
from dataclasses import replace
from datetime import date

from dorrik.core.basics.readings import Quantity, Reading
from dorrik.core.basics.verdict import Verdict
from dorrik.core.electrical import insulation, trend
from dorrik.core.inspection.kinds import compared
from dorrik.core.inspection.records import Board, Circuit, Earlier, Point
from dorrik.core.judging.topics.context import NOMINAL_V, Context, Note, name_of, point_names

_QUANTITY: dict[str, Quantity] = {"zs_ohm": "loop", "rcd_trip_ms": "trip-time"}
SOURCE = "beside earlier readings · rules 15.1, 15.2"


def notes(context: Context) -> Iterator[Note]:
    """A note for every figure that changed by more than two instruments can differ."""
    yield from context.each_circuit(_of_circuit)


def _of_circuit(context: Context, board: Board, circuit: Circuit) -> Iterator[Note]:
    worse: set[str] = set()
    for figure, history in _by_figure(circuit):
        verdict = _compare(context, getattr(circuit, figure), figure, history)
        if verdict is not None:
            if verdict.status == "attention":
                worse.add(figure)
            yield Note("circuit", circuit.id, figure, f"{name_of(circuit)}: over the years", verdict)
    yield from _of_points(context, circuit, worse)


#: The figure of a circuit that the highest of its points stands for.
_CARRIED = {"line_cpc_ohm": "r1_r2_ohm", "r2_ohm": "long_lead_r2_ohm"}


def _of_points(context: Context, circuit: Circuit, worse: set[str]) -> Iterator[Note]:
    """Points that read worse than before: the one that changed most speaks for its circuit, and where the circuit's own
    figure has said so already it follows from that."""
    if not any(point.earlier for point in circuit.points):
        return
    for figure in compared("point"):
        worsened = [
            (verdict, point, name)
            for name, point in point_names(circuit).items()
            for of, before in _by_figure(point)
            if of == figure
            and (verdict := _compare(context, getattr(point, figure), figure, before)) is not None
            and verdict.status == "attention"
        ]
        if not worsened:
            continue
        verdict, point, name = max(worsened, key=lambda change: abs(change[0].margin or 0.0))
        others = len(worsened) - 1
        if others:
            more = f" So {'does' if others == 1 else 'do'} {others} more {'point' if others == 1 else 'points'}."
            verdict = replace(verdict, reason=verdict.reason + more)
        because = (circuit.id, _CARRIED[figure]) if _CARRIED.get(figure) in worse else None
        title = f"{name_of(circuit)}: {name}, over the years"
        yield Note("point", point.id, figure, title, verdict, because_of=because)


def _by_figure(thing: Circuit | Point) -> Iterator[tuple[str, list[Earlier]]]:
    """Earlier readings by figure, the last one last; those without a day are shown and not compared."""
    by_figure: dict[str, list[Earlier]] = defaultdict(list)
    for reading in thing.earlier:
        if reading.figure and reading.measured_on and reading.reading is not None and hasattr(thing, reading.figure):
            by_figure[reading.figure].append(reading)
    for figure, readings in by_figure.items():
        yield figure, sorted(readings, key=lambda reading: reading.measured_on or "")


def _compare(context: Context, now: Reading | None, figure: str, history: list[Earlier]) -> Verdict | None:
    quantity: Quantity = _QUANTITY.get(figure, "insulation" if figure.startswith("insulation") else "continuity")
    last = history[-1]
    change = trend.compare(last.reading, now, quantity)
    if change.direction in ("same", "unknown"):
        return None
    reason = f"{change.reason[:-1]}, since {last.measured_on}."
    if quantity == "insulation" and change.direction == "worse":
        reason += _leads_to(context, history, now)
    return Verdict(
        status="attention" if change.direction == "worse" else "pass",
        reason=reason,
        source=SOURCE,
        margin=change.difference,
        next_step="See whether it was tested at the same place, in the same way." if change.difference else None,
    )


def _leads_to(context: Context, earlier_figures: list[Earlier], now: Reading | None) -> str:
    if context.inspection.inspected_on is None or now is None:
        return ""
    history = [
        (date.fromisoformat(earlier_figure.measured_on or ""), earlier_figure.reading)
        for earlier_figure in earlier_figures
        if earlier_figure.reading is not None
    ]
    today = date.fromisoformat(context.inspection.inspected_on)
    leads = trend.project_insulation([*history, (today, now)], insulation.minimum_mohm(NOMINAL_V))
    if leads is None or leads.reaches is None or leads.reaches <= today:
        return ""
    return f" Going on so it would reach the minimum about {leads.reaches.year}. {leads.weakness}"
