"""Changes of an inspection over the line: what is sent, what became of it, and what others wrote."""

from datetime import UTC, datetime, timedelta
from typing import Annotated, Any, Literal

from pydantic import AfterValidator, BaseModel, Field, ValidationError, ValidatorFunctionWrapHandler, WrapValidator

from dorrik.api.common_types import Moment, Plain, Strict, Words
from dorrik.core.basics.text import shown
from dorrik.core.judging.wire.judgement import JudgementView
from dorrik.core.work.workflow import Action
from dorrik.store.database.engine import now

#: A clock that says a year outside of these has plainly lost its time: what was entered counts as made now.
YEARS = range(2020, 2201)
#: How far a device's clock may be ahead of ours.
AHEAD = timedelta(days=1)


def _universal(moment: datetime) -> datetime:
    """A moment in universal time without a zone; one that has no zone is in universal time."""
    return moment.astimezone(UTC).replace(tzinfo=None) if moment.tzinfo else moment


def _not_ahead(moment: datetime) -> datetime:
    if moment.year in YEARS and _universal(moment) > now() + AHEAD:
        raise ValueError(f"lies ahead ({moment:%d.%m.%Y}): this device's clock is wrong. Set it and enter it again")
    return moment


class ChangeIn(Strict):
    """One field set to a value; see the journal. instrument_id, read_at: of a reading that came over a link;
    read_by: the attendance of the trainee who took it; issue: the number of the last issue of the report that the
    device knew of, 0 for none."""

    id: str = Field(max_length=36)
    entity: str = Field(max_length=200)
    entity_id: str = Field(max_length=36)
    field: str = Field(max_length=200)
    value: Plain = None
    based_on: int = Field(ge=0, le=2**31 - 1)
    made_at: Annotated[datetime, AfterValidator(_not_ahead)]
    device: Words = Field(max_length=60)
    instrument_id: str | None = Field(default=None, max_length=36)
    read_at: Annotated[datetime, AfterValidator(_not_ahead)] | None = None
    read_by: str | None = Field(default=None, max_length=36)
    issue: int | None = Field(default=None, ge=0, le=2**31 - 1)

    @property
    def moment(self) -> datetime:
        """When it was made, in universal time without a zone; now, where the device's clock is plainly lost."""
        return _universal(self.made_at) if self.made_at.year in YEARS else now()

    @property
    def shown_at(self) -> datetime | None:
        """When an instrument showed it, in universal time without a zone; None where its clock is plainly lost."""
        return _universal(self.read_at) if self.read_at and self.read_at.year in YEARS else None


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


class AsKeptOut(BaseModel):
    """A value as it is kept: blanks gone, a number or a time written our way."""

    value: Any


class ResultOut(BaseModel):
    """What became of one change; reason stands where it was refused. waits: it is taken once somebody says that it is
    meant for what is there now, by sending it again with what is known now. as_kept: only where that is not what was
    sent."""

    id: str
    state: Literal["kept", "already", "refused"]
    seq: int | None
    reason: str | None
    overtook: OvertakenOut | None
    waits: bool
    as_kept: AsKeptOut | None


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

    may: what the person may do with the inspection as it is now; issue: the number of its report's last issue, 0 for
    none.
    """

    seq: int
    issue: int
    results: list[ResultOut]
    may: list[Action]
    judgement: JudgementView | None
    change: JudgementChange | None


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
    instrument_id: str | None
    read_at: Moment | None
    read_by: str | None
    author_id: str
    author: str


class News(BaseModel):
    """What was kept since a sequence number; `judgement` only where there is something."""

    seq: int
    entries: list[EntryOut]
    judgement: JudgementView | None
