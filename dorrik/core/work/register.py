"""The firm's register: clients, their properties with installations and jobs, and the instruments with their lead sets.

What stands here outlives one inspection. Fields are declared as those of the inspection are (`inspection.py`); an
inspection that is begun from a job takes its words over, so that a report never changes with the register.
"""

from collections.abc import Mapping
from types import MappingProxyType
from typing import Any

from dorrik.core.basics.record import record
from dorrik.core.inspection import fields as f
from dorrik.core.inspection.kinds import EntityKind
from dorrik.core.inspection.records import EARTHING, NATIONS, PURPOSES, TENURES
from dorrik.core.work.access_windows import AccessWindow
from dorrik.core.work.working_week import DayOff, KeyHolder, WorkingWeek

INSTRUMENT_KINDS = (
    "multifunction",
    "low ohms",
    "insulation",
    "loop",
    "RCD",
    "clamp",
    "voltage indicator",
    "proving unit",
)
#: What a job is: an inspection, or putting right what one found, by an offer that was accepted.
INSPECTION, REPAIRS = WORK = ("inspection", "repairs")
#: States of a job in their order.
STATES = ("asked", "confirmed", "booked", "on hold", "done")


def begun(state: str | None) -> str | None:
    """The state that a job takes when work on it begins; None where that changes nothing."""
    return "booked" if state in ("asked", "confirmed") else None


#: How far ahead a visit can be booked (days).
AHEAD = 3660


@record(kw_only=True)
class Client:
    """Who orders the work and gets the report."""

    id: str
    name: str | None = f.text("Client", 120)
    address: str | None = f.text("Address", 300)
    contact: str | None = f.text("Contact", 120)
    phone: str | None = f.text("Phone", 40)
    email: str | None = f.text("Email", 190)
    notes: str | None = f.text("Notes", 1000)
    removed: bool | None = f.flag("Removed")


@record(kw_only=True)
class Property:
    """A home or building: where it is, who lives there, and how one gets in."""

    id: str
    address: str | None = f.text("Address", 300)
    nation: str | None = f.choice("Nation", *NATIONS)
    tenure: str | None = f.choice("Tenure", *TENURES)
    built_year: int | None = f.integer("Built in", 1200, 2100)
    rewired_year: int | None = f.integer("Rewired in", 1900, 2100)
    occupier_name: str | None = f.text("Occupier", 120)
    occupier_phone: str | None = f.text("Occupier's phone", 40)
    occupier_email: str | None = f.text("Occupier's email", 190)
    must_stay_on: str | None = f.text("Must stay on", 300)
    access: str | None = f.text("Access", 500)
    key_place: str | None = f.text("Keys are kept", 200)
    key_holder_id: str | None = f.identity("Keys come from")
    parking: str | None = f.text("Parking", 200)
    reference: str | None = f.text("Client's reference", 60)
    inspected_on: str | None = f.day("Last inspected elsewhere")
    due_on: str | None = f.day("Inspection due", ahead_days=AHEAD)
    latitude: float | None = f.number("Latitude", "°", -90, 90)
    longitude: float | None = f.number("Longitude", "°", -180, 180)
    notes: str | None = f.text("Notes", 1000)
    removed: bool | None = f.flag("Removed")


@record(kw_only=True)
class Installation:
    """One installation of a property: the house, or an outbuilding with its own earthing; each has its own report."""

    id: str
    name: str | None = f.text("Installation", 80)
    supplied_from: str | None = f.text("Supplied from", 120)
    earthing: str | None = f.choice("Earthing arrangement", *EARTHING)
    notes: str | None = f.text("Notes", 500)
    removed: bool | None = f.flag("Removed")


@record(kw_only=True)
class Job:
    """Work that was asked for: why, how far, agreed with whom and when, for which day, and how large it looks."""

    id: str
    number: str | None = f.text("Job", 30, keeps="number")
    state: str | None = f.choice("State", *STATES)
    purpose: str | None = f.choice("Purpose", *PURPOSES)
    extent: str | None = f.text("Extent", 4000)
    leave_out: str | None = f.text("Left out, one a line", 2000)
    leave_out_reason: str | None = f.text("Why it is left out", 500)
    agreed_with: str | None = f.text("Agreed with", 120)
    agreed_on: str | None = f.day("Agreed on")
    booked_on: str | None = f.day("Booked for", ahead_days=AHEAD)
    booked_at: str | None = f.text("Arrival", 20)
    booked_with: str | None = f.identity("Inspector")
    last_day: str | None = f.day("Last day for the visit", ahead_days=AHEAD)
    visit_min: int | None = f.integer("Time on site in minutes", 5, 2400)
    spent_min: int | None = f.integer("Time it took in minutes", 5, 2400)
    power_off: str | None = f.text("Power off", 60)
    boards: int | None = f.integer("Boards", 0, 99)
    rings: int | None = f.integer("Ring circuits", 0, 200)
    radials: int | None = f.integer("Radial circuits", 0, 400)
    points_opened: int | None = f.integer("Points to open", 0, 2000)
    points_tested: int | None = f.integer("Points to test", 0, 5000)
    travel_km: float | None = f.number("Travel", "km", 0, 2000)
    return_visits: int | None = f.integer("Return visits", 0, 20)
    work: str | None = f.choice("Work", *WORK)
    inspection_id: str | None = f.identity("Of which inspection")
    offer_id: str | None = f.identity("By which offer")
    alternative: int | None = f.integer("Alternative accepted", 1, 9)
    offered_price: float | None = f.number("Price as offered", "", 0, 1_000_000)
    offered_min: int | None = f.integer("Time as offered", 0, 100_000)
    confirmation_sent: str | None = f.text("Confirmation sent", 300)
    notes: str | None = f.text("Notes", 1000)
    removed: bool | None = f.flag("Removed")


@record(kw_only=True)
class Instrument:
    """A test instrument: what it is, when it was calibrated, and how far its figures can be trusted (rule 1.3)."""

    id: str
    name: str | None = f.text("Instrument", 80)
    kind: str | None = f.choice("Kind", *INSTRUMENT_KINDS)
    serial: str | None = f.text("Serial number", 60)
    bought_on: str | None = f.day("Bought on")
    calibrated_on: str | None = f.day("Calibrated on")
    calibration_due: str | None = f.day("Calibration due", ahead_days=AHEAD)
    certificate: str | None = f.text("Certificate", 80)
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
    retired: bool | None = f.flag("Out of use")
    removed: bool | None = f.flag("Removed")


@record(kw_only=True)
class LeadSet:
    """A set of leads with tips, and the resistance that its null should show (rule 1.4)."""

    id: str
    name: str | None = f.text("Lead set", 80)
    known_ohm: float | None = f.number("Known resistance", "Ω", 0, 5)
    retired: bool | None = f.flag("Out of use")
    removed: bool | None = f.flag("Removed")


#: Every kind of the register by name, parents before their children. What has no other parent belongs to the firm.
REGISTER: Mapping[str, EntityKind] = MappingProxyType(
    {
        kind.name: kind
        for kind in (
            EntityKind("client", Client, "firm", "clients"),
            EntityKind("property", Property, "client", "properties"),
            EntityKind("installation", Installation, "property", "installations"),
            EntityKind("access_window", AccessWindow, "property", "access_windows"),
            EntityKind("job", Job, "property", "jobs"),
            EntityKind("instrument", Instrument, "firm", "instruments"),
            EntityKind("leads", LeadSet, "firm", "lead_sets"),
            EntityKind("working_week", WorkingWeek, "firm", "working_weeks"),
            EntityKind("day_off", DayOff, "working_week", "days_off"),
            EntityKind("key_holder", KeyHolder, "firm", "key_holders"),
        )
    }
)
#: What belongs to one property, and goes with it.
OF_PROPERTY = tuple(name for name, kind in REGISTER.items() if kind.parent == "property")

#: Two dates or years, the first of which cannot be after the second, and what to say where it is.
_IN_ORDER = {
    "property": (
        ("built_year", "rewired_year", "It cannot have been rewired before it was built."),
        ("inspected_on", "due_on", "The next inspection cannot be due before the last one."),
    ),
    "access_window": (
        ("first_day", "last_day", "The last day cannot be before the first."),
        ("from_time", "until_time", "It cannot end before it begins."),
    ),
    "day_off": (("first_day", "last_day", "The last day cannot be before the first."),),
    "working_week": (("starts_at", "ends_at", "The day cannot end before it begins."),),
    "key_holder": (("opens_at", "closes_at", "It cannot close before it opens."),),
    "instrument": (
        ("bought_on", "calibrated_on", "It cannot have been calibrated before it was bought."),
        ("calibrated_on", "calibration_due", "The next calibration cannot be due before the last one."),
    ),
}


def contradiction(kind: str, values: Mapping[str, Any], touched: frozenset[str]) -> tuple[str, str] | None:
    """The field that contradicts another one, and why; None where nothing does.

    values: of the entry as it would be kept; touched: the fields that are being changed: the message stands there.
    """
    for first, second, why in _IN_ORDER.get(kind, ()):
        one, other = values.get(first), values.get(second)
        if one is not None and other is not None and one > other:
            return (second if second in touched else first), why
    return None
