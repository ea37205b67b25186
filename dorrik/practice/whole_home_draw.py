"""Drawing a whole home from a seed: kind, age, faults, outbuilding, school of testing, what was left out, slips."""

import random

from dorrik.practice import whole_home as wh
from dorrik.practice.whole_home_entry import cpc_pair_only, in_part, slip
from dorrik.practice.whole_home_faults import put_in

#: Kinds of home, with how often they are met.
KINDS = {
    "TN-C-S": 5.0,
    "TN-S": 3.0,
    "TT": 2.0,
    "old TN-S": 2.0,
    "old TN-C-S": 1.0,
    "old TT": 0.7,
}


def draw(seed: int) -> wh.WholeHome:
    """A whole home with no to six things wrong with it. The same seed gives the same home."""
    chance = random.Random(f"whole home {seed}")
    kind = chance.choices(list(KINDS), list(KINDS.values()))[0]
    draft = wh.base(seed, kind)
    put_in(draft, chance.choices(range(7), (2, 4, 4, 3, 2, 1, 1))[0])
    words = [kind]
    if chance.random() < 0.25:
        _outbuilding(draft, seed, chance)
        words.append("outbuilding")
    long_lead = chance.random() < 0.3
    document = wh.inspected(draft, seed, kind, long_lead=long_lead)
    if long_lead:
        words.append("long lead")
    elif chance.random() < 0.4:
        cpc_pair_only(document)
        words.append("line to cpc only")
    if chance.random() < 0.12:
        wh.three_phases(document)
        words.append("three phase")
    if chance.random() < 0.5:
        wh.as_devices(document)
        words.append("devices")
    if chance.random() < 0.35:
        in_part(document, chance)
        words.append("in part")
    causes, doubtful = list(draft.causes), frozenset[tuple[str, str]]()
    if chance.random() < 0.25:
        made = slip(document, chance, draft.taken)
        if made is not None:
            causes.append(made.cause)
            doubtful = made.doubtful
            words.append("slip")
    return wh.WholeHome(seed, ", ".join(words), document, tuple(causes), doubtful)


def _outbuilding(draft: wh.Draft, seed: int, chance: random.Random) -> None:
    on_tt = draft.home.supply.earthing == "TT"
    if on_tt and ("earth" in draft.said or draft.protection == "none"):
        return  # its own way there would need what the house has not
    own = on_tt or chance.random() < 0.6
    troubles = [None, None, "no RCD"] + (["weak electrode"] if own else ["metal unbonded"])
    if not own and draft.home.supply.earthing != "TN-C-S":
        troubles.remove("metal unbonded")
    if "earth" in draft.said:
        # What an outbuilding has or has not would move the code of the supply's own fault.
        own, troubles = True, [None]
    wh.outbuilding(draft, seed, own_electrode=own, trouble=chance.choice(troubles))


def draw_sound_old(seed: int) -> wh.WholeHome:
    """A sound old home: rewirable fuses, no RCD, the bonds and lighting of its day; nothing that is dangerous."""
    chance = random.Random(f"sound old home {seed}")
    draft = wh.base(seed + 1_000_000, chance.choice(("old TN-S", "old TN-C-S")))
    # No socket that is known to feed the garden, and supplementary bonding as its day asked for.
    draft.after.append(_as_its_day_asked)
    document = wh.inspected(draft, seed, "old", long_lead=chance.random() < 0.3)
    if chance.random() < 0.3:
        in_part(document, chance)
    return wh.WholeHome(seed, "sound old home", document, ())


def _as_its_day_asked(document: wh.Document) -> None:
    for circuit in wh.board(document)["circuits"]:
        circuit.pop("outdoors", None)
        if circuit.get("bathroom"):
            circuit["supplementary_bonding"] = "present"
