"""Classification: the schools' views of an observation, and how far two people agree (rules 13.2 and 13.3)."""

from collections.abc import Callable, Iterable
from typing import Literal

from dorrik.core.basics.record import record
from dorrik.core.book.catalogue import entries
from dorrik.core.book.codes import WEIGHT

School = Literal["mainstream", "stricter", "milder"]
#: The schools by name, as the house rule says them.
SCHOOLS: dict[str, School] = {"mainstream": "mainstream", "stricter": "stricter", "milder": "milder"}


@record
class SchoolView:
    """One school's code for an entry, and its reason."""

    school: School
    code: str
    reason: str


def views(key: str) -> tuple[SchoolView, SchoolView, SchoolView]:
    """The three schools' views of a catalogue entry, the mainstream first. Raises KeyError for an unknown entry."""
    entry = entries()[key]
    return (
        SchoolView("mainstream", entry.code, entry.why),
        SchoolView("stricter", entry.strict, entry.strict_why),
        SchoolView("milder", entry.mild, entry.mild_why),
    )


def suggest(key: str, school: School = "mainstream") -> SchoolView:
    """What the firm's school starts from; the inspector decides."""
    entry = entries()[key]
    if school == "mainstream":
        return SchoolView(school, entry.code, entry.why)
    return (
        SchoolView(school, entry.strict, entry.strict_why)
        if school == "stricter"
        else SchoolView(school, entry.mild, entry.mild_why)
    )


@record
class Question:
    """What would move a code and is not known: asked in one tap. fact: its name; ask: the words; code: where a yes
    leads; says: the reason that is then kept."""

    fact: str
    ask: str
    code: str
    says: str


@record
class Placed:
    """A code in its context: where the school starts, moved by what is known (rule 13.2).

    moved: why it is not the school's own starting code, '' where it is; questions: what else would move it.
    """

    code: str
    reason: str
    moved: str
    questions: tuple[Question, ...]


def place(key: str, school: School, known: Callable[[str], bool | None]) -> Placed:
    """A code for an entry at its place. known: is a fact so? None where the inspection does not say."""
    entry, view = entries()[key], suggest(key, school)
    questions = []
    code, moved = view.code, ""
    if entry.until is not None:
        settled = known(entry.until.fact)
        if settled is None and WEIGHT[entry.until.code] < WEIGHT[code]:
            questions.append(Question(entry.until.fact, entry.until.ask, code, view.reason))
            code, moved = entry.until.code, "Answer the question: the code may be more serious."
    for fact in entry.facts:
        settled = known(fact.fact)
        if settled is None:
            if fact.code != code:
                questions.append(Question(fact.fact, fact.ask, fact.code, fact.says))
        elif settled and fact.code != code and _follows(school, view.code, fact.code):
            return Placed(fact.code, view.reason, f"{fact.code}, since {fact.says}.", tuple(questions))
    return Placed(code, view.reason, moved, tuple(questions))


def _follows(school: School, own: str, to: str) -> bool:
    """Does a school go along with a move? The stricter not to a less serious code, the milder not to a more serious
    one."""
    if school == "stricter":
        return WEIGHT[to] >= WEIGHT[own]
    return school == "mainstream" or WEIGHT[to] <= WEIGHT[own]


@record
class Agreement:
    """How far pairs of codes agree: number, share, and kappa, the share beyond chance (None where it explains all)."""

    pairs: int
    share: float
    kappa: float | None


def agreement(pairs: Iterable[tuple[str, str]]) -> Agreement | None:
    """Agreement of first codes with blind second opinions; None without pairs.

    Cohen's kappa: (share − chance)/(1 − chance), chance from how often each of the two gives each code.
    """
    both_codes = list(pairs)
    if not both_codes:
        return None
    n = len(both_codes)
    share = sum(a == b for a, b in both_codes) / n
    codes = {code for pair in both_codes for code in pair}
    chance = sum(sum(a == c for a, _ in both_codes) * sum(b == c for _, b in both_codes) for c in codes) / n**2
    return Agreement(n, share, None if chance >= 1 - 1e-12 else (share - chance) / (1 - chance))
