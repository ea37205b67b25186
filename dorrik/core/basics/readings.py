"""Readings: what the inspector wrote, kept to the letter, and what it means (rules 1.1 to 1.4).

A reading is a plain number, a bound (`>299`, `<0.05`), over range (`OL`), a limitation (`LIM` with a
reason), `N/A`, `N/V` (not verified) or empty. What stands on a display is read as it stands: with its unit (`618 A`),
as a
range (`0.24-0.25`), still moving (`12 rising`), less the leads (`0.45-0.07`). Arithmetic on readings carries bounds,
and asks for the interval in which the true value can lie, so that nothing is claimed beyond what was measured.
"""

import re
from collections.abc import Callable, Iterable, Iterator, Mapping
from contextlib import contextmanager
from contextvars import ContextVar
from functools import lru_cache, wraps
from math import fsum, inf
from types import MappingProxyType
from typing import Any, Literal, ParamSpec, TypeVar

from dorrik.core.basics.record import record
from dorrik.core.basics.text import why_not
from dorrik.core.basics.verdict import Verdict

Bound = Literal[">", "<"]
Kind = Literal["number", "over-range", "limitation", "not-applicable", "not-verified", "empty"]
Quantity = Literal["continuity", "insulation", "loop", "trip-time", "leakage", "direct-voltage"]

MAX_LENGTH = 200

_NUMBER = re.compile(r"(>=|<=|[><≥≤])?\s*(\d+(?:[.,]\d*)?|[.,]\d+)")
#: A figure that has not come to rest. `rising` and `falling` say on which side the true value lies; `unsettled` does
# not.
_MOVING = re.compile(r"(.+?)\s*(?:\((.+)\)|(?:,\s*)?((?:still )?(?:rising|falling|unsettled|moving)))", re.IGNORECASE)
_PAIR = re.compile(r"(\d+(?:[.,]\d*)?|[.,]\d+)\s*[-–−]\s*(\d+(?:[.,]\d*)?|[.,]\d+)")
#: Factors to the unit of a field by what a display may show beside the figure.
_UNITS: Mapping[str, Mapping[str, float]] = MappingProxyType(
    {
        "kA": {"ka": 1.0, "a": 1e-3},
        "Ω": {"ω": 1.0, "ohm": 1.0, "ohms": 1.0, "mω": 1e-3, "kω": 1e3},
        "MΩ": {"mω": 1.0, "gω": 1e3, "kω": 1e-3, "mohm": 1.0},
        "ms": {"ms": 1.0, "s": 1e3},
        "mA": {"ma": 1.0, "a": 1e3},
        "V d.c.": {"v": 1.0, "v d.c.": 1.0, "v dc": 1.0},
    }
)
_WITH_UNIT = re.compile(r"(.*\d)\s*([A-Za-zΩµω][A-Za-zΩω. ]*)")
#: The leads' own share that a subtraction may show without a lead set that is known (Ω), rule 1.1.
MOST_LEADS_OHM = 0.10
#: Where the higher figure is the better one: of a range the lower end counts.
_HIGH_IS_GOOD: frozenset[str] = frozenset(("insulation", "direct-voltage"))

_KINDS_BY_WORD: dict[str, Kind] = {
    "ol": "over-range",
    "o/l": "over-range",
    "o/r": "over-range",
    "or": "over-range",
    "∞": "over-range",
    "inf": "over-range",
    "n/a": "not-applicable",
    "na": "not-applicable",
    "n/v": "not-verified",
    "nv": "not-verified",
    "": "empty",
    "-": "empty",
    "–": "empty",
}

#: What an instrument's last digit is worth by quantity (in the unit of the reading), from each value on: the last digit
#: counts by the instrument's resolution, not by how many decimals were typed (rule 1.3).
RESOLUTION: dict[Quantity, tuple[tuple[float, float], ...]] = {
    "continuity": ((100.0, 1.0), (10.0, 0.1), (0.0, 0.01)),
    "insulation": ((100.0, 1.0), (10.0, 0.1), (0.0, 0.01)),
    "loop": ((100.0, 1.0), (10.0, 0.1), (0.0, 0.01)),
    "trip-time": ((0.0, 1.0),),
    "leakage": ((0.0, 0.1),),
    "direct-voltage": ((0.0, 1.0),),
}

#: Share of the reading and number of last digits (milliseconds for trip time), rule 1.3. The last two are usual for
#: leakage clamps and varistor tests.
UNCERTAINTY: dict[Quantity, tuple[float, float]] = {
    "continuity": (0.02, 2.0),
    "insulation": (0.03, 3.0),
    "loop": (0.05, 5.0),
    "trip-time": (0.01, 1.0),
    "leakage": (0.03, 5.0),
    "direct-voltage": (0.03, 3.0),
}


_accuracy: ContextVar[Mapping[Quantity, tuple[float, float]]] = ContextVar("accuracy", default=MappingProxyType({}))


@contextmanager
def accurate(accuracy: Mapping[Quantity, tuple[float, float]]) -> Iterator[None]:
    """Take readings to be as accurate as this (share, last digits) while the block lasts, in this task only."""
    token = _accuracy.set(accuracy)
    try:
        yield
    finally:
        _accuracy.reset(token)


_P = ParamSpec("_P")
_T = TypeVar("_T")


def is_own_accuracy(quantity: Quantity) -> bool:
    """Was the accuracy in force entered for the instruments in use, and not only the usual one? (rule 1.3)"""
    return quantity in _accuracy.get()


def remembered(function: Callable[_P, _T]) -> Callable[_P, _T]:
    """Keep what a function makes of readings and numbers, apart for each accuracy in force.

    An inspection is judged again with every figure that is entered, and all the others are as they were. Not for what
    reads a table: `reference.cached` knows of corrections.
    """

    def work(_accuracy: object, *args: Any, **kwargs: Any) -> _T:
        return function(*args, **kwargs)

    known: Callable[..., _T] = lru_cache(maxsize=8192)(work)

    @wraps(function)
    def ask(*args: _P.args, **kwargs: _P.kwargs) -> _T:
        accuracy = _accuracy.get()
        return known(tuple(sorted(accuracy.items())) if accuracy else None, *args, **kwargs)

    return ask


NULL_SOURCE = "lead null · rule 1.4"
NULL_TOLERANCE_OHM = 0.03
NULL_TOLERANCE = 0.25


class ReadingError(ValueError):
    """The text is not a reading; the message says why, in words for the person who typed it."""


@record
class Reading:
    """A reading as written and as understood.

    text: what was typed, without the blanks around it.
    kind: number, over-range, limitation, not-applicable, not-verified or empty.
    value: the number in the unit of the field, None unless kind is number.
    bound: '>' or '<' where the number is only a bound (over range counts as '>'), else None.
    limitation: the reason given with LIM, '' where none was given, None for every other kind.
    leads: what was subtracted for the leads, as written (Ω); None where nothing was.
    """

    text: str
    kind: Kind
    value: float | None = None
    bound: Bound | None = None
    limitation: str | None = None
    leads: float | None = None

    def __hash__(self) -> int:
        # What was written nearly always tells two readings apart.
        return hash(self.text)

    @staticmethod
    def parse(text: str, unit: str = "", quantity: Quantity | None = None) -> "Reading":
        """Read what was typed (rule 1.1). Raises ReadingError with a reason for anything else.

        unit, quantity: of the field that it stands in, for what a display shows beside the figure.
        """
        return _parse(text, unit, quantity)

    @staticmethod
    def of(value: float, bound: Bound | None = None) -> "Reading":
        """A computed reading, written with three significant figures (two decimals at least below 1)."""
        return Reading(f"{bound or ''}{rounded(value)}", "number", value, bound)

    def __str__(self) -> str:
        return self.text

    @property
    def resolution(self) -> float:
        """The step of the last digit that was written: 0.01 for `0.38`, 1 for `299`."""
        return _resolution(self.text)

    @property
    def inclusive(self) -> bool:
        """Written as `≥` or `≤`: the figure itself is still possible."""
        return self.text.startswith(("≥", "≤", ">=", "<="))

    @property
    def interval(self) -> tuple[float, float] | None:
        """Least and greatest value that the reading allows; None where it says nothing of a value."""
        if self.kind == "over-range":
            return (0.0, inf)
        if self.value is None:
            return None
        if self.bound == ">":
            return (self.value, inf)
        if self.bound == "<":
            return (0.0, self.value)
        return (self.value, self.value)

    def uncertainty(self, quantity: Quantity) -> float:
        """Instrument uncertainty in the unit of the reading, at its default accuracy (rule 1.3)."""
        share, digits = _accuracy.get().get(quantity) or UNCERTAINTY[quantity]
        return _uncertainty(self.text, self.value or 0.0, quantity, share, digits)


@lru_cache(maxsize=16384)
def _uncertainty(text: str, value: float, quantity: Quantity, share: float, digits: float) -> float:
    usual = next(step for least, step in RESOLUTION[quantity] if value >= least)
    # Figures finer than usual were shown by a finer instrument.
    step = usual if quantity == "trip-time" else min(usual, _resolution(text))
    return share * value + digits * step


def _resolution(text: str) -> float:
    figure = re.search(r"\d*[.,](\d+)", text)
    return float(10.0 ** -len(figure[1])) if figure else 1.0


@lru_cache(maxsize=16384)
def _parse(text: str, unit: str = "", quantity: Quantity | None = None) -> Reading:
    if len(text) > MAX_LENGTH:
        raise ReadingError(f"That is {len(text)} characters long; a reading has at most {MAX_LENGTH}.")
    kept = text.strip()
    word = kept.lower()
    if why_not(kept) is not None or "\n" in kept or "\t" in kept:
        raise ReadingError(_why_not(kept))
    if word in _KINDS_BY_WORD:
        kind = _KINDS_BY_WORD[word]
        return Reading(kept, kind, bound=">" if kind == "over-range" else None)
    if word == "lim" or word.startswith(("lim ", "lim:", "lim,")):
        return Reading(kept, "limitation", limitation=kept[3:].lstrip(" :,"))
    figure, factor = _less_unit(kept, unit)
    moving = _MOVING.fullmatch(figure)
    if moving is not None and unit:
        return _moving(kept, *_less_unit(moving[1], unit), (moving[2] or moving[3]).lower(), quantity)
    pair = _PAIR.fullmatch(figure)
    if pair is not None and unit:
        return _pair(kept, _number(pair[1]), _number(pair[2]), factor, quantity)
    match = _NUMBER.fullmatch(figure)
    if match is None:
        raise ReadingError(_why_not(kept))
    sign, digits = match.groups()
    bound: Bound | None = None if sign is None else ">" if sign in (">", ">=", "≥") else "<"
    return Reading(kept, "number", _plausible(_number(digits) * factor), bound)


def _number(digits: str) -> float:
    return float(digits.replace(",", "."))


def _plausible(value: float) -> float:
    if value > 1e6:
        raise ReadingError("That number is too large for a reading; use OL if the meter was over range.")
    return value


def _less_unit(text: str, unit: str) -> tuple[str, float]:
    """The figure without the unit that stands beside it, and the factor to the field's own unit."""
    match = _WITH_UNIT.fullmatch(text)
    known = _UNITS.get(unit, {})
    if match is None or not known:
        return text, 1.0
    factor = known.get(match[2].strip().lower())
    # A milliohm and a megohm differ by their first letter alone.
    if unit == "Ω" and match[2].strip().startswith("M"):
        return text, 1.0
    return (text, 1.0) if factor is None else (match[1].strip(), factor)


def _moving(kept: str, figure: str, factor: float, word: str, quantity: Quantity | None) -> Reading:
    """A figure that had not come to rest: a bound, and where nothing says which way, the one that lets nothing pass."""
    match = _NUMBER.fullmatch(figure)
    if match is None or match[1] or not any(w in word for w in ("rising", "falling", "unsettled", "moving")):
        raise ReadingError(_why_not(kept))
    worse: Bound = "<" if quantity in _HIGH_IS_GOOD else ">"
    bound: Bound = ">" if "rising" in word else "<" if "falling" in word else worse
    return Reading(kept, "number", _plausible(_number(match[2]) * factor), bound)


def _pair(kept: str, first: float, second: float, factor: float, quantity: Quantity | None) -> Reading:
    """Two figures with a dash: a range, judged by its worse end, or a reading less its leads (rule 1.1)."""
    if first <= second:
        return Reading(kept, "number", _plausible((first if quantity in _HIGH_IS_GOOD else second) * factor))
    if quantity != "continuity":
        raise ReadingError(
            f"“{kept[:24]}”: write a range from low to high; leads are subtracted from continuity alone."
        )
    if second >= first / 2:
        raise ReadingError(f"“{kept[:24]}” takes off half of the reading and more. Check both figures.")
    return Reading(kept, "number", round((first - second) * factor, 6), leads=second * factor)


def _why_not(kept: str) -> str:
    """Name the slip in words, since the person sees it with the figure still in the field."""
    shown = "".join(c if c.isprintable() else "·" for c in kept[:24]) + ("…" if len(kept) > 24 else "")
    if re.fullmatch(r"[-−]\s*[\d.,]+", kept):
        return f"“{shown}” is negative; a reading never is. Null the leads again if the meter showed this."
    if kept.count(".") + kept.count(",") > 1 and re.fullmatch(r"[><≥≤=\s\d.,]+", kept):
        return f"“{shown}” has more than one decimal mark."
    if re.match(r"[><≥≤]\s*[><≥≤]", kept):
        return f"“{shown}” has more than one bound sign; write one, as in >200."
    if re.fullmatch(r"[><≥≤=]+", kept):
        return f"“{shown}” has no figure after the sign."
    if re.fullmatch(r"(>=|<=|[><≥≤])?\s*[\d.,]+\s*[a-zA-ZΩµ]+", kept):
        return f"“{shown}”: leave the unit out, the field has its own."
    return f"“{shown}” is not a reading. Write a figure, >299 or <0.05, OL, LIM with a reason, N/A or N/V."


def rounded(value: float) -> str:
    """A number for people: three significant figures, at most two decimals, no exponent."""
    if value == inf:
        return "∞"
    if value >= 100:
        return f"{value:.0f}"
    if value >= 10:
        return f"{value:.1f}"
    return f"{value:.2f}"


def at_most(reading: Reading | None, limit: float) -> bool | None:
    """Is the true value at most the limit? None where the reading cannot settle it (rule 1.2).

    Over range is a value: beyond every limit that it is held against from below.
    """
    if reading is not None and reading.kind == "over-range":
        return False
    span = reading.interval if reading else None
    if span is None:
        return None
    low, high = span
    if high <= limit:
        return True
    # `>0.8` says more than 0.8, which is already beyond a limit of 0.8; `≥0.8` may still be it.
    if low > limit or (reading and low == limit and high > limit and not reading.inclusive):
        return False
    return None


def at_least(reading: Reading | None, limit: float) -> bool | None:
    """Is the true value at least the limit? None where the reading cannot settle it (rule 1.2)."""
    span = reading.interval if reading else None
    if span is None:
        return None
    low, high = span
    if low >= limit:
        return True
    if high < limit or (reading and high == limit and low < limit and not reading.inclusive):
        return False
    return None


@lru_cache(maxsize=8192)
def add(*terms: Reading) -> Reading | None:
    """Sum in one unit. With a lower bound in it the sum is a lower bound; None where it says nothing."""
    spans = [term.interval for term in terms]
    if any(span is None for span in spans):
        return None
    low = fsum(span[0] for span in spans if span)
    high = fsum(span[1] for span in spans if span)
    if low == high:
        return Reading.of(low)
    if high == inf:
        return Reading.of(low, ">")
    return Reading.of(high, "<")


def why_unknown(reading: Reading | None, name: str) -> str:
    """One sentence on why a reading settles nothing."""
    if reading is None or reading.kind == "empty":
        return f"{name} has not been measured yet."
    if reading.kind == "limitation":
        return f"{name} is a limitation" + (f": {reading.limitation}." if reading.limitation else "; say why.")
    if reading.kind == "not-applicable":
        return f"{name} does not apply here."
    if reading.kind == "not-verified":
        return f"{name} could not be verified."
    return f"{name} of {reading.text} is not judged: the true value may be above or below the limit."


def lead_resistance_ohm(accepted_nulls: Iterable[Reading]) -> float | None:
    """The resistance of a lead set (Ω): the mean of its earlier accepted nulls; None without any."""
    values = [null.value for null in accepted_nulls if null.value is not None and null.bound is None]
    return sum(values) / len(values) if values else None


def check_null(reading: Reading | None, known_ohm: float | None) -> Verdict:
    """Hold a null (Ω) against what this lead set should read (Ω), within max(0.03 Ω, 25 %)."""
    if reading is None or reading.value is None or reading.bound is not None:
        over = reading is not None and reading.kind == "over-range"
        return Verdict(
            status="fail" if over else "unknown",
            reason="The leads are open." if over else why_unknown(reading, "The null"),
            source=NULL_SOURCE,
            limit=known_ohm,
            next_step="Press the tips together, look at plugs and fuses of the leads." if over else None,
        )
    if known_ohm is None:
        return Verdict(
            status="unknown",
            reason=f"{reading} Ω is the first null of this lead set; nothing is known to hold it against.",
            source=NULL_SOURCE,
        )
    tolerance = max(NULL_TOLERANCE_OHM, NULL_TOLERANCE * known_ohm)
    apart = reading.value - known_ohm
    if abs(apart) > tolerance + 1e-9:
        higher = apart > 0
        return Verdict(
            status="attention",
            reason=f"{reading} Ω, where these leads read {rounded(known_ohm)} Ω: "
            + ("a bad contact or a failing lead." if higher else "another lead set, or a wrong null before."),
            source=NULL_SOURCE,
            limit=known_ohm,
            margin=tolerance - abs(apart),
            next_step="Clean and press the tips, null again; readings since the last good null are marked.",
        )
    return Verdict(
        status="pass",
        reason=f"{reading} Ω is what these leads read ({rounded(known_ohm)} Ω).",
        source=NULL_SOURCE,
        limit=known_ohm,
        margin=tolerance - abs(apart),
    )


def changed_leads(known_ohm: float | None) -> Verdict:
    """Leads or tips were changed and not nulled since (rule 1.4). known_ohm: what they should read (Ω)."""
    reads = f" They should read {rounded(known_ohm)} Ω." if known_ohm is not None else ""
    return Verdict(
        status="attention",
        reason=f"Leads or tips were changed and not nulled since.{reads}",
        source=NULL_SOURCE,
        limit=known_ohm,
        next_step="Null the leads; what was read since the change is marked.",
    )


def subtract(reading: Reading, leads_ohm: float) -> Reading:
    """A reading taken without a null, less the leads (Ω), never below 0; what is no figure stays as it is."""
    if reading.value is None:
        return reading
    return Reading.of(max(0.0, reading.value - leads_ohm), reading.bound)
