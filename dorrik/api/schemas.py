"""Wire types: what goes over the line, and so the contract that the front end's types are made from."""

import json
from datetime import UTC, datetime
from typing import Annotated, Any, Literal

from pydantic import (
    AfterValidator,
    BaseModel,
    BeforeValidator,
    ConfigDict,
    Field,
    PlainSerializer,
    ValidationError,
    ValidatorFunctionWrapHandler,
    WrapValidator,
)

from dorrik.api.judgement_types import JudgementOut
from dorrik.api.stages import Stage
from dorrik.core.text import shown, tidy
from dorrik.core.workflow import Action, State
from dorrik.store.engine import now

#: Moments are kept without a zone, in universal time; over the line they say so.
Moment = Annotated[datetime, PlainSerializer(lambda m: m.replace(tzinfo=None).isoformat() + "Z", return_type=str)]


def _sane(value: Any) -> Any:
    """Anything that JSON can say and that can be said back: no half of a character pair, no figure without an end."""
    try:
        json.dumps(value, ensure_ascii=False, allow_nan=False).encode()
    except UnicodeEncodeError:
        raise ValueError("holds half a character") from None
    except ValueError:
        raise ValueError("holds a number that has no end") from None
    return value


#: A text that a person wrote, as it is kept (`core.text`).
Words = Annotated[str, AfterValidator(tidy)]
#: A value of whichever kind a field takes; what it may be is the field's to say.
Plain = Annotated[Any, BeforeValidator(_sane)]


class Strict(BaseModel):
    """Incoming data: no unknown parts."""

    model_config = ConfigDict(extra="forbid")


class Problem(BaseModel):
    """An error: a short code for programs, a message for the person, and the fields it speaks of."""

    code: str
    message: str
    fields: list["FieldProblem"] = []


class FieldProblem(BaseModel):
    field: str
    message: str


class ChangeIn(Strict):
    """One field set to a value; see the journal."""

    id: str = Field(max_length=36)
    entity: str = Field(max_length=200)
    entity_id: str = Field(max_length=36)
    field: str = Field(max_length=200)
    value: Plain = None
    based_on: int = Field(ge=0, le=2**31 - 1)
    made_at: datetime
    device: str = Field(max_length=60)

    @property
    def moment(self) -> datetime:
        """When it was made, in universal time without a zone; now, where the device's clock is plainly lost."""
        if not 2020 <= self.made_at.year <= 2200:
            return now()
        return self.made_at.astimezone(UTC).replace(tzinfo=None) if self.made_at.tzinfo else self.made_at


class Malformed(BaseModel):
    """Stands in for a change whose shape is wrong, so that the rest of the batch is kept."""

    id: str
    reason: str


def _tolerant(value: Any, handler: ValidatorFunctionWrapHandler) -> ChangeIn | Malformed:
    given = value.get("id") if isinstance(value, dict) else None
    identity = str(given or "")[:36].encode("ascii", "replace").decode()
    try:
        change: ChangeIn = handler(value)
    except ValidationError as error:
        first = error.errors(include_url=False, include_input=False)[0]
        where = ".".join(shown(str(part)[:80]) for part in first["loc"])
        return Malformed(id=identity, reason=f"The change cannot be read: {where} {shown(first['msg'])}.")
    return change


class Batch(Strict):
    """Changes in the order in which they were made; judged: the sequence number that the device's judgement is of."""

    judged: int | None = Field(default=None, ge=0, le=2**31 - 1)
    changes: list[Annotated[ChangeIn, WrapValidator(_tolerant)]] = Field(max_length=500)


class OvertakenOut(BaseModel):
    seq: int
    author: str
    value: Any


class ResultOut(BaseModel):
    """What became of one change; reason stands where it was refused."""

    id: str
    state: Literal["kept", "already", "refused"]
    seq: int | None
    reason: str | None
    overtook: OvertakenOut | None


class Run(BaseModel):
    """A part of a list: a run of the list before (end not included), or new items."""

    start: int | None = None
    end: int | None = None
    new: list[Any] | None = None


class MapChange(BaseModel):
    set: dict[str, Any]
    gone: list[str]


class JudgementChange(BaseModel):
    """What became different in a judgement: values written whole, lists as runs, mappings by what is set and gone."""

    set: dict[str, Any]
    lists: dict[str, list[Run]]
    maps: dict[str, MapChange]


class Receipt(BaseModel):
    """The answer to a batch: each change's fate, the new sequence number and the new verdicts, whole or as a change.

    may: what the person may do with the inspection as it is now.
    """

    seq: int
    results: list[ResultOut]
    may: list[Action]
    judgement: JudgementOut | None
    change: JudgementChange | None


class EntityOut(BaseModel):
    kind: str
    id: str
    parent_id: str
    values: dict[str, Any]


class InspectionOut(BaseModel):
    """An inspection with everything in it, as it is kept; empty fields are left out.

    state: where it stands; may: what the person who asks may do with it.
    """

    id: str
    seq: int
    state: State
    may: list[Action]
    entities: list[EntityOut]
    judgement: JudgementOut


class EntryOut(BaseModel):
    """One kept change: who changed what from what, when."""

    seq: int
    id: str
    entity: str
    entity_id: str
    field: str
    value: Any
    before: Any
    overtook: int | None
    overtook_author_id: str | None
    made_at: Moment
    kept_at: Moment
    device: str
    author_id: str
    author: str


class News(BaseModel):
    """What was kept since a sequence number; `judgement` only where there is something."""

    seq: int
    entries: list[EntryOut]
    judgement: JudgementOut | None


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


class FieldOut(BaseModel):
    """A declared field; stage: where it is entered, '' in the register; action: what a change of it is."""

    stage: str
    action: Action
    kind: str
    label: str
    unit: str
    choices: list[str]
    max_length: int
    low: float | None
    high: float | None


class CatalogueOut(BaseModel):
    key: str
    group: str
    title: str
    look: str
    code: str
    why: str
    strict: str
    strict_why: str
    mild: str
    mild_why: str
    moves: str
    plain: str
    remedy: str
    rule: str
    facts: list["FactOut"]


class FactOut(BaseModel, from_attributes=True):
    """What moves an entry's code: where a yes leads, and the question."""

    fact: str
    code: str
    says: str
    ask: str


class DeviceOut(BaseModel):
    standard: str
    type: str
    lowest_a: float
    highest_a: float
    current: bool


class HouseRuleOut(BaseModel):
    name: str
    label: str
    default: float | str
    choices: list[float | str]
    why: str


class RuleBookOut(BaseModel):
    key: str
    name: str
    nation: str


class BoardCheckOut(BaseModel):
    """Something to look at on every board, and the observation it would raise ('' for none)."""

    key: str
    label: str
    observation: str


class Reference(BaseModel):
    """What the screens need to know before any inspection: fields, catalogue, devices, house rules."""

    fields: dict[str, dict[str, FieldOut]]
    board_checks: list[BoardCheckOut]
    catalogue: list[CatalogueOut]
    devices: list[DeviceOut]
    house_rules: list[HouseRuleOut]
    code_meanings: dict[str, str]
    code_order: list[str]
    rule_books: list[RuleBookOut]
    rule_book: str
    caution: str


class PointOut(BaseModel):
    level: Literal["must", "look"]
    stage: Stage
    text: str


class Preview(BaseModel):
    """The draft's pages as SVG text, and what stands in the way of issuing."""

    seq: int
    points: list[PointOut]
    pages: list[str]


class IssueIn(Strict):
    """seen_seq: what the person looked at; reason: needed for a correction."""

    seen_seq: int = Field(ge=0, le=2**31 - 1)
    reason: Words | None = Field(default=None, max_length=500)


class IssuedOut(BaseModel):
    id: str
    number: int
    issued_at: Moment
    issued_by: str
    outcome: str
    replaces: int | None
    reason: str | None
    sha256: str
    seq: int


class NotReadyOut(Problem):
    points: list[PointOut] = []
