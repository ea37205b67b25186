"""What is looked at by the kind of room and of point, kept in `data/room_checks.csv` and `data/point_looks.csv`."""

from collections.abc import Iterator, Sequence

from dorrik.core.basics.record import record
from dorrik.core.book.reference import cached, rows
from dorrik.core.home.placing import short_names
from dorrik.core.inspection.point import Point
from dorrik.core.inspection.room import BATH, Room

_EVERY, _WAY_OUT = "*", "way out"


@record
class RoomCheck:
    """Something to look at once in a room. wrong: what is said when it is not good; observation: catalogue key."""

    key: str
    label: str
    wrong: str
    observation: str
    source: str


@record
class Look:
    """What to look at on a kind of point, and the catalogue entries met there, the commonest first."""

    look: str
    observations: tuple[str, ...]
    wet: tuple[str, ...]

    @property
    def in_the_wet(self) -> tuple[str, ...]:
        """The entries of a room with a bath or shower, its own first."""
        return (*self.wet, *self.observations)


@cached
def _by_kind() -> dict[str, tuple[RoomCheck, ...]]:
    checks: dict[str, tuple[RoomCheck, ...]] = {}
    for row in rows("room_checks"):
        check = RoomCheck(row["key"], row["label"], row["wrong"], row["observation"], row["source"])
        checks[row["kinds"]] = (*checks.get(row["kinds"], ()), check)
    return checks


@cached
def room_checks() -> dict[str, RoomCheck]:
    """Every check of rooms by its key."""
    return {check.key: check for checks in _by_kind().values() for check in checks}


def checks_of(room: Room) -> tuple[RoomCheck, ...]:
    """What is looked at once in a room of that kind."""
    kinds = _by_kind()
    wanted = [kinds.get(_EVERY, ()), kinds.get(room.kind or "", ())]
    if room.on_the_way_out:
        wanted.append(kinds.get(_WAY_OUT, ()))
    return tuple(check for checks in wanted for check in checks)


def unanswered(room: Room, points: Sequence[Point]) -> Iterator[str]:
    """What is not looked at yet in a room, by name. A room that was not reached asks for nothing more."""
    if room.not_reached:
        return
    for name, point in zip(short_names(points), points, strict=True):
        if point.looked is None and point.not_reached is None:
            yield name
    answered = {check.item for check in room.checks if check.state}
    for check in checks_of(room):
        if check.key not in answered:
            yield check.label


@cached
def looks() -> dict[str, Look]:
    """What to look at by kind of point."""
    return {
        row["kind"]: Look(row["look"], tuple(row["observations"].split()), tuple(row["wet"].split()))
        for row in rows("point_looks")
    }


def look_of(point: Point) -> Look:
    """What to look at on a point; one of no known kind is looked at as any."""
    return looks().get(point.kind or "point") or looks()["point"]


def met_at(point: Point, room: Room | None) -> tuple[str, ...]:
    """Catalogue entries offered for a point, those of wet rooms first where it hangs in one."""
    look = look_of(point)
    wet = point.bathroom or (room is not None and room.kind == BATH)
    return look.in_the_wet if wet and look.wet else look.observations
