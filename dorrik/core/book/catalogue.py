"""The catalogue of observations: a starting opinion on what people meet (`data/catalogue.toml`), with a firm's own
entries laid over it for as long as an inspection that was begun with them is judged."""

import re
from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from contextvars import ContextVar
from dataclasses import replace
from functools import lru_cache
from typing import Any

from dorrik.core.basics.record import record
from dorrik.core.basics.text import tidy, why_not
from dorrik.core.book.codes import ORDER
from dorrik.core.book.reference import printed, toml


@record
class Fact:
    """Something that moves an entry's code: its name (see `judging.topics.facts`), the code it leads to, the end of a
    sentence that says so, and the question for where it is not known."""

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
    asked; until: see `Until`; family: entries of one family speak of one cause: one of them on record is enough; words:
    what else people call it; own: whether a firm made it or changed it.
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
    words: str = ""
    own: bool = False


#: What a firm's own entry can say, beside its key.
OWN = (
    "title", "group", "look", "code", "why", "strict", "strict_why", "mild", "mild_why", "plain", "remedy", "words",
)  # fmt: skip
_CODES = ("code", "strict", "mild")
MOST_OWN, LONGEST = 200, 300
#: Where a firm's entry stands that names no group.
OWN_GROUP = "The firm's own"

Own = tuple[tuple[tuple[str, str], ...], ...]
#: What is read at present, merged once for all who ask.
_in_force: ContextVar[Mapping[str, CatalogueEntry] | None] = ContextVar("entries in force", default=None)


@contextmanager
def with_own(entries_of_the_firm: list[dict[str, str]] | None) -> Iterator[None]:
    """Read the catalogue with a firm's own entries for as long as the block lasts, in this thread or task only."""
    token = _in_force.set(_merged(tuple(tuple(sorted(entry.items())) for entry in entries_of_the_firm or ())))
    try:
        yield
    finally:
        _in_force.reset(token)


def entries() -> Mapping[str, CatalogueEntry]:
    """Every entry by key, in the order of the file, the firm's own last."""
    return _in_force.get() or _built_in()


@lru_cache(64)
def _merged(own: Own) -> Mapping[str, CatalogueEntry]:
    catalogue_entries = dict(_built_in())
    for entry in own:
        values = dict(entry)
        catalogue_entries[values["key"]] = _laid_over(catalogue_entries.get(values["key"]), values)
    return catalogue_entries


def _laid_over(before: CatalogueEntry | None, values: dict[str, str]) -> CatalogueEntry:
    """A firm's entry: over a built-in one it changes what it says; else what it leaves out follows from its code."""
    own_values: dict[str, Any] = {name: values[name] for name in OWN if values.get(name)}
    if before is not None:
        return replace(before, own=True, **own_values)
    code = own_values["code"]
    usual: dict[str, Any] = dict.fromkeys(OWN, "") | {"group": OWN_GROUP, "strict": code, "mild": code}
    return CatalogueEntry(key=values["key"], moves="", rule="", own=True, **(usual | own_values))


@lru_cache(1)
def _built_in() -> Mapping[str, CatalogueEntry]:
    words = {row["key"]: row["words"] for row in printed("synonyms")}
    return {key: _entry(key, values, words.get(key, "")) for key, values in toml("catalogue").items()}


def _entry(key: str, values: dict[str, Any], words: str) -> CatalogueEntry:
    rest = {name: value for name, value in values.items() if name not in ("facts", "until")}
    until = values.get("until")
    return CatalogueEntry(
        key=key,
        facts=tuple(Fact(**fact) for fact in values.get("facts", ())),
        until=Until(**until) if until else None,
        words=words,
        **rest,
    )


def clean(value: object) -> list[dict[str, str]]:
    """A firm's entries as they are kept. Raises ValueError naming the one that cannot be, and where."""
    if not isinstance(value, list) or len(value) > MOST_OWN:
        raise ValueError(f"Own entries of the catalogue are a list of at most {MOST_OWN}.")
    by_key: dict[str, dict[str, str]] = {}
    for number, row in enumerate(value, 1):
        kept = _clean(number, row)
        if kept["key"] in by_key:
            raise ValueError(f"Entry {number}: {kept['key']} is there twice.")
        by_key[kept["key"]] = kept
    return list(by_key.values())


class UnfitEntry(ValueError):
    """A firm's entry cannot be kept: field says where."""

    def __init__(self, field: str, message: str) -> None:
        super().__init__(message)
        self.field = field


def _clean(number: int, value: object) -> dict[str, str]:
    try:
        return check(value)
    except UnfitEntry as error:
        raise ValueError(f"Entry {number}, {error.field}: {error}") from None


def check(value: object) -> dict[str, str]:
    """One entry of a firm as it is kept. Raises UnfitEntry."""
    if not isinstance(value, dict) or not set(value) <= {"key", *OWN}:
        raise UnfitEntry("key", f"An entry has a key and: {', '.join(OWN)}.")
    kept: dict[str, str] = {}
    for name, text in value.items():
        if text is None or text == "":
            continue
        if not isinstance(text, str) or why_not(text) is not None:
            raise UnfitEntry(name, "That is no usable text.")
        if len(text) > LONGEST:
            raise UnfitEntry(name, f"At most {LONGEST} characters.")
        if cleaned := tidy(text).strip():
            kept[name] = cleaned
    key = kept.get("key", "")
    if not re.fullmatch("[a-z0-9][a-z0-9-]{1,58}[a-z0-9]", key):
        raise UnfitEntry("key", "A key has 3 to 60 small letters, digits and hyphens, such as loose-handrail-light.")
    for name in _CODES:
        if name in kept and kept[name] not in ORDER:
            raise UnfitEntry(name, f"A code is one of {', '.join(ORDER)}.")
    if key not in _built_in():
        for name in ("title", "code"):
            if name not in kept:
                raise UnfitEntry(name, "A new entry needs its title and its code.")
    return kept


def key_of(title: str) -> str:
    """A key for a new entry out of its title."""
    words = re.sub("[^a-z0-9]+", "-", title.lower()).strip("-")[:50].strip("-")
    return f"own-{words or 'entry'}"
