"""Wire types of agreeing a visit with who lives there: on the office's side, and on the occupier's own page."""

from datetime import date
from typing import Annotated, Literal

from pydantic import BaseModel, Field

from dorrik.api.common_types import Moment, Strict, Words
from dorrik.api.mail_types import Sent

_Begins = Annotated[float, Field(ge=0, le=24 * 60, allow_inf_nan=False)]


class FreeTime(Strict):
    """A time at which the visit could be: whose day, which day, minutes since midnight."""

    inspector_id: str = Field(max_length=36)
    day: date
    begins: _Begins


class FreeTimeOut(FreeTime):
    """ends: minutes since midnight; inspector: their name; own: it is where the plan has the visit."""

    ends: float
    inspector: str
    own: bool


class VisitStepOut(BaseModel):
    """Something that happened about a visit. says: in words; letter: how its mail stands, null without one."""

    id: str
    kind: str
    at: Moment
    on_day: date | None
    says: str
    by: str
    letter: str | None
    photos: list[str]


class TryOut(BaseModel):
    on: date
    counts: bool
    missing: list[str]


class AccessOut(BaseModel):
    """Where the tries to get in stand. next_step: '' while there was none."""

    tries: list[TryOut]
    counting: int
    of: int
    complete: bool
    next_step: str
    source: str


class OccupierOut(BaseModel):
    """A visit's dealings with who lives there. link_open: an answer is waited for; opened: how often it was read."""

    visit_id: str
    name: str
    email: str
    phone: str
    link_open: bool
    opened: int
    steps: list[VisitStepOut]
    access: AccessOut
    booked: bool
    told: bool


class AskIn(Strict):
    """Times to propose, and where to."""

    to: str = Field(max_length=190)
    times: list[FreeTime] = Field(min_length=1, max_length=6)


class AskedOut(BaseModel):
    """How the letter stands, and the visit's dealings now."""

    sent: Sent
    occupier: OccupierOut


class ToldIn(Strict):
    """The notice: mailed to an address, or handed over; handed_on: the day and hour of that, local time."""

    to: str | None = Field(default=None, max_length=190)
    handed_at: str | None = Field(default=None, pattern=r"^\d{4}-\d{2}-\d{2}T\d{2}:\d{2}$")


class ToldOut(BaseModel):
    sent: Sent | None
    occupier: OccupierOut


class NoAccessIn(Strict):
    """Nobody opened: when, on the clock there, and what was done."""

    at: str = Field(pattern=r"^\d{4}-\d{2}-\d{2}T\d{2}:\d{2}$")
    words: Annotated[Words, Field(max_length=500)] = ""


class NoAccessOut(BaseModel):
    step_id: str
    occupier: OccupierOut


# The occupier's own page


class OfferedTime(BaseModel):
    """A time to choose from. number: by which it is taken; free: can it be taken still?"""

    number: int
    day: date
    begins: float
    ends: float
    inspector: str
    free: bool


class OccupierPage(BaseModel):
    """What an occupier's link shows. state: open while an answer is waited for; taken with the time, declined,
    proposed; ended where the letter is out of date, over where the visit is not to be made any more."""

    firm: str
    firm_phone: str
    firm_email: str
    address: str
    name: str
    hours: float
    power_off: str
    must_stay_on: str
    state: Literal["open", "taken", "declined", "proposed", "ended", "over"]
    says: str
    times: list[OfferedTime]
    taken: OfferedTime | None


class TakeIn(Strict):
    number: int = Field(ge=0, le=20)


class DeclineIn(Strict):
    words: Annotated[Words, Field(max_length=500)] = ""


class ProposeIn(Strict):
    """Days that would do, and what else there is to say."""

    words: Annotated[Words, Field(max_length=500)] = ""
    days: list[Literal["Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday"]] = Field(
        default=[], max_length=6
    )
