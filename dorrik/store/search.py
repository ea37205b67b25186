"""Finding clients, properties, jobs and inspections by any part of a name, an address or a number.

Every end of every word is kept in an index: `row`, `ow` and `w` for `Row`. A text stands inside a word exactly where
one of its ends begins with the text, so that finding a part is as quick as finding a beginning.
"""

import re
import unicodedata
from collections.abc import Iterable
from dataclasses import dataclass

from sqlalchemy import Connection, delete, exists, func, insert, select
from sqlalchemy.orm import aliased

from dorrik.store.tables import search_end, search_subject

#: Longest end that is kept; a longer text is looked for by its beginning, then compared whole.
LONGEST = 24
WORDS = 1000


@dataclass(frozen=True, slots=True)
class Hit:
    """Something found: its kind and id, what names it, and a second line."""

    kind: str
    id: str
    title: str
    line: str


@dataclass(frozen=True, slots=True)
class Subject:
    """What can be found: shown by `title` and `line`, found by any word of `said`."""

    kind: str
    id: str
    title: str
    line: str
    said: tuple[str | None, ...]


def words(text: str) -> list[str]:
    """The words of a text as they are compared: small letters without accents, and digits."""
    plain = unicodedata.normalize("NFKD", text.casefold())
    return re.findall(r"[^\W_]+", "".join(c for c in plain if not unicodedata.combining(c)))


def _rows(firm_id: str, subject: Subject) -> tuple[dict[str, str], list[dict[str, str]]]:
    found = list(dict.fromkeys(word for text in subject.said if text for word in words(text)))
    kept = " ".join(found)[:WORDS]
    ends = {word[at : at + LONGEST] for word in kept.split() for at in range(len(word))}
    head = {
        "id": subject.id,
        "firm_id": firm_id,
        "kind": subject.kind,
        "title": subject.title[:300],
        "line": subject.line[:300],
        "words": kept,
    }
    return head, [{"firm_id": firm_id, "word_end": end, "subject_id": subject.id} for end in sorted(ends)]


def keep(connection: Connection, firm_id: str, subjects: Iterable[Subject]) -> None:
    """Make subjects findable by what they say now."""
    rows = [_rows(firm_id, subject) for subject in subjects]
    if not rows:
        return
    forget(connection, [head["id"] for head, _ in rows])
    connection.execute(insert(search_subject), [head for head, _ in rows])
    ends = [end for _, ends in rows for end in ends]
    if ends:
        connection.execute(insert(search_end), ends)


def forget(connection: Connection, ids: Iterable[str]) -> None:
    """Take subjects out of what is found."""
    # Their ends go with them.
    connection.execute(delete(search_subject).where(search_subject.c.id.in_(list(ids))))


def _like(text: str) -> str:
    return text.replace("\\", "\\\\").replace("%", "\\%").replace("_", "\\_") + "%"


def find(connection: Connection, firm_id: str, text: str, limit: int = 20) -> list[Hit]:
    """What contains every word of the text, in any part of any of its words; nothing for a text without words."""
    asked = sorted(dict.fromkeys(words(text)), key=len, reverse=True)[:8]
    if not asked:
        return []
    first, s = search_end.c, search_subject.c
    query = (
        select(s.kind, s.id, s.title, s.line)
        .select_from(search_end)
        .join(search_subject, s.id == first.subject_id)
        .where(first.firm_id == firm_id, first.word_end.like(_like(asked[0][:LONGEST])))
    )
    for word in asked[1:]:
        if len(word) == 1:
            # A single figure is a house number: as a whole word it tells one house from another.
            query = query.where((" " + s.words + " ").like(f"% {word} %"))
            continue
        other = aliased(search_end).c
        query = query.where(
            exists().where(
                other.firm_id == firm_id, other.subject_id == s.id, other.word_end.like(_like(word[:LONGEST]))
            )
        )
    long = [word for word in asked if len(word) > LONGEST]
    for word in long:
        query = query.where(func.instr(s.words, word) > 0)
    # One subject can hold the text in several of its words.
    rows = connection.execute(query.limit(limit * 4))
    return list({row.id: Hit(row.kind, row.id, row.title, row.line) for row in rows}.values())[:limit]
