"""Drawing a whole home from a seed: kind, age, faults, outbuilding, school of testing, what was left out, slips."""

import random

from dorrik.practice import entered
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
        in_part(document, chance, keep=("r1_r2_ohm",) if "earth lost" in draft.said else ())
        words.append("in part")
    causes, doubtful = list(draft.causes), frozenset[tuple[str, str]]()
    if chance.random() < 0.25:
        made = slip(document, chance, draft.taken)
        if made is not None:
            causes.append(made.cause)
            doubtful = made.doubtful
            words.append("slip")
    if "Ze high" in draft.said:
        causes += _loops_of_their_own(document, causes)
    settled = tuple(cause.settled(document) for cause in causes)
    return wh.WholeHome(seed, ", ".join(words), document, settled, doubtful)


#: Causes that a loop above its limit follows from.
_LIFTS_THE_LOOP = frozenset(
    (
        "cpc-lost",
        "zs-above-limit",
        "ring-open",
        "ring-cpc-high",
        "breaker-too-large",
        "ring-device-too-large",
        "rings-bridged",
        "no-cpc-at-point",
        "circuit-without-cpc",
    )
)


def _loops_of_their_own(document: entered.Document, causes: list[wh.Cause]) -> list[wh.Cause]:
    """Loops that would be above their limit with a Ze at its declared maximum too: they speak for themselves (the first
    principle). What is near that is left to either."""
    i = document["inspection"]
    most, ze = {"TN-S": 0.8, "TN-C-S": 0.35}[i["earthing"]], entered.figure(i.get("ze_ohm"))
    high_loops = []
    lifted = {place for cause in causes if cause.key in _LIFTS_THE_LOOP for place in cause.places}
    for board, circuit in entered.circuits(document):
        if circuit["id"] in lifted:
            continue
        zs, limit = entered.figure(circuit.get("zs_ohm")), entered.zs_limit(document, board, circuit)
        if ze is None or zs is None or limit is None or entered.on_electrode(document, board) or zs <= limit:
            continue
        # With everything connected the board may read less than the origin did by itself.
        zdb = entered.figure(board.get("zdb_ohm"))
        own = zs - (ze if board.get("fed_by") or zdb is None else min(ze, zdb))
        if own + most > 0.8 * limit:
            figure = (circuit["id"], "zs_ohm")
            known = () if own + most <= 1.15 * limit + 0.06 * zs else (figure,)

            def context(d: entered.Document, place: str = circuit["id"]) -> tuple[str, ...]:
                there, own = entered.circuit_of(d, place)
                safe = entered.protected(d, there, own) and entered.loop_as_calculated(there, own)
                return ("working RCD, loop as calculated",) if safe else ()

            places = frozenset((circuit["id"],))
            high_loops.append(
                wh.Cause("loop above its limit at any Ze", "zs-above-limit", places, "C2", known, context=context)
            )
    return high_loops


def _outbuilding(draft: wh.Draft, seed: int, chance: random.Random) -> None:
    on_tt = draft.home.supply.earthing == "TT"
    if "board earth" in draft.said:
        return  # what leads to a second board would hide it
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


def _as_its_day_asked(document: entered.Document) -> None:
    for circuit in wh.board(document)["circuits"]:
        circuit.pop("outdoors", None)
        if circuit.get("bathroom"):
            circuit["supplementary_bonding"] = "present"
            for outlet in circuit["points"]:
                outlet.pop("supplementary_ohm", None)
