"""The inspection: one document of an origin, boards, circuits, observations and limitations.

Every field is declared here once, with its kind, its words and its limits. Identifiers are made where the
thing was made. All values may be missing: an inspection is judged while it grows.
"""

from collections.abc import Mapping
from dataclasses import dataclass, fields
from functools import cache
from types import MappingProxyType
from typing import Any

from dorrik.core import fields as f
from dorrik.core import rule_book
from dorrik.core.devices import devices
from dorrik.core.readings import Reading

EARTHING = ("TN-C-S", "TN-S", "TT")
_STANDARDS = tuple(dict.fromkeys(device.standard for device in devices()))
_TYPES = tuple(dict.fromkeys(device.type for device in devices()))


@dataclass(frozen=True, slots=True, kw_only=True)
class Limitation:
    """Something that was not inspected or tested: what, why, and with whom that was agreed."""

    id: str
    what: str | None = f.text("What was not inspected or tested", 1000)
    reason: str | None = f.text("Reason", 1000)
    agreed_with: str | None = f.text("Agreed with", 120)
    removed: bool | None = f.flag("Removed")


@dataclass(frozen=True, slots=True, kw_only=True)
class Observation:
    """Something found: where, what, its code, and whether it was made good on the spot."""

    id: str
    about_entity: str | None = f.choice("About", "inspection", "board", "circuit")
    about_id: str | None = f.text("About which", 36)
    place: str | None = f.text("Where", 200)
    text: str | None = f.text("What was found", 2000)
    code: str | None = f.choice("Code", "C1", "C2", "C3", "FI", "note")
    code_reason: str | None = f.text("Why this code", 500)
    catalogue_key: str | None = f.text("Catalogue entry", 60)
    mended: bool | None = f.flag("Made good on the day")
    as_left: str | None = f.text("As left", 500)
    removed: bool | None = f.flag("Removed")


@dataclass(frozen=True, slots=True, kw_only=True)
class Circuit:
    """A way of a board: what it feeds, its cable and device, and what was measured on it."""

    id: str
    position: int | None = f.integer("Position", 0, 999)
    way: str | None = f.text("Way", 8)
    designation: str | None = f.text("Circuit", 80)
    spare: bool | None = f.flag("Spare way")
    form: str | None = f.choice("Form", "ring", "radial")
    serves: str | None = f.choice("Serves", "sockets", "lighting", "fixed", "distribution")
    points: int | None = f.integer("Points", 0, 200)
    line_csa_mm2: float | None = f.number("Line", "mm²", 0.5, 120)
    cpc_csa_mm2: float | None = f.number("Cpc", "mm²", 0.5, 120)
    device_standard: str | None = f.choice("Device standard", *_STANDARDS)
    device_type: str | None = f.choice("Device type", *_TYPES)
    device_rating_a: float | None = f.number("Rating", "A", 1, 125)
    device_breaking_ka: float | None = f.number("Breaking capacity", "kA", 0.5, 120)
    rcd_standard: str | None = f.choice("RCD standard", "BS EN 61008", "BS EN 61009", "BS 4293")
    rcd_delay: str | None = f.choice("RCD delay", "none", "S")
    rcd_rated_ma: float | None = f.number("RCD", "mA", 6, 1000)
    fault_protection: str | None = f.choice("Fault protection by", "overcurrent device", "RCD")
    r1_ohm: Reading | None = f.reading("Line end to end", "Ω", "continuity")
    rn_ohm: Reading | None = f.reading("Neutral end to end", "Ω", "continuity")
    r2_ohm: Reading | None = f.reading("Cpc end to end", "Ω", "continuity")
    r1_r2_ohm: Reading | None = f.reading("R1+R2", "Ω", "continuity")
    insulation_ln_mohm: Reading | None = f.reading("Insulation L–N", "MΩ", "insulation")
    insulation_lne_mohm: Reading | None = f.reading("Insulation L+N–E", "MΩ", "insulation")
    polarity: str | None = f.check("Polarity")
    zs_ohm: Reading | None = f.reading("Zs", "Ω", "loop")
    rcd_trip_ms: Reading | None = f.reading("RCD trip time", "ms", "trip-time")
    rcd_button: str | None = f.check("RCD test button")
    removed: bool | None = f.flag("Removed")


@dataclass(frozen=True, slots=True, kw_only=True)
class Board:
    """A board: where it is, what stands in front of its circuits, and its circuits."""

    id: str
    position: int | None = f.integer("Position", 0, 999)
    name: str | None = f.text("Board", 80)
    location: str | None = f.text("Place", 120)
    ways: int | None = f.integer("Ways", 1, 72)
    main_switch_a: float | None = f.number("Main switch", "A", 16, 400)
    conditional_ka: float | None = f.number("Conditional rating", "kA", 1, 50)
    zdb_ohm: Reading | None = f.reading("Zdb", "Ω", "loop")
    isolated_at: str | None = f.instant("Proved dead at")
    isolated_lock: str | None = f.text("Lock and tag", 80)
    removed: bool | None = f.flag("Removed")
    circuits: tuple[Circuit, ...] = ()


@dataclass(frozen=True, slots=True, kw_only=True)
class Inspection:
    """One inspection of one installation."""

    id: str
    reference: str | None = f.text("Reference", 30)
    client_name: str | None = f.text("Client", 120)
    client_address: str | None = f.text("Client's address", 300)
    property_address: str | None = f.text("Property", 300)
    occupier_name: str | None = f.text("Occupier", 120)
    tenure: str | None = f.choice(
        "Tenure", "let dwelling", "owner-occupied dwelling", "shared house let by the room", "holiday let"
    )
    purpose: str | None = f.choice(
        "Purpose", "periodic", "change of occupier", "purchase", "before an alteration", "after damage"
    )
    extent: str | None = f.text("Extent", 4000)
    inspected_on: str | None = f.day("Date of inspection")
    rule_book: str | None = f.choice("Rule book", *rule_book.keys())
    house_rules: dict[str, Any] | None = f.options("House rules")
    earthing: str | None = f.choice("Earthing arrangement", *EARTHING)
    phases: str | None = f.choice("Phases", "1", "3")
    service_fuse_standard: str | None = f.text("Service fuse standard", 40)
    service_fuse_a: float | None = f.number("Service fuse", "A", 5, 630)
    tails_mm2: float | None = f.number("Tails", "mm²", 2.5, 240)
    earthing_conductor_mm2: float | None = f.number("Main earthing conductor", "mm²", 1, 120)
    bonding_mm2: float | None = f.number("Main bonding conductor", "mm²", 1, 120)
    bonding_to: str | None = f.text("Main bonding to", 200)
    ze_ohm: Reading | None = f.reading("Ze", "Ω", "loop")
    ze_parallel_removed: bool | None = f.flag("Parallel paths disconnected for Ze")
    pscc_ka: Reading | None = f.reading("PSCC", "kA", "loop")
    pefc_ka: Reading | None = f.reading("PEFC", "kA", "loop")
    supply_polarity: str | None = f.check("Supply polarity")
    condition: str | None = f.text("General condition", 2000)
    declared_outcome: str | None = f.choice("Outcome", "satisfactory", "unsatisfactory")
    outcome_reason: str | None = f.text("Reason for another outcome", 1000)
    next_years: int | None = f.integer("Next inspection in (years)", 1, 10)
    next_reason: str | None = f.text("Reason for the interval", 500)
    boards: tuple[Board, ...] = ()
    observations: tuple[Observation, ...] = ()
    limitations: tuple[Limitation, ...] = ()


@dataclass(frozen=True, slots=True)
class EntityKind:
    """A kind of entity: its class, the kind it belongs to, and the name of its list in the document."""

    name: str
    type: type
    parent: str
    plural: str

    @property
    def fields(self) -> Mapping[str, f.FieldSpec]:
        """The declared fields by name, in their order."""
        return _specs(self.type)


@cache
def _specs(type: type) -> Mapping[str, f.FieldSpec]:
    return MappingProxyType({d.name: d.metadata["spec"] for d in fields(type) if "spec" in d.metadata})


#: Every kind of entity by name, parents before their children. The inspection belongs to a firm.
KINDS: Mapping[str, EntityKind] = MappingProxyType(
    {
        kind.name: kind
        for kind in (
            EntityKind("inspection", Inspection, "firm", "inspections"),
            EntityKind("board", Board, "inspection", "boards"),
            EntityKind("circuit", Circuit, "board", "circuits"),
            EntityKind("observation", Observation, "inspection", "observations"),
            EntityKind("limitation", Limitation, "inspection", "limitations"),
        )
    }
)


def in_order(entities: list[Any]) -> tuple[Any, ...]:
    """Entities as they stand: by position where they have one, then by when they were made; removed ones left out."""
    return tuple(
        sorted(
            (entity for entity in entities if not entity.removed),
            key=lambda entity: (getattr(entity, "position", None) or 0, entity.id),
        )
    )
