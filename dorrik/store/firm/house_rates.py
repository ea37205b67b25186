"""A firm's rates (minutes) and prices, as it has settled them; the usual ones where it has not."""

from collections.abc import Mapping
from dataclasses import asdict
from math import isfinite
from typing import Any

from sqlalchemy import Connection, select, update

from dorrik.core.work.planning import Prices, Rates
from dorrik.store.database.account_tables import firm

CURRENCIES = ("£", "€")
#: Nothing in this trade takes longer (minutes) or costs more.
MOST = 100_000


class RateError(ValueError):
    """A rate that cannot be; `field` names it."""

    def __init__(self, field: str, why: str) -> None:
        super().__init__(why)
        self.field = field


def of(connection: Connection, firm_id: str) -> tuple[Rates, Prices, str]:
    """Rates, prices and the currency's sign."""
    row = connection.execute(select(firm.c.rates, firm.c.prices).where(firm.c.id == firm_id)).one()
    prices = dict(row.prices or {})
    currency = str(prices.pop("currency", CURRENCIES[0]))
    known = asdict(Prices())
    whole = {name: int(value) if isinstance(known[name], int) else value for name, value in prices.items()}
    return Rates(**(row.rates or {})), Prices(**whole), currency


def settle(connection: Connection, firm_id: str, rates: Mapping[str, Any], prices: Mapping[str, Any]) -> None:
    """Keep what differs from the usual. Raises RateError."""
    kept_prices = dict(prices)
    currency = kept_prices.pop("currency", CURRENCIES[0])
    if currency not in CURRENCIES:
        raise RateError("currency", f"The currency is one of {', '.join(CURRENCIES)}.")
    chosen = {"rates": _checked(rates, asdict(Rates())), "prices": _checked(kept_prices, asdict(Prices()))}
    if currency != CURRENCIES[0]:
        chosen["prices"]["currency"] = currency
    connection.execute(update(firm).where(firm.c.id == firm_id).values(**{n: v or None for n, v in chosen.items()}))


def _checked(given: Mapping[str, Any], usual: Mapping[str, Any]) -> dict[str, Any]:
    for name, value in given.items():
        if name not in usual:
            raise RateError(name[:40], f"There is no rate called {name[:40]!r}.")
        if (
            isinstance(value, bool)
            or not isinstance(value, int | float)
            or not isfinite(value)
            or not 0 <= value <= MOST
        ):
            raise RateError(name, f"It is a number from 0 to {MOST}.")
        if isinstance(usual[name], int) and value != int(value):
            raise RateError(name, "It is a whole number.")
    return {name: value for name, value in given.items() if value != usual[name]}
