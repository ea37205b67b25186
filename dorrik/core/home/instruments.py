"""Instruments and leads at an inspection: calibration in date, and nulls as they should be (rules 1.3 and 1.4)."""

from collections.abc import Iterable, Iterator, Mapping, Sequence
from datetime import UTC, date, datetime
from functools import cache
from typing import Any

from dorrik.core.basics.readings import UNCERTAINTY, Quantity, Reading, changed_leads, check_null
from dorrik.core.basics.record import record
from dorrik.core.basics.verdict import Verdict
from dorrik.core.inspection.kinds import KINDS, EntityKind
from dorrik.core.inspection.records import Inspection, InstrumentUsed, LeadNull

SOURCE = "calibration · BS 7671 643.1"
#: Days before calibration runs out from which it is said.
WARNING_DAYS = 30
#: When readings were entered, by entity id and field: ISO 8601, UTC where no zone is given.
MeasuredAt = Mapping[tuple[str, str], str]
#: Fields of readings that the leads' own resistance is in.
CONTINUITY_FIELDS = frozenset(
    name
    for kind, described in KINDS.items()
    for name, spec in described.fields.items()
    if spec.quantity == "continuity" and kind != "lead_null"
)


def judge_calibration(due: str | None, on: str | None) -> Verdict:
    """Hold the day on which calibration is due against the day of use (both year-month-day)."""
    if due is None:
        return Verdict(status="unknown", reason="No calibration date is in the register.", source=SOURCE)
    if on is None:
        reason = f"Calibration is due on {date.fromisoformat(due):%-d %B %Y}; the day of the inspection is not given."
        return Verdict(status="unknown", reason=reason, source=SOURCE, next_step="Give the day of the inspection.")
    left = (date.fromisoformat(due) - date.fromisoformat(on)).days
    if left < 0:
        return Verdict(
            status="fail",
            reason=f"Calibration ran out {-left} {'day' if left == -1 else 'days'} before.",
            source=SOURCE,
            next_step="Use another instrument, or have this one checked and say so in the report.",
            margin=left,
        )
    if left <= WARNING_DAYS:
        return Verdict(
            status="attention",
            reason=f"Calibration runs out {'today' if left == 0 else f'in {left} days'}.",
            source=SOURCE,
            next_step="Book the instrument in for calibration.",
            margin=left,
        )
    return Verdict(
        status="pass", reason=f"In calibration until {date.fromisoformat(due):%-d %B %Y}.", source=SOURCE, margin=left
    )


_QUANTITIES: tuple[tuple[Quantity, str], ...] = (
    ("continuity", "continuity"),
    ("insulation", "insulation"),
    ("loop", "loop"),
    ("trip-time", "trip"),
)


def accuracy(meters: Iterable[InstrumentUsed]) -> dict[Quantity, tuple[float, float]]:
    """By quantity, share of the reading and last digits of the instruments used, where one differs from the usual.

    Which of several instruments took a reading is not known: the widest of them is taken (rule 1.3).
    """
    accuracies: dict[Quantity, tuple[float, float]] = {}
    for meter in meters:
        for quantity, name in _QUANTITIES:
            percent = getattr(meter, f"{name}_percent")
            digits = getattr(meter, f"{name}_digits")
            if percent is None and digits is None:
                continue
            usual_share, usual_digits = UNCERTAINTY[quantity]
            share = usual_share if percent is None else percent / 100
            own = (share, usual_digits if digits is None else digits)
            before = accuracies.get(quantity, (0.0, 0.0))
            accuracies[quantity] = (max(before[0], own[0]), max(before[1], own[1]))
    return accuracies


#: Field of an instrument that holds the top of its range, by quantity.
_TOPS: tuple[tuple[Quantity, str], ...] = (
    ("continuity", "continuity_top_ohm"),
    ("insulation", "insulation_top_mohm"),
    ("loop", "loop_top_ohm"),
)


def tops(inspection: Inspection) -> dict[Quantity, frozenset[float]]:
    """The tops of the ranges of the instruments in use, by quantity."""
    ranges: dict[Quantity, frozenset[float]] = {}
    for quantity, name in _TOPS:
        known = frozenset(top for m in inspection.instruments_used if (top := getattr(m, name)) is not None)
        if known:
            ranges[quantity] = known
    return ranges


def over_range(kind: str, entity: Any, at_the_top: Mapping[Quantity, frozenset[float]]) -> dict[str, Reading]:
    """Readings of an entity at the top of the range of an instrument in use, read as over range (rule 1.1)."""
    readings = {}
    for name, quantity in _measured(kind):
        value = getattr(entity, name)
        if value is not None and value.bound is None and value.value in at_the_top.get(quantity, ()):
            readings[name] = Reading(value.text, "over-range", bound=">")
    return readings


@cache
def _measured(kind: str) -> tuple[tuple[str, Quantity], ...]:
    """Readings of a kind of entity with what they measure."""
    fields = KINDS[kind].fields.items()
    return tuple((name, spec.quantity) for name, spec in fields if spec.kind == "reading" and spec.quantity)


@record
class Nulled:
    """One null with its verdict; `doubtful` is the span of time whose readings it marks, (from, until).

    from: the last good null of the same leads before it, or the null itself; until: the next good one, None for open.
    """

    null: LeadNull
    verdict: Verdict
    doubtful: tuple[str, str | None] | None


def known_ohm(given: float | None, accepted: Sequence[float]) -> float | None:
    """What a lead set should read (Ω): the mean of its earlier accepted nulls, else what it was bought with."""
    return sum(accepted) / len(accepted) if accepted else given


def nulls(log: Iterable[LeadNull]) -> tuple[Nulled, ...]:
    """Judge a log of nulls, each lead set for itself, in the order of time (rule 1.4).

    A null that is off marks every reading since the last good one of these leads: either may have been the wrong one.
    An entry without a reading says that leads or tips were changed: what is read before the next good null is marked.
    """
    sets: dict[str, list[LeadNull]] = {}
    for null in sorted(log, key=lambda n: (n.nulled_at or "", n.id)):
        if null.nulled_at is not None:
            sets.setdefault(null.leads_id or null.name or "", []).append(null)
    nulls_taken = []
    for of_one in sets.values():
        accepted: list[float] = []
        judged: list[tuple[LeadNull, Verdict]] = []
        for null in of_one:
            known = known_ohm(null.known_ohm, accepted)
            verdict = changed_leads(known) if null.reading_ohm is None else check_null(null.reading_ohm, known)
            judged.append((null, verdict))
            good = verdict.status == "pass" or (verdict.status == "unknown" and not accepted)
            value = _value(null.reading_ohm)
            if good and value is not None:
                accepted.append(value)
        for at, (null, verdict) in enumerate(judged):
            nulls_taken.append(
                Nulled(null, verdict, _doubtful(judged, at) if verdict.status in ("attention", "fail") else None)
            )
    return tuple(nulls_taken)


def doubtful(log: Iterable[LeadNull], measured_at: MeasuredAt) -> frozenset[tuple[str, str]]:
    """Entity id and field of the continuity readings that were entered within a span that a bad null marks (rule 1.4).

    A reading without a time is in no span: nothing is known of when it was taken.
    """
    spans = [
        (_moment(since), None if until is None else _moment(until))
        for since, until in (null.doubtful for null in nulls(log) if null.doubtful)
    ]
    if not spans:
        return frozenset()
    return frozenset(
        figure
        for figure, text in measured_at.items()
        if figure[1] in CONTINUITY_FIELDS
        for at in (_moment(text),)
        if any(since <= at and (until is None or at < until) for since, until in spans)
    )


def no_good_null(log: Iterable[LeadNull]) -> bool:
    """Were the leads nulled, and never well? Then no continuity reading can be leaned on, whenever it was taken."""
    judged = [null.verdict.status for null in nulls(log)]
    return bool(judged) and all(status in ("attention", "fail") for status in judged)


def continuity_figures(inspection: Inspection) -> frozenset[tuple[str, str]]:
    """Entity id and field of every continuity reading that stands in an inspection."""
    return frozenset(_continuity(KINDS["inspection"], inspection))


def _continuity(kind: EntityKind, entity: Any) -> Iterator[tuple[str, str]]:
    for name, spec in kind.fields.items():
        if spec.quantity == "continuity" and kind.name != "lead_null" and getattr(entity, name) is not None:
            yield entity.id, name
    for child in KINDS.values():
        if kind.name in child.parents:
            for entity_below in getattr(entity, child.plural):
                yield from _continuity(child, entity_below)


def _moment(text: str) -> datetime:
    at = datetime.fromisoformat(text)
    return at if at.tzinfo else at.replace(tzinfo=UTC)


def _value(reading: Reading | None) -> float | None:
    return reading.value if reading is not None and reading.bound is None else None


def _doubtful(judged: Sequence[tuple[LeadNull, Verdict]], at: int) -> tuple[str, str | None]:
    good = [i for i, (_, verdict) in enumerate(judged) if verdict.status not in ("attention", "fail")]
    # Leads that were changed are in doubt from then on: those before them were nulled.
    before = at if judged[at][0].reading_ohm is None else max((i for i in good if i < at), default=at)
    after = min((i for i in good if i > at), default=None)
    return str(judged[before][0].nulled_at), None if after is None else str(judged[after][0].nulled_at)
