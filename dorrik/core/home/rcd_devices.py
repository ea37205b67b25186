"""The residual current devices of a board, and what each has behind it (rules 8.1 to 8.3).

A device is an entity of its own, tested once for all circuits behind it. Documents of before wrote it at each circuit:
there circuits of one group, or with the same data and the same results, are behind one device.
"""

from collections.abc import Iterable, Mapping
from types import MappingProxyType

from dorrik.core.basics.readings import Reading
from dorrik.core.basics.record import record
from dorrik.core.electrical.rcd import judge_trip
from dorrik.core.inspection.circuit import Circuit, name_of
from dorrik.core.inspection.records import Board, Rcd

#: Fields of a device by its own names, and where a circuit of an older document has them.
OF_CIRCUIT: Mapping[str, str] = MappingProxyType(
    {
        "standard": "rcd_standard",
        "kind": "rcd_kind",
        "rated_ma": "rcd_rated_ma",
        "delay": "rcd_delay",
        "trip_ms": "rcd_trip_ms",
        "button": "rcd_button",
        "half": "rcd_half",
        "five_ms": "rcd_five_ms",
        "leakage_ma": "leakage_ma",
    }
)


@record(kw_only=True)
class RcdDevice:
    """One device.

    entity, id: where it is written, 'rcd' or the first of its circuits; name: what it is called; circuits: what is
    behind it on its own board; whole_board: it stands in front of everything there. The rest as `Rcd` has it.
    """

    entity: str
    id: str
    board: Board
    name: str
    circuits: tuple[Circuit, ...]
    whole_board: bool = False
    standard: str | None = None
    kind: str | None = None
    rating_a: float | None = None
    rated_ma: float | None = None
    delay: str | None = None
    delay_ms: float | None = None
    trip_ms: Reading | None = None
    button: str | None = None
    half: str | None = None
    five_ms: Reading | None = None
    leakage_ma: Reading | None = None

    def field(self, name: str) -> str:
        """A field by the name that it has where the device is written."""
        return name if self.entity == "rcd" else OF_CIRCUIT[name]


def devices_of(board: Board) -> tuple[RcdDevice, ...]:
    """Every device of a board, those that are entities first."""
    circuits = [circuit for circuit in board.circuits if not circuit.spare]
    own = {rcd.id for rcd in board.rcds}
    rcd_devices = [_entity(board, rcd, circuits) for rcd in board.rcds]
    described = [c for c in circuits if c.rcd_id not in own and is_described(c)]
    groups: dict[object, list[Circuit]] = {}
    by_time: _ByTime = {}
    for circuit in described:
        marked = _is_marked(circuit)
        if not marked and _results(circuit) == _UNTESTED:
            continue
        key = _marked(circuit) if marked else _group(circuit, by_time)
        groups.setdefault(key, []).append(circuit)
    for circuit in described:
        if not _is_marked(circuit) and _results(circuit) == _UNTESTED:
            _with_its_fellows(groups, circuit)
    return (*rcd_devices, *(_written_at(board, members) for members in groups.values()))


def _with_its_fellows(groups: dict[object, list[Circuit]], circuit: Circuit) -> None:
    """A circuit whose time is not written is behind the one device with the same data, where there is just one."""
    data, ticks = _data(circuit), (circuit.rcd_half, circuit.rcd_button)
    same = [key for key, members in groups.items() if not _is_marked(members[0]) and _data(members[0]) == data]
    alike = [key for key in same if (groups[key][0].rcd_half, groups[key][0].rcd_button) == ticks]
    kin = alike if len(alike) == 1 else same
    key = kin[0] if len(kin) == 1 else ("untested", data, ticks)
    groups.setdefault(key, []).append(circuit)


def is_described(circuit: Circuit) -> bool:
    """Does a circuit of an older document say anything of an RCD?"""
    return circuit.rcd_rated_ma is not None or circuit.rcd_trip_ms is not None or circuit.rcd_button is not None


_UNTESTED = (None, None)


def _is_marked(circuit: Circuit) -> bool:
    """Does the circuit itself say which device it is behind, a group's or its own?"""
    return bool(circuit.rcd_group) or _is_rcbo(circuit)


def _is_rcbo(circuit: Circuit) -> bool:
    return "61009" in (circuit.device_standard or "") or "61009" in (circuit.rcd_standard or "")


#: What a test button or a test at half the rating shows.
CHECKED = ("correct", "incorrect")


def _data(circuit: Circuit) -> tuple[object, ...]:
    return (circuit.rcd_standard, circuit.rcd_kind, circuit.rcd_rated_ma, circuit.rcd_delay)


def _results(circuit: Circuit) -> tuple[str | None, str | None]:
    """What the timed tests showed; a limitation shows nothing."""
    trip, five = circuit.rcd_trip_ms, circuit.rcd_five_ms
    return (
        trip.text if trip is not None and trip.interval is not None else None,
        five.text if five is not None and five.interval is not None else None,
    )


def _marked(circuit: Circuit) -> object:
    return ("group", circuit.rcd_group) if circuit.rcd_group else ("own", circuit.id)


#: By figures (data, and which time reads what) the devices that have them, the first to be met first; and of every
#: device one circuit for each set of figures.
_ByTime = dict[object, dict[object, dict[object, Circuit]]]


def _group(circuit: Circuit, by_time: _ByTime) -> object:
    """The first device that agrees in all its circuits, else one of its own."""
    data, results = _data(circuit), _results(circuit)
    times = [(data, at, value) for at, value in enumerate(results) if value is not None]
    near = {key: seen for time in times for key, seen in by_time.get(time, {}).items()}
    same = [
        (key, seen)
        for key, seen in near.items()
        if all(_agree(circuit, circuit_seen) for circuit_seen in seen.values())
    ]
    # At five times the rating many devices read alike: that alone does not choose between several.
    chosen = same[:1] if len(same) == 1 or results[0] is not None else []
    key_of_device, seen = next(iter(chosen), ((*data, *results, circuit.id), {}))
    seen.setdefault((results, circuit.rcd_button, circuit.rcd_half), circuit)
    for time in times:
        by_time.setdefault(time, {})[key_of_device] = seen
    return key_of_device


def _agree(circuit: Circuit, other: Circuit) -> bool:
    """Have two circuits the same device by its data, with a time in common and nothing that differs?

    Whether ticks that differ are of one device nobody knows: a doubt lends no proof, and takes no failure away.
    """
    if _is_marked(other) or _data(circuit) != _data(other):
        return False
    mine, theirs = _results(circuit), _results(other)
    pairs = [(a, b) for a, b in zip(mine, theirs, strict=True) if a is not None and b is not None]
    checks = ((circuit.rcd_button, other.rcd_button), (circuit.rcd_half, other.rcd_half))
    ticks_agree = all(a == b for a, b in checks if a in CHECKED and b in CHECKED)
    joined = ticks_agree or _fails(circuit) or _fails(other)
    return bool(pairs) and all(a == b for a, b in pairs) and joined


def _fails(circuit: Circuit) -> bool:
    """Was a device that is written at a circuit tested, and did it not trip in time?"""
    reading = circuit.rcd_trip_ms
    if reading is None or circuit.rcd_rated_ma is None:
        return False
    named = (circuit.rcd_standard or "BS EN 61008", circuit.rcd_delay or "none", circuit.rcd_rated_ma)
    return judge_trip(*named, reading).status == "fail"


def _entity(board: Board, rcd: Rcd, circuits: Iterable[Circuit]) -> RcdDevice:
    whole = rcd.place == "whole board"
    behind = tuple(c for c in circuits if whole or c.rcd_id == rcd.id)
    return RcdDevice(
        entity="rcd",
        id=rcd.id,
        board=board,
        name=rcd.name or (f"RCD of {board.name or 'the board'}" if whole else _called(behind)),
        circuits=behind,
        whole_board=whole,
        rating_a=rcd.rating_a,
        delay_ms=rcd.delay_ms,
        **{name: getattr(rcd, name) for name in OF_CIRCUIT},
    )


def _written_at(board: Board, members: list[Circuit]) -> RcdDevice:
    """A device of an older document, written where its time is; of every figure the first that shows something counts,
    so that a limitation at one of its circuits does not hide what was measured at another; a tick that is incorrect
    counts wherever it stands."""
    first = next((c for c in members if _results(c)[0] is not None), members[0])
    words = (first, *(c for c in members if c is not first))

    def said(field: str) -> object:
        every = [value for c in words if (value := getattr(c, field)) is not None]
        if "incorrect" in every:
            return "incorrect"
        shown = (v for v in every if not isinstance(v, Reading) or v.interval is not None)
        return next(shown, every[0] if every else None)

    values: dict[str, object] = {name: said(field) for name, field in OF_CIRCUIT.items()}
    name = f"RCD {first.rcd_group}" if first.rcd_group else _called(tuple(members))
    return RcdDevice(entity="circuit", id=first.id, board=board, name=name, circuits=tuple(members), **values)  # type: ignore[arg-type]


def _called(circuits: tuple[Circuit, ...]) -> str:
    if not circuits:
        return "RCD"
    if len(circuits) == 1:
        return f"RCD of {name_of(circuits[0])}"
    return f"RCD of ways {', '.join(c.way or '?' for c in circuits)}"
