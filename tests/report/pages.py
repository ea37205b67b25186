"""What is wrong with the look of a document's pages, found from where every letter stands: cut off, one over another,
stacked word by word in a narrow cell, or a page with next to nothing on it."""

import itertools
from collections import defaultdict
from collections.abc import Iterator
from dataclasses import dataclass

import pypdfium2

#: Nothing stands nearer to the edge of the paper (pt); head and foot of a page are within so much of it.
EDGE, HEAD, FOOT = 17.0, 44.0, 40.0
#: Part of a page's height that is at least used.
LEAST = 0.3
#: From so many lines of one word each on, something is stacked.
STACKED = 3


@dataclass(frozen=True)
class Letter:
    """A letter with its place in the text and its box on the page (pt, from below)."""

    place: int
    sign: str
    left: float
    bottom: float
    right: float
    top: float


@dataclass(frozen=True)
class Segment:
    """Letters of one line without a gap wider than a blank."""

    text: str
    left: float
    right: float
    base: float


def faults(pdf: bytes) -> list[str]:
    """Everything that is wrong, page by page."""
    document = pypdfium2.PdfDocument(pdf)
    return [f"page {number}: {told}" for number, page in enumerate(document, 1) for told in _of(page)]


def used(pdf: bytes) -> list[float]:
    """How far down each page is used, as a part of its height."""
    return [_used(page, list(_letters(page))) for page in pypdfium2.PdfDocument(pdf)]


def _of(page: pypdfium2.PdfPage) -> Iterator[str]:
    width, height = page.get_size()
    letters = list(_letters(page))
    for letter in letters:
        if letter.left < EDGE or letter.right > width - EDGE or letter.bottom < EDGE or letter.top > height - EDGE:
            yield f"“{letter.sign}” at {letter.left:.0f}, {height - letter.top:.0f} is beyond the edge"
            break
    for one, other in _over_each_other(letters):
        yield f"“{one.sign}” and “{other.sign}” at {one.left:.0f}, {height - one.top:.0f} are over each other"
        break
    for words in _stacks(list(_segments(letters))):
        yield f"stacked: {' / '.join(words)}"
    if (part := _used(page, letters)) < LEAST:
        yield f"only {part:.0%} of the page is used"


def _letters(page: pypdfium2.PdfPage) -> Iterator[Letter]:
    text = page.get_textpage()
    for at in range(text.count_chars()):
        sign = text.get_text_range(at, 1)
        if sign.strip() and sign != "\u200b":
            left, bottom, right, top = text.get_charbox(at)
            if right > left and top > bottom:
                yield Letter(at, sign, left, bottom, right, top)


def _used(page: pypdfium2.PdfPage, letters: list[Letter]) -> float:
    _, height = page.get_size()
    lows = [letter.bottom for letter in letters if letter.bottom > FOOT and letter.top < height - HEAD]
    lows += [bounds[1] for thing in page.get_objects() if (bounds := thing.get_bounds())[1] > FOOT and thing.type == 3]
    return 1 - min(lows, default=height) / height


def _over_each_other(letters: list[Letter]) -> Iterator[tuple[Letter, Letter]]:
    near: dict[tuple[int, int], list[Letter]] = defaultdict(list)
    for letter in letters:
        for x, y in {
            (int(v) // 8, int(w) // 8) for v in (letter.left, letter.right) for w in (letter.bottom, letter.top)
        }:
            near[x, y].append(letter)
    for cell in near.values():
        for one, other in itertools.combinations(cell, 2):
            across = min(one.right, other.right) - max(one.left, other.left)
            down = min(one.top, other.top) - max(one.bottom, other.bottom)
            smaller = min((o.right - o.left) * (o.top - o.bottom) for o in (one, other))
            # Letters that are set as one share its box.
            if abs(one.place - other.place) > 2 and across > 0 and down > 0 and across * down > 0.5 * smaller:
                yield one, other


def _segments(letters: list[Letter]) -> Iterator[Segment]:
    """Lines by their base, each broken where a gap is wider than a blank."""
    lines: dict[int, list[Letter]] = defaultdict(list)
    for letter in letters:
        lines[round((letter.bottom + letter.top) / 2 / 3)].append(letter)
    for line in lines.values():
        line.sort(key=lambda one: one.left)
        run: list[Letter] = []
        for one in line:
            if run and one.left - run[-1].right > 5:
                yield _segment(run)
                run = []
            run.append(one)
        yield _segment(run)


def _segment(run: list[Letter]) -> Segment:
    text = run[0].sign
    for before, one in itertools.pairwise(run):
        text += (" " if one.left - before.right > 1.2 else "") + one.sign
    return Segment(text, run[0].left, run[-1].right, min(one.bottom for one in run))


def _stacks(segments: list[Segment]) -> Iterator[list[str]]:
    """Single words under each other, most of them with nothing beside them: a cell that is too narrow for its words.
    Cells of a table that stand under each other have their row beside them."""
    words = sorted((s for s in segments if " " not in s.text and s.right - s.left < 48), key=lambda s: -s.base)
    taken: set[Segment] = set()
    for first in words:
        if first in taken:
            continue
        stack = [first]
        for word in words:
            pitch = stack[-1].base - word.base
            beside = abs((word.left + word.right) - (first.left + first.right)) < 6 or abs(word.left - first.left) < 1.5
            if beside and 4 < pitch < 13:
                stack.append(word)
        taken.update(stack)
        alone = [s for s in stack if not any(o is not s and abs(o.base - s.base) < 3.2 for o in segments)]
        if len(stack) >= STACKED and len(alone) * 2 > len(stack):
            yield [one.text for one in stack]
