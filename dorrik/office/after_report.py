"""After a report: what it requires and how each of it stands, who has a copy, the law's dates, and its confirmation."""

import json
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from typing import Any

from sqlalchemy import Connection, Engine

from dorrik.core.book.codes import ORDER
from dorrik.core.inspection import document
from dorrik.core.inspection.records import Inspection
from dorrik.core.judging.judgement import judge
from dorrik.core.work import remedials
from dorrik.core.work.duty_states import DutyState, Followed, duty_states
from dorrik.core.work.remedials import RemedialState, RemedialStep, Required
from dorrik.report.content import Issue, for_client
from dorrik.store.people import people
from dorrik.store.reports import client_links, copies, report_states, reports
from dorrik.store.reports import remedials as kept_steps
from dorrik.store.reports.client_links import ClientLink
from dorrik.store.reports.copies import SentCopy
from dorrik.store.reports.remedials import TakenStep
from dorrik.store.reports.report_states import ReportState
from dorrik.store.reports.reports import CONFIRMATION, REPORT, Issued, Latest


@dataclass(frozen=True, slots=True)
class RemedialItem:
    """A required item or an improvement: how it stands, its steps, and certificates of the firm's own repairs of it
    that were issued."""

    required: Required
    standing: RemedialState
    steps: tuple[TakenStep, ...]
    own_certificates: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class AfterReport:
    """What follows the latest issue of a report.

    words: what its client's page says (`report.content.for_client`); confirmed: the confirmation that covers
    everything that is required, None while there is none; complete: is everything cleared?; due: the last legal day for
    the work, None where no law sets one or none is required.
    """

    issued: Issued
    words: Mapping[str, Any]
    items: tuple[RemedialItem, ...]
    copies: list[SentCopy]
    links: list[ClientLink]
    duties: tuple[DutyState, ...]
    confirmations: list[Issued]
    confirmed: Issued | None
    complete: bool
    due: date | None

    @property
    def counting(self) -> tuple[RemedialItem, ...]:
        """The items that count against the result."""
        return tuple(item for item in self.items if item.required.counts)

    @property
    def cleared(self) -> int:
        return sum(item.standing.state == "cleared" for item in self.counting)


class NoReport(LookupError):
    """No report of that inspection was issued, or it was erased."""


def inspection_of(latest: Latest) -> Inspection:
    """The inspection as it was frozen."""
    return document.parse({key: latest.document[key] for key in ("format", "version", "inspection")})


def after(connection: Connection, firm_id: str, inspection_id: str) -> AfterReport:
    """What follows the latest report of an inspection, in the caller's transaction. The caller has checked whose
    inspection it is. Raises NoReport."""
    latest = reports.latest(connection, inspection_id)
    if latest is None:
        raise NoReport
    words = latest.client_words or _words(connection, firm_id, latest)
    steps = kept_steps.steps(connection, inspection_id)
    made_good = kept_steps.own_certificates(connection, inspection_id)
    items = tuple(
        _item(required_item, steps, made_good.get(required_item.id, ())) for required_item in for_client.items(words)
    )
    noted = copies.of_inspection(connection, inspection_id)
    complete = remedials.all_cleared(
        (item.required for item in items), {item.required.id: item.standing for item in items}
    )
    confirmations = reports.issues(connection, inspection_id, CONFIRMATION)
    confirmed = _covering(connection, inspection_id, confirmations, items) if complete else None
    duties = _duties(words, items, noted, complete=complete, confirmed=confirmed)
    open_work = [
        duty_state.due
        for duty_state in duties
        if duty_state.due and duty_state.short == WORK_DONE and duty_state.done_on is None
    ]
    return AfterReport(
        issued=latest.issued,
        words=words,
        items=items,
        copies=noted,
        links=client_links.of_inspection(connection, inspection_id),
        duties=duties,
        confirmations=confirmations,
        confirmed=confirmed,
        complete=complete,
        due=min(open_work, default=None),
    )


#: The duty whose last day the work has, as `duties.csv` calls it.
WORK_DONE = "work done"


def as_steps(steps: Iterable[TakenStep]) -> list[RemedialStep]:
    """Steps as the rules read them."""
    return [
        RemedialStep(number=step.number, kind=step.kind, what=step.what, files=tuple(file.kind for file in step.files))  # type: ignore[arg-type]
        for step in steps
    ]


def _item(required: Required, steps: Sequence[TakenStep], own: Sequence[str]) -> RemedialItem:
    its = tuple(step for step in steps if step.observation_id == required.id)
    return RemedialItem(required, remedials.standing(required, as_steps(its)), its, tuple(own))


def _words(connection: Connection, firm_id: str, latest: Latest) -> dict[str, Any]:
    """What the page of a report says that was issued before its words were frozen."""
    inspection = inspection_of(latest)
    firm = people.firm_details(connection, firm_id)
    paper = Issue(
        number=latest.issued.number, issued_on=latest.issued.issued_at.date(),
        signed_by=latest.issued.issued_by, role="",
        firm_name=firm["name"], firm_address=firm["address"] or "", firm_phone=firm["phone"] or "",
        firm_email=firm["email"] or "",
    )  # fmt: skip
    words: dict[str, Any] = json.loads(json.dumps(for_client.words(inspection, judge(inspection), paper)))
    return words


def _covering(
    connection: Connection, inspection_id: str, confirmations: Sequence[Issued], items: Sequence[RemedialItem]
) -> Issued | None:
    """The last confirmation, where it speaks of everything that is required now, as it was accepted last."""
    if not confirmations:
        return None
    paper = reports.documents(connection, inspection_id, CONFIRMATION).get(confirmations[-1].id)
    if paper is None:
        return None
    covered = {item["id"]: item["step"] for item in paper["confirmation"]["items"]}
    now_required = {item.required.id: item.steps[-1].number for item in items if item.required.counts and item.steps}
    return confirmations[-1] if covered == now_required else None


def remember(connection: Connection, firm_id: str, inspection_id: str) -> None:
    """Write down how a report stands, for lists, after anything was done about it."""
    try:
        after_report = after(connection, firm_id, inspection_id)
    except NoReport:
        return
    report_states.keep(connection, firm_id, inspection_id, _state(after_report))


def remember_all(engine: Engine) -> None:
    """The same for every report of which nothing is written down, such as those of an earlier version."""
    while True:
        with engine.begin() as connection:
            left = report_states.missing(connection, 50)
            for firm_id, inspection_id in left:
                try:
                    after_report = after(connection, firm_id, inspection_id)
                except NoReport:
                    state = ReportState(0, 0, 0, "", None, None, None, None, True)
                else:
                    state = _state(after_report)
                report_states.keep(connection, firm_id, inspection_id, state)
        if not left:
            return


def _state(after_report: AfterReport) -> ReportState:
    unclear = [item for item in after_report.counting if item.standing.state != "cleared"]
    visits = [item.standing.booked_on for item in unclear if item.standing.state == "booked"]
    copies_due = [
        duty_state.due
        for duty_state in after_report.duties
        if duty_state.shown and duty_state.due and duty_state.done_on is None and duty_state.short != WORK_DONE
    ]
    codes = sorted((item.standing.code for item in unclear), key=ORDER.index)
    return ReportState(
        counting=len(after_report.counting),
        cleared=after_report.cleared,
        reported=sum(item.standing.state == "done" for item in unclear),
        worst=codes[0] if codes else "",
        due=after_report.due,
        next_visit=date.fromisoformat(min(visits)) if visits else None,
        copy_due=min(copies_due, default=None),
        confirmed_on=after_report.confirmed.issued_at.date() if after_report.confirmed else None,
        # Where nothing counts, an unsatisfactory report has its inspector's own reason: a new issue answers that.
        closed=(
            after_report.confirmed is not None
            or (after_report.words["outcome"] == "satisfactory" and not after_report.counting)
        )
        and not copies_due,
    )


def cleared_on(items: Iterable[RemedialItem]) -> date | None:
    """The day on which the last of the required items was accepted."""
    days = [step.at.date() for item in items if item.required.counts for step in item.steps if step.kind == "accepted"]
    return max(days, default=None)


def _duties(
    words: Mapping[str, Any],
    items: Sequence[RemedialItem],
    noted: Sequence[SentCopy],
    *,
    complete: bool,
    confirmed: Issued | None,
) -> tuple[DutyState, ...]:
    def first(of: str, numbers: set[int] | None = None) -> dict[str, date]:
        days: dict[str, date] = {}
        for copy in noted:
            if copy.of == of and copy.arrived and (numbers is None or copy.number in numbers):
                days.setdefault(copy.role, copy.at.date())
        return days

    inspected = words["inspected_on"]
    followed = Followed(
        inspected_on=date.fromisoformat(inspected) if inspected else None,
        outcome=words["outcome"],
        copies=first(REPORT),
        cleared_on=cleared_on(items) if complete else None,
        confirmations=first(CONFIRMATION, {confirmed.number}) if confirmed is not None else {},
    )
    return duty_states(words["nation"], followed) if words["nation"] else ()
