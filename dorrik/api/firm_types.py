"""Wire types of the firm: its rules, its reference tables, its letterhead, how long it keeps what."""

from typing import Any

from pydantic import BaseModel, Field

from dorrik.api.account_types import Letterhead
from dorrik.api.common_types import Moment, Plain, Strict


class CorrectionOut(BaseModel):
    id: str
    table: str
    row: str
    column: str
    value: str
    why: str
    printed: str
    author: str
    made_at: Moment
    withdrawn_at: Moment | None


class FirmRules(Strict):
    """A firm's rule book (null for the first one) and the house rules that differ from their defaults."""

    rule_book: str | None = Field(max_length=60)
    house_rules: dict[str, Plain]


class RetentionIn(Strict):
    """Years after the last work for somebody: until their data may be erased, and until their reports may."""

    keep_years: int = Field(ge=0, le=50)
    keep_reports_years: int = Field(ge=0, le=50)


class FirmOut(BaseModel):
    """What a firm has settled; may_settle: whether the person who asks may change it;
    logo: is there one on its paper?"""

    name: str
    may_settle: bool
    rule_book: str | None
    house_rules: dict[str, Any]
    letterhead: Letterhead
    logo: bool
    may_change_letterhead: bool
    keep_years: int
    keep_reports_years: int
    corrections: list[CorrectionOut]


class TableRowOut(BaseModel):
    row: str
    cells: dict[str, str]


class TableOut(BaseModel):
    """A reference table as printed."""

    name: str
    source: str
    keys: list[str]
    columns: list[str]
    rows: list[TableRowOut]
