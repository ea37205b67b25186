"""What the screens need to know before any inspection, over the line."""

from typing import Literal

from pydantic import BaseModel

from dorrik.core.judging.served.walk import Looked
from dorrik.core.judging.wire.judgement import CatalogueView
from dorrik.core.work.workflow import Action


class TakesOut(BaseModel, from_attributes=True):
    """The function of an instrument whose readings a figure takes, and the units that it may show."""

    key: str
    label: str
    units: list[str]


class LimitReasonsOut(BaseModel, from_attributes=True):
    """Why a figure can be a limitation; also: the field in which the chosen reason is kept too, '' for none."""

    reasons: list[str]
    also: str


class FieldOut(BaseModel):
    """A declared field; stage: where it is entered, '' in the register; action: what a change of it is; takes: what an
    instrument must be set to for it, limited: why it can be a limitation; None where nothing is measured."""

    stage: str
    action: Action
    kind: str
    label: str
    unit: str
    choices: list[str]
    max_length: int
    low: float | None
    high: float | None
    takes: TakesOut | None
    limited: LimitReasonsOut | None


class DeviceOut(BaseModel):
    standard: str
    type: str
    lowest_a: float
    highest_a: float
    current: bool


class HouseRuleOut(BaseModel):
    name: str
    label: str
    default: float | str
    choices: list[float | str]
    why: str


class RuleBookOut(BaseModel):
    key: str
    name: str
    nation: str


class BoardCheckOut(BaseModel):
    """Something to look at on every board, and the observation it would raise ('' for none)."""

    key: str
    label: str
    observation: str


class OperatorFaultOut(BaseModel, from_attributes=True):
    """Something on the network operator's side; urgent: somebody may be in danger by it."""

    key: str
    label: str
    urgent: bool


class WorkOut(BaseModel, from_attributes=True):
    """A kind of work on a repair; of: kinds of things that it is done to."""

    key: str
    label: str
    of: tuple[str, ...]


class PositionOut(BaseModel, from_attributes=True):
    """How a switch, breaker or isolator can stand while a reading is taken; of: which, in one position at a time;
    opens: what lies beyond it is not in the reading; lasts: it is of the whole board."""

    of: str
    says: str
    opens: bool
    lasts: bool


class UsualRoomOut(BaseModel, from_attributes=True):
    """A room as it is offered in the usual order of a walk; points: kinds that are counted there."""

    name: str
    kind: str
    floor: str
    points: list[str]


class UsualCircuitOut(BaseModel, from_attributes=True):
    """A circuit as it is offered at a board; button: words of its button, in the order of `at`, '' for none."""

    name: str
    button: str
    at: int
    fields: dict[str, str | float | bool]
    also: list[str]


class ColumnOut(BaseModel, from_attributes=True):
    """A column of the tables of tests: the field in it, its words, and where it is measured."""

    key: str
    label: str
    head: list[str]
    stage: Literal["", "dead", "live"]
    check: bool
    hint: str


class Reference(BaseModel):
    """What the screens need to know before any inspection.

    columns: what is measured on circuits, their RCDs and boards, by kind, in the order of the work; usual_cables: sizes
    of line and cpc as they are chosen, `2.5/1.5` (mm²).
    """

    fields: dict[str, dict[str, FieldOut]]
    columns: dict[str, list[ColumnOut]]
    board_checks: list[BoardCheckOut]
    works: list[WorkOut]
    operator_faults: list[OperatorFaultOut]
    positions: list[PositionOut]
    usual_rooms: list[UsualRoomOut]
    usual_circuits: list[UsualCircuitOut]
    usual_cables: list[str]
    usual_basins_m: dict[str, list[float]]
    looks: dict[str, Looked]
    catalogue: list[CatalogueView]
    devices: list[DeviceOut]
    house_rules: list[HouseRuleOut]
    code_meanings: dict[str, str]
    code_order: list[str]
    against_kinds: dict[str, list[str]]
    rule_books: list[RuleBookOut]
    rule_book: str
    caution: str
