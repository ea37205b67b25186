"""The plan of a room with a bath or shower: how far a point is from it, round fixed partitions (rule 11.1).

Zones end where a fixed partition stands, so the distance is the shortest way round them, as a string would lie.
"""

from collections.abc import Iterator, Sequence
from heapq import heappop, heappush
from math import hypot, inf

from dorrik.core.bathroom import Zone, zone
from dorrik.core.record import record

#: A place on the plan: x and y (m).
Place = tuple[float, float]
_NEAR = 1e-9
_HAIR_M = 1e-4


@record
class Partition:
    """A fixed screen or wall between two places of the plan; top_m: its upper edge (m), None up to the ceiling."""

    a: Place
    b: Place
    top_m: float | None = None


@record
class Plan:
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

    def _straight_m(self, start: Place, screens: Sequence[Partition]) -> float:
        """The nearest part of the basin that is seen from a place (m); infinite where none is."""
        return min(
            (
                _apart(start, foot)
                for foot in self._feet(start)
                if not _screened(start, foot, screens) and not any(_on(foot, screen) for screen in screens)
            ),
            default=inf,
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
    found = []
    for screen in screens:
        ends = []
        for end, far in ((screen.a, screen.b), (screen.b, screen.a)):
            meets = any(_apart(end, _foot(end, o.a, o.b)) < _HAIR_M for o in screens if o is not screen)
            length = _apart(end, far)
            if meets and length:
                end = (end[0] + (end[0] - far[0]) * _HAIR_M / length, end[1] + (end[1] - far[1]) * _HAIR_M / length)
            ends.append(end)
        found.append(Partition(ends[0], ends[1], screen.top_m))
    return found


def _on(place: Place, screen: Partition) -> bool:
    """Does a place lie on a screen, its ends left out? There the basin cannot be reached."""
    along = _apart(screen.a, screen.b)
    first, second = _apart(screen.a, place), _apart(screen.b, place)
    return min(first, second) > _NEAR and abs(first + second - along) < 1e-7


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
