"""Main bonds: present or missing, and their continuity at the clamp and at the pipe (rule 3.7)."""

from collections.abc import Iterator
from typing import cast

from dorrik.core.electrical import bonding
from dorrik.core.inspection.records import Bond
from dorrik.core.judging.topics.context import Context, Note, is_measured


def notes(context: Context) -> Iterator[Note]:
    """Notes on each bond."""
    limit = context.book.limits["bonding_ohm"]
    for bond in context.inspection.bonds:
        title = f"Bond to {bond.service or 'a service'}"
        verdict = bonding.judge_presence(bond.state, bond.service)
        # What was not seen may have been proved another way: a continuity reading stands for the sight of it.
        measured = is_measured(bond.at_pipe_ohm)
        if verdict is not None and not (bond.state == "not seen" and measured):
            yield Note("bond", bond.id, "state", title, verdict)
        yield from _continuity(context, bond, title, limit)


def _continuity(context: Context, bond: Bond, title: str, limit: float) -> Iterator[Note]:
    """One statement on a bond: at the pipe, where it counts; the contact of the clamp where that is what is wrong."""
    at_pipe, at_clamp = bond.at_pipe_ohm, bond.at_clamp_ohm
    school = cast(bonding.School, context.house.bonding_limit)
    expected = bonding.expected_ohm(bond.csa_mm2, bond.length_m)
    contact = bonding.judge_contact(at_clamp, at_pipe)
    if contact.status in ("fail", "attention"):
        yield Note("bond", bond.id, "at_pipe_ohm", f"{title}: clamp and pipe", contact)
    if is_measured(at_pipe):
        verdict = bonding.judge(at_pipe, limit, expected=expected, school=school)
        # With the clamp named as the cause, the reading at the pipe is its consequence.
        because = (bond.id, "at_pipe_ohm") if contact.status == "fail" and verdict.status != "pass" else None
        yield Note("bond", bond.id, "at_pipe_ohm", f"{title}: {at_pipe} Ω", verdict, because_of=because)
    elif is_measured(at_clamp):
        verdict = bonding.judge(at_clamp, limit, expected=expected, school=school, at=" at the clamp")
        verdict = bonding.judge_clamp_only(at_clamp, verdict)
        yield Note("bond", bond.id, "at_clamp_ohm", f"{title}: {at_clamp} Ω at the clamp", verdict)
    if (
        bond.csa_mm2 is not None
        and bond.length_m is not None
        and not is_measured(at_pipe)
        and not is_measured(at_clamp)
    ):
        verdict = bonding.judge_run(bond.csa_mm2, bond.length_m, limit)
        if verdict.status == "attention" and school == "0.05 Ω in all":
            yield Note("bond", bond.id, "length_m", f"{title}: length", verdict)
