"""How sampling stands, from the points that were listed, opened and found defective (rules 12.1 to 12.3)."""

from collections import Counter
from collections.abc import Iterator
from typing import cast, get_args

from dorrik.core import sampling
from dorrik.core.inspection import Circuit
from dorrik.core.topics.context import Context, name_of, point_names

#: Circuits whose points are more likely to have suffered, and by how much they are likelier drawn (rule 12.1).
_RISK = 2.0


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


def state(context: Context) -> sampling.State | None:
    """The state of sampling; None while no points are listed."""
    seen = []
    for name, circuit in _named(context):
        if not circuit.points:
            continue
        for point_name, outlet in point_names(circuit).items():
            risky = bool(outlet.bathroom or circuit.outdoors or circuit.bathroom)
            point = sampling.SamplePoint(
                f"{name}: {point_name}",
                name,
                outlet.room or "",
                risk=_RISK if risky else 1.0,
                always=bool(outlet.at_end),
            )
            opened = bool(outlet.opened)
            seen.append(sampling.Seen(point, outlet.kind or "point", opened, outlet.defect if opened else None))
    if not seen:
        return None
    i = context.inspection
    # What is not said counts as the worst: without papers nothing stands for a point that was not opened.
    records = i.records if i.records in get_args(sampling.Records) else "none"
    condition = i.condition_on_sight if i.condition_on_sight in get_args(sampling.Condition) else "poor"
    plan = sampling.plan(
        [one.point for one in seen],
        cast(sampling.Records, records),
        cast(sampling.Condition, condition),
        i.sampling_seed or 0,
        shares=context.house.sample_shares,
    )
    return sampling.follow(seen, plan)
