"""What the grids of tests are drawn from beside their figures: insulation as it adds up, checks, no Zs."""

from typing import Literal

from pydantic import BaseModel

from dorrik.api.stages import Status


class NotPossibleOut(BaseModel):
    """A reason for which there is no Zs of these circuits, and the catalogue entry that it raises of which device."""

    reason: str
    key: str
    entity: str
    entity_id: str
    name: str
    circuit_ids: list[str]


class LiveCheckOut(BaseModel):
    """A figure or a tick beside Zs and the RCDs, in the order in which it is gone through; hint: how it is done."""

    board_id: str
    group: Literal["surge", "leakage", "functional"]
    entity: str
    entity_id: str
    field: str
    hint: str


class InsulationRowOut(BaseModel):
    """A circuit's insulation in one pairing: as read, the lower end of it (MΩ), its part of the board's leakage (0 to
    1); parts: L–E and N–E as read apart; parts_apart: those far below the same of the neighbours."""

    circuit_id: str
    name: str
    text: str
    mohm: float | None
    part: float
    low: bool
    apart: bool
    first: bool
    parts: str
    parts_apart: list[str]


class InsulationOut(BaseModel):
    """How a board's insulation adds up, what to open first, the causes to check, and what the client is told."""

    board_id: str
    field: str
    pairing: str
    combined: str
    minimum_mohm: float
    attention_mohm: float
    status: Status
    says: str
    without: str
    rows: list[InsulationRowOut]
    missing: list[str]
    causes: list[str]
    client: str
