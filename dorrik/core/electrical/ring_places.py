"""Where the points of a ring stand on it, by their readings and by the order of the walk (rule 4.3)."""

from collections.abc import Sequence
from math import sqrt

from dorrik.core.electrical.ring_ends import PlacedPoint, RingPoint, plain


def position(line_cpc_ohm: float, r1_ohm: float, r2_ohm: float) -> float | None:
    """Place on the ring from line to cpc (Ω), the inverse of rule 4.3: from 0 at the board to 0.5 half-way.

    The other answer is 1 minus it; the order of the walk settles which. A reading beyond either end counts as that
    end. None where line and cpc are alike, so that every place reads the same.
    """
    total = r1_ohm + r2_ohm
    if total <= 0 or abs(r1_ohm - r2_ohm) < 1e-9:
        return None
    # a + b = r1 + r2 and R = a·b / (a + b), so a and b are the roots of t² − total·t + R·total.
    root = sqrt(max(0.0, total * total - 4 * line_cpc_ohm * total))
    higher, lower = max(r1_ohm, r2_ohm), min(r1_ohm, r2_ohm)
    fraction = (higher - (total + root) / 2) / (higher - lower)
    return min(0.5, max(0.0, fraction))


def walked(points: Sequence[RingPoint], index: int) -> float:
    """At which share of the walk round the ring a point stands."""
    given = points[index].walked
    return (index + 1) / (len(points) + 1) if given is None else given


def placed(points: Sequence[RingPoint], spurs: dict[int, float], r1: float, r2: float) -> tuple[PlacedPoint, ...]:
    """Positions by line to cpc on a ring of r1 and r2 (Ω); of the two answers the one nearer to the place in the walk
    (rule 4.3). spurs: length (m) by the index of the point; such a point stands nowhere on the ring."""
    placed = []
    for index, point in enumerate(points):
        lc = plain(point.line_cpc)
        if index in spurs or lc is None:
            placed.append(PlacedPoint(point.name, None, spurs.get(index)))
            continue
        # A digit more or less is many metres half-way: within that the order of the walk says more.
        digit = point.line_cpc.resolution if point.line_cpc else 0.0
        span = [position(value, r1, r2) for value in (lc - digit, lc + digit)]
        placed.append(PlacedPoint(point.name, settled(span, walked(points, index))))
    return tuple(placed)


def settled(span: Sequence[float | None], place: float) -> float | None:
    """The place from 0 to 1 that a reading and the walk lead to together; of the two halves the walk's is meant (rule
    4.3). span: between which places, up to half-way, the reading lies; place: where the point stands in the walk."""
    known = [bound for bound in span if bound is not None]
    if not known:
        return None
    within = min(max(known), max(min(known), min(place, 1 - place)))
    return within if place <= 0.5 else 1 - within
