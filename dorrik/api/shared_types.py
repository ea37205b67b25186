"""A client's page over the line: for whoever has its link, without an account."""

from datetime import date
from typing import Annotated, Literal

from pydantic import BaseModel, Field

from dorrik.api.after_types import DutyStateOut, FileOut
from dorrik.api.common_types import Moment, Strict, Words
from dorrik.core.work.duty_states import Role
from dorrik.core.work.remedials import State

_Day = Annotated[str, Field(pattern=r"^\d{4}-\d{2}-\d{2}$")]


class SharedHomeOut(BaseModel):
    """A home on a list. id: of its inspection, None without a report; state: in a word; due: the last legal day for the
    work; next_due: of the next inspection."""

    id: str | None
    address: str
    reference: str
    state: Literal["no report", "satisfactory", "to put right", "to be looked at", "to be confirmed", "put right"]
    cleared: int
    counting: int
    worst: str
    due: date | None
    copy_due: date | None
    next_due: date | None


class SharedOut(BaseModel):
    """What a link shows. one: is it a single home? may_report: may its holder say that something was done?"""

    firm: str
    firm_phone: str
    firm_email: str
    name: str
    role: Role
    one: bool
    may_report: bool
    expires_at: Moment
    today: date
    homes: list[SharedHomeOut]


class SharedStepOut(BaseModel):
    """What was done about an item, as a client reads it."""

    kind: str
    at: Moment
    on: str
    by: str
    words: str
    retests: str
    files: list[FileOut]


class SharedItemOut(BaseModel):
    """An item; said: how it stands in a few words."""

    id: str
    code: str
    title: str
    text: str
    place: str
    todo: str
    counts: bool
    state: State
    said: str
    photos: list[str]
    steps: list[SharedStepOut]


class SharedCopyOut(BaseModel):
    """Who has a copy, for whoever has to give them."""

    of: Literal["report", "confirmation"]
    role: Role
    name: str
    how: str
    at: Moment
    arrived: bool


class TimelineEventOut(BaseModel):
    """What was done, or is to be done, and when, in words."""

    on: str
    what: str
    done: bool


class MeaningOut(BaseModel):
    code: str
    means: str


class SharedReportOut(BaseModel):
    """A home's page. due: the last legal day for the work; confirmed_on: when its confirmation was issued."""

    id: str
    home: str
    reference: str
    number: int
    issued_on: date
    inspected_on: str
    firm: str
    outcome: str
    sentence: str
    reason: str
    rests_on: str
    timeline: list[TimelineEventOut]
    next_by: str
    meaning: list[MeaningOut]
    items: list[SharedItemOut]
    cleared: int
    counting: int
    due: date | None
    duties: list[DutyStateOut]
    copies: list[SharedCopyOut]
    caution: str
    confirmed_on: date | None
    rule_book: str
    may_report: bool


class SharedDoneIn(Strict):
    """Something was done. by: who did it; on: when; files: sent before."""

    items: list[str] = Field(min_length=1, max_length=60)
    by: Annotated[Words, Field(max_length=120)]
    on: _Day
    words: Annotated[Words, Field(max_length=1000)] = ""
    certificate: Annotated[Words, Field(max_length=60)] = ""
    files: list[str] = Field(default_factory=list, max_length=20)


class SharedCopyIn(Strict):
    """A copy that the holder of the link gave to somebody."""

    of: Literal["report", "confirmation"] = "report"
    role: Literal["occupier", "authority"]
    name: Annotated[Words, Field(min_length=1, max_length=120)]
    how: Literal["link", "post", "by hand"]
    on: _Day
