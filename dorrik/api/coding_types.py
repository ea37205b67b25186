"""Coding over the wire: what colleagues chose, second opinions, agreement, and the firm's own entries."""

from typing import Any

from pydantic import BaseModel, Field

from dorrik.api.common_types import Moment, Strict, Words
from dorrik.core.judging.result.classification import SchoolView
from dorrik.core.judging.wire.judgement import CatalogueView


class ChosenOut(BaseModel):
    """How often colleagues gave each code for an entry, other inspections than this one."""

    codes: dict[str, int]


class WaitingOpinion(BaseModel):
    """An observation that waits for a second opinion, without its code; photos: digests of those pinned to it."""

    inspection_id: str
    reference: str | None
    observation_id: str
    text: str | None
    place: str | None
    key: str | None
    title: str | None
    look: str | None
    views: list[SchoolView]
    answers: dict[str, bool]
    photos: list[str]
    asked_at: Moment


class WaitingOpinions(BaseModel):
    """A page of what waits, the oldest first, and how many wait in all."""

    items: list[WaitingOpinion]
    count: int


class AgreementOut(BaseModel):
    """How far first codes and second opinions agree: pairs, their share that is equal, and kappa, the share beyond
    chance (null where chance explains all)."""

    name: str
    pairs: int
    share: float
    kappa: float | None


class Agreements(BaseModel):
    """Agreement of the firm as a whole (null without a pair), by entry and by who gave the first code."""

    whole: AgreementOut | None
    by_entry: list[AgreementOut]
    by_person: list[AgreementOut]


class OwnEntryIn(Strict):
    """A firm's own entry, or what it changes of a built-in one."""

    title: Words | None = Field(default=None, max_length=300)
    group: Words | None = Field(default=None, max_length=300)
    look: Words | None = Field(default=None, max_length=300)
    code: str | None = Field(default=None, max_length=10)
    why: Words | None = Field(default=None, max_length=300)
    strict: str | None = Field(default=None, max_length=10)
    strict_why: Words | None = Field(default=None, max_length=300)
    mild: str | None = Field(default=None, max_length=10)
    mild_why: Words | None = Field(default=None, max_length=300)
    plain: Words | None = Field(default=None, max_length=300)
    remedy: Words | None = Field(default=None, max_length=300)
    words: Words | None = Field(default=None, max_length=300)


class OwnEntryOut(BaseModel):
    """An entry the firm made or changed: what it says of its own, by whom, when; built_in: is there one under it?"""

    key: str
    says: dict[str, str]
    author: str
    made_at: Moment
    built_in: bool


class FirmCatalogue(BaseModel):
    """The whole catalogue as new inspections have it, and what of it is the firm's."""

    entries: list[CatalogueView]
    own: list[OwnEntryOut]
    may_settle: bool


class TakenOut(BaseModel):
    """What came of a file: how many entries it had and how many of them said something new; wrong: what could not be
    taken, line by line. With anything wrong nothing is taken."""

    entries: int
    changed: int
    wrong: list[dict[str, Any]]
    catalogue: FirmCatalogue
