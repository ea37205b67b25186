"""Residual current devices: trip time, kind, and where one is expected (rules 8.1 to 8.3).

The numbers are in `data/rcd.csv`.
"""

from typing import Literal

from dorrik.core.readings import Reading, at_least, at_most, why_unknown
from dorrik.core.record import record
from dorrik.core.reference import kept, number, rows
from dorrik.core.verdict import Verdict

SOURCE = "BS 7671 643.8, appendix 3 · rule 8.1"


@kept
def trip_limits_ms(standard: str, delay: str, multiple: float = 1) -> tuple[float, float]:
    """Least and greatest trip time (ms) at a multiple of the rated residual current.

    standard: 'BS EN 61008', 'BS EN 61009' or 'BS 4293'; delay: 'none' or 'S'. Raises LookupError where the table
    holds no limit: an old time-delayed device goes by its marking.
    """
    for row in rows("rcd"):
        if row["standard"] == standard and row["delay"] == delay and float(row["multiple"]) == multiple:
            greatest = number(row["max_ms"]) if row["max_ms"].replace(".", "").isdigit() else None
            if greatest is not None:
                return (number(row["min_ms"]) or 0.0, greatest)
    raise LookupError(f"No trip time is tabulated for {standard}, delay {delay}, at {multiple:g} × IΔn.")


def judge_trip(standard: str, delay: str, rated_ma: float, trip_ms: Reading | None, multiple: float = 1) -> Verdict:
    """Hold a measured trip time against the device's limits.

    standard, delay: see `trip_limits_ms`; rated_ma: rated residual current (mA); trip_ms: reading (ms), over
    range or a lower bound where it did not trip in time; multiple: test current over rated current.
    """
    try:
        least, greatest = trip_limits_ms(standard, delay, multiple)
    except LookupError as error:
        return Verdict(status="unknown", reason=str(error), source=SOURCE, next_step="Go by the device's marking.")
    told = f"{rated_ma:g} mA at {multiple:g} × IΔn"
    if trip_ms is not None and trip_ms.sort == "over-range":
        return Verdict(
            status="fail",
            reason=f"Did not trip ({told}).",
            source=SOURCE,
            limit=greatest,
            next_step="Disconnect the load side and test again; if it still does not trip, it needs replacing.",
            observation="rcd-no-trip",
        )
    quick, slow = at_most(trip_ms, greatest), at_least(trip_ms, least)
    if quick is None or (least and slow is None):
        return Verdict(status="unknown", reason=why_unknown(trip_ms, "The trip time"), source=SOURCE, limit=greatest)
    assert trip_ms is not None
    margin = None if trip_ms.value is None else greatest - trip_ms.value
    if not quick:
        return Verdict(
            status="fail",
            reason=f"{trip_ms} ms is longer than the {greatest:g} ms allowed ({told}).",
            source=SOURCE,
            limit=greatest,
            margin=margin,
            next_step="Disconnect the load side and test again before condemning it.",
            observation="rcd-slow",
        )
    if least and not slow:
        return Verdict(
            status="fail",
            reason=f"{trip_ms} ms is shorter than the {least:g} ms a time-delayed device must hold ({told}).",
            source=SOURCE,
            limit=least,
            margin=None if trip_ms.value is None else trip_ms.value - least,
            next_step="Check that the device is the time-delayed kind it is marked as.",
        )
    if trip_ms.bound is None and margin is not None and margin < trip_ms.uncertainty("trip-time"):
        return Verdict(
            status="attention",
            reason=f"{trip_ms} ms is within {greatest:g} ms only by less than the instrument's uncertainty.",
            source=SOURCE + ", 1.3",
            limit=greatest,
            margin=margin,
        )
    return Verdict(
        status="pass",
        reason=f"{trip_ms} ms is within {greatest:g} ms ({told}).",
        source=SOURCE,
        limit=greatest,
        margin=margin,
    )


Kind = Literal["AC", "A", "F", "B"]
Load = Literal["resistive", "electronics", "variable-speed", "inverter", "vehicle"]
#: What each kind still sees: kinds further right see all that those to their left do.
_SEES: tuple[Kind, ...] = ("AC", "A", "F", "B")
#: The least kind for each load. A charge point or an inverter that watches for d.c. itself needs only A.
_NEEDS: dict[Load, Kind] = {
    "resistive": "AC",
    "electronics": "A",
    "variable-speed": "F",
    "inverter": "B",
    "vehicle": "B",
}


#: The words of a document's fields as the kinds and loads they name.
KINDS: dict[str, Kind] = {kind: kind for kind in _SEES}
LOADS: dict[str, Load] = {load: load for load in _NEEDS}


def judge_kind(kind: Kind, load: Load, *, dc_detection: bool = False) -> Verdict:
    """Hold an RCD's kind against the load it serves (rule 8.2).

    kind: AC, A, F or B; load: what it feeds; dc_detection: the equipment detects smooth d.c. above 6 mA itself.
    """
    source = "BS 7671 531.3.3 · rule 8.2"
    least: Kind = "A" if dc_detection and load in ("inverter", "vehicle") else _NEEDS[load]
    if _SEES.index(kind) >= _SEES.index(least):
        return Verdict(status="pass", reason=f"Kind {kind} suits this load ({load}).", source=source)
    grave = load in ("vehicle", "inverter")
    return Verdict(
        status="fail" if grave else "attention",
        reason=f"Kind {kind} can be blinded by this load ({load}); {least} is the least.",
        source=source,
        next_step="Read the maker's instructions of the equipment; fit the kind that they name.",
        observation="rcd-kind",
    )


#: Rated residual current of additional protection (mA).
ADDITIONAL_MA = 30.0

MISSING_ON_TT = Verdict(
    status="fail",
    reason="On TT the electrode needs an RCD to clear a fault; none is recorded for this circuit.",
    source="BS 7671 411.5.2 · rule 3.2",
    next_step="Look for an RCD in front of the board or in its main switch.",
    observation="tt-without-rcd",
)


@record
class Use:
    """What a circuit does, for asking whether 30 mA protection is expected today (rule 8.3)."""

    socket_rating_a: float | None = None
    feeds_outdoors: bool = False
    bathroom: bool = False
    cable_depth_mm: float | None = None
    dwelling_lighting: bool = False


def expected_protection(use: Use) -> str | None:
    """The catalogue entry that missing 30 mA additional protection raises; None where none is expected.

    The gravest reason comes first (BS 7671 411.3.3, 411.3.4, 522.6.202, 701.411.3.3).
    """
    if use.feeds_outdoors and use.socket_rating_a is not None and use.socket_rating_a <= 32:
        return "rcd-missing-outdoor"
    if use.bathroom:
        return "rcd-missing-bathroom"
    if use.socket_rating_a is not None and use.socket_rating_a <= 32:
        return "rcd-missing-sockets"
    if use.dwelling_lighting or (use.cable_depth_mm is not None and use.cable_depth_mm < 50):
        return "rcd-missing-hidden"
    return None


def judge_missing(key: str, rated_ma: float | None) -> Verdict:
    """Judge the absence of 30 mA additional protection where it is expected today.

    key: see `expected_protection`; rated_ma: a less sensitive RCD that is there (mA), or None. Attention, not fail:
    what met the edition of its day is no failure for its age alone (rule 13.6).
    """
    where = {
        "rcd-missing-outdoor": "sockets that can feed equipment outdoors",
        "rcd-missing-bathroom": "circuits of a room with a bath or shower",
        "rcd-missing-sockets": "sockets up to 32 A",
        "rcd-missing-hidden": "lighting of a dwelling and cables hidden in walls",
    }[key]
    there = f"only a {rated_ma:g} mA RCD" if rated_ma else "no RCD"
    return Verdict(
        status="attention",
        reason=f"Today 30 mA is expected for {where}; there is {there}.",
        source="BS 7671 411.3.3, 411.3.4, 522.6.202, 701.411.3.3 · rule 8.3",
        limit=ADDITIONAL_MA,
        observation=key,
    )
