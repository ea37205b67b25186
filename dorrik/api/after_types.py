"""What follows a report, over the line: items with steps and evidence, copies, links, duties, the confirmation."""

from datetime import date
from typing import Annotated, Literal

from pydantic import BaseModel, Field

from dorrik.api.common_types import Moment, Strict, Words
from dorrik.api.report_types import IssuedOut
from dorrik.api.review_types import SignatureIn
from dorrik.core.work.duty_states import Role
from dorrik.core.work.remedials import Found, Kind, State
from dorrik.store.reports import client_links
from dorrik.store.reports.copies import How

_Day = Annotated[str, Field(pattern=r"^\d{4}-\d{2}-\d{2}$")]
_Name = Annotated[Words, Field(max_length=120)]
_Files = Annotated[list[str], Field(default_factory=list, max_length=20)]


class ItemFigureOut(BaseModel):
    """A figure behind an item, as the report has it."""

    entity: str
    entity_id: str
    field: str
    label: str
    unit: str
    value: str
    status: str


class FileOut(BaseModel):
    id: str
    kind: str
    name: str
    media_type: str


class WhatOut(BaseModel):
    """What a step says; '' where it does not. by, on: who did it, or is to do it, and when; certificate: its number;
    code: what an investigation found; label to limit: of a retest."""

    by: str = ""
    on: str = ""
    words: str = ""
    certificate: str = ""
    code: str = ""
    own: bool = False
    label: str = ""
    unit: str = ""
    before: str = ""
    after: str = ""
    status: str = ""
    says: str = ""
    limit: str = ""


class RemedialStepOut(BaseModel):
    """One step: what was done, by whom (of_firm: somebody of the firm), with which files."""

    number: int
    kind: Kind
    at: Moment
    by: str
    role: str
    of_firm: bool
    what: WhatOut
    files: list[FileOut]


class ItemOut(BaseModel):
    """An item: counts: does it count against the result?; now: what it counts as by now; lacks: what is missing before
    it can be accepted; own_certificates: of the firm's own repairs of it."""

    id: str
    code: str
    now: str
    title: str
    text: str
    place: str
    todo: str
    counts: bool
    state: State
    lacks: list[str]
    booked_on: str
    booked_by: str
    done_by: str
    figures: list[ItemFigureOut]
    photos: list[str]
    steps: list[RemedialStepOut]
    own_certificates: list[str]


class CopyOut(BaseModel):
    """A copy of the report, or of its confirmation; arrived: does it count?"""

    id: str
    of: Literal["report", "confirmation"]
    number: int
    role: Role
    name: str
    how: How
    at: Moment
    by: str
    of_firm: bool
    mail_id: str | None
    mail_state: str
    opened_at: Moment | None
    arrived: bool


class DutyStateOut(BaseModel):
    """A duty of the landlord; shown: can anything that is recorded here show that it is done?"""

    duty: str
    short: str
    who: str
    days: int | None
    counted_from: str
    due: date | None
    done_on: date | None
    shown: bool


class ClientLinkOut(BaseModel):
    id: str
    role: str
    name: str
    made_at: Moment
    expires_at: Moment
    revoked_at: Moment | None
    last_opened_at: Moment | None
    opened: int
    good: bool


class MadeClientLinkOut(BaseModel):
    """A link that was made just now. address: told this once."""

    link: ClientLinkOut
    address: str


class AfterOut(BaseModel):
    """What follows the latest report. due: the last legal day for the work; confirmed: the confirmation that closes it;
    may_decide, may_send: what the person may do."""

    inspection_id: str
    reference: str
    home: str
    client: str
    client_email: str
    report: IssuedOut
    outcome: str
    sentence: str
    inspected_on: str
    items: list[ItemOut]
    cleared: int
    counting: int
    complete: bool
    due: date | None
    copies: list[CopyOut]
    links: list[ClientLinkOut]
    duties: list[DutyStateOut]
    caution: str
    confirmed: IssuedOut | None
    confirmations: list[IssuedOut]
    may_decide: bool
    may_send: bool


class BookedIn(Strict):
    """Somebody is to do it. own: a return visit of the firm's own."""

    kind: Literal["booked"]
    by: _Name
    on: _Day
    own: bool = False


class DoneIn(Strict):
    """It is put right. certificate: its number; files: sent before."""

    kind: Literal["done"]
    by: _Name
    on: _Day
    words: Annotated[Words, Field(max_length=1000)] = ""
    certificate: Annotated[Words, Field(max_length=60)] = ""
    files: _Files


class RetestIn(Strict):
    """A figure as it reads after the work."""

    kind: Literal["retest"]
    entity_id: str = Field(max_length=36)
    field: str = Field(max_length=60)
    reading: Annotated[Words, Field(max_length=40)]
    on: _Day
    words: Annotated[Words, Field(max_length=300)] = ""
    files: _Files


class FoundIn(Strict):
    """What further investigation found."""

    kind: Literal["found"]
    code: Found
    words: Annotated[Words, Field(max_length=1000)]
    on: _Day
    files: _Files


class DecidedIn(Strict):
    kind: Literal["accepted", "refused", "reopened"]
    words: Annotated[Words, Field(max_length=500)] = ""


StepIn = Annotated[BookedIn | DoneIn | RetestIn | FoundIn | DecidedIn, Field(discriminator="kind")]


class StepsIn(Strict):
    """A step about one item, or the same about several: one certificate often covers more than one. seen: number of the
    last step that the person had before them: pressed twice, it is one step; said anew later, it is another."""

    items: list[str] = Field(min_length=1, max_length=60)
    step: StepIn
    seen: int = Field(default=0, ge=0, le=2**31 - 1)


class RetestedOut(BaseModel):
    """How a figure would be judged."""

    label: str
    unit: str
    before: str
    after: str
    status: str
    says: str
    limit: str


class TryRetestIn(Strict):
    entity_id: str = Field(max_length=36)
    field: str = Field(max_length=60)
    reading: Annotated[Words, Field(max_length=40)]


class ConfirmIn(Strict):
    signature: SignatureIn


class CopyIn(Strict):
    """Who got a copy, how and when."""

    of: Literal["report", "confirmation"] = "report"
    role: Role
    name: Annotated[_Name, Field(min_length=1)]
    how: Literal["link", "post", "by hand"]
    on: _Day


class ClientLinkIn(Strict):
    """For whom, and for how long."""

    role: Role
    name: Annotated[_Name, Field(min_length=1)]
    days: int = Field(default=client_links.LASTS_DAYS, ge=1, le=client_links.LONGEST_DAYS)


class MailReportIn(Strict):
    """Mail report or confirmation with its link. words: of the sender's own, above the firm's text."""

    of: Literal["report", "confirmation"] = "report"
    role: Role
    name: Annotated[_Name, Field(min_length=1)]
    to: str = Field(max_length=190)
    words: Annotated[Words, Field(max_length=2000)] = ""


class OpenReportOut(BaseModel):
    """A report with something left to clear, or to confirm, or of which a copy is due."""

    inspection_id: str
    reference: str
    home: str
    client: str
    cleared: int
    counting: int
    reported: int
    worst: str
    due: date | None
    copy_due: date | None
    next_visit: date | None
    complete: bool


class OpenReports(BaseModel):
    reports: list[OpenReportOut]
    count: int
