"""A circuit of a board: what it feeds, its cable and its device, its points, and what was measured on it."""

from dorrik.core.basics.readings import Reading
from dorrik.core.basics.record import record
from dorrik.core.electrical.conductors import CABLE_TYPES, imperial_names
from dorrik.core.electrical.devices import devices
from dorrik.core.electrical.overload import METHODS, NOT_KNOWN
from dorrik.core.electrical.rcd import KINDS as RCD_KINDS
from dorrik.core.electrical.rcd import standards as rcd_standards
from dorrik.core.inspection import fields as f
from dorrik.core.inspection.room import NOT_REACHED

PHASES = ("L1", "L2", "L3", "all three")
_STANDARDS = tuple(dict.fromkeys(device.standard for device in devices()))
_TYPES = tuple(dict.fromkeys(device.type for device in devices()))
POINT_KINDS = (
    "socket",
    "light",
    "switch",
    "fused unit",
    "fixed equipment",
    "joint",
    "cooker outlet",
    "cooker outlet with socket",
    "shaver supply unit",
    "downlights",
    "fan",
    "alarm",
    "shower",
    "pull cord",
    "outdoor point",
)
#: Kinds that always need an earth behind them, however their plate is made (rule 5.2).
CLASS_I_KINDS = ("socket", "fused unit", "cooker outlet", "cooker outlet with socket", "shower")
#: Kinds that can be class II themselves.
MAY_BE_CLASS_II = (
    "light",
    "downlights",
    "switch",
    "pull cord",
    "fan",
    "alarm",
    "shaver supply unit",
    "joint",
    "fixed equipment",
)
#: What a circuit of its own feeds. Those of the first line are fixed class I appliances.
CLASS_I_APPLIANCES = ("cooker", "hob", "shower", "immersion heater", "boiler", "heater", "heat pump", "hot tub")
APPLIANCES = (*CLASS_I_APPLIANCES, "swimming pool", "caravan hook-up", "boat supply", "alarm system", "other")
#: What guards against a broken neutral of the supply where a vehicle is charged outdoors (BS 7671 722.411.4.1).
NEUTRAL_GUARDS = ("own electrode", "device that watches the neutral", "none", "not known")
#: How the continuity of a circuit's points was tested (rule 4.7).
CONTINUITY_METHODS = ("ends cross-connected", "ring left in place", "long lead", "sockets compared")
#: What the age of a circuit is known by (rule 13.6).
DATED_BY = (
    "colours of its cores",
    "type of board",
    "labels",
    "date on an alarm",
    "accessories",
    "papers",
    "what people say",
)
#: Colours of line and neutral: changed from 2004 on, both allowed until 2006 (BS 7671 table 51).
CORE_COLOURS = ("red and black", "brown and blue", "both")
#: Of a screw lampholder the thread belongs to the neutral, unless it is dead until the lamp is in.
SCREW = "screw"
LAMPHOLDERS = ("bayonet", SCREW, "screw, thread dead without a lamp")
#: Where the ends of a ring are opened for its end to end test (rule 4.7).
AT_A_SOCKET = "a socket"
ENDS_AT = ("the board", AT_A_SOCKET)
#: Line and neutral joined to earth, or line–neutral, line–earth and neutral–earth apart (rule 6.3).
INSULATION_PAIRINGS = ("L+N–E", "all three")
#: Whether everything of a circuit was in an insulation test.
SOME_OPEN = "some open"
SWITCHES = ("all closed", SOME_OPEN)
#: A step on the way to the voltage of the insulation test, and no test (rule 6.1).
STEP_V = "100"
#: Kinds at which a circuit ends or which only join or switch it: no points served.
NOT_SERVED = ("switch", "pull cord", "joint")
FINE, DEFECT = LOOKED = ("fine", "defect")
ALARMS = ("smoke", "heat", "carbon monoxide")
#: What is built into a point that a test voltage above 250 V can harm, or that makes its reading false.
DELICATE = ("USB socket", "dimmer", "LED driver", "sensor or timer", "electronic control", "other electronics")
#: What a downlight has above it.
ABOVE = ("open void", "insulation laid on it", "timber close to it", "another dwelling", "not seen")
TRACED = ("on the ring", "on a spur alone", "beyond a point on a spur", "fused")
#: Why a loop test was not made; the first is a fault of the RCD or of its circuits (rule 7.4).
TRIPS = "RCD trips on the test"
NO_ZS = (TRIPS, "no point could be reached", "nothing to test at", "supply was off", "live tests stopped", "other")
#: Figures of a circuit that are compared over the years.
EARLIER = (
    "r1_ohm",
    "rn_ohm",
    "r2_ohm",
    "r1_r2_ohm",
    "long_lead_r2_ohm",
    "insulation_ln_mohm",
    "insulation_lne_mohm",
    "zs_ohm",
    "rcd_trip_ms",
)
#: Figures of a point that are compared over the years.
EARLIER_OF_POINTS = ("line_neutral_ohm", "line_cpc_ohm", "r2_ohm")


@record(kw_only=True)
class Earlier:
    """A figure of this circuit, or of this point, from an earlier report or its first certificate."""

    id: str
    measured_on: str | None = f.day("Measured on")
    figure: str | None = f.choice("Figure", *EARLIER, *EARLIER_OF_POINTS)
    reading: Reading | None = f.reading("Earlier reading", "", "continuity")
    source: str | None = f.text("From", 120)
    removed: bool | None = f.flag("Removed")


@record(kw_only=True)
class Point:
    """A point: an accessory or a fitting, in which room and on which circuit, what was seen and measured there.

    room_id: the room it hangs in; room: what its room is called where no room of the walk stands for it.
    """

    id: str
    position: int | None = f.integer("Position", 0, 999)
    name: str | None = f.text("Point", 80)
    room_id: str | None = f.identity("In which room")
    room: str | None = f.text("Room", 80)
    kind: str | None = f.choice("Kind", *POINT_KINDS)
    at_end: bool | None = f.flag("End of the line, or a defect before")
    looked: str | None = f.choice("Looked at", *LOOKED)
    opened: bool | None = f.flag("Opened")
    tested: bool | None = f.flag("Tested")
    not_reached: str | None = f.choice("Not reached", *NOT_REACHED)
    note: str | None = f.text("Note", 200)
    delicate: str | None = f.choice("Off before 500 V", *DELICATE)
    sample: str | None = f.choice("In the sample by choice", "added", "left out")
    sample_reason: str | None = f.text("Why added or left out", 200)
    alarm: str | None = f.choice("Alarm for", *ALARMS)
    replace_by: str | None = f.day("Replace by", ahead_days=9000)
    above: str | None = f.choice("Above it", *ABOVE)
    fire_rated: bool | None = f.flag("Holds fire back, by its marking")
    plan_x_m: float | None = f.number("From the left wall", "m", 0, 30)
    plan_y_m: float | None = f.number("From the far wall", "m", 0, 30)
    defect: str | None = f.text("Kind of defect", 60, keeps="key")
    class_ii: bool | None = f.flag("Class II, no earth needed")
    front: str | None = f.choice("Front", "metal", "insulating")
    no_cpc: bool | None = f.flag("No cpc at this point")
    accessible_with: str | None = f.text("Touched together with", 120)
    supplementary_ohm: Reading | None = f.reading("To what is touched together", "Ω", "continuity")
    line_neutral_ohm: Reading | None = f.reading("Line to neutral", "Ω", "continuity")
    line_cpc_ohm: Reading | None = f.reading("Line to cpc", "Ω", "continuity")
    r2_ohm: Reading | None = f.reading("R2 by long lead", "Ω", "continuity")
    first_line_neutral_ohm: Reading | None = f.reading("Line to neutral, before the retest", "Ω", "continuity")
    first_line_cpc_ohm: Reading | None = f.reading("Line to cpc, before the retest", "Ω", "continuity")
    first_r2_ohm: Reading | None = f.reading("R2 by long lead, before the retest", "Ω", "continuity")
    zs_ohm: Reading | None = f.reading("Zs here", "Ω", "loop")
    two_gangs: bool | None = f.flag("Two gangs, each tested")
    gang_line_neutral_ohm: Reading | None = f.reading("Line to neutral, second gang", "Ω", "continuity")
    gang_line_cpc_ohm: Reading | None = f.reading("Line to cpc, second gang", "Ω", "continuity")
    gang_r2_ohm: Reading | None = f.reading("R2 by long lead, second gang", "Ω", "continuity")
    gang_zs_ohm: Reading | None = f.reading("Zs here, second gang", "Ω", "loop")
    lampholder: str | None = f.choice("Lampholder", *LAMPHOLDERS)
    centre_contact: str | None = f.check("Line at the centre contact")
    functional: str | None = f.check("Works as it should")
    metal_earth_v: float | None = f.number("Voltage metal to earth", "V", 0, 1000)
    leg_one_ohm: Reading | None = f.reading("Open conductor from the first end", "Ω", "continuity")
    leg_two_ohm: Reading | None = f.reading("Open conductor from the second end", "Ω", "continuity")
    retested: bool | None = f.flag("Re-plugged, switch worked, tested again")
    traced: str | None = f.choice(
        "Traced: it is", "on the ring", "on a spur alone", "beyond a point on a spur", "fused"
    )
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
    ip_unmarked: bool | None = f.flag("No marking found")
    removed: bool | None = f.flag("Removed")
    earlier: tuple[Earlier, ...] = ()

    @property
    def is_tested(self) -> bool:
        """Ticked as tested, or something was measured there."""
        measured = (self.line_neutral_ohm, self.line_cpc_ohm, self.r2_ohm)
        return bool(
            self.tested
            or self.line_neutral_v is not None
            or (self.zs_ohm is not None and self.zs_ohm.value is not None)
            or any(r is not None and r.value is not None for r in measured)
        )


@record(kw_only=True)
class Circuit:
    """A way of a board: what it feeds, its cable and device, and what was measured on it."""

    id: str
    position: int | None = f.integer("Position", 0, 999)
    way: str | None = f.text("Way", 8, keeps="way")
    designation: str | None = f.text("Circuit", 80)
    spare: bool | None = f.flag("Spare way")
    untraced: bool | None = f.flag("What it feeds is not known")
    phase: str | None = f.choice("Phase", *PHASES)
    rcd_group: str | None = f.text("RCD group", 8)
    form: str | None = f.choice("Form", "ring", "radial")
    serves: str | None = f.choice("Serves", "sockets", "lighting", "fixed", "distribution")
    points_served: int | None = f.integer("Points", 0, 200)
    line_csa_mm2: float | None = f.number("Line", "mm²", 0.5, 120)
    cpc_csa_mm2: float | None = f.number("Cpc", "mm²", 0.5, 120)
    cable_method: str | None = f.choice("Installation method", *METHODS, NOT_KNOWN)
    cable_length_m: float | None = f.number("Cable length", "m", 0, 1000)
    cable_hidden: bool | None = f.flag("Cable in a wall under 50 mm deep")
    design_current_a: float | None = f.number("Design current", "A", 0, 400)
    outlet_with_socket: bool | None = f.flag("A socket at its outlet")
    rating_factor: float | None = f.number("Factor for grouping and warmth", "", 0.2, 1.2)
    cable_type: str | None = f.choice("Cable", *CABLE_TYPES)
    imperial: str | None = f.choice("Imperial size", *imperial_names())
    no_cpc: bool | None = f.flag("No cpc in this circuit")
    supplementary_bonding: str | None = f.choice("Supplementary bonding there", "present", "missing", "not seen")
    one_fused_load: bool | None = f.flag("Feeds one fused load, no branch")
    load_fuse_a: float | None = f.number("Fuse at the load", "A", 1, 125)
    outdoors: bool | None = f.flag("Feeds equipment outdoors")
    bathroom: bool | None = f.flag("Serves a bathroom")
    appliance: str | None = f.choice("Feeds", *APPLIANCES)
    load: str | None = f.choice("Load", "resistive", "electronics", "variable-speed", "inverter", "vehicle")
    vehicle_outdoors: bool | None = f.flag("The vehicle can stand outdoors")
    neutral_guard: str | None = f.choice("Against a broken supply neutral", *NEUTRAL_GUARDS)
    earthed_by: str | None = f.choice("Earth of what it feeds", "of the supply", "own electrode")
    own_rcd: str | None = f.choice("RCD built into the load", "30 mA or less", "more than 30 mA", "none")
    both_ways: str | None = f.choice("Device made for current both ways", "yes", "no", "not marked")
    core_colours: str | None = f.choice("Colours of its cores", *CORE_COLOURS)
    fitted_from: int | None = f.integer("Fitted not before", 1900, 2100)
    fitted_to: int | None = f.integer("Fitted not after", 1900, 2100)
    fitted_by: str | None = f.choice("Its age is known by", *DATED_BY)
    continuity_method: str | None = f.choice("Continuity tested by", *CONTINUITY_METHODS)
    ends_at: str | None = f.choice("Ends opened at", *ENDS_AT)
    ends_at_point: str | None = f.identity("Opened at which socket")
    neutral_at: str | None = f.text("Neutral at terminal", 8, keeps="way")
    second_csa_mm2: float | None = f.number("Second cable or size: line", "mm²", 0.5, 120)
    second_at: str | None = f.choice("Where the second size is", "second cable at the way", "further along", "branch")
    dc_detection: bool | None = f.flag("Load detects d.c. itself")
    device_standard: str | None = f.choice("Device standard", *_STANDARDS)
    device_type: str | None = f.choice("Device type", *_TYPES)
    device_rating_a: float | None = f.number("Rating", "A", 1, 125)
    device_breaking_ka: float | None = f.number("Breaking capacity", "kA", 0.5, 120)
    rcd_id: str | None = f.identity("Behind RCD")
    rcd_standard: str | None = f.choice("RCD standard", *rcd_standards())
    rcd_delay: str | None = f.choice("RCD delay", "none", "S")
    rcd_rated_ma: float | None = f.number("RCD", "mA", 6, 1000)
    rcd_kind: str | None = f.choice("RCD kind", *RCD_KINDS)
    fault_protection: str | None = f.choice("Fault protection by", "overcurrent device", "RCD")
    r1_ohm: Reading | None = f.reading("Line end to end", "Ω", "continuity")
    rn_ohm: Reading | None = f.reading("Neutral end to end", "Ω", "continuity")
    r2_ohm: Reading | None = f.reading("Cpc end to end", "Ω", "continuity")
    r1_r2_ohm: Reading | None = f.reading("R1+R2", "Ω", "continuity")
    long_lead_r2_ohm: Reading | None = f.reading("R2 by long lead", "Ω", "continuity")
    live_r1_r2_ohm: Reading | None = f.reading("R1+R2 by live test", "Ω", "loop")
    insulation_ln_mohm: Reading | None = f.reading("Insulation L–N", "MΩ", "insulation")
    insulation_lne_mohm: Reading | None = f.reading("Insulation L+N–E", "MΩ", "insulation")
    insulation_le_mohm: Reading | None = f.reading("Insulation L–E", "MΩ", "insulation")
    insulation_ne_mohm: Reading | None = f.reading("Insulation N–E", "MΩ", "insulation")
    insulation_pairings: str | None = f.choice("Insulation pairings", *INSULATION_PAIRINGS)
    insulation_test_v: str | None = f.choice("Insulation tested at", STEP_V, "250", "500", "1000")
    insulation_switches: str | None = f.choice("Switches during the insulation test", *SWITCHES)
    insulation_open_at: str | None = f.text("What stood open", 120)
    loads_removed: bool | None = f.flag("L–N tested with every load off")
    insulation_leg_one_mohm: Reading | None = f.reading("Insulation, first leg", "MΩ", "insulation")
    insulation_leg_two_mohm: Reading | None = f.reading("Insulation, second leg", "MΩ", "insulation")
    polarity: str | None = f.check("Polarity")
    zs_ohm: Reading | None = f.reading("Zs", "Ω", "loop")
    zs_not_possible: str | None = f.choice("No Zs because", *NO_ZS)
    rcd_trip_ms: Reading | None = f.reading("RCD trip time", "ms", "trip-time")
    rcd_button: str | None = f.check("RCD test button")
    rcd_half: str | None = f.check("RCD holds at ½ × IΔn")
    rcd_five_ms: Reading | None = f.reading("RCD trip time at 5 × IΔn", "ms", "trip-time")
    lowered_to_a: float | None = f.number("Lowered for today to", "A", 1, 63)
    lowered_agreed_with: str | None = f.text("Lower rating agreed with", 120)
    swap_with: str | None = f.identity("Ends tried against")
    swap_line_ohm: Reading | None = f.reading("Line to the other ring's second end", "Ω", "continuity")
    swap_neutral_ohm: Reading | None = f.reading("Neutral to the other ring's second end", "Ω", "continuity")
    swap_cpc_ohm: Reading | None = f.reading("Cpc to the other ring's second end", "Ω", "continuity")
    switches_both_ways: bool | None = f.flag("Two-way switches tried both ways")
    controls_bridged: bool | None = f.flag("Dimmers and controls bridged")
    joined_with: str | None = f.text("Found joined with", 80)
    joined_by: str | None = f.choice("Joined by", "line", "neutral", "all conductors", "exchanged ends")
    afdd: bool | None = f.flag("AFDD fitted")
    afdd_button: str | None = f.check("AFDD test button")
    leakage_ma: Reading | None = f.reading("Standing leakage", "mA", "leakage")
    unconfirmed: bool | None = f.flag("Carried over, not yet seen")
    removed: bool | None = f.flag("Removed")
    points: tuple[Point, ...] = ()
    earlier: tuple[Earlier, ...] = ()

    @property
    def served(self) -> int | None:
        """Points served: as somebody wrote it, else as many as hang on it; None where neither is known."""
        if self.points_served is not None or not self.points:
            return self.points_served
        return sum(point.kind not in NOT_SERVED for point in self.points)


def name_of(circuit: Circuit) -> str:
    """Way and designation, as people call a circuit."""
    if circuit.way and circuit.designation:
        return f"{circuit.way} {circuit.designation}"
    return circuit.way or circuit.designation or "Unnamed circuit"
