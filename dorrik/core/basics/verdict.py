"""The verdict: an opinion on one figure, with its limit, its margin, one sentence why, and a source.

A verdict is offered to the inspector, who may overrule it. `unknown` means that a needed input is missing
or that a bound such as `>200` cannot settle the question; it is never a guess.
"""

from typing import Literal

from dorrik.core.basics.record import record

Status = Literal["pass", "attention", "fail", "unknown"]


@record(kw_only=True)
class Verdict:
    """One opinion.

    status: pass, attention (worth a look, not a failure), fail or unknown.
    reason: one sentence for a person.
    source: clause of the rule book or name of the formula, with Dorrik's rule number.
    limit: the limit that was used, in the unit of the reading; None where none applies.
    margin: room left up to the limit in the same unit, negative beyond it; None where it cannot be said.
    next_step: what to do now, or None.
    observation: key of the catalogue entry that this verdict would raise, or None.
    asks: is it a question whose answer could be C1, C2 or FI? While it is open nothing is satisfactory.
    """

    status: Status
    reason: str
    source: str
    limit: float | None = None
    margin: float | None = None
    next_step: str | None = None
    observation: str | None = None
    asks: bool = False
