"""The kinds of entity of an inspection, and what follows from their declarations."""

from collections.abc import Mapping
from dataclasses import fields, replace
from functools import cache
from types import MappingProxyType

from dorrik.core.basics.record import record
from dorrik.core.inspection.attendance import Attendance, InstrumentUsed, LeadNull, PutBackRecord
from dorrik.core.inspection.check import Check
from dorrik.core.inspection.circuit import Circuit
from dorrik.core.inspection.dating import Dating
from dorrik.core.inspection.earlier import Earlier
from dorrik.core.inspection.field_spec import FieldSpec
from dorrik.core.inspection.findings import Declined, Limitation, Observation, Opinion, Overruling, Photo
from dorrik.core.inspection.follow_up import ComeBack, Concern
from dorrik.core.inspection.labels import Label
from dorrik.core.inspection.network_operator import OperatorCall
from dorrik.core.inspection.offer_line import OfferLine
from dorrik.core.inspection.point import Point
from dorrik.core.inspection.positions import Position
from dorrik.core.inspection.records import Board, Bond, Inspection, Isolation, Rcd
from dorrik.core.inspection.repair import AsFound, Repair
from dorrik.core.inspection.room import Room
from dorrik.core.inspection.set_aside import SetAside
from dorrik.core.inspection.stages import TESTED, Stage
from dorrik.core.inspection.wanted_load import WantedLoad


@record
class EntityKind:
    """A kind of entity: its class, the kind it belongs to, and the name of its list in the document.

    stage: where its fields are entered, unless theirs says another; also: kinds that it may hang on instead, as a point
    whose circuit nobody knows yet hangs on the inspection; stays: is it a thing that the next inspection finds again,
    so that its fields are carried over unless theirs say otherwise?
    """

    name: str
    type: type
    parent: str
    plural: str
    stage: Stage = "brief"
    also: tuple[str, ...] = ()
    stays: bool = False

    @property
    def parents(self) -> tuple[str, ...]:
        """Every kind that it may belong to, the usual one first."""
        return (self.parent, *self.also)

    @property
    def fields(self) -> Mapping[str, FieldSpec]:
        """The declared fields by name, in their order."""
        return _specs(self.type)

    @property
    def revived(self) -> tuple[str, ...]:
        """Fields whose kept value is not yet what the rules use."""
        return _revived(self.type)


@cache
def _specs(type: type) -> Mapping[str, FieldSpec]:
    field_specs: dict[str, FieldSpec] = {d.name: d.metadata["spec"] for d in fields(type) if "spec" in d.metadata}
    if type is Earlier:
        # Which figures there are is said where they are declared.
        figures = [name for of in (Circuit, Point) for name, spec in _specs(of).items() if spec.compared]
        field_specs["figure"] = replace(field_specs["figure"], choices=tuple(figures))
    return MappingProxyType(field_specs)


@cache
def _revived(type: type) -> tuple[str, ...]:
    return tuple(name for name, spec in _specs(type).items() if spec.kind in ("reading", "corrections"))


#: Every kind of entity by name, parents before their children. The inspection belongs to a firm.
KINDS: Mapping[str, EntityKind] = MappingProxyType(
    {
        kind.name: kind
        for kind in (
            EntityKind("inspection", Inspection, "firm", "inspections", "intake"),
            EntityKind("bond", Bond, "inspection", "bonds", "intake", stays=True),
            EntityKind("board", Board, "inspection", "boards", "boards", stays=True),
            EntityKind("rcd", Rcd, "board", "rcds", "boards", stays=True),
            EntityKind("circuit", Circuit, "board", "circuits", "boards", stays=True),
            EntityKind("room", Room, "inspection", "rooms", "walk", stays=True),
            EntityKind("point", Point, "circuit", "points", "walk", also=("inspection",)),
            EntityKind("earlier", Earlier, "circuit", "earlier", "boards", also=("point",)),
            EntityKind("observation", Observation, "inspection", "observations", "observations"),
            EntityKind("opinion", Opinion, "observation", "opinions", "observations"),
            EntityKind("declined", Declined, "inspection", "declined", "observations"),
            EntityKind("limitation", Limitation, "inspection", "limitations", "walk"),
            EntityKind("overruling", Overruling, "inspection", "overrulings", "intake"),
            EntityKind("isolation", Isolation, "board", "isolations", "isolation"),
            EntityKind("check", Check, "board", "checks", "boards", also=("room", "inspection")),
            EntityKind("attendance", Attendance, "inspection", "attendances", "brief"),
            EntityKind("instrument_used", InstrumentUsed, "inspection", "instruments_used", "brief"),
            EntityKind("lead_null", LeadNull, "inspection", "lead_nulls", "dead"),
            EntityKind("put_back", PutBackRecord, "inspection", "put_backs", "isolation"),
            EntityKind("position", Position, "inspection", "positions", "intake"),
            EntityKind("come_back", ComeBack, "inspection", "come_backs", "walk"),
            EntityKind("concern", Concern, "inspection", "concerns", "brief"),
            EntityKind("set_aside", SetAside, "inspection", "set_asides", "brief"),
            EntityKind("dating", Dating, "inspection", "datings", "boards"),
            EntityKind("operator_call", OperatorCall, "inspection", "operator_calls", "intake"),
            EntityKind("wanted_load", WantedLoad, "inspection", "wanted_loads", "intake"),
            EntityKind("label", Label, "inspection", "labels", "boards"),
            EntityKind("offer_line", OfferLine, "inspection", "offer_lines", "observations"),
            EntityKind("repair", Repair, "inspection", "repairs", "observations"),
            EntityKind("as_found", AsFound, "repair", "as_founds", "observations"),
            EntityKind("photo", Photo, "inspection", "photos", "walk"),
        )
    }
)


def stage_of(kind: str, name: str) -> Stage:
    """The stage where a field is entered, and where what is said of it stands. What is no field stands with its kind; a
    figure of an earlier report with the same figure of today."""
    declared = KINDS[kind]
    spec = declared.fields.get(name)
    if spec is None and kind == "earlier":
        spec = KINDS["circuit"].fields.get(name)
    return spec.stage or declared.stage if spec is not None else declared.stage


@cache
def asked(kind: str, stage: Stage) -> tuple[str, ...]:
    """Fields of a kind that are asked in a stage of every one of it."""
    fields_of = KINDS[kind].fields.items()
    return tuple(name for name, spec in fields_of if spec.asked and stage_of(kind, name) == stage)


@cache
def staying(kind: str) -> tuple[str, ...]:
    """Fields of a kind that are carried over into the next inspection. What a test showed never is, nor what was
    entered with it, unless its declaration says so."""

    def stays(name: str, spec: FieldSpec) -> bool:
        if spec.stays is not None:
            return spec.stays
        measured = spec.kind == "reading" or stage_of(kind, name) in TESTED
        return KINDS[kind].stays and not measured and name != "removed"

    return tuple(name for name, spec in KINDS[kind].fields.items() if stays(name, spec))


@cache
def compared(kind: str) -> tuple[str, ...]:
    """Figures of a kind that are compared over the years."""
    return tuple(name for name, spec in KINDS[kind].fields.items() if spec.compared)
