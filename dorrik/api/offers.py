"""Prices for repairs: alternatives, offers as they go out, and the job that an accepted one becomes."""

from typing import Any

from fastapi import Request, Response
from sqlalchemy import Connection

from dorrik.api import letters_out
from dorrik.api.common_types import Problem
from dorrik.api.files import download
from dorrik.api.mail_types import Sent
from dorrik.api.offer_types import (
    AcceptIn,
    AlternativeOut,
    OfferedOut,
    OfferIn,
    OfferJobOut,
    OfferOut,
    OpenOut,
    OptionOut,
    PriceOut,
    ProposalOut,
)
from dorrik.api.once import do_once
from dorrik.api.problems import RESPONSES, ProblemError, not_found
from dorrik.api.register_types import SendIn
from dorrik.api.routing import router as make_router
from dorrik.api.whole_inspection import load_whole
from dorrik.api.work import must, note, work
from dorrik.core.inspection.kept_inspection import KeptInspection
from dorrik.office import offers
from dorrik.office.offers import Offer, Priced
from dorrik.report import mail, offer
from dorrik.report.content import day
from dorrik.store.database.engine import again_after_deadlock
from dorrik.store.mail.mail_queue import About
from dorrik.store.people import people
from dorrik.store.people.people import Person
from dorrik.store.reports import reports

router = make_router("/api/inspections", "offers", RESPONSES)
_PDF: dict[int | str, dict[str, Any]] = {200: {"content": {"application/pdf": {}}}}
_REFUSED: dict[int | str, dict[str, Any]] = {409: {"model": Problem}, 422: {"model": Problem}}


@router.get("/{inspection_id}/price")
def price(request: Request, inspection_id: str) -> PriceOut:
    """What putting the findings right costs by today's rates, and the offers that went out."""
    with work(request, only_reads=True) as (connection, me):
        kept = load_whole(connection, me, inspection_id)
        priced = offers.price(connection, kept)
        return _out(priced, offers.sent(connection, kept, priced))


@router.get("/{inspection_id}/offer.pdf", response_class=Response, responses={**_PDF, 422: {"model": Problem}})
def draft(request: Request, inspection_id: str) -> Response:
    """The offer as it would go out now; nothing is kept."""
    with work(request, only_reads=True) as (connection, me):
        copy = _copy(connection, load_whole(connection, me, inspection_id), me, offers.VALID_DAYS)
    return download(offer.letter(copy.said, copy.at.date()), "offer-draft.pdf", "application/pdf")


@router.post("/{inspection_id}/offers", status_code=201, responses=_REFUSED)
def make(request: Request, inspection_id: str, given: OfferIn) -> OfferOut:
    """Make an offer of the alternatives as they stand: words and PDF are frozen."""
    with work(request, only_reads=True) as (connection, me):
        must(me, "send letters")
        copy = _copy(connection, load_whole(connection, me, inspection_id), me, given.valid_days)
    if copy.already is not None:
        with work(request, only_reads=True) as (connection, me):
            return _offer(_sent(connection, load_whole(connection, me, inspection_id), copy.already.id))
    # Nobody waits while it is typeset.
    pdf = offer.letter(copy.said, copy.at.date())

    def leave(connection: Connection) -> dict[str, Any]:
        kept = load_whole(connection, me, inspection_id, lock=True)
        issue = offers.keep(connection, kept, me, copy, pdf)
        if issue is None:
            raise ProblemError(409, "moved", "The inspection has changed since. Look at the prices again.")
        note(request, connection, me, "offer made", copy.document["number"], sha256=issue.sha256)
        return {"id": issue.id}

    made = do_once(request, me, "offer", (inspection_id, copy.seq, copy.number, given.valid_days), leave)
    with work(request, only_reads=True) as (connection, me):
        return _offer(_sent(connection, load_whole(connection, me, inspection_id), made["id"]))


@router.post("/{inspection_id}/offers/{offer_id}/mail", responses=_REFUSED)
def mailed(request: Request, inspection_id: str, offer_id: str, given: SendIn) -> Sent:
    """Mail an offer to the client, exactly as it was made."""
    to = letters_out.recipient(given.to)
    with work(request, only_reads=True) as (connection, me):
        must(me, "send letters")
        sent = _sent(connection, load_whole(connection, me, inspection_id), offer_id)
        frozen = reports.frozen_pdf(connection, offer_id, me.firm_id)
        firm = people.firm_details(connection, me.firm_id)["name"]
    if frozen is None:
        raise not_found("offer")
    file, pdf = frozen
    text = f"Our offer {sent.number} for repairs is attached. It holds until {day(sent.document['valid_until'])}.\n\n"

    def leave(connection: Connection) -> dict[str, Any]:
        note(request, connection, me, "mail sent", f"offer {sent.number}", inspection=inspection_id)
        subject = f"Offer {sent.number} for repairs"
        attached = [mail.Attachment(file, pdf)]
        letter = letters_out.Letter(firm, to, subject, f"{text}{me.name}, {firm}\n", attached)
        belongs = About("offer", f"offer {sent.number}", inspection_id)
        return {"mail": letters_out.queue(request, connection, me, belongs, letter)}

    answer = do_once(request, me, "offer mail", (inspection_id, offer_id, to), leave)
    return letters_out.leave(request, me, answer["mail"])


@router.post("/{inspection_id}/offers/{offer_id}/accept", responses=_REFUSED)
def accept(request: Request, inspection_id: str, offer_id: str, given: AcceptIn) -> OfferJobOut:
    """The client has accepted an alternative: it becomes a job with its scope. Accepted again, it is the same job; 409
    where another was accepted, or something has changed since and nobody said that it holds as it was offered."""

    def do() -> OfferJobOut:
        with work(request, "keep the register") as (connection, me):
            kept = load_whole(connection, me, inspection_id, lock=True)
            offer_here = _sent(connection, kept, offer_id)
            try:
                job = offers.accept(connection, kept, me, offer_here, given.alternative, as_offered=given.as_offered)
            except LookupError:
                raise not_found("alternative") from None
            except offers.Accepted as error:
                raise ProblemError(409, "accepted-already", str(error)) from None
            except offers.Differs as error:
                message = f"Not as it was offered: {error} Accept it as offered, or make a new offer."
                raise ProblemError(409, "differs", message) from None
            if offer_here.job is None:
                note(request, connection, me, "offer accepted", offer_here.number, job=job.values.get("number"))
            return _job(job.id, job.values)

    return again_after_deadlock(do)


def _copy(connection: Connection, kept: KeptInspection, me: Person, valid_days: int) -> offers.OfferCopy:
    try:
        return offers.draft(connection, kept, me, valid_days)
    except offers.NothingToOffer as error:
        fields = [{"field": "alternatives", "message": lack} for lack in error.lacks]
        raise ProblemError(422, "not-complete", f"The offer cannot be made yet: {error}.", fields=fields) from None


def _sent(connection: Connection, kept: KeptInspection, offer_id: str) -> Offer:
    sent_offer = offers.sent(connection, kept, offers.price(connection, kept))
    offer_here = next((each for each in sent_offer if each.issued.id == offer_id), None)
    if offer_here is None:
        raise not_found("offer")
    return offer_here


def _out(priced: Priced, sent_offers: list[Offer]) -> PriceOut:
    settled_on = priced.rates.settled_on
    return PriceOut(
        currency=priced.currency,
        settled_on=settled_on.isoformat() if settled_on else None,
        terms=priced.rates.terms,
        open=[OpenOut.model_validate(open_observation, from_attributes=True) for open_observation in priced.found.open],
        options=[OptionOut.model_validate(option, from_attributes=True) for option in priced.found.options],
        proposals=[ProposalOut.model_validate(proposal, from_attributes=True) for proposal in priced.found.proposals],
        alternatives=[
            AlternativeOut.model_validate(alternative, from_attributes=True)
            for alternative in priced.found.alternatives
        ],
        offers=[_offer(each) for each in sent_offers],
    )


def _offer(given_offer: Offer) -> OfferOut:
    return OfferOut(
        id=given_offer.issued.id,
        number=given_offer.number,
        issued_at=given_offer.issued.issued_at,
        issued_by=given_offer.issued.issued_by,
        valid_until=given_offer.document["valid_until"],
        currency=given_offer.document["currency"],
        alternatives=[
            OfferedOut(
                number=given["number"], price=given["price"], minutes=given["minutes"],
                works=[line["label"] for line in given["lines"]],
            )
            for given in given_offer.document["alternatives"]
        ],
        moved=list(given_offer.moved),
        job=_job(given_offer.job.id, given_offer.job.values) if given_offer.job is not None else None,
    )  # fmt: skip


def _job(job_id: str, values: dict[str, Any]) -> OfferJobOut:
    return OfferJobOut(id=job_id, number=values.get("number") or "job", alternative=values.get("alternative") or 0)
