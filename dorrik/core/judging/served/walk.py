"""What the screens need to know of the walk: what is asked in each room and on each point, zones, and what to open
(rules 11, 12)."""

from collections.abc import Iterator, Mapping

from dorrik.core.basics.record import record
from dorrik.core.book.catalogue import CatalogueEntry, entries
from dorrik.core.electrical import bathroom
from dorrik.core.home import placing
from dorrik.core.home.place_checks import checks_of, look_of, met_at, unanswered
from dorrik.core.inspection.circuit import Circuit
from dorrik.core.inspection.point import NOT_SERVED, Point
from dorrik.core.inspection.records import Room, name_of
from dorrik.core.judging.coverage.sampling import SampleState
from dorrik.core.judging.result import classification
from dorrik.core.judging.result.suggested import Places
from dorrik.core.judging.served.zones_drawing import BathDrawings, ZonePoint, bath_drawings
from dorrik.core.judging.topics import facts
from dorrik.core.judging.topics.bathrooms import PLACED, zone_of
from dorrik.core.judging.topics.context import Context


@record
class Moved:
    """A code that what is known of a point has moved from where the school starts, and why."""

    code: str
    why: str


@record
class Looked:
    """What to look at on a kind of point, and the catalogue entries met there, the commonest first."""

    look: str
    met: tuple[str, ...]


@record(kw_only=True)
class PointView:
    """A point on the walk. name: within its room; line: what is known of it, in words; zone, needs: where it stands by
    bath or shower and what is asked there, None elsewhere; wanting: is that not met by what was entered; to_open: why
    it is to be opened, '' where it is not; look: its key in `Walk.looks`; moved: entries met there whose code starts
    elsewhere at this point."""

    id: str
    room_id: str | None
    circuit_id: str | None
    name: str
    line: str
    zone: str | None
    needs: str | None
    wanting: bool
    to_open: str
    look: str
    moved: dict[str, Moved]


@record
class CheckView:
    """Something to look at once in a room, as it stands; check_id: where that is kept, None before it was answered."""

    key: str
    label: str
    observation: str
    state: str | None
    check_id: str | None


@record
class RoomView:
    """A room on the walk. left: what is not looked at yet; seen: walked round with nothing left, or not reached;
    unopened: points that the sample asks for here."""

    id: str
    name: str
    left: int
    seen: bool
    unopened: int
    checks: tuple[CheckView, ...]
    zones: BathDrawings | None


@record
class Walk:
    """The walk as the inspection stands; looks: what to look at and which entries are met, by kind of point and place;
    starting: where the house's school starts, by entry; served: points served by circuit id, as far as they are linked.
    """

    rooms: tuple[RoomView, ...]
    points: tuple[PointView, ...]
    looks: dict[str, Looked]
    starting: dict[str, str]
    served: dict[str, int]


def walk(context: Context, sample: SampleState | None) -> Walk:
    """What is asked room by room. sample: how sampling stands."""
    to_open = _reasons(sample)
    still = frozenset(sample.still) if sample is not None else frozenset()
    places: Places = context.cells.made(Places, context.inspection)
    points: list[PointView] = []
    rooms: list[RoomView] = []
    looks: dict[str, Looked] = {}
    movable: dict[str, tuple[str, ...]] = {}
    by_room = placing.by_room(context.inspection)
    circuit_of = {p.id: c for _, c in context.circuits for p in c.points}
    for number, room in enumerate(context.inspection.rooms, 1):
        here = by_room.get(room.id, [])
        views = list(_views(context, places, here, room, circuit_of, to_open, looks, movable))
        points += views
        set_aside = room.id in context.aside
        in_scope = [point for point in here if point.id not in context.aside]
        left = 0 if set_aside else sum(1 for _ in unanswered(room, in_scope))
        rooms.append(
            RoomView(
                id=room.id,
                name=placing.room_name(room, number),
                left=left,
                seen=bool(room.not_reached) or set_aside or (room.walked_at is not None and not left),
                unopened=sum(point.id in still for point in here),
                checks=() if set_aside else tuple(_check_views(room)),
                zones=bath_drawings(room, [ZonePoint(p, v.name, v.wanting) for p, v in zip(here, views, strict=True)]),
            )
        )
    points += _views(context, places, by_room.get("", []), None, circuit_of, to_open, looks, movable)
    served = {c.id: sum(p.kind not in NOT_SERVED for p in c.points) for _, c in context.circuits if c.points}
    return Walk(tuple(rooms), tuple(points), looks, _starting(context.house.coding_school), served)


#: By school, of the catalogue that was read last: it changes seldom, and this is told with every judgement.
_starts: dict[str, tuple[Mapping[str, CatalogueEntry], dict[str, str]]] = {}


def _starting(coding_school: str) -> dict[str, str]:
    now = entries()
    known = _starts.get(coding_school)
    if known is None or known[0] is not now:
        school = classification.SCHOOLS[coding_school]
        known = _starts[coding_school] = (now, {key: classification.suggest(key, school).code for key in now})
    return known[1]


def _reasons(sample: SampleState | None) -> dict[str, str]:
    """Why each point of the sample is to be opened."""
    if sample is None:
        return {}
    grown = {point for widening in sample.widenings for point in widening.added}
    return {point: "after a finding" if point in grown else "in the sample" for point in sample.to_open}


def _movable(met: tuple[str, ...]) -> tuple[str, ...]:
    """Entries whose code facts can move that an inspection knows."""
    every = entries()
    return tuple(key for key in met if every[key].until or any(fact.fact in facts.FACTS for fact in every[key].facts))


def _moved(context: Context, places: Places, point: Point, movable: tuple[str, ...]) -> dict[str, Moved]:
    """Entries whose code starts elsewhere at this point."""
    if not movable:
        return {}
    school = classification.SCHOOLS[context.house.coding_school]
    at = places.at(point.id)
    moved = {}
    for key in movable:
        placed = classification.place(key, school, lambda fact: facts.known(context, at, fact))
        if placed.moved:
            moved[key] = Moved(placed.code, placed.moved)
    return moved


def _views(
    context: Context, places: Places, points: list[Point], room: Room | None, circuit_of: dict[str, Circuit],
    to_open: dict[str, str], looks: dict[str, Looked], movable: dict[str, tuple[str, ...]],
) -> Iterator[PointView]:  # fmt: skip
    # Points were named for the whole home before; within their room they go by their short names.
    kinds = [point.kind or "point" for point in points]
    counted: dict[str, int] = {}
    where = placing.room_name(room) + " " if room is not None else ""
    for point, kind in zip(points, kinds, strict=True):
        counted[kind] = counted.get(kind, 0) + 1
        short = f"{kind} {counted[kind]}" if kinds.count(kind) > 1 else kind
        own = point.name is not None and point.name != f"{where}{short}"
        zone = zone_of(point)
        needs = _needs(point, zone)
        met = met_at(point, room)
        key = f"{kind}, wet" if met is not look_of(point).observations else kind
        if key not in looks:
            looks[key] = Looked(look_of(point).look, met)
            movable[key] = _movable(met)
        yield PointView(
            id=point.id,
            room_id=point.room_id,
            circuit_id=circuit_of[point.id].id if point.id in circuit_of else None,
            name=point.name if own and point.name else short,
            line=_line(point, zone, needs, circuit_of.get(point.id)),
            zone=zone,
            needs=needs,
            wanting=_is_wanting(point, needs),
            to_open=to_open.get(point.id, ""),
            look=key,
            moved=_moved(context, places, point, movable[key]),
        )


def _needs(point: Point, zone: bathroom.Zone | None) -> str | None:
    if zone is None:
        return None
    if point.kind in PLACED:
        return None if zone == "outside" else "no accessory"
    return bathroom.required_ip(zone, jets=bool(point.jets))


def _is_wanting(point: Point, needs: str | None) -> bool:
    """Is what its zone asks for (rule 11.2) not met, or not entered? An IP mark counts by its second digit."""
    if needs is None or not needs.startswith("IP"):
        return needs is not None
    return point.water_protection is None or point.water_protection < int(needs[-1])


def _line(point: Point, zone: bathroom.Zone | None, needs: str | None, circuit: Circuit | None) -> str:
    """What is known of a point, as it stands under its name."""
    parts = [
        "" if zone is None else "outside zones" if zone == "outside" else f"zone {zone}",
        f"needs {needs}" if needs and needs.startswith("IP") else "an accessory stays out of it" if needs else "",
        f"IPX{point.water_protection}"
        if point.water_protection is not None
        else "no mark found"
        if point.ip_unmarked
        else "no mark seen"
        if needs
        else "",
        point.alarm or "",
        f"replace by {point.replace_by[5:7]}/{point.replace_by[:4]}" if point.replace_by else "",
        point.above or "",
        f"not reached: {point.not_reached}" if point.not_reached else "",
        "opened" if point.opened else "",
        "tested" if point.is_tested else "",
        name_of(circuit) if circuit is not None else "",
        point.note or "",
    ]
    return " · ".join(part for part in parts if part)


def _check_views(room: Room) -> Iterator[CheckView]:
    made = {check.item: check for check in room.checks}
    for item in () if room.not_reached else checks_of(room):
        check = made.get(item.key)
        yield CheckView(
            item.key, item.label, item.observation, check.state if check else None, check.id if check else None
        )
