"""Who was there and with what: attendances, instruments, nulls of the leads."""

from dorrik.core.basics.readings import Reading
from dorrik.core.basics.record import record
from dorrik.core.inspection import fields as f


@record(kw_only=True)
class Attendance:
    """Somebody's time on site: one visit of one inspector."""

    id: str
    who: str | None = f.text("Who", 120)
    purpose: str | None = f.choice("For", "inspection", "second inspector", "return visit", "trainee")
    arrived_at: str | None = f.instant("Arrived")
    left_at: str | None = f.instant("Left")
    note: str | None = f.text("Note", 300)
    countersigned_at: str | None = f.instant("Readings countersigned")
    countersigned_by: str | None = f.text("Countersigned by", 120)
    removed: bool | None = f.flag("Removed")


@record(kw_only=True)
class InstrumentUsed:
    """An instrument used at this inspection, as the firm's register had it on the day."""

    id: str
    register_id: str | None = f.identity("Entry in the register")
    name: str | None = f.text("Instrument", 80)
    kind: str | None = f.text("Kind", 40)
    serial: str | None = f.text("Serial number", 60)
    calibration_due: str | None = f.day("Calibration due", ahead_days=3660)
    continuity_percent: float | None = f.number("Continuity ±", "%", 0, 50)
    continuity_digits: float | None = f.number("Continuity ±", "digits", 0, 100)
    insulation_percent: float | None = f.number("Insulation ±", "%", 0, 50)
    insulation_digits: float | None = f.number("Insulation ±", "digits", 0, 100)
    loop_percent: float | None = f.number("Loop ±", "%", 0, 50)
    loop_digits: float | None = f.number("Loop ±", "digits", 0, 100)
    continuity_top_ohm: float | None = f.number("Top of the continuity range", "Ω", 1, 100000)
    insulation_top_mohm: float | None = f.number("Top of the insulation range", "MΩ", 1, 100000)
    loop_top_ohm: float | None = f.number("Top of the loop range", "Ω", 1, 100000)
    trip_percent: float | None = f.number("RCD time ±", "%", 0, 50)
    trip_digits: float | None = f.number("RCD time ±", "ms", 0, 100)
    removed: bool | None = f.flag("Removed")


@record(kw_only=True)
class PutBackRecord:
    """Something that was taken off for a test: when, and when it was back (see `judging/served/putting_back.py`)."""

    id: str
    item: str | None = f.text("What", 30, keeps="key")
    about_id: str | None = f.identity("Of what")
    off_at: str | None = f.instant("Taken off")
    back_at: str | None = f.instant("Back, and checked")
    removed: bool | None = f.flag("Removed")


@record(kw_only=True)
class LeadNull:
    """One null of the leads: which set, what it should read, what it read, and when (rule 1.4)."""

    id: str
    leads_id: str | None = f.identity("Entry in the register")
    name: str | None = f.text("Lead set", 80)
    known_ohm: float | None = f.number("Known resistance", "Ω", 0, 5)
    reading_ohm: Reading | None = f.reading("Null", "Ω", "continuity", takes="null")
    nulled_at: str | None = f.instant("Nulled")
    removed: bool | None = f.flag("Removed")
