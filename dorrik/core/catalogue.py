"""The catalogue of observations: a starting opinion on what people meet (`data/catalogue.toml`)."""

from functools import cache
from typing import Any

from dorrik.core.record import record
from dorrik.core.reference import toml


@record
class Fact:
    """Something that moves an entry's code: its name (see `topics.facts`), the code it leads to, the end of a sentence
    that says so, and the question for where it is not known."""

    fact: str
    code: str
    says: str
    ask: str


@record
class Until:
    """A fact without which the entry's own code has no ground; until it is known, this code."""

    fact: str
    code: str
    ask: str


@record
class CatalogueEntry:
    """One kind of defect.

    look: where, and what to look or measure for; code, strict, mild: the mainstream view and the other two schools',
    each with one reason; moves: what changes the code; plain: a sentence for a landlord; remedy: the usual way to put
    it right; rule: number of the rule that raises it, or ''; facts: what moves the code, in the order they are
    asked; until: see `Until`; family: entries of one family speak of one cause: one of them on record is enough.
    """

    key: str
    group: str
    title: str
    look: str
    code: str
    why: str
    strict: str
    strict_why: str
    mild: str
    mild_why: str
    moves: str
    plain: str
    remedy: str
    rule: str
    facts: tuple[Fact, ...] = ()
    until: Until | None = None
    family: str = ""


@cache
def entries() -> dict[str, CatalogueEntry]:
    """Every entry by key, in the order of the file."""
    return {key: _entry(key, values) for key, values in toml("catalogue").items()}


def _entry(key: str, values: dict[str, Any]) -> CatalogueEntry:
    rest = {name: value for name, value in values.items() if name not in ("facts", "until")}
    until = values.get("until")
    return CatalogueEntry(
        key=key,
        facts=tuple(Fact(**one) for one in values.get("facts", ())),
        until=Until(**until) if until else None,
        **rest,
    )
