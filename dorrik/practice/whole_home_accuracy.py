"""How a judgement does on whole homes: causes named, observations without a cause, double voices, codes, passes."""

import random
from collections import Counter
from collections.abc import Iterator
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass, field

from dorrik.core.book.codes import UNSATISFACTORY
from dorrik.core.inspection.document import parse
from dorrik.core.judging.judgement import Judgement, judge
from dorrik.core.judging.result.suggested import Suggestion
from dorrik.practice.answering import answered
from dorrik.practice.opinions import same_cause
from dorrik.practice.whole_home import Cause, WholeHome
from dorrik.practice.whole_home_draw import draw, draw_sound_old


@dataclass(slots=True)
class Count:
    """What was counted; misses name the seed, the kind of home and what it was."""

    homes: int = 0
    causes: int = 0
    detectable: int = 0
    named: int = 0
    coded: int = 0
    right_code: int = 0
    suggestions: int = 0
    without_cause: int = 0
    double: int = 0
    passes_on_part: int = 0
    false_satisfactory: int = 0
    slips: int = 0
    slips_asked: int = 0
    by_cause: Counter[str] = field(default_factory=Counter)
    named_by_cause: Counter[str] = field(default_factory=Counter)
    misses: list[str] = field(default_factory=list)

    def add(self, other: "Count") -> None:
        """Put another count to this one."""
        for name in self.__slots__:
            mine, theirs = getattr(self, name), getattr(other, name)
            if isinstance(mine, Counter):
                mine.update(theirs)
            elif isinstance(mine, list):
                mine.extend(theirs)
            else:
                setattr(self, name, mine + theirs)


def count(home: WholeHome) -> Count:
    """Judge one home and hold the judgement against its truth."""
    judgement = judge(parse(home.document), home.measured_at)
    counted = Count(homes=1, causes=sum(c.key is not None for c in home.causes))
    offered = [suggestion for suggestion in judgement.suggested if suggestion.recorded is None]
    matched: dict[int, list[Cause]] = {}
    where = f"{home.seed} ({home.kind})"
    for cause in home.detectable:
        if cause.key is None:
            asked = _is_asked(judgement, cause)
            counted.slips += 1
            counted.slips_asked += asked
            if not asked:
                counted.misses.append(f"{where}: slip not asked about: {cause.name}")
            continue
        counted.detectable += 1
        counted.by_cause[cause.name] += 1
        own = [n for n, one in enumerate(offered) if _speaks_of(one, cause)]
        for n in own:
            matched.setdefault(n, []).append(cause)
        if not own:
            counted.misses.append(f"{where}: not named: {cause.name} at {', '.join(sorted(cause.places)[:3])}")
            continue
        counted.named += 1
        counted.named_by_cause[cause.name] += 1
        counted.coded += 1
        codes = {offered[n].code for n in own}
        counted.right_code += cause.code in codes
        if cause.code not in codes:
            counted.misses.append(f"{where}: {cause.name} coded {'/'.join(codes)}, should be {cause.code}")
        if len(own) > 1:
            counted.double += len(own) - 1
            offers = ", ".join(f"{offered[n].key} at {offered[n].entity_id}" for n in own)
            counted.misses.append(f"{where}: {cause.name} said {len(own)} times: {offers}")
    counted.suggestions = len(offered)
    for n, offer in enumerate(offered):
        if n not in matched and not any(_speaks_of(offer, cause) for cause in home.causes if cause.key):
            counted.without_cause += 1
            counted.misses.append(
                f"{where}: no cause: {offer.code} {offer.key} at {offer.entity_id}: {offer.because[0]}"
            )
    for mistake in _falsely_satisfactory(home, judgement):
        counted.false_satisfactory += 1
        counted.misses.append(f"{where}: satisfactory: {mistake}")
    for mistake in _passes_on_part(home, judgement):
        counted.passes_on_part += 1
        counted.misses.append(f"{where}: passed on part: {mistake}")
    return counted


def _speaks_of(suggestion: Suggestion, cause: Cause) -> bool:
    return (
        cause.key is not None
        and same_cause(suggestion.key, cause.key)
        and bool({suggestion.entity_id, *suggestion.touches} & cause.places)
    )


def _is_asked(judgement: Judgement, cause: Cause) -> bool:
    missing = any(m.entity_id in cause.places and cause.fields & set(m.fields) for m in judgement.progress.missing)
    return missing or any(
        note.entity_id in cause.places
        and note.field in cause.fields
        and note.status in ("attention", "fail", "unknown")
        for note in judgement.notes
    )


def _falsely_satisfactory(home: WholeHome, judgement: Judgement) -> Iterator[str]:
    """Where the home reads satisfactory and may not: as it was tested, since nothing is answered yet; answered as the
    judgement has it, with something wrong that speaks against it; and with one thing of that left unanswered."""
    open_causes = [c for c in home.detectable if c.code in UNSATISFACTORY]
    slips = [c for c in home.detectable if c.key is None]
    if judgement.outcome == "satisfactory":
        if open_causes or slips:
            yield f"with nothing answered, and {', '.join(c.name for c in (*open_causes, *slips))}"
        return
    done = answered(home.document)
    if open_causes and judge(parse(done), home.measured_at).outcome == "satisfactory":
        yield f"all answered, with {', '.join(c.name for c in open_causes)}"
        return
    observations = done["inspection"].get("observations", [])
    grave = [observation for observation in observations if observation["code"] in UNSATISFACTORY]
    if grave:
        left = random.Random(home.seed).choice(grave)
        done["inspection"]["observations"] = [observation for observation in observations if observation is not left]
        if judge(parse(done), home.measured_at).outcome == "satisfactory":
            yield f"without an answer to {left['code']} {left['catalogue_key']}"


def _passes_on_part(home: WholeHome, judgement: Judgement) -> Iterator[str]:
    """Verdicts that pass while something they speak of is missing."""
    inspection = home.document["inspection"]
    boards = {board["id"]: board for board in inspection["boards"]}
    for board_sum in judgement.board_sums:
        left = [c["designation"] for c in boards[board_sum.board_id]["circuits"] if not _measured(c, board_sum.field)]
        if board_sum.verdict.status == "pass" and left:
            yield f"{board_sum.title} without {', '.join(left)}"
    for note in judgement.notes:
        if note.verdict.status != "pass":
            continue
        if note.entity == "bond" and note.field == "at_clamp_ohm":
            yield f"{note.title} at the clamp alone"
        if note.field == "ze_ohm" and not inspection.get("ze_parallel_removed"):
            yield "Ze with parallel paths perhaps still connected"
        if note.field == "electrode_ohm" and not boards[note.entity_id].get("electrode_alone"):
            yield f"{note.title} with bonds perhaps still connected"


def _measured(circuit: dict[str, object], field_name: str) -> bool:
    text = str(circuit.get(field_name) or "")
    return bool(text) and not text.startswith(("LIM", "N/V"))


def count_homes(first: int, last: int) -> Count:
    """Homes of these seeds, the last not included."""
    counted = Count()
    for seed in range(first, last):
        counted.add(count(draw(seed)))
    return counted


def count_sound_old(first: int, last: int) -> tuple[int, list[str]]:
    """Sound old homes of these seeds that a C1, C2 or FI was suggested for, each with what it was."""
    mistakes = []
    for seed in range(first, last):
        home = draw_sound_old(seed)
        grave = [s for s in judge(parse(home.document)).suggested if s.code in ("C1", "C2", "FI")]
        if grave:
            mistakes.append(f"{seed}: {grave[0].code} {grave[0].key}: {grave[0].because[0]}")
    return len(mistakes), mistakes


HEAD = """
## Whole homes

{homes:,} homes of TN-S, TN-C-S and TT, new and old, a quarter of them with an outbuilding (its own electrode or the
supply's earth), some on three phases, with no to six things wrong at once; tested by either school (R1+R2 and
cross-connected rings, line to cpc alone, or R2 by long lead), a third of them in part only (LIM, N/V, not made), a
fifth with a slip of the inspector's own (amperes for kiloamperes, digits turned round, a null on a bad contact, a Zs
that cannot be, seconds for milliseconds, ring ends a hundredfold, a loop of zero, N/A where a test applies). A home
is falsely satisfactory if it reads so as it was tested, or answered as the judgement has it while something is wrong
that speaks against it, or with one such thing left unanswered. The truth is the list of what was put in, with its
place and the mainstream code in its context, written apart from the rules (`practice/opinions.py`). Detectable:
something that was entered shows it. The seeds begin at {first:,}; none of them was looked at while the rules were
written.

| | aim | found |
| --- | --- | --- |
"""

#: Seeds below were used while the rules were written.
FIRST_SEED = 100_000


def report(homes: int, workers: int | None = None) -> str:
    """The tables of whole homes as Markdown, with every miss by its seed."""
    counted, (old, old_mistakes) = _count_all(homes, workers)
    rows = (
        ("root causes that can be detected, named", "≥ 98 %", _share(counted.named, counted.detectable)),
        ("of those, the right code by the mainstream view", "≥ 95 %", _share(counted.right_code, counted.coded)),
        ("observations without a cause", "≤ 2 %", _share(counted.without_cause, counted.suggestions)),
        ("double voices", "0", str(counted.double)),
        ("passes given on part", "0", str(counted.passes_on_part)),
        (f"false satisfactory, of {homes:,}", "0", str(counted.false_satisfactory)),
        ("slips asked about", "", _share(counted.slips_asked, counted.slips)),
        (f"sound old homes with a C1, C2 or FI, of {homes:,}", "0", str(old)),
    )
    text = HEAD.format(homes=homes, first=FIRST_SEED)
    text += "\n".join(f"| {name} | {aim} | {share} |" for name, aim, share in rows)
    text += "\n\n| cause | detectable | named |\n| --- | ---: | ---: |\n"
    text += "\n".join(
        f"| {name} | {number} | {counted.named_by_cause[name]} |" for name, number in sorted(counted.by_cause.items())
    )
    missed = [*counted.misses, *(f"sound old home {mistake}" for mistake in old_mistakes)]
    return text + "\n\n### Misses\n\n" + ("\n".join(f"- {mistake}" for mistake in missed) or "None.") + "\n"


def _share(part: int, whole: int) -> str:
    return f"{part / whole:.1%} ({part:,} of {whole:,})" if whole else "none"


def _count_all(homes: int, workers: int | None) -> tuple[Count, tuple[int, list[str]]]:
    step = 25
    firsts = range(FIRST_SEED, FIRST_SEED + homes, step)
    lasts = [min(first + step, FIRST_SEED + homes) for first in firsts]
    counted = Count()
    old = 0
    mistakes: list[str] = []
    with ProcessPoolExecutor(workers) as pool:
        for part in pool.map(count_homes, firsts, lasts):
            counted.add(part)
        for number, mistakes_here in pool.map(count_sound_old, firsts, lasts):
            old, mistakes = old + number, [*mistakes, *mistakes_here]
    return counted, (old, mistakes)
