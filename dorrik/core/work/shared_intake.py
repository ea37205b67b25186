"""One intake for several homes: which facts of the supply are entered once, and where homes that share it disagree."""

from collections.abc import Iterable, Iterator, Mapping
from typing import Any

from dorrik.core.basics.record import record
from dorrik.core.inspection.kinds import KINDS

#: Facts of the supply up to the cut-out, and what was measured there. A home can have any of them of its own.
FIELDS = tuple(name for name, spec in KINDS["inspection"].fields.items() if spec.shared)
#: Entered at one home, it is there at all: one fault on the operator's side is one call.
KIND = "operator_call"
#: What an inspection is put on hold with.
HOLD = ("held_at", "held_reason", "return_on")


@record
class IntakeHome:
    """A home that shares the intake. reference: of its inspection; values: its fields; own: those of FIELDS that it has
    for itself."""

    id: str
    reference: str
    values: Mapping[str, Any]
    own: frozenset[str]


@record
class Differing:
    """A field on which homes disagree. values: by id of the inspection, as kept; own: ids of those that have it for
    themselves."""

    field: str
    label: str
    unit: str
    values: Mapping[str, Any]
    own: tuple[str, ...]


def differing(homes: Iterable[IntakeHome]) -> Iterator[Differing]:
    """Fields on which the homes do not agree, in the order of FIELDS.

    What one home does not have yet is a difference too: its judgement rests on less.
    """
    all_homes = list(homes)
    specs = KINDS["inspection"].fields
    for field in FIELDS:
        values = {home.id: home.values.get(field) for home in all_homes}
        if len({repr(value) for value in values.values()}) > 1:
            own = tuple(home.id for home in all_homes if field in home.own)
            yield Differing(field, specs[field].label, specs[field].unit, values, own)


def conflicts(differences: Iterable[Differing]) -> list[Differing]:
    """Those on which somebody has to decide before homes share: two of them say something, and not the same."""
    return [
        difference
        for difference in differences
        if len({repr(value) for value in difference.values.values() if value is not None}) > 1
    ]


def passed_on(entity: str, field: str) -> bool:
    """Is a change of that field entered for every home of the intake?"""
    return entity == KIND or (entity == "inspection" and field in FIELDS)
