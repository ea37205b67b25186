"""The catalogue of observations: a starting opinion on what people meet (`data/catalogue.toml`)."""

from dataclasses import dataclass
from functools import cache

from dorrik.core.reference import toml


@dataclass(frozen=True, slots=True)
class CatalogueEntry:
    """One kind of defect.

    code: the mainstream view, with `why`; strict, mild: the other schools' views; moves: what changes the
    code; plain: a sentence for a landlord; remedy: the usual way to put it right.
    """

    key: str
    group: str
    title: str
    code: str
    strict: str
    mild: str
    why: str
    moves: str
    plain: str
    remedy: str


@cache
def entries() -> dict[str, CatalogueEntry]:
    """Every entry by key, in the order of the file."""
    return {key: CatalogueEntry(key=key, **values) for key, values in toml("catalogue").items()}
