"""Page one, for whoever let the home: the result in a sentence, what to do, and by when."""

from collections import Counter
from collections.abc import Mapping, Sequence
from datetime import date
from itertools import groupby
from math import ceil
from typing import Any

from dorrik.core.book.codes import UNSATISFACTORY
from dorrik.core.inspection.records import Inspection, Observation
from dorrik.core.judging.judgement import Judgement
from dorrik.report.content.words import short_day

_NUMBERS = ("no", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten")
#: What one thing of a code is, and several.
_IS = {
    "C1": ("is dangerous now", "are dangerous now"),
    "C2": ("may become dangerous", "may become dangerous"),
    "FI": ("has to be looked into", "have to be looked into"),
}
_SERIOUS = tuple(_IS)
#: Height of a row of page one and of its parts (mm); letters in a line of it.
_ROW, _LINE, _LETTERS, _PICTURE = 5.5, 4.3, 70, 17.0
#: Height of page one without its lines of words (mm), and of those: letters in a line, and its height (mm). What does
#: not fit beside them follows later.
_PAGE = 210.0
_TITLE, _BELOW, _SENTENCE, _FOOT = (46, 8.2), (105, 4.3), (86, 5.0), (56, 4.1)


def deciding(inspection: Inspection, judgement: Judgement) -> list[Observation]:
    """The observations that the outcome rests on."""
    because = set(judgement.outcome_because)
    return [observation for observation in inspection.observations if observation.id in because]


def sentence(inspection: Inspection, judgement: Judgement, declared: str) -> str:
    """The result as a landlord understands it. declared: what the inspector declares."""
    codes = Counter(o.code for o in deciding(inspection, judgement))
    improvements = sum(o.code == "C3" and not o.mended for o in inspection.observations)
    if declared not in ("satisfactory", "unsatisfactory"):
        return "The inspector has not decided yet."
    serious = _of(codes)
    if declared == "unsatisfactory":
        if not serious:
            return "The inspector gives the reason below."
        return f"{serious} {_closes(sum(codes.values()))}"
    if serious:
        return f"{serious} The inspector declares it satisfactory all the same, and gives the reason below."
    if judgement.outcome != "satisfactory":
        # Failures without a code, questions, tests that are missing: nothing of it is passed over.
        return (
            f"By what was found and measured it is {judgement.outcome_says}. "
            "The inspector declares it satisfactory all the same, and gives the reason below."
        )
    text = "Nothing that is dangerous, or may become so, was found in what was inspected and tested."
    if improvements:
        words = "improvement is recommended; it does" if improvements == 1 else "improvements are recommended; they do"
        text += f" {number(improvements).capitalize()} {words} not make the result unsatisfactory."
    return text


def _of(codes: Mapping[str | None, int]) -> str:
    """`Two things may become dangerous and one has to be looked into.`; '' for none."""
    sentences: list[str] = []
    for code in _SERIOUS:
        if count := codes.get(code, 0):
            thing = "" if sentences else " thing" if count == 1 else " things"
            sentences.append(f"{number(count)}{thing} {_IS[code][count > 1]}")
    if not sentences:
        return ""
    joined = sentences[0] if len(sentences) == 1 else f"{', '.join(sentences[:-1])} and {sentences[-1]}"
    return f"{joined[0].upper()}{joined[1:]}."


def _closes(count: int) -> str:
    all_of_it = {1: "When it is", 2: "When both are"}.get(count, f"When all {number(count)} are")
    return f"{all_of_it} cleared, that is confirmed in writing, without a new inspection."


def number(count: int) -> str:
    """A count in words as far as people say it so."""
    return _NUMBERS[count] if count < len(_NUMBERS) else str(count)


def rests_on(inspection: Inspection, judgement: Judgement) -> str:
    """What the result rests on: points opened and what they can claim, work done, limits."""
    limits = len(inspection.limitations) + len(judgement.limits)
    aside = sum(aside.in_force and not aside.gone for aside in judgement.set_aside)
    done = judgement.evidence
    sentences = (
        [judgement.sampling.plainly, f"{done.work}." if done.work else ""] if judgement.sampling else [done.says]
    )
    if limits:
        words = "thing" if limits == 1 else "things"
        sentences.append(f"{number(limits).capitalize()} {words} could not be inspected or tested: see limitations.")
    if aside:
        words = "part was" if aside == 1 else "parts were"
        sentences.append(f"{number(aside).capitalize()} {words} left out by agreement.")
    sentences.append(judgement.limited_share.warning or "")
    return " ".join(one[0].upper() + one[1:] for one in sentences if one) or "No readings were recorded."


def timeline(inspection: Inspection, judgement: Judgement, declared: str, next_by: date | None) -> list[dict[str, Any]]:
    """What was done and what comes, by its day: inspection, duties with a last day, next inspection.

    Where no law sets a day for what counts against the result, it stands without one.
    """
    events: list[tuple[str, str]] = []
    if inspection.inspected_on:
        events.append((inspection.inspected_on, "inspected"))
    asked = [duty for duty in judgement.duties if duty.due and duty.only_if in ("", declared)]
    events += [(duty.due, duty.short) for duty in asked if duty.due]
    line = [
        {"on": short_day(on), "what": ", ".join(dict.fromkeys(what for _, what in same)), "done": at == 0}
        for at, (on, same) in enumerate(groupby(sorted(events, key=lambda e: e[0]), key=lambda e: e[0]))
    ]
    codes = {o.code for o in deciding(inspection, judgement)}
    if declared == "unsatisfactory" and codes & UNSATISFACTORY:
        soon = []
        if "C1" in codes:
            soon.append({"on": "at once", "what": "danger put right", "done": False})
        if not any(duty.only_if for duty in asked):
            words = "put right" if codes & {"C2", "C1"} else "looked into"
            soon += [{"on": "without delay", "what": words, "done": False}] if codes - {"C1"} else []
        line[1:1] = soon
    if next_by is not None:
        line.append({"on": short_day(next_by.isoformat()), "what": "next inspection", "done": False})
    return line


def room(inspection: Inspection, result: str, reason: str, rests: str) -> float:
    """What page one has for its list (mm). result: the result in a sentence; reason: the inspector's own, '' for none;
    rests: what it rests on."""
    named = f"Electrical condition of {inspection.installation_name or ''}, {inspection.property_address or ''}"
    below = f"Electrical installation condition report for {inspection.client_name}, {inspection.client_address}"
    lines = (
        (named, _TITLE), (below + " Inspected on 30 September 2026.", _BELOW), (result, _SENTENCE), (reason, _SENTENCE),
        (rests, _FOOT),
    )  # fmt: skip
    return _PAGE - sum(ceil(len(words) / letters) * height for words, (letters, height) in lines)


def first(rows: Sequence[Mapping[str, Any]], room: float) -> dict[str, Any]:
    """What page one lists, the most serious first, and a sentence for what follows after it. rows: the observations as
    `outcome.section` has them; room: how high the list can be (mm)."""
    listed = sorted((row for row in rows if row["code"] != "note"), key=_weight)
    shown: list[Mapping[str, Any]] = []
    for row in listed:
        height = _height(row)
        if shown and height > room:
            break
        room -= height
        shown.append(row)
    left = listed[len(shown) :]
    counts = sum(_counts(row) for row in left)
    more = []
    if counts:
        more.append(f"{number(counts)} more that {'counts' if counts == 1 else 'count'} against the result")
    if others := len(left) - counts:
        more.append(f"{number(others)} more {'improvement' if others == 1 else 'improvements'} and repairs")
    pointer = f"{' and '.join(more)}: see “What was found”." if more else ""
    return {"first": [_row(row) for row in shown], "first_more": pointer[:1].upper() + pointer[1:]}


def _counts(row: Mapping[str, Any]) -> bool:
    return bool(row["counts"]) and row["code"] in UNSATISFACTORY


def _weight(row: Mapping[str, Any]) -> tuple[bool, int]:
    place = _SERIOUS.index(row["code"]) if row["code"] in _SERIOUS else len(_SERIOUS)
    return (not _counts(row), place)


def _row(row: Mapping[str, Any]) -> dict[str, Any]:
    title = row["plain"] or row["text"]
    where = [row["building"], row["place"], row["text"] if row["plain"] else ""]
    if not row["mended"]:
        todo = row["remedy"]
    elif row["counts"]:
        todo = "Put right during the visit; it still counts until that is shown by a test."
    else:
        todo = " ".join(part for part in ("Put right during the visit.", row["as_left"]) if part)
    photos = [photo for photo in row["photos"] if photo["jpeg"]]
    return {
        "code": row["code"] or "–",
        "title": title,
        "where": " · ".join(part for part in where if part),
        "todo": todo[:1].upper() + todo[1:],
        "photo": photos[0] if photos else None,
        "counts": row["counts"],
    }


def _height(row: Mapping[str, Any]) -> float:
    """How high a row of page one is, about (mm)."""
    printed_row = _row(row)
    lines = sum(ceil(len(printed_row[part]) / _LETTERS) for part in ("title", "where", "todo"))
    return _ROW + max(lines * _LINE, _PICTURE if printed_row["photo"] else 0.0)
