"""Wire types of prices for repairs: what there is to price, alternatives, offers that went out, the firm's rates."""

from typing import Literal

from pydantic import BaseModel, Field

from dorrik.api.common_types import Moment, Strict
from dorrik.office.offers import MOST_DAYS, VALID_DAYS


class OpenOut(BaseModel):
    """An observation to be put right; operator: it may be the network operator's."""

    id: str
    code: str
    where: str
    what: str
    operator: bool


class OptionOut(BaseModel):
    """A remedy at one thing, its price by the firm's rates, and the observations that it clears."""

    key: str
    remedy: str
    label: str
    kind: str
    entity: str
    entity_id: str
    where: str
    price: float
    how: str
    minutes: int
    clears: list[str]
    condition: str


class OfferLineOut(BaseModel):
    """A line of an alternative; trouble: what keeps it from being offered; spare: the other lines clear it all."""

    id: str
    option: str
    label: str
    where: str
    price: float | None
    rate: float | None
    how: str
    minutes: int
    clears: list[str]
    condition: str
    trouble: str
    spare: bool


class AlternativeOut(BaseModel):
    number: int
    lines: list[OfferLineOut]
    price: float
    minutes: int
    clears: list[str]
    stays: list[str]
    says: str
    trouble: list[str]


class ProposalOut(BaseModel):
    name: str
    options: list[str]


class OfferJobOut(BaseModel):
    id: str
    number: str
    alternative: int


class OfferedOut(BaseModel):
    """An alternative as it was offered."""

    number: int
    price: float
    minutes: int
    works: list[str]


class OfferOut(BaseModel):
    """An offer that went out. moved: what is not as it was then, in words; job: what it became, null so far."""

    id: str
    number: str
    issued_at: Moment
    issued_by: str
    valid_until: str
    currency: str
    alternatives: list[OfferedOut]
    moved: list[str]
    job: OfferJobOut | None


class PriceOut(BaseModel):
    """Prices of an inspection by today's rates. settled_on: since when those hold, null for the usual ones; terms: how
    prices are meant, '' where the firm has not said."""

    currency: str
    settled_on: str | None
    terms: str
    open: list[OpenOut]
    options: list[OptionOut]
    proposals: list[ProposalOut]
    alternatives: list[AlternativeOut]
    offers: list[OfferOut]


class OfferIn(Strict):
    """An offer is made of the alternatives as they stand; valid_days: how long it holds."""

    valid_days: int = Field(default=VALID_DAYS, ge=1, le=MOST_DAYS)


class AcceptIn(Strict):
    """Which alternative was accepted; as_offered: it holds as it was offered, whatever has changed since."""

    alternative: int = Field(ge=1, le=9)
    as_offered: bool = False


class RepairRateOut(BaseModel):
    """A remedy with the firm's rate, and the usual one beside it."""

    key: str
    label: str
    at: Literal["thing", "circuit", "board", "home"]
    price: float
    each: float
    minutes: int
    each_min: int
    usual: dict[str, float]


class RepairRatesOut(BaseModel):
    may_settle: bool
    currency: str
    terms: str
    settled_on: str | None
    rates: list[RepairRateOut]


class RepairRatesIn(Strict):
    """Rates by key of the remedy and part (price, each, minutes, each_min); parts that are left out are the usual."""

    rates: dict[str, dict[str, float]]
    terms: str = Field(default="", max_length=1000)
