"""A room of the walk: what it is, where it lies, its bath or shower, and what was looked at in it."""

from dorrik.core.basics.record import record
from dorrik.core.inspection import fields as f
from dorrik.core.inspection.check import Check

BATH = "bath or shower"
KITCHEN = "kitchen"
LOFT = "loft"
OUTDOORS = "outdoors"
HALL = "hall, landing or stairs"
COMMUNAL = "communal"
ROOM_KINDS = (HALL, "living room", KITCHEN, "bedroom", BATH, "utility", "cupboard", LOFT, "garage", OUTDOORS, COMMUNAL)
FLOORS = ("cellar", "ground", "first", "second", "third or higher", "roof space", "outside")
#: Why a point, or a whole room, was not reached; the first is one tap on the walk.
FURNITURE = "furniture in the way"
NOT_REACHED = (
    FURNITURE,
    "locked",
    "sealed or painted over",
    "too high",
    "occupier asked not to",
    "in use",
    "no safe way to it",
    "other",
)
BASINS = ("bath", "shower tray", "no tray")


@record(kw_only=True)
class Room:
    """A room in the order of the walk, with its bath or tray as it lies on the plan (m from the left and far walls)."""

    id: str
    position: int | None = f.integer("Position", 0, 999)
    name: str | None = f.text("Room", 80)
    kind: str | None = f.choice("Kind of room", *ROOM_KINDS)
    floor: str | None = f.choice("Floor", *FLOORS)
    escape_route: bool | None = f.flag("On the way out")
    not_reached: str | None = f.choice("Not reached", *NOT_REACHED, stays=False)
    note: str | None = f.text("Note", 300, stays=False)
    walked_at: str | None = f.instant("Walked round", stays=False)
    length_m: float | None = f.number("Length of the room", "m", 0.5, 30)
    width_m: float | None = f.number("Width of the room", "m", 0.5, 30)
    basin: str | None = f.choice("Bath or shower", *BASINS)
    basin_length_m: float | None = f.number("Length of bath or tray", "m", 0.3, 5)
    basin_width_m: float | None = f.number("Width of bath or tray", "m", 0.3, 5)
    basin_x_m: float | None = f.number("Bath from the left wall", "m", 0, 30)
    basin_y_m: float | None = f.number("Bath from the far wall", "m", 0, 30)
    shower_head_m: float | None = f.number("Fixed shower head above the floor", "m", 0, 5)
    jets: bool | None = f.flag("Cleaned with water jets")
    partitions: list[dict[str, float]] | None = f.partitions("Fixed partitions")
    removed: bool | None = f.flag("Removed")
    checks: tuple[Check, ...] = ()

    @property
    def on_the_way_out(self) -> bool:
        """Does the way out lead through it? Halls and landings, unless somebody said otherwise."""
        return self.kind == HALL if self.escape_route is None else self.escape_route
