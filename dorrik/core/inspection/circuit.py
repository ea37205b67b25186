"""A circuit of a board: what it feeds, its cable and its device, and what was measured on it."""

from dorrik.core.basics.readings import Reading
from dorrik.core.basics.record import record
from dorrik.core.electrical.conductors import CABLE_TYPES, imperial_names
from dorrik.core.electrical.devices import devices
from dorrik.core.electrical.overload import METHODS, NOT_KNOWN
from dorrik.core.electrical.rcd import KINDS as RCD_KINDS
from dorrik.core.electrical.rcd import standards as rcd_standards
from dorrik.core.inspection import fields as f
from dorrik.core.inspection.earlier import Earlier
from dorrik.core.inspection.field_spec import Column
from dorrik.core.inspection.point import NOT_SERVED, Point

PHASES = ("L1", "L2", "L3", "all three")
_STANDARDS = tuple(dict.fromkeys(device.standard for device in devices()))
_TYPES = tuple(dict.fromkeys(device.type for device in devices()))
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
#: Why a loop test was not made; the first is a fault of the RCD or of its circuits (rule 7.4).
TRIPS = "RCD trips on the test"
NO_ZS = (TRIPS, "no point could be reached", "nothing to test at", "supply was off", "live tests stopped", "other")


@record(kw_only=True)
class Circuit:
    """A way of a board: what it feeds, its cable and device, and what was measured on it."""

    id: str
    position: int | None = f.integer("Position", 0, 999)
    way: str | None = f.text(
        "Way",
        8,
        keeps="way",
        column=Column(
            printed="Way",
            csv="Way",
            words=("way", "cct", "cct no", "circuit no", "circuit number", "no", "nr", "number", "ref"),
        ),
    )
    designation: str | None = f.text(
        "Circuit",
        80,
        asked=True,
        column=Column(
            printed="Circuit",
            csv="Circuit",
            words=(
                "designation",
                "circuit",
                "description",
                "circuit description",
                "circuit designation",
                "name",
                "serves",
            ),
        ),
    )
    spare: bool | None = f.flag("Spare way")
    untraced: bool | None = f.flag("Circuit not identified")
    phase: str | None = f.choice("Phase", *PHASES)
    rcd_group: str | None = f.text("RCD group", 8)
    form: str | None = f.choice(
        "Form",
        "ring",
        "radial",
        asked=True,
        column=Column(
            label="Ring or radial",
            printed="Form",
            csv="Form",
            words=("form", "ring or radial", "ring/radial", "type of circuit", "wiring"),
        ),
        printed=("minor works",),
    )
    serves: str | None = f.choice("Serves", "sockets", "lighting", "fixed", "distribution")
    points_served: int | None = f.integer(
        "Points",
        0,
        200,
        column=Column(
            printed="Points",
            csv="Points",
            words=("points", "points served", "no of points", "number of points", "outlets"),
        ),
    )
    line_csa_mm2: float | None = f.number(
        "Line",
        "mm²",
        0.5,
        120,
        asked=True,
        column=Column(
            label="Line, mm²",
            csv="Line mm2",
            words=("line", "live", "line mm2", "live mm2", "line csa", "live csa", "l mm2"),
        ),
        printed=("minor works",),
    )
    cpc_csa_mm2: float | None = f.number(
        "Cpc",
        "mm²",
        0.5,
        120,
        asked=True,
        column=Column(label="Cpc, mm²", csv="Cpc mm2", words=("cpc", "cpc mm2", "cpc csa", "earth mm2")),
        printed=("minor works",),
    )
    cable_method: str | None = f.choice("Installation method", *METHODS, NOT_KNOWN)
    cable_length_m: float | None = f.number(
        "Cable length",
        "m",
        0,
        1000,
        column=Column(label="Length, m", words=("length", "length m", "cable length", "run")),
    )
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
    vehicle_outdoors: bool | None = f.flag("Vehicle can be outdoors")
    neutral_guard: str | None = f.choice("Against a broken supply neutral", *NEUTRAL_GUARDS)
    earthed_by: str | None = f.choice("Earth of what it feeds", "of the supply", "own electrode")
    own_rcd: str | None = f.choice("RCD built into the load", "30 mA or less", "more than 30 mA", "none")
    both_ways: str | None = f.choice("Device made for current both ways", "yes", "no", "not marked")
    core_colours: str | None = f.choice("Colours of its cores", *CORE_COLOURS)
    fitted_from: int | None = f.integer("Fitted not before", 1900, 2100)
    fitted_to: int | None = f.integer("Fitted not after", 1900, 2100)
    fitted_by: str | None = f.choice("Its age is known by", *DATED_BY)
    continuity_method: str | None = f.choice("Continuity tested by", *CONTINUITY_METHODS)
    ends_at: str | None = f.choice("Ends opened at", *ENDS_AT, stage="dead")
    ends_at_point: str | None = f.identity("Opened at which socket", stage="dead")
    neutral_at: str | None = f.text("Neutral at terminal", 8, keeps="way")
    second_csa_mm2: float | None = f.number("Second cable or size: line", "mm²", 0.5, 120)
    second_at: str | None = f.choice("Where the second size is", "second cable at the way", "further along", "branch")
    dc_detection: bool | None = f.flag("Load detects d.c. itself")
    device_standard: str | None = f.choice(
        "Device standard",
        *_STANDARDS,
        asked=True,
        column=Column(csv="Device standard", words=("standard", "bs en", "bs", "device standard", "bs (en)")),
        printed=("minor works",),
    )
    device_type: str | None = f.choice(
        "Device type",
        *_TYPES,
        asked=True,
        column=Column(csv="Device type", words=("type", "curve", "device type", "type no")),
        printed=("minor works",),
    )
    device_rating_a: float | None = f.number(
        "Rating",
        "A",
        1,
        125,
        asked=True,
        column=Column(label="Rating, A", csv="Rating A", words=("rating", "rating a", "in", "in a", "amps", "a")),
        printed=("minor works",),
    )
    device_breaking_ka: float | None = f.number("Breaking capacity", "kA", 0.5, 120)
    rcd_id: str | None = f.identity("Behind RCD")
    rcd_standard: str | None = f.choice("RCD standard", *rcd_standards())
    rcd_delay: str | None = f.choice("RCD delay", "none", "S")
    rcd_rated_ma: float | None = f.number(
        "RCD",
        "mA",
        6,
        1000,
        column=Column(
            label="RCD, mA",
            printed="RCD mA",
            csv="RCD mA",
            words=("rcd", "rcd ma", "rcd rating", "i delta n", "iδn", "residual", "ma"),
        ),
    )
    rcd_kind: str | None = f.choice("RCD kind", *RCD_KINDS)
    fault_protection: str | None = f.choice("Fault protection by", "overcurrent device", "RCD")
    r1_ohm: Reading | None = f.reading(
        "Line end to end",
        "Ω",
        "continuity",
        stage="dead",
        compared=True,
        column=Column(
            label="r1, end to end",
            head=("Line", "end–end Ω"),
            printed="r1 Ω",
            csv="r1",
            words=("r1", "r1 ohm", "r1 line", "ring r1"),
        ),
    )
    rn_ohm: Reading | None = f.reading(
        "Neutral end to end",
        "Ω",
        "continuity",
        stage="dead",
        compared=True,
        column=Column(
            label="rn, end to end",
            head=("Neutral", "end–end Ω"),
            printed="rn Ω",
            csv="rn",
            words=("rn", "rn ohm", "rn neutral"),
        ),
    )
    r2_ohm: Reading | None = f.reading(
        "Cpc end to end",
        "Ω",
        "continuity",
        stage="dead",
        compared=True,
        column=Column(
            label="r2, end to end",
            head=("Cpc", "end–end Ω"),
            printed="r2 Ω",
            csv="r2",
            words=("r2", "r2 ohm", "r2 cpc"),
        ),
    )
    r1_r2_ohm: Reading | None = f.reading(
        "R1+R2",
        "Ω",
        "continuity",
        stage="dead",
        compared=True,
        instead="long_lead_r2_ohm",
        column=Column(
            head=("R1+R2", "Ω"), printed="R1+R2 Ω", csv="R1+R2", words=("r1+r2", "r1 + r2", "r1+r2 ohm", "(r1+r2)")
        ),
    )
    long_lead_r2_ohm: Reading | None = f.reading(
        "R2 by long lead",
        "Ω",
        "continuity",
        stage="dead",
        compared=True,
        instead="r1_r2_ohm",
        column=Column(head=("R2", "long lead Ω")),
    )
    live_r1_r2_ohm: Reading | None = f.reading("R1+R2 by live test", "Ω", "loop", stage="live")
    insulation_ln_mohm: Reading | None = f.reading(
        "Insulation L–N",
        "MΩ",
        "insulation",
        stage="dead",
        compared=True,
        column=Column(
            head=("L–N", "MΩ"),
            printed="L–N MΩ",
            csv="Insulation L-N",
            words=("l-n", "ir l-n", "insulation l-n", "live-live", "ir live"),
        ),
    )
    insulation_lne_mohm: Reading | None = f.reading(
        "Insulation L+N–E",
        "MΩ",
        "insulation",
        stage="dead",
        compared=True,
        column=Column(
            head=("L+N–E", "MΩ"),
            printed="L+N–E MΩ",
            csv="Insulation L+N-E",
            words=("l+n-e", "ir l-e", "insulation l-e", "live-earth", "insulation", "ir", "insulation resistance"),
        ),
    )
    insulation_le_mohm: Reading | None = f.reading(
        "Insulation L–E", "MΩ", "insulation", stage="dead", column=Column(head=("L–E", "MΩ"))
    )
    insulation_ne_mohm: Reading | None = f.reading(
        "Insulation N–E", "MΩ", "insulation", stage="dead", column=Column(head=("N–E", "MΩ"))
    )
    insulation_pairings: str | None = f.choice("Insulation pairings", *INSULATION_PAIRINGS, stage="dead")
    insulation_test_v: str | None = f.choice("Insulation tested at", STEP_V, "250", "500", "1000", stage="dead")
    insulation_switches: str | None = f.choice("Switches during the insulation test", *SWITCHES, stage="dead")
    insulation_open_at: str | None = f.text("Open switches", 120, stage="dead")
    loads_removed: bool | None = f.flag("L–N tested with every load off")
    insulation_leg_one_mohm: Reading | None = f.reading("Insulation, first leg", "MΩ", "insulation", stage="dead")
    insulation_leg_two_mohm: Reading | None = f.reading("Insulation, second leg", "MΩ", "insulation", stage="dead")
    polarity: str | None = f.check("Polarity", stage="dead", column=Column(head=("Polarity", ""), printed="Polarity"))
    zs_ohm: Reading | None = f.reading(
        "Zs",
        "Ω",
        "loop",
        stage="live",
        compared=True,
        instead="zs_not_possible",
        limited_by=NO_ZS,
        limited_in="zs_not_possible",
        column=Column(
            head=("Zs", "Ω"), printed="Zs Ω", csv="Zs", words=("zs", "zs ohm", "measured zs", "max measured zs")
        ),
    )
    zs_not_possible: str | None = f.choice("No Zs because", *NO_ZS, stage="live")
    rcd_trip_ms: Reading | None = f.reading(
        "RCD trip time",
        "ms",
        "trip-time",
        stage="live",
        compared=True,
        column=Column(
            label="RCD time",
            head=("RCD trip", "ms"),
            printed="Trip ms",
            csv="RCD time",
            words=("rcd time", "trip time", "rcd ms", "disconnection time", "ms"),
        ),
    )
    rcd_half: str | None = f.check(
        "RCD: no trip at ½ × IΔn",
        stage="live",
        column=Column(label="No trip at ½ × IΔn", head=("No trip at", "½ × IΔn")),
    )
    rcd_five_ms: Reading | None = f.reading(
        "RCD trip time at 5 × IΔn",
        "ms",
        "trip-time",
        stage="live",
        takes="rcd-five",
        column=Column(label="RCD time at 5 × IΔn", head=("At 5 ×", "ms")),
    )
    rcd_button: str | None = f.check(
        "RCD test button", stage="live", column=Column(head=("RCD", "button"), printed="Button")
    )
    lowered_to_a: float | None = f.number("Lowered for today to", "A", 1, 63, stage="dead")
    lowered_agreed_with: str | None = f.text("Lower rating agreed with", 120, stage="dead")
    swap_with: str | None = f.identity("Ends tried against", stage="dead")
    swap_line_ohm: Reading | None = f.reading("Line to the other ring's second end", "Ω", "continuity", stage="dead")
    swap_neutral_ohm: Reading | None = f.reading(
        "Neutral to the other ring's second end", "Ω", "continuity", stage="dead"
    )
    swap_cpc_ohm: Reading | None = f.reading("Cpc to the other ring's second end", "Ω", "continuity", stage="dead")
    switches_both_ways: bool | None = f.flag("Two-way switches tried both ways", stage="dead")
    controls_bridged: bool | None = f.flag("Dimmers and controls bridged", stage="dead")
    joined_with: str | None = f.text("Found joined with", 80, stage="dead")
    joined_by: str | None = f.choice("Joined by", "line", "neutral", "all conductors", "exchanged ends", stage="dead")
    afdd: bool | None = f.flag("AFDD fitted")
    afdd_button: str | None = f.check("AFDD test button", stage="live", column=Column(head=("AFDD", "button")))
    leakage_ma: Reading | None = f.reading("Standing leakage", "mA", "leakage", stage="live")
    unconfirmed: bool | None = f.flag("Carried over, not yet seen", stays=False)
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
