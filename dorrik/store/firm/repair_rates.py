"""A firm's rates for putting findings right: what differs from the usual, how its prices are meant, since when."""

from collections.abc import Mapping
from dataclasses import asdict, dataclass, fields
from datetime import date
from math import isfinite
from typing import Any

from sqlalchemy import Connection, select, update

from dorrik.core.basics.text import why_not
from dorrik.core.book.remedies import Rate, priced
from dorrik.store.database.account_tables import firm
from dorrik.store.firm.house_rates import MOST, RateError

#: How prices are meant, in a sentence that every offer bears (characters).
MOST_TERMS = 200


@dataclass(frozen=True, slots=True)
class RepairRates:
    """rates: every priced remedy by its key; terms: whether tax is in them, and the like, '' where nothing is settled;
    settled_on: when they were last changed, None for the usual ones."""

    rates: Mapping[str, Rate]
    terms: str
    settled_on: date | None


def of(connection: Connection, firm_id: str) -> RepairRates:
    """The firm's rates, the usual ones where it has settled nothing."""
    kept = connection.execute(select(firm.c.repair_rates).where(firm.c.id == firm_id)).scalar_one() or {}
    own: Mapping[str, Any] = kept.get("rates", {})
    rates = {key: Rate(**(asdict(remedy.usual) | own.get(key, {}))) for key, remedy in priced().items()}
    settled_on = kept.get("settled_on")
    return RepairRates(rates, kept.get("terms", ""), date.fromisoformat(settled_on) if settled_on else None)


def settle(
    connection: Connection, firm_id: str, rates: Mapping[str, Mapping[str, float]], terms: str, on: date
) -> None:  # fmt: skip
    """Keep what differs from the usual. Raises RateError, whose field is `remedy.part` or `terms`."""
    if len(terms) > MOST_TERMS:
        raise RateError("terms", f"At most {MOST_TERMS} characters.")
    if (trouble := why_not(terms)) is not None:
        raise RateError("terms", trouble)
    own = {key: changed for key, given in rates.items() if (changed := _differing(key, given))}
    chosen = {"rates": own, "terms": terms.strip(), "settled_on": on.isoformat()}
    connection.execute(update(firm).where(firm.c.id == firm_id).values(repair_rates=chosen))


def _differing(key: str, given: Mapping[str, float]) -> dict[str, float | int]:
    remedy = priced().get(key)
    if remedy is None:
        raise RateError(key[:40], f"There is no remedy called {key[:40]!r}.")
    kept: dict[str, float | int] = {}
    for part in fields(Rate):
        value = given.get(part.name)
        if value is None:
            continue
        if not isfinite(value) or not 0 <= value <= MOST:
            raise RateError(f"{key}.{part.name}", f"Enter a number from 0 to {MOST}.")
        whole = part.name in ("minutes", "each_min")
        if whole and value != int(value):
            raise RateError(f"{key}.{part.name}", "Enter whole minutes.")
        if value != getattr(remedy.usual, part.name):
            kept[part.name] = int(value) if whole else round(value, 2)
    return kept
