"""Rule books: name, edition and words of the standard in use, one data file each."""

from dataclasses import dataclass
from functools import cache

from dorrik.core.reference import DATA, toml


@dataclass(frozen=True, slots=True)
class RuleBook:
    """A rule book: key, full name with edition, nation, its name for the report, the caution shown with it."""

    key: str
    name: str
    nation: str
    report: str
    caution: str


@cache
def keys() -> tuple[str, ...]:
    """Keys of the rule books that ship, the default first."""
    return tuple(sorted(path.stem for path in (DATA / "rule_books").glob("*.toml")))


@cache
def rule_book(key: str | None = None) -> RuleBook:
    """The rule book of that key, the default one for None. Raises LookupError for an unknown key."""
    wanted = key or keys()[0]
    if wanted not in keys():
        raise LookupError(f"There is no rule book {wanted!r}.")
    found = toml(f"rule_books/{wanted}")
    return RuleBook(**{name: found[name] for name in ("key", "name", "nation", "report", "caution")})
