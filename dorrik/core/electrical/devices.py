"""Protective devices and the loop impedance that lets them disconnect in time (rules 7.1 and 3.4).

The numbers are in `data/devices.csv`. A breaker's operating current is a multiple of its rating whatever
the time; a fuse's comes from its time/current characteristic at 0.4 s or 5 s.
"""

from dorrik.core.basics.record import record
from dorrik.core.book.reference import cached, number, rows

SOURCE = "BS 7671 411.4.4, appendix 3 · rule 7.1"
CMIN = 0.95
U0_V = 230.0


@record
class Device:
    """One row of the table: a family of breakers, or a fuse of one rating.

    lowest_a, highest_a: ratings covered (A); ia_multiple: operating current as a multiple of the rating, or
    None; ia_0s4_a, ia_5s_a: operating current of a fuse at that time (A), or None; breaking_ka: usual
    breaking capacity (kA), where what is marked on the device wins; current: still made to that standard; unconfirmed:
    what of the row could not be held against a copy of the standard, '' for nothing.
    """

    standard: str
    type: str
    lowest_a: float
    highest_a: float
    ia_multiple: float | None
    ia_0s4_a: float | None
    ia_5s_a: float | None
    breaking_ka: float
    current: bool
    unconfirmed: str = ""


@cached
def devices() -> tuple[Device, ...]:
    """All devices of the table, in its order."""
    devices_read = []
    for row in rows("devices"):
        lowest, _, highest = row["rating_a"].partition("-")
        devices_read.append(
            Device(
                standard=row["standard"],
                type=row["type"],
                lowest_a=float(lowest),
                highest_a=float(highest or lowest),
                ia_multiple=number(row["ia_multiple"]),
                ia_0s4_a=number(row["ia_0s4_a"]),
                ia_5s_a=number(row["ia_5s_a"]),
                breaking_ka=float(row["breaking_ka"]),
                current=row["status"] == "current",
                unconfirmed=row["note"],
            )
        )
    return tuple(devices_read)


@cached
def find(standard: str, type: str, rating_a: float) -> Device:
    """The device's row. Raises LookupError, saying which part is not in the table."""
    same = [device for device in devices() if device.standard == standard and device.type == type]
    if not same:
        raise LookupError(f"{standard} type {type} is not in the device table.")
    for device in same:
        if device.lowest_a <= rating_a <= device.highest_a:
            return device
    raise LookupError(f"{standard} type {type} is not tabulated at {rating_a:g} A.")


@cached
def operating_current_a(standard: str, type: str, rating_a: float, disconnection_s: float) -> float:
    """Current that operates a device within a time (A), rule 7.1. Raises LookupError where none is tabulated."""
    device = find(standard, type, rating_a)
    if device.ia_multiple is not None:
        return device.ia_multiple * rating_a
    ia_a = None
    if disconnection_s >= 5:
        ia_a = device.ia_5s_a
    elif disconnection_s >= 0.4:
        ia_a = device.ia_0s4_a
    if ia_a is None:
        raise LookupError(f"No operating current is tabulated for {standard} {rating_a:g} A at {disconnection_s:g} s.")
    return ia_a


@cached
def zs_limit_ohm(standard: str, type: str, rating_a: float, disconnection_s: float) -> float:
    """Greatest loop impedance at working temperature (Ω, two places): Zs = Cmin·U0/Ia, rule 7.1.

    standard, type: as in the table ('BS EN 60898', 'B'); rating_a: rating (A); disconnection_s: required
    disconnection time (s). Raises LookupError where the table holds no operating current for that time.
    """
    ia_a = operating_current_a(standard, type, rating_a, disconnection_s)
    return round(CMIN * U0_V / ia_a + 1e-9, 2)


@cached
def most_permissive_ohm() -> float:
    """The greatest Zs (Ω) that any usual device of a final circuit would pass: 9.10 Ω for a 5 A rewirable fuse."""
    limits = []
    for device in devices():
        try:
            limits.append(zs_limit_ohm(device.standard, device.type, max(device.lowest_a, 5.0), 0.4))
        except LookupError:
            continue
    return max(limits)


def unconfirmed(standard: str, type: str, rating_a: float, disconnection_s: float) -> str:
    """What could not be confirmed of a limit found by `zs_limit_ohm`, '' for nothing. Raises LookupError as `find`."""
    note = find(standard, type, rating_a).unconfirmed
    time, _, rest = note.partition(": ")
    if not rest:
        return note
    return rest if disconnection_s >= 5 and time == "5 s" else ""


def disconnection_s(earthing: str | None, rating_a: float, serves: str | None, *, sockets: bool = False) -> float:
    """Required disconnection time (s), BS 7671 table 41.1 and 411.3.2 · rule 7.2.

    earthing: 'TN-S', 'TN-C-S' or 'TT' (unknown counts as TN, the supply's own limit shows elsewhere);
    rating_a: device rating (A); serves: 'sockets', 'lighting', 'fixed', 'distribution' or None; sockets: a socket is
    among its outlets, as at many cooker points.
    """
    with_sockets = sockets or serves == "sockets"
    final = serves != "distribution" and (rating_a <= 32 or (with_sockets and rating_a <= 63))
    if earthing == "TT":
        return 0.2 if final else 1.0
    return 0.4 if final else 5.0
