"""The plan of a room with a bath or shower: how far a point is from it, round fixed partitions (rule 11.1).

Zones end where a fixed partition stands, so the distance is the shortest way round them, as a string would lie.
"""

from collections.abc import Iterator, Sequence
from heapq import heappop, heappush
from math import hypot, inf

from dorrik.core.basics.record import record
from dorrik.core.electrical.bathroom import Zone, zone

#: A place on the plan: x and y (m).
Place = tuple[float, float]
_NEAR = 1e-9
_HAIR_M = 1e-4
_INSIDE_M = 1e-3


@record
class Partition:
    """A fixed screen or wall between two places of the plan; top_m: its upper edge (m), None up to the ceiling."""

    a: Place
    b: Place
    top_m: float | None = None


@record
class BathroomPlan:
    """A room. basin: the corners of bath or tray in their order, or one place for the fixed outlet of a shower without
    a basin; partitions: those that are fixed; shower_head_m: height of a fixed shower head (m)."""

    basin: Sequence[Place]
    partitions: Sequence[Partition] = ()
    shower_head_m: float | None = None

    @property
    def has_basin(self) -> bool:
        """A bath or a tray, rather than only an outlet."""
        return len(self.basin) > 2

    def distance_m(self, at: Place, height_m: float = 0.0) -> float:
        """Shortest way (m) from a point to bath, tray or outlet; 0 above or inside it, infinite where it is closed off.

        A partition screens only what is not higher than its upper edge.
        """
        if self.has_basin and _inside(at, self.basin):
            return 0.0
        screens = _without_gaps([p for p in self.partitions if p.top_m is None or height_m <= p.top_m])
        corners = [at, *(end for screen in screens for end in (screen.a, screen.b))]
        # Dijkstra over the point and the free ends of the screens; a string bends nowhere else.
        best = {0: 0.0}
        waiting: list[tuple[float, int]] = [(0.0, 0)]
        shortest = inf
        while waiting:
            so_far, here = heappop(waiting)
            if so_far > best.get(here, inf) or so_far >= shortest:
                continue
            shortest = min(shortest, so_far + self._straight_m(corners[here], screens))
            for there, corner in enumerate(corners):
                way = so_far + _apart(corners[here], corner)
                if way < best.get(there, inf) - _NEAR and not _screened(corners[here], corner, screens):
                    best[there] = way
                    heappush(waiting, (way, there))
        return shortest

    def band(self, reach_m: float, height_m: float, step_m: float) -> tuple[tuple[float, float, float], ...]:
        """The part of the plan within a reach (m) of bath, tray or outlet at a height (m), round the partitions, as
        strips of one step: y, and x from and to (m). For drawing it."""
        xs, ys = [x for x, _ in self.basin], [y for _, y in self.basin]
        columns = round((max(xs) - min(xs) + 2 * reach_m) / step_m)
        rows = round((max(ys) - min(ys) + 2 * reach_m) / step_m)
        left, far = min(xs) - reach_m, min(ys) - reach_m
        strips = []
        for row in range(rows):
            y = far + (row + 0.5) * step_m
            start: float | None = None
            for column in range(columns + 1):
                x = left + (column + 0.5) * step_m
                inside = column < columns and self.distance_m((x, y), height_m) <= reach_m
                if inside and start is None:
                    start = x - step_m / 2
                elif not inside and start is not None:
                    strips.append((round(far + row * step_m, 3), round(start, 3), round(x - step_m / 2, 3)))
                    start = None
        return tuple(strips)

    def _straight_m(self, start: Place, screens: Sequence[Partition]) -> float:
        """The nearest part of the basin that is seen from a place (m); infinite where none is."""
        # A screen can stand on the very edge of the basin: what is seen is a place just inside it.
        return min(
            (_apart(start, foot) for foot in self._feet(start) if not _screened(start, self._within(foot), screens)),
            default=inf,
        )

    def _within(self, foot: Place) -> Place:
        """A place of the basin just inside its edge."""
        if not self.has_basin:
            return foot
        middle = (sum(x for x, _ in self.basin) / len(self.basin), sum(y for _, y in self.basin) / len(self.basin))
        away = _apart(foot, middle)
        return (
            foot[0] + (middle[0] - foot[0]) * _INSIDE_M / away,
            foot[1] + (middle[1] - foot[1]) * _INSIDE_M / away,
        )

    def _feet(self, start: Place) -> Iterator[Place]:
        yield from self.basin
        if self.has_basin:
            for a, b in zip(self.basin, [*self.basin[1:], self.basin[0]], strict=True):
                yield _foot(start, a, b)

    def zone(self, at: Place, height_m: float, *, below_rim: bool = False) -> Zone:
        """The zone of a point at a height (m) above the floor; below_rim: inside bath or tray (rule 11.1)."""
        distance = self.distance_m(at, height_m)
        if distance == inf:
            return "outside"
        return zone(
            height_m,
            distance,
            inside_basin=below_rim and distance == 0,
            basin=self.has_basin,
            shower_head_m=self.shower_head_m,
        )


def _apart(a: Place, b: Place) -> float:
    return hypot(a[0] - b[0], a[1] - b[1])


def _side(a: Place, b: Place, c: Place) -> float:
    """Positive where c lies to the left of the way from a to b."""
    return (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0])


def _screened(a: Place, b: Place, screens: Sequence[Partition]) -> bool:
    """Does a screen cross the straight way? Touching an end is passing round it."""
    for screen in screens:
        one, other = _side(a, b, screen.a), _side(a, b, screen.b)
        start, end = _side(screen.a, screen.b, a), _side(screen.a, screen.b, b)
        if one * other < -1e-12 and start * end < -1e-12:
            return True
    return False


def _without_gaps(screens: Sequence[Partition]) -> list[Partition]:
    """Screens that meet are drawn a hair past each other, so that no string slips through where they touch."""
    partitions_left = []
    for screen in screens:
        ends = []
        for end, far in ((screen.a, screen.b), (screen.b, screen.a)):
            meets = any(_apart(end, _foot(end, o.a, o.b)) < _HAIR_M for o in screens if o is not screen)
            length = _apart(end, far)
            if meets and length:
                end = (end[0] + (end[0] - far[0]) * _HAIR_M / length, end[1] + (end[1] - far[1]) * _HAIR_M / length)
            ends.append(end)
        partitions_left.append(Partition(ends[0], ends[1], screen.top_m))
    return partitions_left


def _foot(start: Place, a: Place, b: Place) -> Place:
    """The place on the edge from a to b that is nearest to start."""
    length = (b[0] - a[0]) ** 2 + (b[1] - a[1]) ** 2
    if length == 0:
        return a
    share = ((start[0] - a[0]) * (b[0] - a[0]) + (start[1] - a[1]) * (b[1] - a[1])) / length
    share = min(1.0, max(0.0, share))
    return (a[0] + share * (b[0] - a[0]), a[1] + share * (b[1] - a[1]))


def _inside(place: Place, corners: Sequence[Place]) -> bool:
    """Within the polygon or on its edge."""
    inside = False
    for a, b in zip(corners, [*corners[1:], corners[0]], strict=True):
        if _apart(place, _foot(place, a, b)) < _NEAR:
            return True
        if (a[1] > place[1]) != (b[1] > place[1]) and place[0] < a[0] + (place[1] - a[1]) / (b[1] - a[1]) * (
            b[0] - a[0]
        ):
            inside = not inside
    return inside
