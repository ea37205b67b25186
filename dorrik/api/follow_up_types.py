"""What stays open on the day, over the wire: things to come back to, what is set aside by agreement, and repairs."""

from pydantic import BaseModel

from dorrik.core.judging.coverage.progress import Stage


class ToComeBackOut(BaseModel):
    """Something left for later: what it is about (as it is called now, or was where it is gone), what is still to do,
    where that is entered, and under which board's cover it lies; asked_by: the reviewer who asks, '' for nobody."""

    id: str
    where: str
    what: str
    entity: str
    entity_id: str
    field: str
    stage: Stage
    board_id: str
    gone: bool
    asked_by: str


class AsideOut(BaseModel):
    """Something left disconnected or out of scope: its state with its agreement in words, what that means for whoever
    uses the home, whether it counts, and ids of everything that is set aside with it."""

    id: str
    entity: str
    entity_id: str
    name: str
    state: str
    says: str
    means: str
    why: str
    in_force: bool
    covers: list[str]
    gone: bool


class RetestOut(BaseModel):
    """A figure that the work undoes: as found, as left, and how that is judged."""

    entity: str
    entity_id: str
    field: str
    label: str
    unit: str
    found: str
    left: str
    status: str


class ThenNowOut(BaseModel):
    """What is marked on a part: then and now."""

    entity: str
    entity_id: str
    field: str
    label: str
    then: str
    now: str


class RepairOut(BaseModel):
    """A repair of one's own: what was tested again, what is still missing before it counts, and its certificate."""

    id: str
    observation_id: str
    where: str
    work: str
    label: str
    begun: bool
    tests: list[RetestOut]
    marks: list[ThenNowOut]
    lacks: list[str]
    failing: list[str]
    complete: bool
    code: str
    certificate: str
    gone: bool


class ShareOut(BaseModel):
    """A kind of load: all that is connected (A), and what of it counts (A)."""

    load: str
    connected_a: float
    counted_a: float


class RoomForMoreOut(BaseModel):
    """The demand by the usual allowances today, and with what is asked about, against the service fuse (A)."""

    shares: list[ShareOut]
    wanted: list[ShareOut]
    total_a: float | None
    with_a: float | None
    fuse_a: float | None
    measured_a: float | None
    status: str
    says: str
    missing: list[str]


class OfferedYearsOut(BaseModel):
    """Evidence of a part's years that follows from what was entered, to be taken or left."""

    from_year: int | None
    to_year: int | None
    known_by: str
    says: str


class AgedPartOut(BaseModel):
    """A part of the home with the years that its evidence allows; agrees: whether there are any."""

    key: str
    entity: str
    entity_id: str
    name: str
    from_year: int | None
    to_year: int | None
    agrees: bool
    evidence: list[str]
    offered: list[OfferedYearsOut]


class LabelOut(BaseModel):
    """A label at its place; needed: by what is known of the home; id: of what was recorded of it, '' for nothing."""

    kind: str
    label: str
    entity: str
    entity_id: str
    where: str
    needed: bool
    id: str
    state: str
    interval: str
