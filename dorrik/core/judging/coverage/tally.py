"""What is counted of the work: how much is asked, done, left and limited, of one thing or of several together."""

from collections.abc import Sequence
from functools import cache
from typing import NamedTuple

from dorrik.core.basics.record import record
from dorrik.core.inspection.stages import STAGES, Stage

#: How many of the things left are named.
NAMED = 20


@record
class StageProgress:
    """One stage: how many things are done and left, and the names of those left (the first NAMED)."""

    stage: Stage
    done: int
    left: int
    left_names: tuple[str, ...]


@record
class AskedTests:
    """What is asked of one entity in one stage, in the order of the work, and how many are done; more: what may be
    entered beside it."""

    entity: str
    entity_id: str
    stage: Stage
    fields: tuple[str, ...]
    done: int
    more: tuple[str, ...] = ()


@record
class Progress:
    """All stages; asked: what applies, entity by entity; tests: how many apply; limited: how many of them are LIM,
    N/V or an N/A without its fact; missing: the tests that are neither made nor limited."""

    stages: tuple[StageProgress, ...]
    asked: tuple[AskedTests, ...]
    tests: int
    limited: int
    missing: "tuple[Missing, ...]" = ()


@record
class Missing:
    """Tests of one entity that are neither made nor limited: their fields and names, the stage where they are made;
    whom: what it is called; without_fact: those of them that are N/A without the fact that would make it so."""

    entity: str
    entity_id: str
    stage: Stage
    fields: tuple[str, ...]
    whom: str
    names: tuple[str, ...]
    without_fact: tuple[str, ...] = ()


class Tally(NamedTuple):
    """One test, by its field: wanted: how often it is asked for; missing, limited: how many of them are; first,
    first_missing: which of all tests it is, in the order of the work, with its stage."""

    wanted: int
    missing: int
    limited: int
    first: tuple[int, Stage]
    first_missing: tuple[int, Stage] | None


@cache
def one_test(place: tuple[int, Stage], *, missing: bool, limited: bool) -> Tally:
    """A test of one thing. Few differ, and every thing of a home has several: they are made once."""
    return Tally(1, int(missing), int(limited), place, place if missing else None)


class Counted(NamedTuple):
    """What is counted of some things, in their order; the fields as `Progress` has them, by stage or by field."""

    done: dict[Stage, int]
    left: dict[Stage, int]
    left_names: dict[Stage, tuple[str, ...]]
    asked: tuple[AskedTests, ...]
    missing: tuple[Missing, ...]
    tests: int
    limited: int
    tallies: dict[str, Tally]


def together(parts: Sequence[Counted]) -> Counted:
    """Several as one, in their order."""
    done, left = dict.fromkeys(STAGES, 0), dict.fromkeys(STAGES, 0)
    names: dict[Stage, list[str]] = {}
    asked: list[AskedTests] = []
    missing: list[Missing] = []
    tests = limited = before = 0
    tallies: dict[str, Tally] = {}
    for part in parts:
        for stage, count in part.done.items():
            done[stage] += count
        for stage, count in part.left.items():
            left[stage] += count
        for stage, named in part.left_names.items():
            names.setdefault(stage, []).extend(named)
        asked += part.asked
        missing += part.missing
        tests += part.tests
        limited += part.limited
        behind = before
        for field, tally in part.tallies.items():
            tallies[field] = _both(tallies.get(field), tally, behind)
            before += tally.wanted
    first_names = {stage: tuple(named[:NAMED]) for stage, named in names.items()}
    return Counted(done, left, first_names, tuple(asked), tuple(missing), tests, limited, tallies)


def _both(earlier: Tally | None, other: Tally, before: int) -> Tally:
    """before: how many tests come before those that the other counts."""
    number, stage = other.first
    first = (number + before, stage)
    missing = other.first_missing and (other.first_missing[0] + before, other.first_missing[1])
    if earlier is None:
        return Tally(other.wanted, other.missing, other.limited, first, missing)
    return Tally(
        earlier.wanted + other.wanted, earlier.missing + other.missing, earlier.limited + other.limited, earlier.first,
        earlier.first_missing or missing,
    )  # fmt: skip
