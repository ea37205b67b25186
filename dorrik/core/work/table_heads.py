"""Which column of a table from elsewhere is what: guessed by its head, each target once."""

import re
from collections.abc import Callable, Iterable, Mapping, Sequence


def match_heads(
    heads: Sequence[str], words: Mapping[str, Iterable[str]], plain: Callable[[str], str]
) -> tuple[str | None, ...]:
    """For each head the key of the target that it most likely is; None for no idea.

    words: what the head of each target may be called; plain: a head as it is compared. A head that is one of the words
    counts before one that holds it, and a long word before a short one.
    """
    scored = []
    for column, head in enumerate(plain(head) for head in heads):
        if not head:
            continue
        for key, known in words.items():
            for word in map(plain, known):
                if head == word:
                    scored.append((3.0 + len(word) / 100, column, key))
                elif len(word) > 2 and re.search(rf"(?<![\w+]){re.escape(word)}(?![\w+])", head):
                    scored.append((1.0 + len(word) / 100, column, key))
    matched: dict[int, str] = {}
    for _, column, key in sorted(scored, key=lambda score: (-score[0], score[1])):
        if column not in matched and key not in matched.values():
            matched[column] = key
    return tuple(matched.get(column) for column in range(len(heads)))


def check_columns(columns: Sequence[str | None], labels: Mapping[str, str]) -> None:
    """Raises ValueError for a column that is matched with nothing there is, or with what another one is.

    columns: the key of each, None for one that is left out; labels: the names of what they can be, by key.
    """
    used = [key for key in columns if key is not None]
    for key in used:
        if key not in labels:
            raise ValueError(f"There is nothing called {key[:40]!r} to match a column with.")
        if used.count(key) > 1:
            raise ValueError(f"Two columns are matched with “{labels[key]}”: leave one of them out.")


def head_row(rows: Sequence[Sequence[str]], guess: Callable[[Sequence[str]], Sequence[str | None]]) -> int:
    """Which of the first rows is the head: the one with most columns that are recognised; 0 where none is."""
    counted = [sum(key is not None for key in guess(row)) for row in rows[:20]]
    return max(range(len(counted)), key=lambda i: (counted[i], -i), default=0)
