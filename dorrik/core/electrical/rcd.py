"""Residual current devices: trip time, kind, and where one is expected (rules 8.1 to 8.3).

The numbers are in `data/rcd.csv`.
"""

from collections.abc import Mapping, Sequence
from typing import Literal

from dorrik.core.basics.comparison import ComparedWords, judge
from dorrik.core.basics.readings import Reading
from dorrik.core.basics.record import record
from dorrik.core.basics.verdict import Verdict
from dorrik.core.book.reference import cached, number, rows

SOURCE = "BS 7671 643.8, appendix 3 · rule 8.1"
#: An earth-leakage breaker that watches a voltage and not a residual current. It never counts as an RCD.
VOLTAGE_OPERATED = "voltage-operated"
#: No residual current device opens sooner (ms): what is written below it is a slip (rule 1.2).
LEAST_POSSIBLE_MS = 1.0


@cached
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


@cached
def standards() -> tuple[str, ...]:
    """Standards of residual current devices that trip times are tabulated for."""
    return (*dict.fromkeys(row["standard"] for row in rows("rcd")), VOLTAGE_OPERATED)


def is_too_quick(trip_ms: Reading | None) -> bool:
    """Is a trip time (ms) less than any device can take? (rule 1.2)"""
    return trip_ms is not None and trip_ms.value is not None and trip_ms.value < LEAST_POSSIBLE_MS


@cached
def unconfirmed(standard: str, delay: str, multiple: float = 1) -> bool:
    """Could the limits of `trip_limits_ms` not be held against a copy of the standard?"""
    return any(
        row["note"].startswith("check")
        for row in rows("rcd")
        if row["standard"] == standard and row["delay"] == delay and float(row["multiple"]) == multiple
    )


def judge_trip(
    standard: str,
    delay: str,
    rated_ma: float,
    trip_ms: Reading | None,
    multiple: float = 1,
    *,
    delay_ms: float | None = None,
) -> Verdict:
    """Hold a measured trip time against the device's limits.

    standard, delay: see `trip_limits_ms`; rated_ma: rated residual current (mA); trip_ms: reading (ms), over
    range or a lower bound where it did not trip in time; multiple: test current over rated current; delay_ms: the delay
    marked on an old time-delayed device (ms), whose limits are 200 ms and half of that, and 200 ms and all of it.
    """
    try:
        least, greatest = trip_limits_ms(standard, delay, multiple)
    except LookupError as error:
        if delay_ms is None or multiple != 1:
            return Verdict(status="unknown", reason=str(error), source=SOURCE, next_step="Go by the device's marking.")
        least, greatest = 200.0 + delay_ms / 2, 200.0 + delay_ms
    test = f"{rated_ma:g} mA at {multiple:g} × IΔn"
    if is_too_quick(trip_ms):
        return Verdict(
            status="attention",
            reason=(
                f"{trip_ms} ms: no RCD opens in less than {LEAST_POSSIBLE_MS:g} ms. Seconds written for milliseconds?"
            ),
            source=f"{SOURCE}, 1.2",
            limit=LEAST_POSSIBLE_MS,
            next_step="Check the entry, then test again.",
            asks=True,
        )
    if trip_ms is not None and trip_ms.kind == "over-range":
        return Verdict(
            status="fail",
            reason=f"Did not trip ({test}).",
            source=SOURCE,
            limit=greatest,
            next_step="Isolate. Disconnect the load side, restore, test again. If it still fails, replace the RCD.",
            observation="rcd-no-trip",
        )
    doubt = " (limit: check against your copy)" if unconfirmed(standard, delay, multiple) else ""
    slow = judge(
        trip_ms,
        greatest,
        "trip-time",
        ComparedWords(
            name="The trip time",
            unit="ms",
            source=SOURCE,
            within=f"{{reading}} is within {{limit}} ({test}){doubt}",
            beyond=f"{{reading}} is longer than the {{limit}} allowed ({test}){doubt}",
            next_step="Isolate. Disconnect the load side, restore, test again. If it is still slow, replace the RCD.",
            observation="rcd-slow",
        ),
    )
    if not least or slow.status in ("fail", "unknown"):
        return slow
    quick = judge(
        trip_ms,
        least,
        "trip-time",
        ComparedWords(
            name="The trip time",
            unit="ms",
            source=SOURCE,
            within=slow.reason.rstrip("."),
            beyond=f"{{reading}} is shorter than the {{limit}} a time-delayed device must hold ({test}){doubt}",
            next_step="Check that the device is the time-delayed kind it is marked as.",
        ),
        least=True,
    )
    return slow if quick.status == "pass" else quick


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


def judge_kind(kind: Kind, load: Load, *, dc_detection: bool | None = False) -> Verdict:
    """Hold an RCD's kind against the load it serves (rule 8.2).

    kind: AC, A, F or B; load: what it feeds; dc_detection: the equipment detects smooth d.c. above 6 mA itself, None
    where that was not entered: kind A before such equipment is the usual, compliant arrangement, so that it is asked.
    """
    source = "BS 7671 531.3.3 · rule 8.2"
    if dc_detection is None and load in ("inverter", "vehicle") and kind in ("A", "F"):
        return Verdict(
            status="unknown",
            reason=f"Type {kind} suits this load ({load}) if the load detects d.c. itself, which was not entered.",
            source=source,
            next_step="Read it in the maker's instructions, and enter it.",
            asks=True,
        )
    least: Kind = "A" if dc_detection and load in ("inverter", "vehicle") else _NEEDS[load]
    if _SEES.index(kind) >= _SEES.index(least):
        return Verdict(status="pass", reason=f"Type {kind} suits this load ({load}).", source=source)
    grave = load in ("vehicle", "inverter")
    return Verdict(
        status="fail" if grave else "attention",
        reason=f"Type {kind} can be blinded by this load ({load}); {least} is the least.",
        source=source,
        next_step="Read the maker's instructions of the equipment; fit the kind that they name.",
        observation="rcd-kind",
    )


#: Rated residual current of additional protection (mA).
ADDITIONAL_MA = 30.0


def missing_on_tt(circuits: Sequence[str]) -> Verdict:
    """No RCD in front of circuits on an electrode, one word for all of them (rule 3.2)."""
    count = f"{len(circuits)} circuits" if len(circuits) != 1 else "1 circuit"
    return Verdict(
        status="fail",
        reason=f"An electrode needs an RCD to clear a fault; none is recorded for {count}: {', '.join(circuits[:6])}"
        + (f" and {len(circuits) - 6} more." if len(circuits) > 6 else "."),
        source="BS 7671 411.5.2 · rule 3.2",
        next_step="Look for an RCD upstream of the board or in its main switch.",
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


#: What each entry speaks of, gravest first, and its words.
MISSING = {
    "rcd-missing-outdoor": "sockets that can feed equipment outdoors",
    "rcd-missing-bathroom": "circuits of a room with a bath or shower",
    "rcd-missing-sockets": "sockets up to 32 A",
    "rcd-missing-hidden": "lighting of a dwelling and cables hidden in walls",
}


def judge_missing(needs: Mapping[str, Sequence[str]], rated_ma: float | None, *, delayed: bool = False) -> Verdict:
    """Judge the absence of 30 mA additional protection on a board, one word for all of its circuits.

    needs: names of the circuits by catalogue entry, see `expected_protection`; rated_ma: a less sensitive RCD that is
    there (mA), or None; delayed: it is time-delayed, which gives none whatever its rating (rule 8.2). Attention, not
    fail: what met the edition of its day is no failure for age alone (rule 13.6).
    """
    circuits = [name for key in MISSING for name in needs.get(key, ())]
    missing = "; ".join(f"{MISSING[key]} ({', '.join(needs[key])})" for key in MISSING if needs.get(key))
    there = f"only a {rated_ma:g} mA{' time-delayed' if delayed else ''} RCD" if rated_ma else "no RCD"
    count = f"{len(circuits)} circuits" if len(circuits) > 1 else "1 circuit"
    return Verdict(
        status="attention",
        reason=f"No 30 mA protection: {count}. Today it is expected for {missing}; there is {there}.",
        source="BS 7671 411.3.3, 411.3.4, 522.6.202, 701.411.3.3 · rule 8.3",
        limit=ADDITIONAL_MA,
        observation=next(key for key in MISSING if needs.get(key)),
    )


def judge_unknown_load(kind: Kind) -> Verdict | None:
    """An a.c.-only device in front of sockets, whose loads nobody knows (rule 8.2); None for the other kinds."""
    if kind != "AC":
        return None
    return Verdict(
        status="attention",
        reason="Type AC RCD on sockets: d.c. from plugged-in equipment can stop it tripping.",
        source="BS 7671 531.3.3 · rule 8.2",
        next_step="Ask what is plugged in; a load with direct current in it decides.",
        observation="rcd-kind-sockets",
    )


def judge_in_line(
    before: tuple[float, str | None], behind: tuple[float, str | None], names: tuple[str, str]
) -> Verdict | None:
    """Do two RCDs in line discriminate? Each by rated residual current (mA) and delay; None where they do.

    The one before has to be at least three times the other and time-delayed (BS 7671 536.4.1.4). A fault takes both
    otherwise: unwanted, and no danger.
    """
    (upper_ma, delay), (lower_ma, _) = before, behind
    ratio, delayed = upper_ma >= 3 * lower_ma, delay == "S"
    if ratio and delayed:
        return None
    why = "has no time delay" if ratio else f"is not three times the {lower_ma:g} mA behind it"
    return Verdict(
        status="attention",
        reason=f"{names[0]} ({upper_ma:g} mA) {why}: a fault behind {names[1]} takes both.",
        source="BS 7671 536.4.1.4 · rule 8.1",
        next_step="A time-delayed one of at least three times the rating upstream; tell the occupier meanwhile.",
    )
