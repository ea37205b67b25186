"""Wire types of the planner: a week of inspectors' days, what has no place, and what planning came to."""

from datetime import date
from typing import Literal

from pydantic import BaseModel, Field

from dorrik.api.common_types import Moment, Strict
from dorrik.api.register_types import RegisterEntry


class PlanStopOut(BaseModel):
    """A stop of a day: a visit, or keys fetched or brought back. begins, ends: minutes since midnight; way_min: on the
    way to it, null where that is not known; pinned: kept by hand; booked: the occupier was told; wrong: why its day no
    longer holds."""

    task: Literal["visit", "fetch key", "return key"]
    id: str
    name: str
    begins: float
    ends: float
    way_min: float | None
    pinned: bool = False
    booked: bool = False
    wrong: str | None = None
    east_km: float | None
    north_km: float | None


class PlanDayOut(BaseModel):
    """A day of an inspector. off: why nobody works, null where somebody does; leaves, back: from and at home, null for
    a day without visits; km: on the road."""

    day: date
    off: str | None
    leaves: float | None
    back: float | None
    km: float
    stops: list[PlanStopOut]


class PlanInspectorOut(BaseModel):
    """An inspector's week. starts, ends: of the usual day; worked, of: days with visits, and days that they work."""

    id: str
    name: str
    starts: float
    ends: float
    most_visits: int
    worked: int
    of: int
    east_km: float | None
    north_km: float | None
    days: list[PlanDayOut]


class PlanVisitOut(BaseModel):
    """A visit of the whole plan. day, begins, inspector_id: null where it has no place, then why says why not; version:
    what a move of it goes by; low, high: half of all visits like it take between these (minutes), rests_on: of how many
    recorded ones that is known; reasons: why it is where it is."""

    id: str
    job_id: str
    property_id: str
    name: str
    client: str
    inspection_id: str | None
    minutes: float
    low: float
    high: float
    rests_on: int
    deadline: date | None
    day: date | None
    begins: float | None
    inspector_id: str | None
    pinned: bool
    booked: bool
    version: int
    why: str | None
    wrong: str | None
    reasons: list[str]
    asked: str | None = None


class MovedOut(BaseModel):
    """A visit that is elsewhere now, in words."""

    visit_id: str
    name: str
    was: str
    now: str
    why: str


class PlanRunOut(BaseModel):
    """A run of the solver: progress of 1; told: what came of it."""

    id: str
    state: Literal["running", "done", "stopped", "failed"]
    progress: float
    visits: int
    stop_asked: bool
    told: str | None
    by: str
    made_at: Moment


class PlanSettings(Strict):
    """What the plan goes by: working days kept free before a deadline, speed on the road, by how much a road is longer
    than the straight line, and how many days ahead is planned."""

    slack_days: int = Field(default=1, ge=0, le=20)
    speed_kmh: float = Field(default=30.0, ge=3, le=130, allow_inf_nan=False)
    detour: float = Field(default=1.3, ge=1, le=5, allow_inf_nan=False)
    ahead_days: int = Field(default=120, ge=5, le=370)


class PlannerOut(BaseModel):
    """The plan, with one week of it drawn out; earliest, last: the first and the last day that is planned."""

    version: int
    planned_at: Moment | None
    planned_s: float | None
    monday: date
    earliest: date
    last: date
    today: date
    inspectors: list[PlanInspectorOut]
    visits: list[PlanVisitOut]
    by_hand: int
    left: int
    moved: list[MovedOut]
    notes: list[str]
    run: PlanRunOut | None
    settings: PlanSettings
    has_travel_table: bool


class MoveIn(Strict):
    """Where a visit is put by hand. begins: minutes since midnight, null for any time of the day; version: of the visit
    as it was seen."""

    inspector_id: str = Field(max_length=36)
    day: date
    begins: float | None = Field(default=None, ge=0, le=24 * 60, allow_inf_nan=False)
    version: int = Field(ge=0)


class HoldIn(Strict):
    """Keep a visit where it is, or let planning move it again."""

    pinned: bool
    version: int = Field(ge=0)


class RunIn(Strict):
    """anew: everything that was not put somewhere by hand is free to move."""

    anew: bool = False


class WayOutOut(BaseModel):
    """A way to fit a visit in: what gives way, in words, and what it costs."""

    kind: Literal["earlier start", "move one visit", "another inspector"]
    says: str
    price: str
    inspector_id: str
    day: date
    earlier_min: float
    moved: str


class WayOutIn(Strict):
    """The way out that is taken, as it was offered."""

    kind: Literal["earlier start", "move one visit", "another inspector"]
    inspector_id: str = Field(max_length=36)
    day: date
    earlier_min: float = Field(ge=0, le=600, allow_inf_nan=False)
    moved: str = Field(max_length=36)


class WeekOut(BaseModel):
    """Somebody who makes visits, and their days off."""

    entry: RegisterEntry
    days_off: list[RegisterEntry]


class ColleagueOut(BaseModel):
    id: str
    name: str


class WeeksOut(BaseModel):
    """Who makes visits, where keys are, which people the firm has; travel: ways in its table of travel times."""

    weeks: list[WeekOut]
    key_holders: list[RegisterEntry]
    people: list[ColleagueOut]
    travel: int
    settings: PlanSettings


class WayMistakeOut(BaseModel):
    row: int
    reason: str


class TravelOut(BaseModel):
    """What came of a table of travel times: so many ways are kept, and every row that could not be taken."""

    ways: int
    mistakes: list[WayMistakeOut]


class PlanChangedOut(BaseModel):
    """What came of a change by hand: what moved beside it, and how many visits have no place."""

    version: int
    moved: list[MovedOut]
    left: int
