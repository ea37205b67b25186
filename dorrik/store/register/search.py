"""Finding clients, properties, jobs and inspections by any part of a name, an address or a number.

Of every name all ends are kept in an index: `14 rope walk`, `4 rope walk`, `rope walk`, `ope walk` and so on. A text
stands inside a name exactly where one of its ends begins with the text, so that finding a part, of one word or of
several in a row, is as quick as finding a beginning. Words that stand apart are found by the longest of them.
"""

import json
import re
import unicodedata
from collections.abc import Iterable
from dataclasses import dataclass

from sqlalchemy import Connection, delete, func, insert, select
from sqlalchemy import text as sql

from dorrik.store.database.tables import search_end, search_subject

#: Longest end that is kept (characters); a longer text is looked for by its beginning, then compared whole.
LONGEST = 24
WORDS = 1000
#: Ends that are written at once.
_AT_ONCE = 20_000
_ADD_ENDS = sql(
    "INSERT INTO search_end (firm_id, word_end, kind, subject_id) "
    "SELECT :firm_id, e.word_end, e.kind, e.subject_id FROM JSON_TABLE(:ends, '$[*]' COLUMNS("
    "word_end VARCHAR(24) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin PATH '$[0]', kind VARCHAR(20) PATH '$[1]', "
    "subject_id CHAR(36) CHARACTER SET ascii COLLATE ascii_bin PATH '$[2]')) AS e"
)


@dataclass(frozen=True, slots=True)
class Hit:
    """Something found: its kind and id, what names it, and a second line."""

    kind: str
    id: str
    title: str
    line: str


@dataclass(frozen=True, slots=True)
class Subject:
    """What can be found: shown by `title` and `line`, found by any part of what is `said`."""

    kind: str
    id: str
    title: str
    line: str
    said: tuple[str | None, ...]


def words(text: str) -> list[str]:
    """The words of a text as they are compared: small letters without accents, and digits."""
    plain = unicodedata.normalize("NFKD", text.casefold())
    return re.findall(r"[^\W_]+", "".join(c for c in plain if not unicodedata.combining(c)))


def _rows(firm_id: str, subject: Subject) -> tuple[dict[str, str], list[tuple[str, str, str]]]:
    names = list(dict.fromkeys(" ".join(words(text)) for text in subject.said if text))
    kept = " / ".join(names)[:WORDS]
    ends = {name[at : at + LONGEST] for name in names for at in range(len(name)) if name[at] != " "}
    head = {
        "id": subject.id,
        "firm_id": firm_id,
        "kind": subject.kind,
        "title": subject.title[:300],
        "line": subject.line[:300],
        "words": kept,
    }
    return head, [(end, subject.kind, subject.id) for end in ends]


def keep(connection: Connection, firm_id: str, subjects: Iterable[Subject]) -> None:
    """Make subjects findable by what they say now."""
    some = list(subjects)
    for kind in {subject.kind for subject in some}:
        forget(connection, firm_id, kind, [subject.id for subject in some if subject.kind == kind])
    add(connection, firm_id, some)


def add(connection: Connection, firm_id: str, subjects: Iterable[Subject]) -> None:
    """Make subjects findable that are new."""
    rows = [_rows(firm_id, subject) for subject in subjects]
    if not rows:
        return
    connection.execute(insert(search_subject), [head for head, _ in rows])
    # As one document: a statement with a value for every end would take ten times as long to write.
    # In the order of their key, in which they are written fastest.
    ends = sorted(end for _, ends in rows for end in ends)
    for begin in range(0, len(ends), _AT_ONCE):
        ends_json = json.dumps(ends[begin : begin + _AT_ONCE], ensure_ascii=False)
        connection.execute(_ADD_ENDS, {"firm_id": firm_id, "ends": ends_json})


def forget(connection: Connection, firm_id: str, kind: str, ids: Iterable[str]) -> None:
    """Take subjects of a kind and a firm out of what is found."""
    # Their ends go with them.
    c = search_subject.c
    connection.execute(delete(search_subject).where(c.firm_id == firm_id, c.kind == kind, c.id.in_(list(ids))))


def _like(text: str) -> str:
    return text.replace("\\", "\\\\").replace("%", "\\%").replace("_", "\\_")


def find(connection: Connection, firm_id: str, text: str, limit: int = 20) -> list[Hit]:
    """What contains the text as it stands, in any part of a name; otherwise what contains all of its words.

    A figure of one to three digits in front of other words, or apart from them, is a house number: it stands for
    itself, not for a part of one. Nothing is found for a text without words.
    """
    asked = words(text)[:8]
    if not asked:
        return []
    several = len(asked) > 1
    hits = _hits(connection, firm_id, " ".join(asked), [], limit, from_word=several and _is_house(asked[0]))
    if hits or not several:
        return hits
    first = max(asked, key=lambda word: (not _is_house(word), len(word)))
    return _hits(connection, firm_id, first, [word for word in asked if word != first], limit)


def _is_house(word: str) -> bool:
    return word.isdecimal() and len(word) <= 3


def _hits(
    connection: Connection, firm_id: str, start: str, others: list[str], limit: int, *, from_word: bool = False
) -> list[Hit]:
    """Subjects with an end that begins with `start`, and with all the other words.

    from_word: what begins with `start` is itself the beginning of a word.
    """
    end, s = search_end.c, search_subject.c
    query = (
        select(s.kind, s.id, s.title, s.line)
        .select_from(search_end)
        .join(search_subject, (s.firm_id == end.firm_id) & (s.kind == end.kind) & (s.id == end.subject_id))
        .where(end.firm_id == firm_id, end.word_end.like(_like(start[:LONGEST]) + "%"))
    )
    if len(start) > LONGEST:
        query = query.where(s.words.like(f"%{_like(start)}%"))
    if from_word:
        query = query.where(func.concat(" ", s.words).like(f"% {_like(start)}%"))
    for word in others:
        spaced = func.concat(" ", s.words, " ") if _is_house(word) else s.words
        query = query.where(spaced.like(f"% {word} %" if _is_house(word) else f"%{_like(word)}%"))
    # One subject can hold the text in several places.
    rows = connection.execute(query.limit(limit * 2))
    return list({(row.kind, row.id): Hit(row.kind, row.id, row.title, row.line) for row in rows}.values())[:limit]
