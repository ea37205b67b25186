"""Mail over the line: how a letter stands, the list of letters, and through which server they leave."""

from typing import Annotated, Literal

from pydantic import BaseModel, Field

from dorrik.api.common_types import Moment, Strict, Words
from dorrik.core.work.firm_texts import LONGEST, TEXTS
from dorrik.report.mail import Security
from dorrik.store.mail.mail_queue import State


class Sent(BaseModel):
    """A letter that was written down and brought to the server; told: why it has not left, '' where it has."""

    mail_id: str
    to: str
    at: str
    state: State
    told: str


class MailOut(BaseModel):
    """A letter of the firm's list. by: who sent it, '' where it went by itself."""

    id: str
    kind: str
    about: str
    to: str
    subject: str
    state: State
    told: str
    tries: int
    made_at: Moment
    next_at: Moment
    ended_at: Moment | None
    by: str
    inspection_id: str | None
    reference: str
    has_files: bool


class MailPage(BaseModel):
    letters: list[MailOut]
    count: int


class AgainIn(Strict):
    """To which other address, None for the same one."""

    to: str | None = Field(default=None, max_length=190)


class MailServerIn(Strict):
    """A firm's own mail server. password: None leaves it as it is."""

    host: Words = Field(min_length=1, max_length=190)
    port: Literal[25, 465, 587, 2525]
    security: Security
    user: Words = Field(default="", max_length=190)
    password: str | None = Field(default=None, max_length=190)
    sender: str = Field(max_length=190)


class MailServerOut(BaseModel):
    """Through which server the firm's mail leaves. own: is it the firm's? tried: has a trial letter left through it?
    The password is never told, only whether there is one."""

    own: bool
    there: bool
    host: str
    port: int
    security: Security
    user: str
    has_password: bool
    sender: str
    tried: bool
    may_change: bool


class TrialIn(Strict):
    to: str = Field(max_length=190)


class TrialOut(BaseModel):
    """Whether the server took the trial letter, and its words where it did not."""

    left: bool
    told: str


class FirmPaperIn(Strict):
    """What the firm settles about its letters and numbers; see `core.work.firm_texts`."""

    texts: dict[str, Annotated[Words, Field(max_length=LONGEST)]] = Field(default_factory=dict, max_length=len(TEXTS))
    remind_days: list[int] = Field(default_factory=list, max_length=20)
    first_reference: Annotated[Words, Field(max_length=40)] = ""
    first_job: Annotated[Words, Field(max_length=40)] = ""


class TextOut(BaseModel):
    """Where a text of the firm's own stands, and what it says."""

    key: str
    label: str
    text: str


class FirmPaperOut(BaseModel):
    """next_reference, next_job: what is given next."""

    texts: list[TextOut]
    remind_days: list[int]
    first_reference: str
    first_job: str
    next_reference: str
    next_job: str
    may_change: bool


class CaughtOut(BaseModel):
    """A mail that the demo's mail server has taken."""

    id: str
    at: Moment
    sender: str
    to: str
    subject: str
    text: str
    files: list[str]
