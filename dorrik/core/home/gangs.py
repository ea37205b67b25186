"""The two gangs of a double socket: one cable, two sets of contacts (rules 4.4 and 7.1).

What both gangs read goes through the cable and the terminals; what only one of them reads more is its own contacts. So
a point is placed by the lower of the two, and the highest of both is what is recorded and held against a limit.
"""

from collections.abc import Iterable, Iterator, Mapping
from types import MappingProxyType

from dorrik.core.basics.readings import Reading
from dorrik.core.basics.verdict import Verdict
from dorrik.core.inspection.point import Point

#: The second gang's figure of each figure of a point.
SECOND: Mapping[str, str] = MappingProxyType(
    {
        "line_neutral_ohm": "gang_line_neutral_ohm",
        "line_cpc_ohm": "gang_line_cpc_ohm",
        "r2_ohm": "gang_r2_ohm",
        "zs_ohm": "gang_zs_ohm",
    }
)
#: By so much may contacts of one plate differ (Ω, and as a share of the lower), rule 4.4.
LEAST_TOLERANCE_OHM, TOLERANCE = 0.05, 0.10
SOURCE = "BS 7671 643.2.1 · rule 4.4"


def readings(point: Point, field: str) -> Iterator[Reading]:
    """What a point reads of a figure, at each of its gangs."""
    for name in (field, SECOND[field]):
        reading: Reading | None = getattr(point, name)
        if reading is not None:
            yield reading


def of_points(points: Iterable[Point], field: str) -> Iterator[Reading]:
    """What some points read of a figure, at all their gangs."""
    for point in points:
        yield from readings(point, field)


def through_cable(point: Point, field: str) -> Reading | None:
    """The reading that says where a point is (Ω): the lower one of two gangs, since a contact only ever adds to it."""
    own: Reading | None = getattr(point, field)
    second: Reading | None = getattr(point, SECOND[field])
    if own is None or second is None or _plain(second) is None:
        return own
    if own.kind == "over-range":
        return second
    lower = _plain(own)
    return own if lower is None or lower <= (_plain(second) or 0.0) else second


def _plain(reading: Reading) -> float | None:
    return reading.value if reading.kind == "number" and reading.bound is None else None


def is_tested_apart(point: Point) -> bool:
    """Is each of its two gangs tested, by word or by a reading of the second?"""
    return bool(point.two_gangs) or any(getattr(point, name) is not None for name in SECOND.values())


def judge(first: Reading | None, second: Reading | None, *, earth: bool) -> tuple[bool, Verdict] | None:
    """One figure of both gangs (Ω), and whether what is said is said of the second gang; None where they agree.

    earth: does the figure go through the earth contact? One gang alone that was measured is half a test.
    """
    if first is None and second is None:
        return None
    if first is None or second is None:
        return second is None, _HALF
    over = [reading.kind == "over-range" for reading in (first, second)]
    if over[0] != over[1]:
        return over[1], _NO_CONTACT_EARTH if earth else _NO_CONTACT
    if first.value is None or second.value is None or first.bound is not None or second.bound is not None:
        return None
    lower, higher = sorted((first.value, second.value))
    excess = higher - lower
    if excess <= max(LEAST_TOLERANCE_OHM, TOLERANCE * lower) + 1e-9:
        return None
    in_second = second.value > first.value
    return in_second, Verdict(
        status="attention",
        reason=f"The {'second' if in_second else 'first'} gang reads {excess:.2f} Ω more than the other: its own "
        "contacts, not the cable.",
        source=SOURCE,
        limit=lower,
        margin=-excess,
        next_step="Isolate. Re-plug, work its switch a few times, test it again. Still high: prove dead, renew it.",
    )


_HALF = Verdict(
    status="unknown",
    reason="One gang of two was tested: the contacts of the other were not.",
    source=SOURCE,
    next_step="Test the other gang, or enter LIM with the reason.",
    asks=True,
)
_NO_CONTACT_EARTH = Verdict(
    status="fail",
    reason="One gang has no earth, the other has: its earth contact does not meet the pin.",
    source="BS 7671 643.2.1 · rules 4.6, 5.2",
    next_step="Isolate and prove dead. Renew the accessory, restore, test both gangs; until then keep it out of use.",
    observation="no-cpc-at-point",
)
_NO_CONTACT = Verdict(
    status="attention",
    reason="One gang does not read, the other does: a contact or the switch of that gang.",
    source=SOURCE,
    next_step="Isolate. Switch on, re-plug, test again. Still open: prove dead, renew it.",
)
