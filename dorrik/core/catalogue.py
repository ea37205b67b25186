"""The catalogue of observations: a starting opinion on what people meet (`data/catalogue.toml`)."""

from functools import cache

from dorrik.core.record import record
from dorrik.core.reference import toml


@record
class CatalogueEntry:
    """One kind of defect.

    look: where, and what to look or measure for; code, strict, mild: the mainstream view and the other two schools',
    each with one reason; moves: what changes the code; plain: a sentence for a landlord; remedy: the usual way to put
    it right; rule: number of the rule that raises it, or ''.
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


@cache
def entries() -> dict[str, CatalogueEntry]:
    """Every entry by key, in the order of the file."""
    return {key: CatalogueEntry(key=key, **values) for key, values in toml("catalogue").items()}
