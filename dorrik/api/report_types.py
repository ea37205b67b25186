"""Reports over the line: the draft, what stands in its way, and what was issued."""

from datetime import date
from typing import Literal

from pydantic import BaseModel, Field

from dorrik.api.common_types import Moment, Problem, Strict, Words
from dorrik.api.review_types import SignatureIn
from dorrik.core.inspection.stages import Stage


class HindranceOut(BaseModel):
    level: Literal["must", "look"]
    stage: Stage
    text: str


class PageOut(BaseModel):
    """Width and height of a page (pt)."""

    width: float
    height: float


class Preview(BaseModel):
    """What stands in the way of issuing, and the draft: its pages are fetched one by one under its id."""

    seq: int
    points: list[HindranceOut]
    draft: str
    pages: list[PageOut]


class IssueIn(Strict):
    """seen_seq: what the person looked at; reason: needed for a correction; signature: of whoever authorises it."""

    seen_seq: int = Field(ge=0, le=2**31 - 1)
    reason: Words | None = Field(default=None, max_length=500)
    signature: SignatureIn


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
    points: list[HindranceOut] = Field(default_factory=list)


class CheckIn(Strict):
    """What a paper says of itself: its number and its check code."""

    reference: Words = Field(min_length=1, max_length=60)
    code: str = Field(max_length=40)


class CheckedOut(BaseModel):
    """A paper that is genuine; replaced_by: the issue that replaces it, None where it is the last; confirmed_on: when
    it was confirmed that everything it required is done."""

    of: Literal["report", "confirmation"]
    firm: str
    reference: str
    number: int
    issued_at: Moment
    outcome: str
    replaced_by: int | None
    confirmed_on: date | None
