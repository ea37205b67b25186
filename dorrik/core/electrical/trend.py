"""Readings over the years: real change or the instruments' own spread, and where it leads (rules 15.1 and 15.2)."""

from collections.abc import Sequence
from datetime import date, timedelta
from math import exp, fsum, hypot, log
from typing import Literal

from dorrik.core.basics.readings import Quantity, Reading, rounded
from dorrik.core.basics.record import record

Direction = Literal["better", "worse", "same", "unknown"]
DAYS_A_YEAR = 365.25
#: Above this insulation (MΩ) moves with the weather and the instrument, and means nothing; nor do trip times as near.
SOUND_MOHM = 50.0
TRIP_SPREAD_MS = 10.0


@record
class FigureTrend:
    """From an earlier reading to a later one: direction, the difference, the combined uncertainty, one sentence."""

    direction: Direction
    difference: float | None
    uncertainty: float | None
    reason: str


def compare(earlier: Reading | None, later: Reading | None, quantity: Quantity) -> FigureTrend:
    """Has a reading changed by more than the two instruments' combined uncertainty? (rule 15.1)

    quantity: 'insulation' is worse when it falls, everything else when it rises. Bounds are compared only where they
    leave no doubt.
    """
    a, b = (r.interval if r is not None and r.kind == "number" else None for r in (earlier, later))
    if earlier is None or later is None or a is None or b is None:
        return FigureTrend("unknown", None, None, "There are not two figures to compare.")
    uncertainty = hypot(earlier.uncertainty(quantity), later.uncertainty(quantity))
    if quantity == "trip-time":
        uncertainty = max(uncertainty, TRIP_SPREAD_MS)
    falls = b[1] < a[0] - uncertainty
    rises = b[0] > a[1] + uncertainty
    plain = earlier.bound is None and later.bound is None
    difference = (later.value or 0.0) - (earlier.value or 0.0) if plain else None
    if quantity == "insulation" and (falls or rises) and min(a[0], b[0]) >= SOUND_MOHM:
        text = f"{earlier} then, {later} now: both so high that the difference means nothing."
        return FigureTrend("same", difference, uncertainty, text)
    if not falls and not rises:
        if not plain:
            return FigureTrend(
                "unknown", None, uncertainty, f"{earlier} and {later}: not judged, some readings only say “more than”."
            )
        text = f"{earlier} then, {later} now: no change beyond the instruments ({rounded(uncertainty)})."
        return FigureTrend("same", difference, uncertainty, text)
    worse = falls if quantity == "insulation" else rises
    word = "fallen" if falls else "risen"
    text = f"{word.capitalize()} from {earlier} to {later}: {'worse' if worse else 'better'}."
    return FigureTrend("worse" if worse else "better", difference, uncertainty, text)


@record
class Projection:
    """Where insulation leads: the day it would reach the limit, or None where it does not fall; with its weakness."""

    reaches: date | None
    yearly_factor: float
    points: int
    weakness: str


def project_insulation(history: Sequence[tuple[date, Reading]], limit_mohm: float = 1.0) -> Projection | None:
    """Log-linear through the finite readings: when would the limit be reached if it goes on so? (rule 15.2)

    history: date and insulation (MΩ); bounds, limitations and what is above
    50 MΩ never make a trend. None with fewer than two dates.
    """
    points = [
        (day, r.value) for day, r in history if r.value is not None and 0 < r.value <= SOUND_MOHM and r.bound is None
    ]
    if len({day for day, _ in points}) < 2:
        return None
    start = min(day for day, _ in points)
    xs = [(day - start).days / DAYS_A_YEAR for day, _ in points]
    ys = [log(value) for _, value in points]
    mean_x, mean_y = fsum(xs) / len(xs), fsum(ys) / len(ys)
    products = fsum((x - mean_x) * (y - mean_y) for x, y in zip(xs, ys, strict=True))
    slope = products / fsum((x - mean_x) ** 2 for x in xs)
    level = mean_y - slope * mean_x
    weakness = f"Drawn through {len(points)} readings only; season and damp move insulation more than age."
    reaches = None
    if slope < -1e-9:
        years = (log(limit_mohm) - level) / slope
        if -500 < years < 500:
            reaches = start + timedelta(days=round(years * DAYS_A_YEAR))
    return Projection(reaches, exp(slope), len(points), weakness)
