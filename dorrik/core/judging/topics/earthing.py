"""Sizes of the main earthing and bonding conductors (rule 3.6)."""

from collections.abc import Iterator

from dorrik.core.basics.verdict import Verdict
from dorrik.core.electrical import bonding, tails
from dorrik.core.judging.topics.context import Context, Note


def notes(context: Context) -> Iterator[Note]:
    """Notes on sizes. Without the supply neutral the tails stand for it, which is usual where it is not seen."""
    i = context.inspection
    if i.tails_mm2 is None:
        return
    # Tails that are too small for their fuse make nothing else smaller: what they should be stands for them.
    tails_mm2 = max(i.tails_mm2, tails.least_mm2(i.service_fuse_a)) if i.service_fuse_a else i.tails_mm2
    required = bonding.earthing_conductor_mm2(tails_mm2)
    if i.earthing_conductor_mm2 is not None:
        verdict = bonding.judge_size(
            "The main earthing conductor", i.earthing_conductor_mm2, required, to_electrode=i.earthing == "TT"
        )
        yield Note("inspection", i.id, "earthing_conductor_mm2", "Main earthing conductor", verdict)
    if not i.earthing:
        return
    least = bonding.main_bonding_mm2(i.earthing, required, i.neutral_mm2 or tails_mm2)
    # With an electrode the earthing conductor may be small by calculation, and the bonds follow from it (543.1.3).
    small = i.earthing == "TT"
    # The one size of older documents is left aside where the bonds themselves are described.
    if i.bonding_mm2 is not None and not any(bond.csa_mm2 for bond in i.bonds):
        verdict = _size(i.bonding_mm2, least, small=small)
        yield Note("inspection", i.id, "bonding_mm2", "Main bonding conductor", verdict)
    for bond in i.bonds:
        if bond.csa_mm2 is not None:
            verdict = _size(bond.csa_mm2, least, small=small)
            yield Note("bond", bond.id, "csa_mm2", f"Bond to {bond.service or 'a service'}: size", verdict)


def _size(found_mm2: float, least_mm2: float, *, small: bool) -> Verdict:
    excused = small and found_mm2 >= bonding.LEAST_BOND_MM2
    return bonding.judge_size("The main bonding conductor", found_mm2, least_mm2, to_electrode=excused)
