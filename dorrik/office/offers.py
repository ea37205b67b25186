"""Offers for repairs: made up from an inspection by the firm's rates, frozen as they go out, and accepted once."""

import hashlib
import json
from collections.abc import Iterator, Sequence
from dataclasses import asdict, dataclass
from datetime import date, datetime, timedelta
from typing import Any

from sqlalchemy import Connection

from dorrik.core.book.codes import UNSATISFACTORY
from dorrik.core.inspection.change import Change
from dorrik.core.inspection.kept_inspection import KeptInspection
from dorrik.core.inspection.records import Inspection
from dorrik.core.judging.judgement import Judgement
from dorrik.core.judging.result.against import summary
from dorrik.core.work.pricing import Pricing, pricing
from dorrik.core.work.register import REPAIRS
from dorrik.journal.apply import apply
from dorrik.journal.change import Author
from dorrik.office.jobs import client_and_property
from dorrik.report import offer
from dorrik.report.content import day
from dorrik.report.issue import on_paper
from dorrik.store.database.engine import new_id, now
from dorrik.store.firm import house_rates, numbers, repair_rates
from dorrik.store.firm.repair_rates import RepairRates
from dorrik.store.inspections.judging import judged
from dorrik.store.people.people import Person
from dorrik.store.register import register
from dorrik.store.register.register import RegisterRecord
from dorrik.store.reports import reports
from dorrik.store.reports.reports import OFFER, Issued

#: How long an offer holds where nobody says otherwise (days), and at most.
VALID_DAYS, MOST_DAYS = 30, 366
#: How often a job's number is looked for while others take numbers too.
_TRIES = 5
#: The device under which the journal has what accepting an offer wrote.
DEVICE = "offer"


class NothingToOffer(Exception):
    """There is no alternative, or one of its lines cannot be offered yet; `lacks` says why."""

    def __init__(self, lacks: tuple[str, ...]) -> None:
        super().__init__("; ".join(lacks))
        self.lacks = lacks


class Accepted(Exception):
    """Another alternative was accepted already: by which job."""

    def __init__(self, alternative: int, number: str) -> None:
        super().__init__(f"Alternative {alternative} was accepted already: job {number}.")


class Differs(Exception):
    """Something is not as it was when the offer went out; `moved` says what."""

    def __init__(self, moved: tuple[str, ...]) -> None:
        super().__init__(" ".join(moved))
        self.moved = moved


@dataclass(frozen=True, slots=True)
class Priced:
    """An inspection with its prices by today's rates."""

    inspection: Inspection
    judgement: Judgement
    found: Pricing
    rates: RepairRates
    currency: str


@dataclass(frozen=True, slots=True)
class OfferCopy:
    """An offer before it is typeset. already: the same offer, where it was made and nothing has changed since."""

    said: dict[str, Any]
    document: dict[str, Any]
    number: int
    seq: int
    at: datetime
    already: Issued | None = None


@dataclass(frozen=True, slots=True)
class Offer:
    """An offer that went out. moved: what is not as it was then, in words; job: what it became, None so far."""

    issued: Issued
    number: str
    document: dict[str, Any]
    moved: tuple[str, ...]
    job: RegisterRecord | None


def price(connection: Connection, kept: KeptInspection) -> Priced:
    """What there is to price, by the firm's rates as they are now."""
    inspection, judgement = judged(connection, kept)
    rates = repair_rates.of(connection, kept.firm_id)
    _, _, currency = house_rates.of(connection, kept.firm_id)
    put_right = {record.id for record in judgement.recorded if record.made_good}
    # What is recorded is priced; what the readings say beside it is told, or a price would pass it over.
    unanswered = summary([objection for objection in judgement.against if objection.kind not in ("code", "uncoded")])
    return Priced(inspection, judgement, pricing(inspection, put_right, rates.rates, unanswered), rates, currency)


def draft(connection: Connection, kept: KeptInspection, who: Person, valid_days: int = VALID_DAYS) -> OfferCopy:
    """The alternatives as they would go out now. Raises NothingToOffer."""
    priced = price(connection, kept)
    lacks = tuple(trouble for alternative in priced.found.alternatives for trouble in alternative.trouble)
    if not priced.found.alternatives:
        lacks = ("choose the work first",)
    if lacks:
        raise NothingToOffer(lacks)
    made = reports.issues(connection, kept.id, OFFER)
    number = len(made) + 1
    at = now().replace(microsecond=0)
    named = f"{priced.inspection.reference or 'offer'}-Q{number}"
    until = at.date() + timedelta(days=valid_days)
    paper = on_paper(connection, who, number, at.date())
    offer_words = offer.words(
        priced.inspection, priced.judgement, priced.found, paper, named, priced.currency, priced.rates.terms, until
    )
    document = {
        "format": offer.FORMAT,
        "version": offer.VERSION,
        "number": named,
        "currency": priced.currency,
        "valid_until": until.isoformat(),
        "open": [asdict(open_observation) for open_observation in priced.found.open],
        "alternatives": [asdict(alternative) for alternative in priced.found.alternatives],
    }
    return OfferCopy(offer_words, document, number, kept.seq, at, _already(connection, kept, made, document))


def _already(
    connection: Connection, kept: KeptInspection, made: Sequence[Issued], document: dict[str, Any]
) -> Issued | None:
    """The last offer, where it says what this one would: asked for again after an answer was lost, it is the same."""
    if not made or made[-1].seq != kept.seq:
        return None
    before = reports.documents(connection, kept.id, OFFER).get(made[-1].id, {})
    same = ("alternatives", "currency", "valid_until", "open")
    return made[-1] if all(before.get(name) == _plain(document[name]) for name in same) else None


def _plain(value: Any) -> Any:
    """As it reads once it was kept as JSON."""
    return json.loads(json.dumps(value, ensure_ascii=False))


def keep(connection: Connection, kept: KeptInspection, who: Person, copy: OfferCopy, pdf: bytes) -> Issued | None:
    """Freeze an offer, in the caller's transaction, which holds the inspection's row; None where anything has come
    since the copy was made."""
    if kept.seq != copy.seq or len(reports.issues(connection, kept.id, OFFER)) + 1 != copy.number:
        return None
    issue = Issued(
        id=new_id(), number=copy.number, issued_at=copy.at, issued_by=who.name, outcome="", replaces=None, reason=None,
        sha256=hashlib.sha256(pdf).hexdigest(), seq=copy.seq,
    )  # fmt: skip
    reports.keep(connection, kept.id, who.id, issue, json.dumps(copy.document, ensure_ascii=False), pdf, OFFER)
    return issue


def sent(connection: Connection, kept: KeptInspection, priced: Priced) -> list[Offer]:
    """Every offer of the inspection, oldest first, with what has changed since."""
    issues = reports.issues(connection, kept.id, OFFER)
    texts = reports.documents(connection, kept.id, OFFER)
    return [
        Offer(
            issue, document["number"], document, tuple(_moved(document, priced, newer=issue.number < len(issues))),
            register.get(connection, kept.firm_id, "job", _job_id(issue.id)),
        )
        for issue in issues
        if (document := texts.get(issue.id)) is not None
    ]  # fmt: skip


def _job_id(offer_id: str) -> str:
    """One offer becomes one job, on however many devices it is accepted."""
    return register.derived_id(offer_id, "job")


def accept(
    connection: Connection, kept: KeptInspection, who: Person, offered: Offer, alternative: int, *, as_offered: bool
) -> RegisterRecord:
    """The job that an accepted alternative becomes; accepted again, it is the same job.

    Raises LookupError where the offer has no such alternative, Accepted where another was accepted, and Differs where
    something has changed since and nobody said that it holds as it was offered.
    """
    chosen = next((given for given in offered.document["alternatives"] if given["number"] == alternative), None)
    if chosen is None:
        raise LookupError(alternative)
    if offered.job is not None:
        before = offered.job.values
        if before.get("alternative") != alternative:
            raise Accepted(before.get("alternative") or 0, str(before.get("number") or ""))
        return offered.job
    if offered.moved and not as_offered:
        raise Differs(offered.moved)
    home = _property(connection, kept, who)
    here = kept.entities[kept.id].values
    job = {
        "state": "confirmed",
        "work": REPAIRS,
        "extent": _scope(offered, chosen)[:4000],
        "agreed_with": here["client_name"],
        "agreed_on": now().date().isoformat(),
        "inspection_id": kept.id,
        "offer_id": offered.issued.id,
        "alternative": alternative,
        "offered_price": chosen["price"],
        "offered_min": chosen["minutes"],
    }
    for tries_left in reversed(range(_TRIES)):
        number = numbers.next_job(connection, kept.firm_id)
        try:
            made = register.add(
                connection, kept.firm_id, who.id, "job", home, job | {"number": number}, _job_id(offered.issued.id)
            )
        except register.Refused:
            # Somebody took the number in this moment: the next one is free.
            if not tries_left:
                raise
            continue
        if made is not None:
            return made
        break
    raise LookupError(home)


def _scope(offered: Offer, chosen: dict[str, Any]) -> str:
    names = {observation["id"]: observation for observation in offered.document["open"]}

    def clears(line: dict[str, Any]) -> str:
        return "; ".join(f"{names[key]['code']} {names[key]['what']}".strip() for key in line["clears"] if key in names)

    lines = (
        ", ".join(part for part in (line["label"], line["where"]) if part)
        + (f" (clears: {words})" if (words := clears(line)) else "")
        for line in chosen["lines"]
    )
    return f"By offer {offered.number}, alternative {chosen['number']}:\n" + "\n".join(lines)


def _property(connection: Connection, kept: KeptInspection, who: Person) -> str:
    """The property in the register; made from the inspection's own words where it was begun without one."""
    here = kept.entities[kept.id].values
    known = here["property_id"]
    if known and register.get(connection, kept.firm_id, "property", known) is not None:
        return str(known)
    home = client_and_property(connection, kept.firm_id, who.id, kept.id, here)
    change = Change(new_id(), "inspection", kept.id, "property_id", home, kept.seq, now(), DEVICE)
    apply(connection, kept.firm_id, Author(who.id, who.role), kept.id, [change])
    return home


def _moved(document: dict[str, Any], priced: Priced, *, newer: bool) -> Iterator[str]:
    """What is not as it was when the offer went out, in sentences."""
    if newer:
        yield "A later offer was made since."
    if date.fromisoformat(document["valid_until"]) < now().date():
        yield f"It held until {day(document['valid_until'])}."
    rates = {option.key: option.price for option in priced.found.options}
    for line in {
        line["option"]: line for alternative in document["alternatives"] for line in alternative["lines"]
    }.values():
        today = rates.get(line["option"])
        if line["rate"] is not None and today is not None and today != line["rate"]:
            before = offer.money(document["currency"], line["rate"])
            now_costs = offer.money(priced.currency, today)
            yield f"{line['label']} costs {now_costs} by today's rates, {before} when offered."
    before_ids = {observation["id"]: observation for observation in document["open"]}
    standing = {open_observation.id: open_observation for open_observation in priced.found.open}
    for key, observation_before in before_ids.items():
        if key not in standing:
            yield f"No longer to be put right: {observation_before['what']}."
        elif standing[key].code != observation_before["code"]:
            was, code = observation_before["code"] or "without a code", standing[key].code or "none"
            yield f"{observation_before['what']}: {was} when offered, {code} now."
    for key, observation in standing.items():
        if key not in before_ids and (observation.code in UNSATISFACTORY or not observation.code):
            yield f"Found since, and not in it: {observation.what}."
