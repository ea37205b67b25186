"""The inspection: one document of an origin, bonds, boards, circuits, points, observations and limitations.

Every field is declared here once, with its kind, its words and its limits. Identifiers are made where the
thing was made. All values may be missing: an inspection is judged while it grows.
"""

from collections.abc import Mapping
from dataclasses import fields
from functools import cache
from types import MappingProxyType
from typing import Any

from dorrik.core import fields as f
from dorrik.core import rule_book
from dorrik.core.devices import devices
from dorrik.core.fields import LIVE
from dorrik.core.overload import METHODS, NOT_KNOWN
from dorrik.core.readings import Reading
from dorrik.core.record import record
from dorrik.core.reference import Correction

EARTHING = ("TN-C-S", "TN-S", "TT")
NATIONS = ("England", "Scotland", "Wales", "Northern Ireland", "Ireland")
PHASES = ("L1", "L2", "L3", "all three")
_STANDARDS = tuple(dict.fromkeys(device.standard for device in devices()))
TENURES = ("let dwelling", "owner-occupied dwelling", "shared house let by the room", "holiday let")
PURPOSES = ("periodic", "change of occupier", "purchase", "before an alteration", "after damage")
SERVICES = ("water", "gas", "oil", "structural steel", "lightning protection", "other")
#: Figures of a circuit that are compared over the years.
EARLIER = (
    "r1_ohm",
    "rn_ohm",
    "r2_ohm",
    "r1_r2_ohm",
    "insulation_ln_mohm",
    "insulation_lne_mohm",
    "zs_ohm",
    "rcd_trip_ms",
)
_TYPES = tuple(dict.fromkeys(device.type for device in devices()))


@record(kw_only=True)
class Limitation:
    """Something that was not inspected or tested: what, why, and with whom that was agreed."""

    id: str
    what: str | None = f.text("What was not inspected or tested", 1000)
    reason: str | None = f.text("Reason", 1000)
    agreed_with: str | None = f.text("Agreed with", 120)
    agreed_on: str | None = f.day("Agreed on")
    removed: bool | None = f.flag("Removed")


@record(kw_only=True)
class Observation:
    """Something found: where, what, its code, and whether it was made good on the spot."""

    id: str
    about_entity: str | None = f.choice("About", "inspection", "bond", "board", "circuit", "point")
    about_id: str | None = f.text("About which", 36)
    place: str | None = f.text("Where", 200)
    text: str | None = f.text("What was found", 2000)
    code: str | None = f.choice("Code", "C1", "C2", "C3", "FI", "note")
    code_reason: str | None = f.text("Why this code", 500)
    catalogue_key: str | None = f.text("Catalogue entry", 60)
    mended: bool | None = f.flag("Made good on the day")
    as_left: str | None = f.text("As left", 500)
    removed: bool | None = f.flag("Removed")


@record(kw_only=True)
class Overruling:
    """A verdict the inspector sees otherwise: of which figure, what it is taken for, and why."""

    id: str
    about_id: str | None = f.text("About which", 36)
    field: str | None = f.text("Figure", 40)
    status: str | None = f.choice("Taken for", "pass", "attention", "fail")
    reason: str | None = f.text("Reason", 500)
    removed: bool | None = f.flag("Removed")


@record(kw_only=True)
class Bond:
    """A main bond: to which service, whether it is there, its conductor, and its continuity at clamp and pipe."""

    id: str
    position: int | None = f.integer("Position", 0, 999)
    service: str | None = f.choice("Bond to", *SERVICES)
    state: str | None = f.choice("Found", "present", "missing", "not seen", "plastic service")
    place: str | None = f.text("Place", 120)
    csa_mm2: float | None = f.number("Conductor", "mm²", 1, 120)
    length_m: float | None = f.number("Length", "m", 0, 200)
    at_clamp_ohm: Reading | None = f.reading("At the clamp", "Ω", "continuity")
    at_pipe_ohm: Reading | None = f.reading("At the pipe", "Ω", "continuity")
    unconfirmed: bool | None = f.flag("Carried over, not yet seen")
    removed: bool | None = f.flag("Removed")


@record(kw_only=True)
class Point:
    """A point of a circuit: an accessory or a fitting, where it is, what was seen and measured there."""

    id: str
    position: int | None = f.integer("Position", 0, 999)
    name: str | None = f.text("Point", 80)
    room: str | None = f.text("Room", 80)
    sort: str | None = f.choice("Kind", "socket", "light", "switch", "fused unit", "fixed equipment", "joint")
    at_end: bool | None = f.flag("End of the line, or a defect before")
    opened: bool | None = f.flag("Opened")
    defect: str | None = f.text("Kind of defect", 60)
    class_ii: bool | None = f.flag("Class II, no earth needed")
    line_neutral_ohm: Reading | None = f.reading("Line to neutral", "Ω", "continuity")
    line_cpc_ohm: Reading | None = f.reading("Line to cpc", "Ω", "continuity")
    r2_ohm: Reading | None = f.reading("R2 by long lead", "Ω", "continuity")
    retested: bool | None = f.flag("Re-plugged, switch worked, tested again")
    polarity: str | None = f.check("Polarity here")
    line_neutral_v: float | None = f.number("Voltage L–N", "V", 0, 1000)
    line_earth_v: float | None = f.number("Voltage L–E", "V", 0, 1000)
    neutral_earth_v: float | None = f.number("Voltage N–E", "V", 0, 1000)
    bathroom: bool | None = f.flag("In a room with a bath or shower")
    height_m: float | None = f.number("Height", "m", 0, 10)
    distance_m: float | None = f.number("From bath or tray", "m", 0, 20)
    inside_basin: bool | None = f.flag("Inside bath or tray")
    no_basin: bool | None = f.flag("Shower without a tray")
    screened: bool | None = f.flag("Behind a fixed partition")
    shower_head_m: float | None = f.number("Fixed shower head", "m", 0, 5)
    jets: bool | None = f.flag("Cleaned with water jets")
    water_protection: int | None = f.integer("IPX", 0, 9)
    removed: bool | None = f.flag("Removed")


@record(kw_only=True)
class Earlier:
    """A figure of this circuit from an earlier report or its first certificate."""

    id: str
    measured_on: str | None = f.day("Measured on")
    figure: str | None = f.choice("Figure", *EARLIER)
    reading: Reading | None = f.reading("Earlier reading", "", "continuity")
    source: str | None = f.text("From", 120)
    removed: bool | None = f.flag("Removed")


@record(kw_only=True)
class Circuit:
    """A way of a board: what it feeds, its cable and device, and what was measured on it."""

    id: str
    position: int | None = f.integer("Position", 0, 999)
    way: str | None = f.text("Way", 8)
    designation: str | None = f.text("Circuit", 80)
    spare: bool | None = f.flag("Spare way")
    untraced: bool | None = f.flag("What it feeds is not known")
    phase: str | None = f.choice("Phase", *PHASES)
    rcd_group: str | None = f.text("RCD group", 8)
    form: str | None = f.choice("Form", "ring", "radial")
    serves: str | None = f.choice("Serves", "sockets", "lighting", "fixed", "distribution")
    points: int | None = f.integer("Points", 0, 200)
    line_csa_mm2: float | None = f.number("Line", "mm²", 0.5, 120)
    cpc_csa_mm2: float | None = f.number("Cpc", "mm²", 0.5, 120)
    cable_method: str | None = f.choice("Installation method", *METHODS, NOT_KNOWN)
    cable_length_m: float | None = f.number("Cable length", "m", 0, 1000)
    cable_hidden: bool | None = f.flag("Cable in a wall under 50 mm deep")
    design_current_a: float | None = f.number("Design current", "A", 0, 400)
    one_fused_load: bool | None = f.flag("Feeds one fused load, no branch")
    load_fuse_a: float | None = f.number("Fuse at the load", "A", 1, 125)
    outdoors: bool | None = f.flag("Feeds equipment outdoors")
    bathroom: bool | None = f.flag("Serves a bathroom")
    load: str | None = f.choice("Load", "resistive", "electronics", "variable-speed", "inverter", "vehicle")
    dc_detection: bool | None = f.flag("Load detects d.c. itself")
    device_standard: str | None = f.choice("Device standard", *_STANDARDS)
    device_type: str | None = f.choice("Device type", *_TYPES)
    device_rating_a: float | None = f.number("Rating", "A", 1, 125)
    device_breaking_ka: float | None = f.number("Breaking capacity", "kA", 0.5, 120)
    rcd_standard: str | None = f.choice("RCD standard", "BS EN 61008", "BS EN 61009", "BS 4293")
    rcd_delay: str | None = f.choice("RCD delay", "none", "S")
    rcd_rated_ma: float | None = f.number("RCD", "mA", 6, 1000)
    rcd_kind: str | None = f.choice("RCD kind", "AC", "A", "F", "B")
    fault_protection: str | None = f.choice("Fault protection by", "overcurrent device", "RCD")
    r1_ohm: Reading | None = f.reading("Line end to end", "Ω", "continuity")
    rn_ohm: Reading | None = f.reading("Neutral end to end", "Ω", "continuity")
    r2_ohm: Reading | None = f.reading("Cpc end to end", "Ω", "continuity")
    r1_r2_ohm: Reading | None = f.reading("R1+R2", "Ω", "continuity")
    insulation_ln_mohm: Reading | None = f.reading("Insulation L–N", "MΩ", "insulation")
    insulation_lne_mohm: Reading | None = f.reading("Insulation L+N–E", "MΩ", "insulation")
    insulation_le_mohm: Reading | None = f.reading("Insulation L–E", "MΩ", "insulation")
    insulation_ne_mohm: Reading | None = f.reading("Insulation N–E", "MΩ", "insulation")
    insulation_test_v: str | None = f.choice("Insulation tested at", "250", "500", "1000")
    insulation_leg_one_mohm: Reading | None = f.reading("Insulation, first leg", "MΩ", "insulation")
    insulation_leg_two_mohm: Reading | None = f.reading("Insulation, second leg", "MΩ", "insulation")
    polarity: str | None = f.check("Polarity")
    zs_ohm: Reading | None = f.reading("Zs", "Ω", "loop")
    rcd_trip_ms: Reading | None = f.reading("RCD trip time", "ms", "trip-time")
    rcd_button: str | None = f.check("RCD test button")
    rcd_half: str | None = f.check("RCD holds at ½ × IΔn")
    rcd_five_ms: Reading | None = f.reading("RCD trip time at 5 × IΔn", "ms", "trip-time")
    joined_with: str | None = f.text("Found joined with", 80)
    joined_by: str | None = f.choice("Joined by", "line", "neutral", "all conductors", "exchanged ends")
    afdd_button: str | None = f.check("AFDD test button")
    leakage_ma: Reading | None = f.reading("Standing leakage", "mA", "leakage")
    unconfirmed: bool | None = f.flag("Carried over, not yet seen")
    removed: bool | None = f.flag("Removed")
    outlets: tuple[Point, ...] = ()
    earlier: tuple[Earlier, ...] = ()


@record(kw_only=True)
class Isolation:
    """One safe isolation of a board: each step when it was done, the pairings tested, and when it was put back."""

    id: str
    by: str | None = f.text("By", 120)
    source: str | None = f.text("Tester proved on", 80)
    proved_at: str | None = f.instant("Tester proved")
    isolated_at: str | None = f.instant("Isolated")
    isolated_where: str | None = f.text("Isolated at", 80)
    lock: str | None = f.text("Lock and tag", 80)
    key_with: str | None = f.text("Key with", 80)
    pairings: dict[str, str] | None = f.pairings("Pairings tested")
    proved_again_at: str | None = f.instant("Tester proved again")
    restored_at: str | None = f.instant("Restored")
    removed: bool | None = f.flag("Removed")

    @property
    def proved_dead(self) -> bool:
        """Were all steps taken, with no pairing found live?"""
        steps = (self.proved_at, self.isolated_at, self.pairings, self.proved_again_at)
        return all(steps) and LIVE not in (self.pairings or {}).values()


@record(kw_only=True)
class Check:
    """Something looked at on a board: what, and how it was found. `item` is a key of `board_checks`."""

    id: str
    item: str | None = f.text("Check", 40)
    state: str | None = f.choice("Found", "good", "not good", "LIM", "N/A")
    note: str | None = f.text("Note", 300)
    removed: bool | None = f.flag("Removed")


@record(kw_only=True)
class Attendance:
    """Somebody's time on site: one visit of one inspector."""

    id: str
    who: str | None = f.text("Who", 120)
    purpose: str | None = f.choice("For", "inspection", "second inspector", "return visit")
    arrived_at: str | None = f.instant("Arrived")
    left_at: str | None = f.instant("Left")
    note: str | None = f.text("Note", 300)
    removed: bool | None = f.flag("Removed")


@record(kw_only=True)
class Photo:
    """A photo by reference: what it shows, and the SHA-256 of its content, by which it is stored."""

    id: str
    about_entity: str | None = f.choice("About", "inspection", "bond", "board", "circuit", "point", "observation")
    about_id: str | None = f.text("About which", 36)
    shows: str | None = f.choice("Shows", "circuit chart", "defect", "overview", "as left")
    caption: str | None = f.text("Caption", 200)
    sha256: str | None = f.text("Content", 64)
    taken_at: str | None = f.instant("Taken")
    removed: bool | None = f.flag("Removed")


@record(kw_only=True)
class Meter:
    """An instrument used at this inspection, as the firm's book had it on the day."""

    id: str
    register_id: str | None = f.text("Entry in the book", 36)
    name: str | None = f.text("Instrument", 80)
    sort: str | None = f.text("Kind", 40)
    serial: str | None = f.text("Serial number", 60)
    calibration_due: str | None = f.day("Calibration due", ahead_days=3660)
    continuity_percent: float | None = f.number("Continuity ±", "%", 0, 50)
    continuity_digits: float | None = f.number("Continuity ±", "digits", 0, 100)
    insulation_percent: float | None = f.number("Insulation ±", "%", 0, 50)
    insulation_digits: float | None = f.number("Insulation ±", "digits", 0, 100)
    loop_percent: float | None = f.number("Loop ±", "%", 0, 50)
    loop_digits: float | None = f.number("Loop ±", "digits", 0, 100)
    trip_percent: float | None = f.number("RCD time ±", "%", 0, 50)
    trip_digits: float | None = f.number("RCD time ±", "ms", 0, 100)
    removed: bool | None = f.flag("Removed")


@record(kw_only=True)
class LeadNull:
    """One null of the leads: which set, what it should read, what it read, and when (rule 1.4)."""

    id: str
    leads_id: str | None = f.text("Entry in the book", 36)
    name: str | None = f.text("Lead set", 80)
    known_ohm: float | None = f.number("Known resistance", "Ω", 0, 5)
    reading_ohm: Reading | None = f.reading("Null", "Ω", "continuity")
    nulled_at: str | None = f.instant("Nulled")
    removed: bool | None = f.flag("Removed")


@record(kw_only=True)
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
    insulation_ln_mohm: Reading | None = f.reading("Insulation of the board, L–N", "MΩ", "insulation")
    insulation_lne_mohm: Reading | None = f.reading("Insulation of the board, L+N–E", "MΩ", "insulation")
    spd_state: str | None = f.choice("Surge protection", "sound", "spent", "none", "not verified")
    spd_uc_v: float | None = f.number("Surge device Uc", "V", 50, 1000)
    spd_u_dc_v: Reading | None = f.reading("Varistor test", "V d.c.", "direct-voltage")
    fed_by: str | None = f.text("Fed from which way", 36)
    phases: str | None = f.choice("Phases of the board", "1", "3")
    earthing: str | None = f.choice("Earth of the board", "of the supply", "own electrode")
    electrode_ohm: Reading | None = f.reading("Electrode RA", "Ω", "loop")
    isolated_at: str | None = f.instant("Proved dead at")
    isolated_lock: str | None = f.text("Lock and tag", 80)
    unconfirmed: bool | None = f.flag("Carried over, not yet seen")
    removed: bool | None = f.flag("Removed")
    circuits: tuple[Circuit, ...] = ()
    isolations: tuple[Isolation, ...] = ()
    checks: tuple[Check, ...] = ()

    @property
    def proved_dead(self) -> str | None:
        """When the board was last proved dead with everything that belongs to it; None where it never was."""
        proved = [one.proved_again_at for one in self.isolations if one.proved_dead and one.proved_again_at]
        return max(proved, default=self.isolated_at)


@record(kw_only=True)
class Inspection:
    """One inspection of one installation."""

    id: str
    reference: str | None = f.text("Reference", 30)
    client_name: str | None = f.text("Client", 120)
    client_address: str | None = f.text("Client's address", 300)
    property_address: str | None = f.text("Property", 300)
    occupier_name: str | None = f.text("Occupier", 120)
    tenure: str | None = f.choice("Tenure", *TENURES)
    purpose: str | None = f.choice("Purpose", *PURPOSES)
    nation: str | None = f.choice("Nation", *NATIONS)
    property_id: str | None = f.text("Property in the book", 36)
    installation_id: str | None = f.text("Installation in the book", 36)
    installation_name: str | None = f.text("Installation", 80)
    job_id: str | None = f.text("Job in the book", 36)
    must_stay_on: str | None = f.text("Must stay on", 300)
    power_off: str | None = f.text("Power off", 60)
    access: str | None = f.text("Access", 500)
    carried_from: str | None = f.text("Carried over from", 200)
    held_at: str | None = f.instant("Put on hold")
    held_reason: str | None = f.text("On hold because", 500)
    return_on: str | None = f.day("Return visit", ahead_days=3660)
    extent: str | None = f.text("Extent", 4000)
    inspected_on: str | None = f.day("Date of inspection")
    rule_book: str | None = f.choice("Rule book", *rule_book.keys())
    house_rules: dict[str, Any] | None = f.options("House rules")
    table_corrections: tuple[Correction, ...] | None = f.corrections("Tables corrected")
    records: str | None = f.choice("Earlier papers", "good", "fair", "poor", "none")
    condition_on_sight: str | None = f.choice("Condition on sight", "good", "fair", "poor")
    sampling_seed: int | None = f.integer("Seed of the draw", 0, 2**31 - 1)
    leads_ohm: float | None = f.number("Lead resistance", "Ω", 0, 5)
    earthing: str | None = f.choice("Earthing arrangement", *EARTHING)
    phases: str | None = f.choice("Phases", "1", "3")
    service_fuse_standard: str | None = f.text("Service fuse standard", 40)
    service_fuse_a: float | None = f.number("Service fuse", "A", 5, 630)
    tails_mm2: float | None = f.number("Tails", "mm²", 2.5, 240)
    tails_length_m: float | None = f.number("Length of the tails", "m", 0, 100)
    tails_protected: bool | None = f.flag("Switch-fuse in front of the tails")
    switch_fuse_a: float | None = f.number("Switch-fuse in front", "A", 5, 630)
    neutral_mm2: float | None = f.number("Supply neutral", "mm²", 2.5, 240)
    electrode: str | None = f.text("Electrode", 120)
    leakage_ma: Reading | None = f.reading("Leakage at the tails", "mA", "leakage")
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
    bonds: tuple[Bond, ...] = ()
    boards: tuple[Board, ...] = ()
    observations: tuple[Observation, ...] = ()
    limitations: tuple[Limitation, ...] = ()
    overrulings: tuple[Overruling, ...] = ()
    attendances: tuple[Attendance, ...] = ()
    meters: tuple[Meter, ...] = ()
    lead_nulls: tuple[LeadNull, ...] = ()
    photos: tuple[Photo, ...] = ()


@record
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

    @property
    def revived(self) -> tuple[str, ...]:
        """Fields whose kept value is not yet what the rules use."""
        return _revived(self.type)


@cache
def _specs(type: type) -> Mapping[str, f.FieldSpec]:
    return MappingProxyType({d.name: d.metadata["spec"] for d in fields(type) if "spec" in d.metadata})


@cache
def _revived(type: type) -> tuple[str, ...]:
    return tuple(name for name, spec in _specs(type).items() if spec.kind in ("reading", "corrections"))


#: Every kind of entity by name, parents before their children. The inspection belongs to a firm.
KINDS: Mapping[str, EntityKind] = MappingProxyType(
    {
        kind.name: kind
        for kind in (
            EntityKind("inspection", Inspection, "firm", "inspections"),
            EntityKind("bond", Bond, "inspection", "bonds"),
            EntityKind("board", Board, "inspection", "boards"),
            EntityKind("circuit", Circuit, "board", "circuits"),
            EntityKind("point", Point, "circuit", "outlets"),
            EntityKind("earlier", Earlier, "circuit", "earlier"),
            EntityKind("observation", Observation, "inspection", "observations"),
            EntityKind("limitation", Limitation, "inspection", "limitations"),
            EntityKind("overruling", Overruling, "inspection", "overrulings"),
            EntityKind("isolation", Isolation, "board", "isolations"),
            EntityKind("check", Check, "board", "checks"),
            EntityKind("attendance", Attendance, "inspection", "attendances"),
            EntityKind("meter", Meter, "inspection", "meters"),
            EntityKind("lead_null", LeadNull, "inspection", "lead_nulls"),
            EntityKind("photo", Photo, "inspection", "photos"),
        )
    }
)


def name_of(circuit: Circuit) -> str:
    """Way and designation, as people call a circuit."""
    if circuit.way and circuit.designation:
        return f"{circuit.way} {circuit.designation}"
    return circuit.way or circuit.designation or "Unnamed circuit"


def in_order(entities: list[Any]) -> tuple[Any, ...]:
    """Entities as they stand: by position where they have one, then by when they were made; removed ones left out."""
    return tuple(
        sorted(
            (entity for entity in entities if not entity.removed),
            key=lambda entity: (getattr(entity, "position", None) or 0, entity.id),
        )
    )
