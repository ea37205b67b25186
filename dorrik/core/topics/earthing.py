"""Sizes of the main earthing and bonding conductors (rule 3.6)."""

from collections.abc import Iterator

from dorrik.core import bonding
from dorrik.core.topics.context import Context, Note


def notes(context: Context) -> Iterator[Note]:
    """Notes on sizes. Without the supply neutral the tails stand for it, which is usual where it is not seen."""
    i = context.inspection
    if i.tails_mm2 is None:
        return
    required = bonding.earthing_conductor_mm2(i.tails_mm2)
    if i.earthing_conductor_mm2 is not None:
        verdict = bonding.judge_size(
            "The main earthing conductor", i.earthing_conductor_mm2, required, to_electrode=i.earthing == "TT"
        )
        yield Note("inspection", i.id, "earthing_conductor_mm2", "Main earthing conductor", verdict)
    if not i.earthing:
        return
    least = bonding.main_bonding_mm2(i.earthing, required, i.neutral_mm2 or i.tails_mm2)
    # The one size of older documents is left aside where the bonds themselves are described.
    if i.bonding_mm2 is not None and not any(bond.csa_mm2 for bond in i.bonds):
        verdict = bonding.judge_size("The main bonding conductor", i.bonding_mm2, least)
        yield Note("inspection", i.id, "bonding_mm2", "Main bonding conductor", verdict)
    for bond in i.bonds:
        if bond.csa_mm2 is not None:
            verdict = bonding.judge_size("The main bonding conductor", bond.csa_mm2, least)
            yield Note("bond", bond.id, "csa_mm2", f"Bond to {bond.service or 'a service'}: size", verdict)
