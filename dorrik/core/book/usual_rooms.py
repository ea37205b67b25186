"""The usual rooms of a home in the usual order of a walk (`data/rooms.csv`): what is offered, never what must be."""

from dorrik.core.basics.record import record
from dorrik.core.book.reference import cached, rows


@record
class UsualRoom:
    """A room as it is offered; points: kinds that are counted there, the commonest first."""

    name: str
    kind: str
    floor: str
    points: tuple[str, ...]


@cached
def usual_rooms() -> tuple[UsualRoom, ...]:
    """Every usual room in the order of the walk."""
    return tuple(
        UsualRoom(row["name"], row["kind"], row["floor"], tuple(row["points"].split(";"))) for row in rows("rooms")
    )
