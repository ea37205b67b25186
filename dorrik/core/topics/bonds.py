"""Main bonds: present or missing, and their continuity at the clamp and at the pipe (rule 3.7)."""

from collections.abc import Iterator

from dorrik.core import bonding
from dorrik.core.inspection import Bond
from dorrik.core.topics.context import Context, Note, spoken
from dorrik.core.verdict import Verdict


def notes(context: Context) -> Iterator[Note]:
    """Notes on each bond."""
    limit = context.book.limits["bonding_ohm"]
    for bond in context.inspection.bonds:
        title = f"Bond to {bond.service or 'a service'}"
        found = bonding.judge_presence(bond.state, bond.service)
        if found is not None:
            yield Note("bond", bond.id, "state", title, found)
        yield from _continuity(bond, title, limit)


def _continuity(bond: Bond, title: str, limit: float) -> Iterator[Note]:
    measured = bond.at_pipe_ohm if spoken(bond.at_pipe_ohm) else bond.at_clamp_ohm
    field = "at_pipe_ohm" if measured is bond.at_pipe_ohm else "at_clamp_ohm"
    if spoken(measured):
        verdict: Verdict = bonding.judge(measured, limit)
        yield Note("bond", bond.id, field, f"{title}: {measured} Ω", verdict)
    if spoken(bond.at_pipe_ohm) and spoken(bond.at_clamp_ohm):
        verdict = bonding.judge_contact(bond.at_clamp_ohm, bond.at_pipe_ohm)
        if verdict.status == "fail":
            yield Note("bond", bond.id, "at_pipe_ohm", f"{title}: clamp and pipe", verdict)
    if bond.csa_mm2 is not None and bond.length_m is not None:
        verdict = bonding.judge_run(bond.csa_mm2, bond.length_m, limit)
        if verdict.status == "attention":
            yield Note("bond", bond.id, "length_m", f"{title}: length", verdict)
