"""The inspection: one document of an origin, bonds, boards, circuits, rooms, points, observations and limitations.

Every field is declared here once, with its kind, its words and its limits. Identifiers are made where the
thing was made. All values may be missing: an inspection is judged while it grows.
"""

from typing import Any

from dorrik.core.basics.readings import Reading
from dorrik.core.basics.record import record
from dorrik.core.book import rule_book
from dorrik.core.book.reference import Correction
from dorrik.core.electrical.rcd import KINDS as RCD_KINDS
from dorrik.core.electrical.rcd import standards as rcd_standards
from dorrik.core.inspection import fields as f
from dorrik.core.inspection.attendance import Attendance, InstrumentUsed, LeadNull, PutBackRecord
from dorrik.core.inspection.check import Check
from dorrik.core.inspection.circuit import PHASES, SWITCHES, Circuit, name_of
from dorrik.core.inspection.dating import Dating
from dorrik.core.inspection.earlier import Earlier
from dorrik.core.inspection.field_spec import LIVE, Column
from dorrik.core.inspection.findings import Declined, Limitation, Observation, Opinion, Overruling, Photo
from dorrik.core.inspection.follow_up import ComeBack, Concern
from dorrik.core.inspection.labels import Label
from dorrik.core.inspection.network_operator import OperatorCall
from dorrik.core.inspection.offer_line import OfferLine
from dorrik.core.inspection.point import Point
from dorrik.core.inspection.positions import Position
from dorrik.core.inspection.repair import AsFound, Repair
from dorrik.core.inspection.room import Room
from dorrik.core.inspection.set_aside import SetAside
from dorrik.core.inspection.wanted_load import WantedLoad

__all__ = [
    "EARTHING",
    "NATIONS",
    "PHASES",
    "PURPOSES",
    "SERVICES",
    "TENURES",
    "AsFound",
    "Attendance",
    "Board",
    "Bond",
    "Check",
    "Circuit",
    "ComeBack",
    "Concern",
    "Dating",
    "Declined",
    "Earlier",
    "Inspection",
    "InstrumentUsed",
    "Isolation",
    "Label",
    "LeadNull",
    "Limitation",
    "Observation",
    "OfferLine",
    "OperatorCall",
    "Opinion",
    "Overruling",
    "Photo",
    "Point",
    "Position",
    "Rcd",
    "Repair",
    "Room",
    "SetAside",
    "WantedLoad",
    "in_order",
    "name_of",
]

EARTHING = ("TN-C-S", "TN-S", "TT")
EARTH_BY = ("network operator's terminal", "electrode", "water pipe", "gas pipe")
NATIONS = ("England", "Scotland", "Wales", "Northern Ireland", "Ireland")
TENURES = ("let dwelling", "owner-occupied dwelling", "shared house let by the room", "holiday let")
PURPOSES = ("periodic", "change of occupier", "purchase", "before an alteration", "after damage")
#: Which hand follows the wall: whoever goes round the same way twice misses nothing twice.
WALKS = ("left hand to the wall", "right hand to the wall")
#: Where the main switch of a board stands among its ways.
MAIN_SWITCH_AT = ("left end", "right end", "in the middle")
SERVICES = ("water", "gas", "oil", "structural steel", "lightning protection", "other")


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
    unconfirmed: bool | None = f.flag("Carried over, not yet seen", stays=False)
    removed: bool | None = f.flag("Removed")


@record(kw_only=True)
class Rcd:
    """A residual current device of a board: where it stands, what is marked on it, what its tests showed.

    `place` says what it has behind it: the whole board, the circuits that name it, or one circuit (RCBO).
    """

    id: str
    position: int | None = f.integer("Position", 0, 999)
    name: str | None = f.text("RCD", 40)
    place: str | None = f.choice("Protects", "whole board", "its circuits", "one circuit")
    standard: str | None = f.choice("Standard", *rcd_standards())
    kind: str | None = f.choice("Kind", *RCD_KINDS, asked=True)
    rating_a: float | None = f.number("Rating", "A", 6, 125)
    rated_ma: float | None = f.number("IΔn", "mA", 6, 1000, asked=True)
    delay: str | None = f.choice("Delay", "none", "S")
    delay_ms: float | None = f.number("Marked delay", "ms", 0, 5000)
    trip_ms: Reading | None = f.reading(
        "Trip time", "ms", "trip-time", stage="live", column=Column(head=("Trip", "ms"))
    )
    half: str | None = f.check("No trip at ½ × IΔn", stage="live", column=Column(head=("No trip at", "½ × IΔn")))
    five_ms: Reading | None = f.reading(
        "Trip time at 5 × IΔn", "ms", "trip-time", stage="live", takes="rcd-five", column=Column(head=("At 5 ×", "ms"))
    )
    button: str | None = f.check("Test button", stage="live", column=Column(head=("Test", "button")))
    leakage_ma: Reading | None = f.reading("Standing leakage", "mA", "leakage", stage="live")
    both_ways: str | None = f.choice("Made for current both ways", "yes", "no", "not marked")
    unconfirmed: bool | None = f.flag("Carried over, not yet seen", stays=False)
    removed: bool | None = f.flag("Removed")


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
class Board:
    """A board: where it is, what stands in front of its circuits, and its circuits."""

    id: str
    position: int | None = f.integer("Position", 0, 999)
    name: str | None = f.text("Board", 80, asked=True)
    location: str | None = f.text("Place", 120, printed=("board",))
    ways: int | None = f.integer("Ways", 1, 72, printed=("board",))
    main_switch_a: float | None = f.number("Main switch", "A", 16, 400, asked=True, printed=("board",))
    main_switch_at: str | None = f.choice("Main switch at", *MAIN_SWITCH_AT)
    ways_left: int | None = f.integer("Ways left of the main switch", 0, 72)
    main_switch_kind: str | None = f.choice("Kind of main switch", "switch", "RCCB", "switch-fuse", "breaker", "none")
    outbuilding: bool | None = f.flag("In an outbuilding")
    extraneous: str | None = f.choice("Metal services there", "none", "bonded", "not bonded", "not known")
    only_way_out: bool | None = f.flag("On or under the only escape route")
    no_cpc_notice: bool | None = f.flag("Notice of circuits without cpc")
    conditional_ka: float | None = f.number("Conditional rating", "kA", 1, 50, printed=("board",))
    zdb_ohm: Reading | None = f.reading(
        "Zdb",
        "Ω",
        "loop",
        stage="live",
        asked=True,
        column=Column(label="Zdb at this board", hint="with every bond reconnected"),
        printed=("board",),
    )
    zdb_retested: bool | None = f.flag("Zdb retested on the high-current range", stage="live")
    insulation_ln_mohm: Reading | None = f.reading(
        "Insulation of the board, L–N",
        "MΩ",
        "insulation",
        stage="dead",
        column=Column(hint="all circuits on, all loads disconnected"),
    )
    insulation_lne_mohm: Reading | None = f.reading(
        "Insulation of the board, L+N–E",
        "MΩ",
        "insulation",
        stage="dead",
        column=Column(hint="measure the circuits apart where it is low"),
    )
    insulation_switches: str | None = f.choice("Ways and switches during the insulation test", *SWITCHES, stage="dead")
    insulation_open_at: str | None = f.text("Open switches", 120, stage="dead")
    spd_state: str | None = f.choice("Surge protection", "sound", "spent", "none", "not verified", stays=False)
    spd_uc_v: float | None = f.number("Surge device Uc", "V", 50, 1000)
    spd_u_dc_v: Reading | None = f.reading("Varistor test", "V d.c.", "direct-voltage")
    fed_by: str | None = f.identity("Fed from")
    phases: str | None = f.choice("Phases of the board", "1", "3")
    earthing: str | None = f.choice("Earth of the board", "of the supply", "own electrode")
    electrode_ohm: Reading | None = f.reading("Electrode RA", "Ω", "loop")
    electrode_alone: bool | None = f.flag("RA measured with bonding disconnected", stays=False)
    isolated_at: str | None = f.instant("Proved dead at", stays=False)
    isolated_lock: str | None = f.text("Lock and tag", 80, stays=False)
    unconfirmed: bool | None = f.flag("Carried over, not yet seen", stays=False)
    removed: bool | None = f.flag("Removed")
    circuits: tuple[Circuit, ...] = ()
    isolations: tuple[Isolation, ...] = ()
    checks: tuple[Check, ...] = ()
    rcds: tuple[Rcd, ...] = ()

    @property
    def proved_dead(self) -> str | None:
        """When the board was last proved dead with everything that belongs to it; None where it never was."""
        proved = [
            isolation.proved_again_at
            for isolation in self.isolations
            if isolation.proved_dead and isolation.proved_again_at
        ]
        return max(proved, default=self.isolated_at)


@record(kw_only=True)
class Inspection:
    """One inspection of one installation."""

    id: str
    reference: str | None = f.text("Reference", 30, keeps="number", stage="brief", asked=True)
    client_name: str | None = f.text("Client", 120, stage="brief", asked=True, stays=True)
    client_address: str | None = f.text("Client's address", 300, stage="brief", stays=True)
    property_address: str | None = f.text("Property", 300, stage="brief", asked=True, stays=True)
    occupier_name: str | None = f.text("Occupier", 120, stage="brief", stays=True, printed=("job",))
    tenure: str | None = f.choice("Tenure", *TENURES, stage="brief", asked=True, stays=True, printed=("job",))
    purpose: str | None = f.choice("Purpose", *PURPOSES, stage="brief", asked=True, printed=("job",))
    nation: str | None = f.choice("Nation", *NATIONS, stage="brief", stays=True)
    property_id: str | None = f.identity("Property in the register")
    installation_id: str | None = f.identity("Installation in the register")
    installation_name: str | None = f.text("Installation", 80, stays=True)
    job_id: str | None = f.identity("Job in the register")
    must_stay_on: str | None = f.text("Must stay on", 300, stage="brief")
    power_off: str | None = f.text("Power off", 60, stage="brief")
    access: str | None = f.text("Access", 500, stage="brief")
    carried_from: str | None = f.text("Carried over from", 200)
    held_at: str | None = f.instant("Put on hold", stage="brief")
    held_reason: str | None = f.text("On hold because", 500, stage="brief")
    return_on: str | None = f.day("Return visit", ahead_days=3660)
    operator_called_at: str | None = f.instant("Network operator called", shared=True)
    no_photos: bool | None = f.flag("No photos may be taken", stage="brief")
    extent: str | None = f.text("Extent", 4000, stage="brief", asked=True)
    inspected_on: str | None = f.day("Date of inspection", stage="brief", asked=True)
    rule_book: str | None = f.choice("Rule book", *rule_book.keys(), stays=True)
    house_rules: dict[str, Any] | None = f.options("House rules")
    table_corrections: tuple[Correction, ...] | None = f.corrections("Tables corrected")
    catalogue: list[dict[str, str]] | None = f.entries("The firm's own entries of the catalogue")
    records: str | None = f.choice("Earlier papers", "good", "fair", "poor", "none", stage="walk")
    condition_on_sight: str | None = f.choice("Visible condition", "good", "fair", "poor", stage="walk")
    other_hands: bool | None = f.flag("Signs of alterations", stage="walk")
    damp: bool | None = f.flag("Damp, or weather gets in", stage="walk")
    age_years: int | None = f.integer("Age of the wiring (years)", 0, 150, stage="walk")
    last_report_years: int | None = f.integer("Years since the last report", 0, 100, stage="walk")
    sampling_seed: int | None = f.integer("Seed of the draw", 0, 2**31 - 1, stage="walk")
    sample_share: float | None = f.number("Share of points to open", "%", 1, 100, stage="walk")
    sample_share_reason: str | None = f.text("Why this share", 300, stage="walk")
    walk_direction: str | None = f.choice("Direction of the walk", *WALKS, stage="walk")
    leads_ohm: float | None = f.number("Lead resistance", "Ω", 0, 5)
    earthing: str | None = f.choice(
        "Earthing arrangement",
        *EARTHING,
        asked=True,
        stays=True,
        printed=("supply", "minor works"),
        intake="supply",
        shared=True,
    )
    phases: str | None = f.choice(
        "Phases", "1", "3", asked=True, stays=True, printed=("supply", "minor works"), intake="supply", shared=True
    )
    service_fuse_standard: str | None = f.text(
        "Service fuse standard", 40, stays=True, printed=("supply", "minor works"), intake="head", shared=True
    )
    service_fuse_a: float | None = f.number(
        "Service fuse",
        "A",
        5,
        630,
        asked=True,
        stays=True,
        printed=("supply", "minor works"),
        intake="head",
        shared=True,
    )
    tails_mm2: float | None = f.number(
        "Tails", "mm²", 2.5, 240, asked=True, stays=True, printed=("supply",), intake="tails"
    )
    tails_length_m: float | None = f.number("Length of the tails", "m", 0, 100, stays=True, intake="tails")
    tails_protected: bool | None = f.flag("Switch-fuse in front of the tails", stays=True, intake="switch-fuse")
    switch_fuse_a: float | None = f.number("Switch-fuse in front", "A", 5, 630, stays=True, intake="switch-fuse")
    neutral_mm2: float | None = f.number("Supply neutral", "mm²", 2.5, 240, stays=True, intake="tails")
    earthing_conductor_mm2: float | None = f.number(
        "Main earthing conductor",
        "mm²",
        1,
        120,
        stays=True,
        printed=("supply", "minor works"),
        intake="earth",
        shared=True,
    )
    earth_by: str | None = f.choice(
        "Means of earthing", *EARTH_BY, stays=True, printed=("minor works",), intake="earth", shared=True
    )
    electrode: str | None = f.text("Electrode", 120, stays=True, intake="earth", shared=True)
    meter_number: str | None = f.text("Meter number", 40, stays=True, printed=("supply",), intake="meter")
    meter_seals: str | None = f.choice(
        "Seals of head and meter", "whole", "broken", "none seen", printed=("supply",), intake="meter"
    )
    isolator: str | None = f.choice(
        "Isolator after the meter", "present", "none", stays=True, printed=("supply",), intake="isolator"
    )
    isolator_a: float | None = f.number("Isolator", "A", 16, 630, stays=True, printed=("supply",), intake="isolator")
    fuse_read: str | None = f.choice(
        "Service fuse read on", "the fuse itself", "its carrier alone", "papers", shared=True
    )
    maximum_demand_a: float | None = f.number("Assessed maximum demand", "A", 0, 630)
    demand_measured_a: float | None = f.number("Load measured by clamp", "A", 0, 630)
    other_source: str | None = f.choice(
        "Source of its own", "none", "solar", "battery", "solar and battery", "generator"
    )
    overhead_supply: bool | None = f.flag("Overhead supply", stays=True, intake="head", shared=True)
    storey: str | None = f.choice("Type of home", "house or ground floor", "upper floor flat", stays=True)
    flat_above: bool | None = f.flag("Another dwelling above", stays=True)
    leakage_ma: Reading | None = f.reading("Leakage at the tails", "mA", "leakage", intake="supply")
    bonding_mm2: float | None = f.number("Main bonding conductor", "mm²", 1, 120, printed=("supply",))
    bonding_to: str | None = f.text("Main bonding to", 200, printed=("supply",))
    ze_ohm: Reading | None = f.reading(
        "Ze", "Ω", "loop", asked=True, printed=("supply", "minor works"), intake="ze", shared=True
    )
    ze_parallel_removed: bool | None = f.flag("Parallel paths disconnected for Ze", intake="ze", shared=True)
    pscc_ka: Reading | None = f.reading(
        "PSCC", "kA", "loop", asked=True, printed=("supply",), intake="supply", shared=True
    )
    pefc_ka: Reading | None = f.reading(
        "PEFC", "kA", "loop", asked=True, printed=("supply",), intake="supply", shared=True
    )
    supply_voltage_v: float | None = f.number(
        "Voltage of the supply, L–N", "V", 0, 500, takes="voltage", printed=("supply",), intake="supply"
    )
    supply_polarity: str | None = f.check(
        "Supply polarity", asked=True, printed=("supply",), intake="supply", shared=True
    )
    supply_shared_with: str | None = f.text("Supply shared with", 300, keeps="number")
    condition: str | None = f.text("General condition", 2000, stage="report")
    declared_outcome: str | None = f.choice("Outcome", "satisfactory", "unsatisfactory", stage="report", asked=True)
    outcome_reason: str | None = f.text("Reason for another outcome", 1000, stage="report")
    next_years: int | None = f.integer("Next inspection in (years)", 1, 10, stage="report", asked=True)
    next_reason: str | None = f.text("Reason for the interval", 500, stage="report")
    bonds: tuple[Bond, ...] = ()
    boards: tuple[Board, ...] = ()
    rooms: tuple[Room, ...] = ()
    points: tuple[Point, ...] = ()
    checks: tuple[Check, ...] = ()
    observations: tuple[Observation, ...] = ()
    limitations: tuple[Limitation, ...] = ()
    declined: tuple[Declined, ...] = ()
    overrulings: tuple[Overruling, ...] = ()
    attendances: tuple[Attendance, ...] = ()
    instruments_used: tuple[InstrumentUsed, ...] = ()
    lead_nulls: tuple[LeadNull, ...] = ()
    put_backs: tuple[PutBackRecord, ...] = ()
    positions: tuple[Position, ...] = ()
    come_backs: tuple[ComeBack, ...] = ()
    concerns: tuple[Concern, ...] = ()
    set_asides: tuple[SetAside, ...] = ()
    repairs: tuple[Repair, ...] = ()
    operator_calls: tuple[OperatorCall, ...] = ()
    wanted_loads: tuple[WantedLoad, ...] = ()
    datings: tuple[Dating, ...] = ()
    labels: tuple[Label, ...] = ()
    offer_lines: tuple[OfferLine, ...] = ()
    photos: tuple[Photo, ...] = ()


def in_order(entities: list[Any]) -> tuple[Any, ...]:
    """Entities as they stand: by position where they have one, then by when they were made; removed ones left out."""
    return tuple(
        sorted(
            (entity for entity in entities if not entity.removed),
            key=lambda entity: (getattr(entity, "position", None) or 0, entity.id),
        )
    )
