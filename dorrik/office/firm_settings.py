"""What a firm has settled, as plain data: taken along with its work, taken in by a firm that has settled nothing."""

from dataclasses import asdict
from typing import Any

from sqlalchemy import Connection

from dorrik.core.book import catalogue, house_rules
from dorrik.core.book.reference import Correction, CorrectionError
from dorrik.core.book.rule_book import keys
from dorrik.store.database.engine import now
from dorrik.store.firm import firm_paper, firm_rules, house_rates, own_entries, repair_rates
from dorrik.store.people import people
from dorrik.store.people.people import Person


def written(connection: Connection, firm_id: str) -> dict[str, Any]:
    """The firm's settings."""
    book, chosen = firm_rules.rules(connection, firm_id)
    details = people.firm_details(connection, firm_id)
    rates, prices, currency = house_rates.of(connection, firm_id)
    repairs = repair_rates.of(connection, firm_id)
    paper = firm_paper.of(connection, firm_id)
    return {
        "letterhead": {name: details[name] or "" for name in ("name", "address", "phone", "email", "letter_line")},
        "rule_book": book,
        "house_rules": chosen,
        "corrections": [asdict(correction) for correction in firm_rules.in_force(connection, firm_id)],
        "catalogue": own_entries.in_force(connection, firm_id),
        "rates": asdict(rates),
        "prices": asdict(prices) | {"currency": currency},
        "repair_rates": {key: asdict(rate) for key, rate in repairs.rates.items()},
        "repair_terms": repairs.terms,
        "texts": paper.texts,
        "remind_days": paper.remind_days,
    }


def take_in(connection: Connection, who: Person, settings: dict[str, Any]) -> list[str]:
    """Settle in that person's firm what an archive says, each where the firm has settled nothing of the kind; returns
    what was left as it is, in words. The letterhead is the firm's own and stays."""
    report: list[str] = []
    book, chosen = firm_rules.rules(connection, who.firm_id)
    try:
        if book is None and not chosen:
            given = settings.get("rule_book")
            if given is not None and given not in keys():
                raise ValueError("there is no such rule book")
            firm_rules.settle(connection, who.firm_id, given, house_rules.clean(settings.get("house_rules") or {}))
        elif (settings.get("rule_book"), settings.get("house_rules") or {}) != (book, chosen):
            report.append("Rule book and house rules stay as your firm has settled them.")
        if not firm_rules.in_force(connection, who.firm_id):
            for correction in settings.get("corrections") or ():
                firm_rules.correct(connection, who.firm_id, who.id, Correction(**correction))
        if not own_entries.in_force(connection, who.firm_id):
            entries = [catalogue.check(entry) for entry in settings.get("catalogue") or ()]
            own_entries.keep(connection, who.firm_id, who.id, entries)
        if _usual_rates(connection, who.firm_id):
            house_rates.settle(connection, who.firm_id, settings.get("rates") or {}, settings.get("prices") or {})
        if repair_rates.of(connection, who.firm_id).settled_on is None and settings.get("repair_rates"):
            rates, terms = settings["repair_rates"], str(settings.get("repair_terms") or "")
            repair_rates.settle(connection, who.firm_id, rates, terms, now().date())
    except (ValueError, TypeError, KeyError, AttributeError, CorrectionError) as error:
        report.append(f"Not all settings were imported: {error}.")
    return report


def _usual_rates(connection: Connection, firm_id: str) -> bool:
    details = people.firm_details(connection, firm_id)
    return not details["rates"] and not details["prices"]
