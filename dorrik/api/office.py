"""The office: what now, and what a property tells."""

from fastapi import Request

from dorrik.api.after_out import open_report_out
from dorrik.api.office_types import (
    AgendaOut,
    CircuitStoryOut,
    EventOut,
    InstrumentTroubleOut,
    StoryNoteOut,
    StoryOut,
    StoryPointOut,
    UnsentOut,
    VisitOut,
    WaitingOut,
)
from dorrik.api.problems import RESPONSES, not_found
from dorrik.api.register_types import RegisterEntry
from dorrik.api.routing import router as make_router
from dorrik.api.work import work
from dorrik.core.inspection.kinds import KINDS, stage_of
from dorrik.office import agenda, story
from dorrik.office.agenda import Agenda, AgendaVisit
from dorrik.office.story import CircuitStory, Story
from dorrik.store.database.engine import now
from dorrik.store.inspections.agenda import Waiting
from dorrik.store.register import register

router = make_router("/api", "office", RESPONSES)


@router.get("/agenda")
def what_now(request: Request) -> AgendaOut:
    """Visits of the coming days, what waits for the person, what is due soon, and what was not sent yet."""
    with work(request) as (connection, me):
        of_today = agenda.of_day(connection, me, now().date())
    return AgendaOut(
        today=of_today.today.isoformat(),
        visits=[_visit(visit, of_today) for visit in of_today.visits],
        ready=[_waiting(waiting_inspection) for waiting_inspection in of_today.ready],
        to_review=[_waiting(waiting_inspection) for waiting_inspection in of_today.to_review],
        sent_back=[_waiting(waiting_inspection) for waiting_inspection in of_today.sent_back],
        returns=[_waiting(waiting_inspection) for waiting_inspection in of_today.returns],
        promises=[_waiting(waiting_inspection) for waiting_inspection in of_today.promises],
        due=[_waiting(waiting_inspection) for waiting_inspection in of_today.due],
        due_count=of_today.due_count,
        unsent=[
            UnsentOut(
                job_id=open_job.id,
                number=open_job.number,
                property_address=open_job.property_address,
                on=open_job.on.isoformat() if open_job.on else None,
            )
            for open_job in of_today.unsent
        ],
        letters_in_trouble=of_today.letters_in_trouble,
        to_clear=[open_report_out(line) for line in of_today.to_clear],
        to_clear_count=of_today.to_clear_count,
        instruments=[
            InstrumentTroubleOut(
                name=entry.values.get("name") or "Instrument", serial=entry.values.get("serial"), reason=reason
            )
            for entry, reason in of_today.instruments
        ],
    )


def _visit(visit: AgendaVisit, of_today: Agenda) -> VisitOut:
    on, today = visit.job.values.get("booked_on") or "", of_today.today.isoformat()
    return VisitOut(
        job=RegisterEntry.model_validate(visit.job, from_attributes=True),
        property=RegisterEntry.model_validate(visit.home, from_attributes=True),
        minutes=visit.minutes,
        travel_km=visit.travel_km,
        when="before" if on < today else "today" if on == today else "later",
    )


def _waiting(waiting_inspection: Waiting) -> WaitingOut:
    return WaitingOut(
        id=waiting_inspection.id,
        reference=waiting_inspection.reference,
        property_address=waiting_inspection.property_address,
        on=waiting_inspection.on.isoformat() if waiting_inspection.on else None,
        reason=waiting_inspection.reason,
    )


@router.get("/properties/{entry_id}/story")
def of_property(request: Request, entry_id: str) -> StoryOut:
    """A property over the years: its reports with their codes, and the readings of each circuit from then to now."""
    with work(request) as (connection, me):
        home = register.get(connection, me.firm_id, "property", entry_id)
        if home is None:
            raise not_found("property")
        history = story.story(connection, me.firm_id, home)
    return StoryOut(
        events=[EventOut.model_validate(event, from_attributes=True) for event in history.events],
        circuits=[_circuit(circuit_story) for circuit_story in history.circuits],
        notes=_notes(history),
        due_on=history.due_on.isoformat() if history.due_on else None,
        followed={name: _named(name) for name in story.FIGURES},
    )


def _named(field: str) -> str:
    spec = KINDS["circuit"].fields[field]
    return f"{spec.label}, {spec.unit}"


def _circuit(circuit_story: CircuitStory) -> CircuitStoryOut:
    return CircuitStoryOut(
        inspection_id=circuit_story.inspection_id,
        circuit_id=circuit_story.circuit_id,
        board=circuit_story.board,
        way=circuit_story.way,
        name=circuit_story.name,
        figures={
            name: [StoryPointOut.model_validate(point, from_attributes=True) for point in points]
            for name, points in circuit_story.figures.items()
        },
    )


def _notes(notes: Story) -> list[StoryNoteOut]:
    return [
        StoryNoteOut(
            inspection_id=inspection_id,
            stage=stage_of(note.entity, note.field),
            circuit_id=note.entity_id,
            field=note.field,
            status=note.status,
            title=note.title,
            reason=note.verdict.reason,
        )
        for inspection_id, note in notes.notes
    ]
