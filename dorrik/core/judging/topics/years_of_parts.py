"""Years of parts that cannot be: evidence that does not agree, and a part older than the home it is in (rule 13.6)."""

from collections.abc import Iterator

from dorrik.core.basics.verdict import Verdict
from dorrik.core.home.ages import Part, parts
from dorrik.core.inspection.kinds import KINDS
from dorrik.core.judging.topics.context import Context, Note

SOURCE = "BS 7671 651.2 note · rule 13.6"
_FIELD = {"inspection": "age_years", "board": "name", "circuit": "fitted_from"}


def notes(context: Context) -> Iterator[Note]:
    """What is asked where years do not fit."""
    i = context.inspection
    if not i.datings and not any(c.fitted_from or c.fitted_to for _, c in context.circuits):
        return
    today = int(i.inspected_on[:4]) if i.inspected_on else None
    home: Part | None = None
    for part in parts(i):
        home = home or part
        if not part.agrees:
            evidence = "; ".join(part.evidence)
            yield _note(
                part, f"Its evidence leaves no year: {evidence}. What rests on its age does not count until it agrees."
            )
        elif today is not None and part.from_year is not None and part.from_year > today:
            yield _note(part, f"Not before {part.from_year}: that is after this inspection.")
        elif (
            part is not home
            and home.from_year is not None
            and part.to_year is not None
            and part.to_year < home.from_year
        ):
            yield _note(
                part, f"Not after {part.to_year}, in a home that was wired in {home.from_year} or later: "
                "used again, or one of the two is wrong.",
            )  # fmt: skip


def _note(part: Part, reason: str) -> Note:
    field = _FIELD[part.entity]
    verdict = Verdict(status="attention", reason=reason, source=SOURCE, next_step="Look at the evidence again.")
    return Note(part.entity, part.entity_id, field, f"{part.name}: {KINDS[part.entity].fields[field].label}", verdict)
