"""Wire types of the firm's register, its search, scope and fee, and earlier papers."""

from datetime import date
from typing import Any, Literal

from pydantic import BaseModel, Field

from dorrik.api.common_types import Moment, Plain, Strict, Words

Kind = Literal[
    "client", "property", "installation", "job", "instrument", "leads", "access_window", "working_week", "day_off",
    "key_holder",
]  # fmt: skip


class RegisterEntry(BaseModel):
    """One entry of the register with its fields; parent_id: the firm's or another entry's."""

    kind: Kind
    id: str
    parent_id: str
    values: dict[str, Any]


class RegisterEntryIn(Strict):
    """A new entry. id: made by the device, so that sending it twice makes it once."""

    id: str | None = Field(default=None, max_length=36)
    parent_id: str = Field(max_length=36)
    values: dict[str, Plain] = Field(default={}, max_length=60)


class FieldsIn(Strict):
    """Fields of an entry, all kept or none."""

    values: dict[str, Plain] = Field(max_length=60)


class WrittenOut(BaseModel):
    value: Any
    before: Any
    made_at: Moment
    author: str


class HitOut(BaseModel):
    kind: Literal["client", "property", "job", "inspection"]
    id: str
    title: str
    line: str


class ClientOut(BaseModel):
    """A client with a page of their properties; count: of all of them."""

    client: RegisterEntry
    properties: list[RegisterEntry]
    count: int


class EntryPage(BaseModel):
    """Some entries of a list, and how many it has in all."""

    entries: list[RegisterEntry]
    count: int


class PastOut(BaseModel):
    """An inspection of a property."""

    id: str
    reference: str | None
    inspected_on: str | None
    outcome: str | None
    installation: str | None
    job_id: str | None
    on_hold: bool
    return_on: str | None


class PropertyOut(BaseModel):
    property: RegisterEntry
    client: RegisterEntry
    installations: list[RegisterEntry]
    access_windows: list[RegisterEntry]
    key_holders: list[RegisterEntry]
    jobs: list[RegisterEntry]
    inspections: list[PastOut]
    next_number: str


class DayStopOut(BaseModel):
    """A stop of the day of a job; this: the job itself."""

    name: str
    task: Literal["visit", "fetch key", "return key"]
    begins: float
    ends: float
    this: bool


class MissingOut(BaseModel):
    """Something that is missing before somebody can go; stops: nobody can go without it."""

    what: str
    next_step: str
    stops: bool
    field: str


class PackOut(BaseModel):
    name: str
    why: str


class LengthOut(BaseModel):
    """How long a visit takes (minutes): half of all like it between low and high; visits: of the firm's own that this
    rests on."""

    minutes: float
    low: float
    high: float
    visits: int


class JobDayOut(BaseModel):
    """A job's day: booked, or as the plan has it; with what else is on it, what is missing, and what to pack."""

    visit_id: str
    on: date | None
    booked: bool
    inspector: str
    stops: list[DayStopOut]
    leaves: float | None
    back: float | None
    length: LengthOut
    missing: list[MissingOut]
    pack: list[PackOut]


class NullOut(BaseModel):
    """A null of a lead set: when, what it read (Ω), and whether it was accepted (rule 1.4)."""

    at: str
    ohm: float
    accepted: bool


class LeadSetOut(BaseModel):
    """A lead set with what its null should read now (Ω), from how many accepted nulls, and the latest nulls."""

    entry: RegisterEntry
    known_ohm: float | None
    nulls: int
    log: list[NullOut]


class CalibrationOut(BaseModel):
    """Whether an instrument is in calibration on the day, why, and for how many days more (below 0: so long over)."""

    status: Literal["pass", "attention", "fail", "unknown"]
    reason: str
    days_left: int | None


class InstrumentOut(BaseModel):
    entry: RegisterEntry
    calibration: CalibrationOut


class InstrumentsOut(BaseModel):
    instruments: list[InstrumentOut]
    lead_sets: list[LeadSetOut]


class PartOut(BaseModel):
    """One part of an estimate: minutes or money, and how it comes about."""

    name: str
    value: float
    how: str


class EstimateOut(BaseModel):
    """Time and price of a job by house rates (rule 16.1), part by part."""

    minutes: float
    time: list[PartOut]
    price: float
    parts: list[PartOut]
    too_much_for_a_day: bool
    currency: str


class BeginningOut(BaseModel):
    """What an inspection of an installation (None: of the whole property) takes over from its job."""

    installation_id: str | None
    name: str
    fields: dict[str, Any]
    limitations: list[dict[str, Any]]
    inspection_id: str


class JobOut(BaseModel):
    """A job with where and for whom it is."""

    job: RegisterEntry
    property: RegisterEntry
    client: RegisterEntry
    installations: list[RegisterEntry]
    inspections: list[PastOut]
    estimate: EstimateOut
    instruments: list[InstrumentOut]
    beginnings: list[BeginningOut]
    day: JobDayOut
    weeks: list[RegisterEntry]


class SendIn(Strict):
    """Where a letter is mailed to."""

    to: str = Field(max_length=190)


class RatesIn(Strict):
    """House rates in minutes, prices in the firm's currency."""

    rates: dict[str, float]
    prices: dict[str, float | str]


class RateOut(BaseModel):
    name: str
    label: str
    unit: str
    value: float
    usual: float


class RatesOut(BaseModel):
    may_settle: bool
    currency: str
    rates: list[RateOut]
    prices: list[RateOut]


class PaperTable(BaseModel):
    """A table of an uploaded file; columns: the guessed target of each; head: index of the row with the heads."""

    sheet: str
    rows: list[list[str]]
    head: int
    columns: list[str | None]


class TargetOut(BaseModel):
    key: str
    label: str


class FoundOut(BaseModel):
    """What an inspection in a file or in Dorrik would bring: its boards with their circuits."""

    reference: str | None
    property_address: str | None
    inspected_on: str | None
    boards: list[str]
    circuits: int
    readings: int


class PaperOut(BaseModel):
    """What an uploaded file holds: an inspection, or tables whose columns are to be matched.

    cleaned: in how many cells a character stood that cannot be kept; U+FFFD stands in its place.
    """

    name: str
    found: FoundOut | None
    document: dict[str, Any] | None
    tables: list[PaperTable]
    cleaned: int
    targets: list[TargetOut]


class ChartIn(Strict):
    """Rows of a table with the target of each column; first: index of the first row under the heads."""

    rows: list[list[str]] = Field(max_length=20_000)
    columns: list[str | None] = Field(max_length=60)
    first: int = Field(ge=0, le=20_000)


class WrongOut(BaseModel):
    column: int
    text: str
    reason: str


class ChartRowOut(BaseModel):
    """One row as it would be taken over."""

    row: int
    board: str | None
    fields: dict[str, Any]
    figures: dict[str, str]
    wrong: list[WrongOut]


class ChartOut(BaseModel):
    lines: list[ChartRowOut]
    sound: int


class CarryIn(Strict):
    """What to carry over into an inspection: a document, another inspection of the firm, or a chart; one of them.

    measured_on: day of the chart's figures; source: what the chart is called.
    """

    document: dict[str, Plain] | None = None
    inspection_id: str | None = Field(default=None, max_length=36)
    chart: ChartIn | None = None
    measured_on: str | None = Field(default=None, max_length=10)
    source: Words = Field(default="", max_length=120)


class CarriedOut(BaseModel):
    seq: int
    boards: int
    circuits: int
