"""Rule books: name, edition, limits, clauses and words of the standard in use, one data file each.

A file says only what differs from the first one. The rules are written with the words and clauses of the first;
`RuleBook.say` and `RuleBook.cite` turn them into those of the book in use.
"""

import os
import re
from dataclasses import dataclass, replace
from functools import cache, cached_property
from typing import Any, TypeVar

from dorrik.core.basics.verdict import Verdict
from dorrik.core.book.reference import DATA, toml

_V = TypeVar("_V", bound=Verdict)

#: The book that the rules are written in, and that is used where none is named.
FIRST = "bs7671-2018"
#: What a clause is shown with where it could not be confirmed for an edition.
CHECK = "check against your copy"


@dataclass(frozen=True)
class RuleBook:
    """A rule book.

    key, name, nation: the file's name, the full name with its edition, where it applies; report: what its report is
    called; caution: shown with every judgement; order: its tests in the order in which they are made; limits: figures
    by name, in the unit that the name ends in; words: by the word of the first book; clauses: by section of the rules;
    unconfirmed: sections of the rules whose clauses and limits could not be confirmed for this edition.
    """

    key: str
    name: str
    short: str
    nation: str
    report: str
    caution: str
    order: tuple[str, ...]
    limits: dict[str, float]
    words: dict[str, str]
    clauses: dict[str, str]
    unconfirmed: frozenset[str]

    @cached_property
    def _other_words(self) -> re.Pattern[str] | None:
        other = [word for word, meant in self.words.items() if word != meant]
        if not other:
            return None
        # As written, or with a capital at the start of a sentence; r1+r2, a ring's ends, is not R1+R2.
        spelt = sorted({*other, *(word[0].upper() + word[1:] for word in other)}, key=len, reverse=True)
        return re.compile("|".join(rf"(?<!\w){re.escape(word)}(?!\w)" for word in spelt))

    @property
    def other(self) -> bool:
        """Is this another book than the one the rules are written in?"""
        return self.key != FIRST

    def translate_verdict(self, verdict: _V) -> _V:
        """A verdict in this book's words, with its clauses."""
        return replace(
            verdict,
            reason=self.translate(verdict.reason),
            source=self.cite(verdict.source),
            next_step=verdict.next_step and self.translate(verdict.next_step),
        )

    def translate(self, text: str) -> str:
        """A sentence of the rules in this book's words; a capital at its start stays one."""
        if self._other_words is None:
            return text
        return self._other_words.sub(self._word, text)

    def _word(self, match: re.Match[str]) -> str:
        was = match.group()
        if was in self.words:
            return self.words[was]
        meant = self.words[was[0].lower() + was[1:]]
        return meant[0].upper() + meant[1:]

    def cite(self, source: str) -> str:
        """The source of a verdict, `clause · rule 6.1`, with this book's clause in place of the first book's."""
        if not self.clauses or not source.startswith("BS 7671"):
            return source
        rule = re.search(r"rules? (\d+)", source)
        section = rule.group(1) if rule else ""
        clause = f"{self.short} {self.clauses[section]}" if section in self.clauses else self.short
        doubt = f" ({CHECK})" if section in self.unconfirmed or section not in self.clauses else ""
        _, _, rest = source.partition(" · ")
        return f"{clause}{doubt} · {rest}" if rest else f"{clause}{doubt}"


@cache
def keys() -> tuple[str, ...]:
    """Keys of the rule books that ship, the default first."""
    names = os.listdir(os.path.join(DATA, "rule_books"))
    keys_here = {name.removesuffix(".toml") for name in names if name.endswith(".toml")}
    return (FIRST, *sorted(keys_here - {FIRST}))


@cache
def of_nation(nation: str | None) -> str | None:
    """Key of the book that a nation goes by where it is not the first one, which is used where none is named."""
    return next((key for key in keys() if key != FIRST and nation and rule_book(key).nation == nation), None)


@cache
def rule_book(key: str | None = None) -> RuleBook:
    """The rule book of that key, the default one for None. Raises LookupError for an unknown key."""
    wanted = key or FIRST
    if wanted not in keys():
        raise LookupError(f"There is no rule book {wanted!r}.")
    first, wanted_book = toml(f"rule_books/{FIRST}"), toml(f"rule_books/{wanted}")
    both: dict[str, Any] = {name: wanted_book.get(name, first[name]) for name in first}
    both["limits"] = first["limits"] | wanted_book.get("limits", {})
    both["words"] = first["words"] | wanted_book.get("words", {})
    both["order"] = tuple(both["order"])
    both["unconfirmed"] = frozenset(both["unconfirmed"])
    return RuleBook(**both)
