"""What follows a report as it goes over the line."""

from dataclasses import asdict
from typing import Any

from sqlalchemy import Connection

from dorrik.api.after_types import (
    AfterOut,
    ClientLinkOut,
    CopyOut,
    DutyStateOut,
    FileOut,
    ItemFigureOut,
    ItemOut,
    OpenReportOut,
    RemedialStepOut,
    WhatOut,
)
from dorrik.api.report_types import IssuedOut
from dorrik.core.book import intervals
from dorrik.core.work import workflow
from dorrik.office.after_report import AfterReport, RemedialItem
from dorrik.store.people.people import Person
from dorrik.store.register import register
from dorrik.store.reports.remedials import TakenStep
from dorrik.store.reports.report_states import ReportLine


def after_out(connection: Connection, me: Person, inspection_id: str, after_report: AfterReport) -> AfterOut:
    """For somebody of the firm."""
    words = after_report.words
    client = register.client_of(connection, me.firm_id, inspection_id)
    return AfterOut(
        inspection_id=inspection_id,
        reference=words["reference"],
        home=words["home"],
        client=(client.values.get("name") if client else "") or "",
        client_email=(client.values.get("email") if client else "") or "",
        report=IssuedOut.model_validate(after_report.issued, from_attributes=True),
        outcome=words["outcome"],
        sentence=words["sentence"],
        inspected_on=words["inspected_on"],
        items=[item_out(item, words) for item in after_report.items],
        cleared=after_report.cleared,
        counting=len(after_report.counting),
        complete=after_report.complete,
        due=after_report.due,
        copies=[CopyOut.model_validate(copy, from_attributes=True) for copy in after_report.copies],
        links=[ClientLinkOut.model_validate(link, from_attributes=True) for link in after_report.links],
        duties=duties_out(after_report),
        caution=intervals.CAUTION,
        confirmed=IssuedOut.model_validate(after_report.confirmed, from_attributes=True)
        if after_report.confirmed
        else None,
        confirmations=[IssuedOut.model_validate(issue, from_attributes=True) for issue in after_report.confirmations],
        may_decide=workflow.may(me.role, "decide"),
        may_send=workflow.may(me.role, "send letters"),
    )


def duties_out(after_report: AfterReport) -> list[DutyStateOut]:
    """The landlord's duties."""
    return [DutyStateOut.model_validate(duty_state, from_attributes=True) for duty_state in after_report.duties]


def item_out(item: RemedialItem, words: Any) -> ItemOut:
    """An item with its steps."""
    required, standing = item.required, item.standing
    return ItemOut(
        id=required.id, code=required.code, now=standing.code, title=required.title, text=required.text,
        place=required.place, todo=required.todo, counts=required.counts, state=standing.state,
        lacks=list(standing.lacks), booked_on=standing.booked_on, booked_by=standing.booked_by,
        done_by=standing.done_by, figures=[ItemFigureOut(**asdict(figure)) for figure in required.figures],
        photos=[photo["sha256"] for photo in words["photos"].get(required.id, [])],
        steps=[_step_out(step) for step in item.steps], own_certificates=list(item.own_certificates),
    )  # fmt: skip


def _step_out(step: TakenStep) -> RemedialStepOut:
    return RemedialStepOut(
        number=step.number, kind=step.kind, at=step.at, by=step.by, role=step.role, of_firm=step.of_firm,  # type: ignore[arg-type]
        what=WhatOut.model_validate(step.what),
        files=[FileOut.model_validate(file, from_attributes=True) for file in step.files],
    )  # fmt: skip


def open_report_out(line: ReportLine) -> OpenReportOut:
    """A report of the list of those with something left to do."""
    state = line.state
    return OpenReportOut(
        inspection_id=line.inspection_id, reference=line.reference, home=line.home, client=line.client,
        cleared=state.cleared, counting=state.counting, reported=state.reported, worst=state.worst, due=state.due,
        copy_due=state.copy_due, next_visit=state.next_visit,
        complete=state.counting > 0 and state.cleared == state.counting,
    )  # fmt: skip
