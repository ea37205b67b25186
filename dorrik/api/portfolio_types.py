"""Wire types of a portfolio: its properties with where each stands, its map, and a table that is taken in."""

from datetime import date
from typing import Literal

from pydantic import BaseModel

from dorrik.core.work.portfolio import Holder, State


class StandingOut(BaseModel):
    """One thing that is open at a property: on which day, whether that has passed, what comes next and who has it."""

    state: State
    on: date | None
    late: bool
    next_step: str
    holder: Holder


class PortfolioLineOut(BaseModel):
    """A property of a portfolio; first: the most pressing thing; also: whatever else is open. doubt: why its
    coordinates cannot be right."""

    id: str
    address: str
    reference: str
    client_id: str
    client: str
    nation: str
    due_on: date | None
    first: StandingOut
    also: list[StandingOut]
    placed: bool
    doubt: str | None


class StateCount(BaseModel):
    state: State
    count: int


class NationLaw(BaseModel):
    """What the law of a nation asks of let homes, in a few words."""

    nation: str
    says: str


class PortfolioOut(BaseModel):
    """A page of a portfolio. count: of those that the filters let through; total: of all; states: how many of all that
    pass the other filters stand in each state; unplaced, doubtful: those without coordinates, or with wrong ones."""

    title: str
    client_id: str | None
    today: date
    lines: list[PortfolioLineOut]
    count: int
    total: int
    states: list[StateCount]
    late: int
    nations: list[str]
    laws: list[NationLaw]
    caution: str
    unplaced: int
    doubtful: int


class MapCellOut(BaseModel):
    """A cell of the map. property_id, address: of a single property, '' for several."""

    latitude: float
    longitude: float
    count: int
    state: State
    late: bool
    property_id: str
    address: str


class BoundsOut(BaseModel):
    south: float
    north: float
    west: float
    east: float


class MapOut(BaseModel):
    """A part of the map; whole: what would show all; null where nothing has coordinates."""

    part: BoundsOut | None
    whole: BoundsOut | None
    cells: list[MapCellOut]


class TableColumnOut(BaseModel):
    key: str
    label: str


class CellMistakeOut(BaseModel):
    """A cell that cannot be taken: row from 1, column from 0."""

    row: int
    column: int
    text: str
    reason: str


class PortfolioTableOut(BaseModel):
    """A table as it would be, or was, taken. rows: so many hold anything; sample: the first of them; elsewhere: rows of
    other clients; problem: why nothing can be read yet; added, changed: what was taken."""

    sheets: list[str]
    sheet: int
    head: int
    heads: list[str]
    columns: list[str | None]
    targets: list[TableColumnOut]
    sample: list[list[str]]
    sample_rows: list[int]
    rows: int
    new: int
    known: int
    different: int
    elsewhere: list[str]
    elsewhere_count: int
    mistakes: list[CellMistakeOut]
    mistake_rows: int
    cleaned: int
    problem: str | None
    added: int
    changed: int


Taking = Literal["nothing", "new", "all"]
