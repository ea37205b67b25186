"""What shows that the work was done, gathered from what was entered: points opened and tested, readings by kind, time
on site, photos, nulls. Nobody is asked for it (BS 7671 653; rule 12.4)."""

from collections import Counter
from collections.abc import Iterable
from datetime import datetime
from functools import cache
from math import fsum
from typing import Any

from dorrik.core.basics.cells import Cells, Once
from dorrik.core.basics.readings import Reading
from dorrik.core.basics.record import record
from dorrik.core.home.instruments import nulls
from dorrik.core.home.placing import all_points
from dorrik.core.inspection.attendance import Attendance
from dorrik.core.inspection.kinds import KINDS
from dorrik.core.inspection.records import Board, Circuit, Inspection

#: Words for what a reading is of, by its quantity, in the order of the work.
_WORDS = {
    "continuity": "continuity",
    "insulation": "insulation",
    "loop": "loop and fault current",
    "trip-time": "RCD times",
    "leakage": "leakage",
    "direct-voltage": "SPDs",
}
#: Kinds whose readings were taken on another day, or are no test of the installation.
_NO_TEST = ("earlier", "lead_null")


@record
class Evidence:
    """points: how many there are; opened, tested: of them; readings: how many of each kind; minutes: on site, of all
    who were there (None where nobody both came and left); photos; nulls: how many, and how many of them as they should
    be."""

    points: int
    opened: int
    tested: int
    readings: tuple[tuple[str, int], ...]
    minutes: int | None
    photos: int
    nulls: int
    good_nulls: int

    @property
    def says(self) -> str:
        """In words, for screen and report; '' where nothing was done yet."""
        points = f"{self.opened} of {self.points} points opened, {self.tested} tested" if self.points else ""
        parts = [part for part in (points, self.work) if part]
        return f"{'; '.join(parts)}." if parts else ""

    @property
    def work(self) -> str:
        """The same without the points; '' for nothing."""
        parts = []
        if self.readings:
            parts.append("readings: " + ", ".join(f"{count} of {kind}" for kind, count in self.readings))
        if self.minutes is not None:
            hours, minutes = divmod(self.minutes, 60)
            parts.append(f"{hours} h {minutes:02} min on site" if hours else f"{minutes} min on site")
        if self.photos:
            parts.append(f"{self.photos} {'photo' if self.photos == 1 else 'photos'}")
        if self.nulls:
            parts.append(f"leads nulled {self.nulls} {'time' if self.nulls == 1 else 'times'}")
        return "; ".join(parts)


def gathered(inspection: Inspection, cells: Once | Cells | None = None) -> Evidence:
    """The evidence of an inspection as it stands. cells: where what is counted is kept."""
    cells = cells or Once()
    points = list(all_points(inspection))
    counted = Counter(_readings("inspection", inspection, cells))
    log = [null for null in nulls(inspection.lead_nulls) if null.null.reading_ohm is not None]
    return Evidence(
        points=len(points),
        opened=sum(bool(point.opened) for point in points),
        tested=sum(point.is_tested for point in points),
        readings=tuple((words, counted[key]) for key, words in _WORDS.items() if counted[key]),
        minutes=_minutes(inspection.attendances),
        photos=len(inspection.photos),
        nulls=len(log),
        good_nulls=sum(null.verdict.status not in ("attention", "fail") for null in log),
    )


def _readings(kind: str, entity: Any, cells: Once | Cells) -> Iterable[str]:
    fields, children = _looked_at(kind)
    for name, quantity in fields:
        value: Reading | None = getattr(entity, name)
        if value is not None and value.kind in ("number", "over-range"):
            yield quantity
    for child, plural in children:
        if child == "circuit":
            yield from cells.each(_of_circuit, (entity, cells), _circuits_of)
            continue
        for entity_below in getattr(entity, plural):
            yield from _readings(child, entity_below, cells)


def _circuits_of(of: tuple[Board, Once | Cells]) -> tuple[tuple[Circuit], ...]:
    return tuple((circuit,) for circuit in of[0].circuits)


def _of_circuit(of: tuple[Board, Once | Cells], circuit: Circuit) -> Iterable[str]:
    return _readings("circuit", circuit, of[1])


@cache
def _looked_at(kind: str) -> tuple[tuple[tuple[str, str], ...], tuple[tuple[str, str], ...]]:
    """Fields that hold readings of today with their quantities, and lists of children that hold any: asked at every
    key, for every point."""
    own = () if kind in _NO_TEST else tuple(KINDS[kind].fields.items())
    children = tuple(
        (entity_kind.name, entity_kind.plural) for entity_kind in KINDS.values() if kind in entity_kind.parents
    )
    return (
        tuple((name, str(spec.quantity)) for name, spec in own if spec.quantity is not None),
        tuple((name, plural) for name, plural in children if any(_looked_at(name))),
    )


def _minutes(attendances: Iterable[Attendance]) -> int | None:
    spent = [
        (datetime.fromisoformat(attendance.left_at) - datetime.fromisoformat(attendance.arrived_at)).total_seconds()
        / 60
        for attendance in attendances
        if attendance.arrived_at and attendance.left_at
    ]
    whole = [minutes for minutes in spent if minutes > 0]
    return round(fsum(whole)) if whole else None
