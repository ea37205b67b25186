"""How sampling stands, from the points that were listed, opened and found defective (rules 12.1 to 12.3)."""

from collections import Counter
from collections.abc import Iterator, Mapping, Sequence
from functools import reduce
from typing import cast, get_args

from dorrik.core.basics.verdict import Verdict
from dorrik.core.book.catalogue import entries
from dorrik.core.inspection.point import DEFECT
from dorrik.core.inspection.records import Circuit, Inspection, Point
from dorrik.core.judging.coverage import sampling
from dorrik.core.judging.topics.context import Context, Note, name_of, names_of, point_names

#: Circuits whose points are more likely to have suffered, and by how much they are likelier drawn (rule 12.1).
_RISK = 2.0
#: Wiring of that age, and a last report that long ago, count as signs of risk (years).
OLD_YEARS, LONG_YEARS = 25, 10
SHARED = "shared house let by the room"


def _named(context: Context) -> Iterator[tuple[str, Circuit]]:
    """Circuits under a name that no other has: a second board numbers its circuits from 1 again, and a point opened
    there must not count for its namesake here."""
    plain = Counter(name_of(circuit) for _, circuit in context.circuits)
    taken: set[str] = set()
    # Where to go on counting: thousands without a name are counted on, not counted through.
    counted: dict[str, int] = {}
    for board, circuit in context.circuits:
        base = name_of(circuit)
        name = base = base if plain[base] == 1 else f"{board.name or 'Board'}, {base}"
        repeat = counted.get(base, 2)
        while name in taken:
            name, repeat = f"{base} ({repeat})", repeat + 1
        counted[base] = repeat
        taken.add(name)
        yield name, circuit


def state(context: Context) -> sampling.SampleState | None:
    """The state of sampling; None while no points are listed."""
    sample_state: sampling.SampleState | None = context.cells.made(_state, context)
    return sample_state


def _state(context: Context) -> sampling.SampleState | None:
    seen = [*_seen(context)]
    if not seen:
        return None
    records, condition = _grades(context)
    share = context.inspection.sample_share
    plan = sampling.plan(
        [seen_point.point for seen_point in seen],
        records,
        condition,
        context.inspection.sampling_seed or 0,
        share / 100 if share is not None else None,
        shares=context.house.sample_shares,
        signs=signs(context.inspection),
    )
    return sampling.follow(seen, plan)


def proposal(context: Context) -> sampling.SampleProposal:
    """The share of points to open, from what is known of the risk."""
    return sampling.propose(*_grades(context), signs(context.inspection), context.house.sample_shares)


def _grades(context: Context) -> tuple[sampling.Records, sampling.Condition]:
    """What is not said counts as the worst: without papers nothing stands for a point that was not opened."""
    i = context.inspection
    records = i.records if i.records in get_args(sampling.Records) else "none"
    condition = i.condition_on_sight if i.condition_on_sight in get_args(sampling.Condition) else "poor"
    return cast(sampling.Records, records), cast(sampling.Condition, condition)


def signs(i: Inspection) -> tuple[str, ...]:
    """Signs of risk beside records and condition, in words (rule 12.1)."""
    signs_seen = [
        (bool(i.other_hands), "Signs of alterations"),
        (bool(i.damp), "Damp, or weather gets in"),
        ((i.age_years or 0) >= OLD_YEARS, f"Wiring of {i.age_years} years"),
        ((i.last_report_years or 0) > LONG_YEARS, f"{i.last_report_years} years since the last report"),
        (i.tenure == SHARED, "Let room by room"),
    ]
    return tuple(words for there, words in signs_seen if there)


def _seen(context: Context) -> Iterator[sampling.SeenPoint]:
    """Every point that is in scope. One that was opened counts whatever was agreed afterwards."""
    defects = _recorded(context.inspection)
    for name, circuit in _named(context):
        for point_name, point in point_names(circuit).items():
            if point.id in context.aside and not point.opened:
                continue
            wet = bool(point.bathroom or circuit.outdoors or circuit.bathroom)
            yield _one(point, f"{name}: {point_name}", name, wet, defects)
    for name, point in names_of(context.inspection.points).items():
        if point.id not in context.aside or point.opened:
            yield _one(point, name, "", bool(point.bathroom), defects)


def _one(point: Point, name: str, circuit: str, wet: bool, defects: Mapping[str, str]) -> sampling.SeenPoint:
    risky = wet or point.kind == "outdoor point"
    kind = point.kind or "point"
    drawn = sampling.SamplePoint(
        name,
        circuit,
        point.room or "",
        risk=_RISK if risky else 1.0,
        always=bool(point.at_end),
        key=point.id,
        chosen=point.sample if point.sample in ("added", "left out") else "",  # type: ignore[arg-type]
    )
    defect = point.defect or defects.get(point.id) or ("a defect" if point.looked == DEFECT else None)
    return sampling.SeenPoint(drawn, kind, bool(point.opened), defect if point.opened else None)


def _recorded(inspection: Inspection) -> dict[str, str]:
    """The defect that is recorded of each point, by its catalogue entry or its words; a mere note is none."""
    reasons: dict[str, str] = {}
    for observation in inspection.observations:
        if observation.about_entity == "point" and observation.about_id and observation.code != "note":
            entry = entries().get(observation.catalogue_key or "")
            reasons.setdefault(
                observation.about_id, entry.title.lower() if entry else (observation.text or "a defect").lower()
            )
    return reasons


def notes(context: Context) -> Iterator[Note]:
    """What was found lets the sample grow: told where it was found, until the rest is opened (rule 12.2)."""
    sample_state = state(context)
    if sample_state is None:
        return
    names = dict(zip(sample_state.to_open, sample_state.planned, strict=True))
    still = set(sample_state.still)
    for grown_by_one in _by_cause(sample_state.widenings):
        widest = max(grown_by_one, key=lambda widening: widening.share)
        added = dict.fromkeys(point for widening in grown_by_one for point in widening.added if point in still)
        # The title names the circuit: what hangs on it goes by its own name.
        groups = [widening.group for widening in grown_by_one]
        left = [reduce(lambda name, group: name.removeprefix(f"{group}: "), groups, names[point]) for point in added]
        if not left:
            continue
        named = ", ".join(left[:6]) + (f" and {len(left) - 6} more" if len(left) > 6 else "")
        grown = "every point is opened" if widest.share >= 1 else f"the sample grows to {widest.share:.0%}"
        often = "once" if widest.times == 1 else f"{widest.times} times"
        verdict = Verdict(
            status="attention",
            reason=f"{widest.defect.capitalize()} was found {often}: {grown} there.",
            source="rule 12.2",
            next_step=f"Open {named} as well.",
        )
        title = f"Sample, {' and '.join(groups)}"
        yield Note("point", widest.found_at[0], "opened", title, verdict, touches=(*widest.found_at, *added))


def _by_cause(widenings: Sequence[sampling.Widening]) -> list[list[sampling.Widening]]:
    """One defect lets the sample grow on its circuit and on its kind of point: that is one thing to say."""
    by_cause: dict[tuple[str, tuple[str, ...]], list[sampling.Widening]] = {}
    for widening in widenings:
        by_cause.setdefault((widening.defect, widening.found_at), []).append(widening)
    return list(by_cause.values())
