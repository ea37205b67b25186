"""What a property tells: its visits and reports over the years, and the readings of each circuit from then to now."""

from collections import Counter
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from datetime import date
from typing import Literal

from sqlalchemy import Connection

from dorrik.core.basics.readings import Reading
from dorrik.core.inspection.records import Circuit, Inspection
from dorrik.core.judging.judgement import is_open
from dorrik.core.judging.topics import earlier
from dorrik.core.judging.topics.context import Note
from dorrik.store.inspections import inspections, judging, listing
from dorrik.store.register import register
from dorrik.store.register.register import RegisterRecord

#: Figures that are followed over the years, each with the name of its field.
FIGURES = ("insulation_lne_mohm", "r1_r2_ohm", "zs_ohm")
#: So many of the latest inspections are looked into; a home has one in five years.
MOST = 12


@dataclass(frozen=True, slots=True)
class Event:
    """Something that happened, or is due: on is a day (`2026-11-25`) or a year (`1994`); codes: open ones, counted."""

    kind: Literal["built", "rewired", "inspection", "due"]
    on: str
    inspection_id: str | None = None
    reference: str | None = None
    installation: str | None = None
    outcome: str | None = None
    issued: bool = False
    codes: Mapping[str, int] = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class PastReading:
    """A reading on a day, as it was written; value where it is a figure, also behind `>` or `<`."""

    on: str
    text: str
    value: float | None


@dataclass(frozen=True, slots=True)
class CircuitStory:
    """A circuit of the latest inspection with the readings of its followed figures, the oldest first."""

    inspection_id: str
    circuit_id: str
    board: str
    way: str | None
    name: str | None
    figures: Mapping[str, tuple[PastReading, ...]]


@dataclass(frozen=True, slots=True)
class Story:
    """Events by date; circuits of the latest inspection of each installation; what the rules say of the years."""

    events: tuple[Event, ...]
    circuits: tuple[CircuitStory, ...]
    notes: tuple[tuple[str, Note], ...]
    due_on: date | None


@dataclass(frozen=True, slots=True)
class _StoryVisit:
    id: str
    inspection: Inspection
    notes: tuple[Note, ...]
    issued: bool
    due_on: date | None

    @property
    def on(self) -> str:
        return self.inspection.inspected_on or ""


def story(connection: Connection, firm_id: str, home: RegisterRecord) -> Story:
    """The story of a property of the firm."""
    visits = [visit for row in _rows(connection, firm_id, home) if (visit := _visit(connection, firm_id, row))]
    latest: dict[str | None, _StoryVisit] = {}
    for visit in visits:
        latest.setdefault(visit.inspection.installation_name, visit)
    dues = [visit.due_on for visit in _latest_issued(visits) if visit.due_on is not None]
    due_on = min(dues, default=None)
    events = [*_of_the_home(home), *map(_event, reversed(visits))]
    if due_on is not None:
        events.append(Event("due", due_on.isoformat()))
    return Story(
        tuple(sorted(events, key=lambda event: event.on)),
        tuple(circuit_story for visit in latest.values() for circuit_story in _circuits(visit, visits)),
        tuple((visit.id, note) for visit in latest.values() for note in visit.notes),
        due_on,
    )


def _rows(connection: Connection, firm_id: str, home: RegisterRecord) -> list[str]:
    return [row.id for row in register.inspections_of(connection, firm_id, home.id)[:MOST]]


def _visit(connection: Connection, firm_id: str, inspection_id: str) -> _StoryVisit | None:
    kept = inspections.load(connection, inspection_id, firm_id)
    if kept is None:
        return None
    inspection, judgement = judging.judged(connection, kept)
    notes = tuple(note for note in judgement.notes if note.verdict.source == earlier.SOURCE and note.status != "pass")
    day = date.fromisoformat(inspection.inspected_on) if inspection.inspected_on else None
    due_on = listing.due(day, inspection.next_years)
    return _StoryVisit(inspection_id, inspection, notes, listing.is_issued(connection, inspection_id), due_on)


def _latest_issued(visits: Iterable[_StoryVisit]) -> Iterable[_StoryVisit]:
    """The latest issued one of each installation; visits come latest first."""
    latest: dict[str | None, _StoryVisit] = {}
    for visit in visits:
        if visit.issued:
            latest.setdefault(visit.inspection.installation_name, visit)
    return latest.values()


def _of_the_home(home: RegisterRecord) -> Iterable[Event]:
    for kind, name in (("built", "built_year"), ("rewired", "rewired_year")):
        if (year := home.values.get(name)) is not None:
            yield Event("built" if kind == "built" else "rewired", str(year))


def _event(visit: _StoryVisit) -> Event:
    inspection = visit.inspection
    codes = Counter(
        observation.code for observation in inspection.observations if observation.code and is_open(observation)
    )
    return Event(
        "inspection", visit.on, visit.id, inspection.reference, inspection.installation_name,
        inspection.declared_outcome, visit.issued, dict(codes),
    )  # fmt: skip


def _circuits(visit: _StoryVisit, visits: list[_StoryVisit]) -> Iterable[CircuitStory]:
    before = [
        one for one in visits
        if one.id != visit.id and one.inspection.installation_name == visit.inspection.installation_name
    ]  # fmt: skip
    for board in visit.inspection.boards:
        for circuit in board.circuits:
            if circuit.spare:
                continue
            known = [
                (visit.on, same_circuit)
                for visit in before
                if (same_circuit := _same(visit.inspection, board.name, circuit))
            ]
            figures = {name: _points(name, circuit, visit.on, known) for name in FIGURES}
            yield CircuitStory(
                visit.id, circuit.id, board.name or "Board", circuit.way, circuit.designation, figures
            )  # fmt: skip


def _same(inspection: Inspection, board: str | None, circuit: Circuit) -> Circuit | None:
    """The circuit of an earlier inspection on the same board and way with the same name."""
    for one in inspection.boards:
        if one.name != board:
            continue
        for other in one.circuits:
            if (other.way, _plain(other.designation)) == (circuit.way, _plain(circuit.designation)):
                return other
    return None


def _plain(name: str | None) -> str:
    return " ".join((name or "").lower().split())


def _points(name: str, circuit: Circuit, on: str, known: list[tuple[str, Circuit]]) -> tuple[PastReading, ...]:
    """Each day once: what was carried over from earlier papers, what earlier inspections have, and today's."""
    readings: dict[str, Reading] = {}
    for earlier_figure in circuit.earlier:
        if earlier_figure.figure == name and earlier_figure.measured_on and earlier_figure.reading is not None:
            readings[earlier_figure.measured_on] = earlier_figure.reading
    for day, other in [*known, (on, circuit)]:
        reading: Reading | None = getattr(other, name)
        if day and reading is not None:
            readings[day] = reading
    return tuple(PastReading(day, str(reading), reading.value) for day, reading in sorted(readings.items()))
