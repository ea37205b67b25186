"""A point: an accessory or a fitting, in which room and on which circuit, what was seen and measured there."""

from dorrik.core.basics.readings import Reading
from dorrik.core.basics.record import record
from dorrik.core.inspection import fields as f
from dorrik.core.inspection.earlier import Earlier
from dorrik.core.inspection.room import NOT_REACHED

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
#: Of a screw lampholder the thread belongs to the neutral, unless it is dead until the lamp is in.
SCREW = "screw"
LAMPHOLDERS = ("bayonet", SCREW, "screw, thread dead without a lamp")
#: Kinds at which a circuit ends or which only join or switch it: no points served.
NOT_SERVED = ("switch", "pull cord", "joint")
FINE, DEFECT = LOOKED = ("fine", "defect")
ALARMS = ("smoke", "heat", "carbon monoxide")
#: What is built into a point that a test voltage above 250 V can harm, or that makes its reading false.
DELICATE = ("USB socket", "dimmer", "LED driver", "sensor or timer", "electronic control", "other electronics")
#: What a downlight has above it.
ABOVE = ("open void", "insulation laid on it", "timber close to it", "another dwelling", "not seen")
TRACED = ("on the ring", "on a spur alone", "beyond a point on a spur", "fused")


@record(kw_only=True)
class Point:
    """A point: an accessory or a fitting, in which room and on which circuit, what was seen and measured there.

    room_id: the room it hangs in; room: what its room is called where no room of the walk stands for it.
    """

    id: str
    position: int | None = f.integer("Position", 0, 999, stays=True)
    name: str | None = f.text("Point", 80, stays=True)
    room_id: str | None = f.identity("In which room")
    room: str | None = f.text("Room", 80, stays=True)
    kind: str | None = f.choice("Kind", *POINT_KINDS, stays=True)
    at_end: bool | None = f.flag("End of the line, or a defect before", stays=True)
    looked: str | None = f.choice("Looked at", *LOOKED)
    opened: bool | None = f.flag("Opened")
    tested: bool | None = f.flag("Tested", stage="dead")
    not_reached: str | None = f.choice("Not reached", *NOT_REACHED)
    note: str | None = f.text("Note", 200)
    delicate: str | None = f.choice("Off before 500 V", *DELICATE)
    sample: str | None = f.choice("In the sample by choice", "added", "left out")
    sample_reason: str | None = f.text("Why added or left out", 200)
    alarm: str | None = f.choice("Alarm for", *ALARMS, stays=True)
    replace_by: str | None = f.day("Replace by", ahead_days=9000, stays=True)
    above: str | None = f.choice("Above it", *ABOVE, stays=True)
    fire_rated: bool | None = f.flag("Holds fire back, by its marking", stays=True)
    plan_x_m: float | None = f.number("From the left wall", "m", 0, 30, stays=True)
    plan_y_m: float | None = f.number("From the far wall", "m", 0, 30, stays=True)
    defect: str | None = f.text("Kind of defect", 60, keeps="key")
    class_ii: bool | None = f.flag("Class II, no earth needed", stays=True)
    front: str | None = f.choice("Front", "metal", "insulating", stays=True)
    no_cpc: bool | None = f.flag("No cpc at this point", stage="dead", stays=True)
    accessible_with: str | None = f.text("Within reach of", 120)
    supplementary_ohm: Reading | None = f.reading("To what is touched together", "Ω", "continuity", stage="dead")
    line_neutral_ohm: Reading | None = f.reading("Line to neutral", "Ω", "continuity", stage="dead", compared=True)
    line_cpc_ohm: Reading | None = f.reading("Line to cpc", "Ω", "continuity", stage="dead", compared=True)
    r2_ohm: Reading | None = f.reading("R2 by long lead", "Ω", "continuity", stage="dead", compared=True)
    first_line_neutral_ohm: Reading | None = f.reading(
        "Line to neutral, before the retest", "Ω", "continuity", stage="dead"
    )
    first_line_cpc_ohm: Reading | None = f.reading("Line to cpc, before the retest", "Ω", "continuity", stage="dead")
    first_r2_ohm: Reading | None = f.reading("R2 by long lead, before the retest", "Ω", "continuity", stage="dead")
    zs_ohm: Reading | None = f.reading("Zs here", "Ω", "loop", stage="live")
    two_gangs: bool | None = f.flag("Two gangs, each tested", stage="dead", stays=True)
    gang_line_neutral_ohm: Reading | None = f.reading("Line to neutral, second gang", "Ω", "continuity", stage="dead")
    gang_line_cpc_ohm: Reading | None = f.reading("Line to cpc, second gang", "Ω", "continuity", stage="dead")
    gang_r2_ohm: Reading | None = f.reading("R2 by long lead, second gang", "Ω", "continuity", stage="dead")
    gang_zs_ohm: Reading | None = f.reading("Zs here, second gang", "Ω", "loop", stage="live")
    lampholder: str | None = f.choice("Lampholder", *LAMPHOLDERS, stays=True)
    centre_contact: str | None = f.check("Line at the centre contact", stage="dead")
    functional: str | None = f.check("Works as it should", stage="live")
    metal_earth_v: float | None = f.number("Voltage metal to earth", "V", 0, 1000, takes="voltage")
    leg_one_ohm: Reading | None = f.reading("Open conductor from the first end", "Ω", "continuity", stage="dead")
    leg_two_ohm: Reading | None = f.reading("Open conductor from the second end", "Ω", "continuity", stage="dead")
    retested: bool | None = f.flag("Retested after re-plugging", stage="dead")
    traced: str | None = f.choice("Traced: it is", *TRACED, stage="dead")
    polarity: str | None = f.check("Polarity here", stage="live")
    line_neutral_v: float | None = f.number("Voltage L–N", "V", 0, 1000, stage="live", takes="voltage")
    line_earth_v: float | None = f.number("Voltage L–E", "V", 0, 1000, stage="live", takes="voltage")
    neutral_earth_v: float | None = f.number("Voltage N–E", "V", 0, 1000, stage="live", takes="voltage")
    bathroom: bool | None = f.flag("In a room with a bath or shower", stays=True)
    height_m: float | None = f.number("Height", "m", 0, 10, stays=True)
    distance_m: float | None = f.number("From bath or tray", "m", 0, 20, stays=True)
    inside_basin: bool | None = f.flag("Inside bath or tray", stays=True)
    no_basin: bool | None = f.flag("Shower without a tray", stays=True)
    screened: bool | None = f.flag("Behind a fixed partition", stays=True)
    shower_head_m: float | None = f.number("Fixed shower head", "m", 0, 5, stays=True)
    jets: bool | None = f.flag("Cleaned with water jets", stays=True)
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
