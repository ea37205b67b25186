"""A reading held against a limit: within it, within it by less than the instrument can tell, beyond it, or unsettled.

Every rule that holds a figure against a greatest or a least value asks here (rules 1.2 and 1.3), and gets a verdict of
one shape: what differs between rules is told by its words.
"""

from typing import Literal

from dorrik.core.basics.readings import Quantity, Reading, at_least, at_most, is_own_accuracy, rounded, why_unknown
from dorrik.core.basics.record import record
from dorrik.core.basics.verdict import Status, Verdict

State = Literal["within", "close", "beyond", "unsettled"]


@record(kw_only=True)
class ComparedWords:
    """What a rule calls its figure and what it says of it.

    name: the figure as a subject ('Zs'); unit: of reading and limit; source: clause and rule; within, beyond: sentences
    with `{reading}` and `{limit}` in them; next_step, observation: for a reading beyond; status: for one beyond;
    close_step: what to do where the instrument, by its own data, cannot tell.
    """

    name: str
    unit: str
    source: str
    within: str
    beyond: str
    next_step: str | None = None
    observation: str | None = None
    status: Status = "fail"
    close_step: str | None = None


def compare(reading: Reading | None, limit: float, quantity: Quantity, *, least: bool = False) -> State:
    """Hold a reading against its greatest value, or its least; `close` by less than the instrument's uncertainty."""
    held = at_least(reading, limit) if least else at_most(reading, limit)
    if held is None or reading is None:
        return "unsettled"
    if not held:
        return "beyond"
    if reading.value is None or reading.bound is not None:
        return "within"
    room = reading.value - limit if least else limit - reading.value
    return "close" if room < reading.uncertainty(quantity) - 1e-12 else "within"


def judge(
    reading: Reading | None,
    limit: float,
    quantity: Quantity,
    words: ComparedWords,
    *,
    least: bool = False,
) -> Verdict:
    """The verdict on a reading against its greatest (or least) value, in the unit of the reading (rules 1.2, 1.3)."""
    state = compare(reading, limit, quantity, least=least)
    if reading is None or state == "unsettled":
        reason = why_unknown(reading, words.name)
        return Verdict(status="unknown", reason=reason, source=words.source, limit=limit)
    margin = None if reading.value is None else reading.value - limit if least else limit - reading.value
    text = (words.beyond if state == "beyond" else words.within).format(
        reading=f"{reading} {words.unit}" if reading.value is not None else f"{reading}",
        limit=_limit(limit, words.unit),
    )
    uncertainty = rounded(reading.uncertainty(quantity))
    if state == "beyond":
        near = margin is not None and reading.bound is None and -margin < reading.uncertainty(quantity) - 1e-12
        return Verdict(
            status=words.status,
            reason=f"{text}: close, within the instrument's {uncertainty} {words.unit}." if near else f"{text}.",
            source=words.source,
            limit=limit,
            margin=margin,
            next_step=words.next_step,
            observation=words.observation,
        )
    if state == "close" and not is_own_accuracy(quantity):
        # What instruments usually can is no fact about this one (rule 1.3).
        return Verdict(
            status="pass",
            reason=f"{text}: close, instruments usually differ by {uncertainty} {words.unit}.",
            source=f"{words.source}, 1.3",
            limit=limit,
            margin=margin,
        )
    if state == "close":
        return Verdict(
            status="attention",
            reason=f"{text}, but by less than the instrument's uncertainty of {uncertainty} {words.unit}.",
            source=f"{words.source}, 1.3",
            limit=limit,
            margin=margin,
            next_step=words.close_step,
        )
    return Verdict(status="pass", reason=f"{text}.", source=words.source, limit=limit, margin=margin)


def _limit(limit: float, unit: str) -> str:
    return (
        f"{limit:.2f} {unit}"
        if unit == "Ω" and limit < 10 and round(limit, 2) != round(limit, 1)
        else f"{limit:g} {unit}"
    )
