"""Wire types of the home screen's agenda and of a property's story."""

from typing import Literal

from pydantic import BaseModel

from dorrik.api.after_types import OpenReportOut
from dorrik.api.register_types import RegisterEntry
from dorrik.core.inspection.stages import Stage


class VisitOut(BaseModel):
    """A booked visit: how long it takes by the firm's rates (minutes), how far it is (km); when: relative to today."""

    job: RegisterEntry
    property: RegisterEntry
    minutes: float
    travel_km: float | None
    when: Literal["before", "today", "later"]


class WaitingOut(BaseModel):
    """An inspection that waits: for a signature, a return visit, or the next time it is due."""

    id: str
    reference: str | None
    property_address: str | None
    on: str | None
    reason: str | None


class UnsentOut(BaseModel):
    """A job whose confirmation was not mailed."""

    job_id: str
    number: str | None
    property_address: str | None
    on: str | None


class InstrumentTroubleOut(BaseModel):
    """An instrument that is out of calibration, or soon will be."""

    name: str
    serial: str | None
    reason: str


class AgendaOut(BaseModel):
    """What now: by day and hour, then by kind. due_count: how many are due soon, of which the first are
    listed; letters_in_trouble: how many letters have not arrived."""

    today: str
    visits: list[VisitOut]
    ready: list[WaitingOut]
    to_review: list[WaitingOut]
    sent_back: list[WaitingOut]
    returns: list[WaitingOut]
    promises: list[WaitingOut]
    due: list[WaitingOut]
    due_count: int
    unsent: list[UnsentOut]
    letters_in_trouble: int
    to_clear: list[OpenReportOut]
    to_clear_count: int
    instruments: list[InstrumentTroubleOut]


class EventOut(BaseModel):
    """Something that happened to a home, or is due; on: a day (`2026-11-25`) or a year (`1994`)."""

    kind: Literal["built", "rewired", "inspection", "due"]
    on: str
    inspection_id: str | None
    reference: str | None
    installation: str | None
    outcome: str | None
    issued: bool
    codes: dict[str, int]


class StoryPointOut(BaseModel):
    """A reading on a day as it was written, and its figure where it has one."""

    on: str
    text: str
    value: float | None


class CircuitStoryOut(BaseModel):
    """A circuit with its followed figures over the years, by field, the oldest first."""

    inspection_id: str
    circuit_id: str
    board: str
    way: str | None
    name: str | None
    figures: dict[str, list[StoryPointOut]]


class StoryNoteOut(BaseModel):
    """What the rules say of a circuit's figure over the years (rules 15.1 to 15.3)."""

    inspection_id: str
    stage: Stage
    circuit_id: str
    field: str
    status: Literal["pass", "attention", "fail", "unknown"]
    title: str
    reason: str


class StoryOut(BaseModel):
    """The story of a property: events by date, circuits with their readings, remarks, and when it is due again."""

    events: list[EventOut]
    circuits: list[CircuitStoryOut]
    notes: list[StoryNoteOut]
    due_on: str | None
    followed: dict[str, str]
