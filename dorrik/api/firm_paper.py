"""What the firm settles about its letters and numbers: own words, reminders, where numbers begin."""

from fastapi import Request
from sqlalchemy import Connection

from dorrik.api.common_types import Problem
from dorrik.api.mail_types import FirmPaperIn, FirmPaperOut, TextOut
from dorrik.api.problems import RESPONSES, ProblemError
from dorrik.api.routing import router as make_router
from dorrik.api.work import note, work
from dorrik.core.work import workflow
from dorrik.core.work.firm_texts import TEXTS, clean_days
from dorrik.core.work.numbering import in_row
from dorrik.store.firm import firm_paper, numbers
from dorrik.store.firm.firm_paper import FirmPaper
from dorrik.store.people.people import Person

router = make_router("/api/firm/paper", "firm", {**RESPONSES, 422: {"model": Problem}})


def _out(connection: Connection, me: Person) -> FirmPaperOut:
    paper = firm_paper.of(connection, me.firm_id)
    return FirmPaperOut(
        texts=[TextOut(key=key, label=label, text=paper.texts.get(key, "")) for key, label in TEXTS.items()],
        remind_days=paper.remind_days,
        first_reference=paper.first_reference or "",
        first_job=paper.first_job or "",
        next_reference=numbers.next_reference(connection, me.firm_id),
        next_job=numbers.next_job(connection, me.firm_id),
        may_change=workflow.may(me.role, "change the letterhead"),
    )


@router.get("")
def paper(request: Request) -> FirmPaperOut:
    """What is settled, and the numbers that come next."""
    with work(request) as (connection, me):
        return _out(connection, me)


@router.put("")
def settle(request: Request, given: FirmPaperIn) -> FirmPaperOut:
    """Settle it for what is sent and numbered from now on."""
    with work(request, "change the letterhead") as (connection, me):
        if strange := set(given.texts) - set(TEXTS):
            raise _at("texts", f"There is no such text: {min(strange)}.")
        try:
            days = clean_days(given.remind_days)
        except ValueError as error:
            raise _at("remind_days", str(error)) from None
        for field in ("first_reference", "first_job"):
            first = getattr(given, field)
            if first and in_row(first, first) is None:
                raise _at(field, "A number ends in figures, such as KH-2027-001.")
        texts = {key: text for key, text in given.texts.items() if text}
        settled = FirmPaper(texts, days, given.first_reference or None, given.first_job or None)
        firm_paper.settle(connection, me.firm_id, me.id, settled)
        note(request, connection, me, "letters settled")
        return _out(connection, me)


def _at(field: str, message: str) -> ProblemError:
    return ProblemError(422, "invalid", message, fields=[{"field": field, "message": message}])
