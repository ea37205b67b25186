"""What the bench of a circuit and the bars of its live tests are drawn from, as it goes over the wire."""

from pydantic import BaseModel


class BenchPointOut(BaseModel):
    """A point as it is tested: places from 0 at the board to 1 round the ring, spur and way from the board (m)."""

    id: str
    name: str
    walked: float
    position: float | None
    spur_m: float | None
    from_board_m: float | None
    says: str
    again: bool
    tested: bool
    live: bool
    two_gangs: bool


class CurveOut(BaseModel):
    """What a sound ring reads: places from 0 to 1 round the ring, and the value at each (Ω)."""

    field: str
    places: list[float]
    values: list[float]


class HighestOut(BaseModel):
    """The highest reading of a circuit's points; to: the field of the circuit that it is recorded in."""

    point_id: str
    field: str
    text: str
    to: str


class BetweenOut(BaseModel):
    """The points on either side of the gap of an open ring, by their ids."""

    before: str | None
    after: str | None
    says: str


class MethodOut(BaseModel):
    """A way to test a circuit's continuity, and its words."""

    method: str
    says: str


class RingBesideOut(BaseModel):
    """Another ring of the board, against whose second ends an open one is tried."""

    id: str
    name: str


class SocketOut(BaseModel):
    """A socket at which the ends of a ring can be opened."""

    id: str
    name: str


class AcrossOut(BaseModel):
    """Where a link across a ring may run: the points at either end of those that read high together, by their ids."""

    one_end: str
    other_end: str


class BenchOut(BaseModel):
    """The points of a circuit in the order of the walk: how they are tested, and where their readings put them (m)."""

    circuit_id: str
    form: str
    method: str
    fields: list[str]
    first: dict[str, str]
    open: bool
    length_m: float | None
    points: list[BenchPointOut]
    curves: list[CurveOut]
    highest: HighestOut | None
    gap: BetweenOut | None
    methods: list[MethodOut]
    flags: list[str]
    legs_insulation: list[str]
    lower_to_a: float | None
    swap: list[str]
    swap_with: list[RingBesideOut]
    polarity_offered: bool
    live_fields: list[str]
    highest_zs: HighestOut | None
    second: dict[str, str]
    starts_at: str
    board_at: float
    across: list[AcrossOut]
    works_offered: list[str]
    sockets: list[SocketOut]


class BeforeOut(BaseModel):
    """A reading of an earlier report: its day, as written, and as a number."""

    on: str
    text: str
    value: float | None


class ZsScaleOut(BaseModel):
    """What a circuit's Zs is drawn against (Ω): the device's limit, what a cold reading is held to, Zdb + (R1+R2)."""

    circuit_id: str
    full_ohm: float
    held_ohm: float
    limit: str
    sum_ohm: float | None
    read_ohm: float | None
    over: bool
    before: list[BeforeOut]
