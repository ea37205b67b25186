"""An inspection over the line, whole and as a line of a list."""

from typing import Any

from pydantic import BaseModel, Field

from dorrik.api.common_types import Moment, Strict, Words
from dorrik.core.judging.wire.judgement import JudgementView
from dorrik.core.work.workflow import Action, State


class EntityOut(BaseModel):
    kind: str
    id: str
    parent_id: str
    values: dict[str, Any]


class ReadAt(BaseModel):
    """When a continuity reading was taken."""

    id: str
    field: str
    at: str


class ReadBy(BaseModel):
    """A figure that stands as a trainee read it: the attendance of the trainee, and its place in the journal."""

    id: str
    field: str
    by: str
    seq: int


class JournalFactsOut(BaseModel):
    """What the rules ask the journal for, so that a device can judge by itself; signed: the place of each trainee's
    last signature, by attendance."""

    read_at: list[ReadAt]
    read_by: list[ReadBy]
    signed: dict[str, int]


class InspectionOut(BaseModel):
    """An inspection with everything in it, as it is kept; empty fields are left out.

    issue: the number of its report's last issue, 0 for none; state: where it stands; may: what the person who asks may
    do with it; facts: of its journal.
    """

    id: str
    seq: int
    issue: int
    state: State
    may: list[Action]
    entities: list[EntityOut]
    facts: JournalFactsOut
    judgement: JudgementView


class InspectionLine(BaseModel):
    """An inspection in a list."""

    id: str
    reference: str | None
    property_address: str | None
    client_name: str | None
    inspected_on: str | None
    next_due: str | None
    changed_at: Moment
    issued: int | None
    outcome: str | None
    left: int | None
    failing: int | None
    held_reason: str | None = None
    return_on: str | None = None


class InspectionPage(BaseModel):
    """Some lines of a list, and how many it has in all."""

    lines: list[InspectionLine]
    count: int


class CorrectionIn(Strict):
    """One cell of a reference table read otherwise: why says on whose word."""

    table: str = Field(max_length=40)
    row: str = Field(max_length=200)
    column: str = Field(max_length=40)
    value: Words = Field(max_length=100)
    why: Words = Field(max_length=500)


class Beginning(BaseModel):
    """What a new inspection of this firm begins with."""

    rule_book: str | None
    house_rules: dict[str, Any]
    table_corrections: list[CorrectionIn]


class Home(BaseModel):
    """What waits: the first inspections in hand, the first issued ones by when they are due again; how many in all.

    trouble: what those who look after the server should know, such as a disk that is nearly full.
    """

    in_hand: list[InspectionLine]
    in_hand_count: int
    issued: list[InspectionLine]
    issued_count: int
    next_reference: str
    trouble: str | None
    beginning: Beginning
