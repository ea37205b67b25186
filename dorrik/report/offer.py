"""An offer for repairs: alternatives beside each other, what each clears, what stays. It replaces no report."""

from collections.abc import Mapping
from datetime import date
from typing import Any

from dorrik.core.inspection.records import Inspection
from dorrik.core.judging.judgement import Judgement
from dorrik.core.work.pricing import Alternative, Open, PriceLine, Pricing
from dorrik.report import press
from dorrik.report.content import Issue, day

FORMAT, VERSION = "dorrik-offer", 1


def money(currency: str, value: float) -> str:
    """A price as paper has it."""
    return f"{currency}{value:,.2f}"


def words(
    inspection: Inspection, judgement: Judgement, pricing: Pricing, issue: Issue, number: str, currency: str,
    terms: str, valid_until: date,
) -> dict[str, Any]:  # fmt: skip
    """What the offer says."""
    where = ", ".join(p for p in (inspection.installation_name, inspection.property_address) if p) or "your property"
    by_id = {open_observation.id: open_observation for open_observation in pricing.open}
    several = len(pricing.alternatives) > 1
    return {
        "firm": issue.letterhead(),
        "on": day(issue.issued_on),
        "signed_by": issue.signed_by,
        "role": issue.role,
        "subject": f"Offer {number} for repairs at {where}",
        "to": ", ".join(p for p in (inspection.client_name, inspection.client_address) if p) or "To the client",
        "opening": f"{_found_by(inspection)} found what is listed here. "
        f"{'Choose one of the alternatives.' if several else 'This is what it costs.'}",
        "alternatives": [_alternative(alternative, by_id, currency, several) for alternative in pricing.alternatives],
        "body": [
            *([terms] if terms else []),
            f"This offer holds until {day(valid_until)}.",
            "Each price is for the work named and for testing it again. What is found while the work is done, and is "
            "not named here, is told and priced before it is done.",
            "The offer changes nothing in the report. An observation is closed once the work is done, tested again and "
            "certified. You may ask any competent contractor for a price.",
        ],
        "foot": f"{judgement.rule_book.name} · {inspection.reference or ''}".strip(" ·"),
    }


def _found_by(inspection: Inspection) -> str:
    on = f" of {day(inspection.inspected_on)}" if inspection.inspected_on else ""
    return f"Our inspection {inspection.reference or ''}".strip() + on


def _alternative(alternative: Alternative, by_id: Mapping[str, Open], currency: str, several: bool) -> dict[str, Any]:
    return {
        "name": f"Alternative {alternative.number}" if several else "The work",
        "lines": [_line(line, by_id, currency) for line in alternative.lines],
        "total": money(currency, alternative.price),
        "time": _hours(alternative.minutes),
        "stays": alternative.says,
        "left": [_named(by_id[key]) for key in alternative.stays if key in by_id],
    }


def _line(line: PriceLine, by_id: Mapping[str, Open], currency: str) -> dict[str, Any]:
    return {
        "label": line.label,
        "where": line.where,
        "clears": [_named(by_id[key]) for key in line.clears if key in by_id],
        "condition": line.condition,
        "price": money(currency, line.price or 0),
    }


def _named(open_observation: Open) -> dict[str, str]:
    return {
        "code": open_observation.code or "–",
        "says": ", ".join(p for p in (open_observation.what, open_observation.where) if p),
    }


def _hours(minutes: int) -> str:
    hours, rest = divmod(minutes, 60)
    return f"about {f'{hours} h ' if hours else ''}{f'{rest} min' if rest or not hours else ''}".strip()


def letter(offer_words: dict[str, Any], on: date) -> bytes:
    """The offer as PDF. Raises press.TypesettingTooLarge or Late."""
    return press.letter("offer", offer_words, on)
