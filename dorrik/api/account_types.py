"""Wire types of accounts: signing in, sessions, links, the second factor, people, the letterhead, the audit log."""

from typing import Any, Literal

from pydantic import BaseModel, Field

from dorrik.api.common_types import Moment, Strict
from dorrik.api.reference_types import RuleBookOut
from dorrik.core.work.workflow import Action, Role

Password = Field(min_length=1, max_length=400)


class SignIn(Strict):
    """code: of the second factor, or a recovery code, where one is asked for."""

    email: str = Field(max_length=400)
    password: str = Password
    code: str | None = Field(default=None, max_length=40)


class Me(BaseModel):
    """Who is signed in; may: what of the firm's business their role allows."""

    id: str
    firm_id: str
    firm_name: str
    name: str
    email: str
    role: Role
    may: list[Action]
    second_factor: bool


class SessionOut(BaseModel):
    """One of somebody's own sessions; this: the one that asks."""

    id: str
    agent: str
    source: str
    made_at: Moment
    seen_at: Moment
    this: bool


class PasswordIn(Strict):
    old: str = Password
    new: str = Password


class ProofIn(Strict):
    """The password once more, before something that a stranger at an open screen must not do."""

    password: str = Password


class ForgottenIn(Strict):
    email: str = Field(max_length=400)


class LinkIn(Strict):
    token: str = Field(max_length=100)


class LinkOut(BaseModel):
    """What a link is good for, and for whom; name and email are empty where a firm is to be set up."""

    purpose: Literal["set-up", "invite", "reset"]
    name: str
    email: str
    firm_name: str
    nations: list[str]
    rule_books: list[RuleBookOut]


class Letterhead(Strict):
    """What stands on the firm's paper, and the nation whose rules it mostly works by."""

    name: str = Field(max_length=120)
    address: str = Field(default="", max_length=300)
    phone: str = Field(default="", max_length=40)
    email: str = Field(default="", max_length=190)
    letter_line: str = Field(default="", max_length=200)
    nation: str = Field(default="", max_length=60)


class UseLink(Strict):
    """What a link is used with: a password, and where a firm is set up the firm, its rule book and who sets it up."""

    token: str = Field(max_length=100)
    password: str = Password
    firm: Letterhead | None = None
    rule_book: str | None = Field(default=None, max_length=60)
    name: str | None = Field(default=None, max_length=120)
    email: str | None = Field(default=None, max_length=400)


class SecondFactorOut(BaseModel):
    """The secret for a device: as letters, as an address, and drawn (SVG)."""

    secret: str
    uri: str
    drawing: str


class CodeIn(Strict):
    code: str = Field(max_length=40)


class RecoveryOut(BaseModel):
    """Codes for the day on which the device is lost; each is good once. Shown this one time."""

    codes: list[str]


class AccountOut(BaseModel):
    """One's own account: sessions, the one used last first, and how many recovery codes are left."""

    sessions: list[SessionOut]
    second_factor: bool
    recovery_left: int


class PersonOut(BaseModel):
    id: str
    name: str
    email: str
    role: Role
    state: Literal["invited", "active", "ended"]
    second_factor: bool
    ended_at: Moment | None


class PersonIn(Strict):
    name: str = Field(max_length=120)
    email: str = Field(max_length=400)
    role: Role


class PersonChange(Strict):
    name: str | None = Field(default=None, max_length=120)
    role: Role | None = None


class InvitedOut(BaseModel):
    """Somebody, and their link: mailed where mail is set up, else here to be handed on; it is shown this one time."""

    person: PersonOut
    link: str | None
    mailed: bool


class AuditLine(BaseModel):
    id: int
    at: Moment
    person: str
    action: str
    subject: str
    detail: dict[str, Any] | None
    source: str


class AuditOut(BaseModel):
    """Lines of the audit log, the latest first; count: of all there are."""

    count: int
    actions: list[str]
    lines: list[AuditLine]
