"""What can be wrong at the origin of a home: its supply earth, bonds, tails and surge device.

Each is put into a draft that may have other things wrong already; one that finds no place left returns False.
"""

from dataclasses import replace

from dorrik.practice import entered
from dorrik.practice.entered import Document
from dorrik.practice.home import Surge
from dorrik.practice.whole_home import Draft, board


def high_ze(draft: Draft) -> bool:
    """A supply earth far above what is declared: every loop is high by it."""
    supply = draft.home.supply
    if supply.earthing == "TT" or not draft.once("earth"):
        return False
    above = draft.chance.uniform(0.15, 3.0)
    if supply.earthing == "TN-S":
        changed = replace(supply, earth_ohm=0.8 + above - supply.line_ohm)
    else:
        changed = replace(supply, neutral_ohm=0.35 + above - supply.line_ohm)
    draft.home = replace(draft.home, supply=changed)
    most = 0.8 if supply.earthing == "TN-S" else 0.35

    def context(document: Document) -> tuple[str, ...]:
        ze = entered.figure(document["inspection"].get("ze_ohm"))
        few = ze is not None and ze <= 2 * most
        return ("up to twice, loops within",) if few and entered.loops_within(document) else ()

    draft.add("supply earth too high", "ze-above-maximum", {"i"}, ("i", "ze_ohm"), context=context)
    draft.said.add("Ze high")
    return True


def no_earth(draft: Draft) -> bool:
    """The earth of the supply is gone."""
    supply = draft.home.supply
    # Where there is no earth at all no loop can show what a single circuit adds.
    if supply.earthing != "TN-S" or "earth" in draft.said or not draft.once("no loop"):
        return False
    draft.said.add("earth")
    draft.home = replace(draft.home, supply=replace(supply, earth_ohm=1e9))
    draft.said.add("earth lost")
    draft.add(
        "no earth at the origin", "no-earth-at-origin", {"i"}, ("i", "ze_ohm"),
        context=lambda d: () if entered.protected_throughout(d) else ("no working RCD",),
    )  # fmt: skip
    return True


def weak_electrode(draft: Draft) -> bool:
    """An electrode between 230 and 1400 Ω."""
    supply = draft.home.supply
    if supply.earthing != "TT" or not draft.once("earth"):
        return False
    draft.home = replace(draft.home, supply=replace(supply, electrode_ohm=draft.chance.uniform(240, 1300)))
    draft.add("weak electrode", "electrode-above-200", {"i"}, ("i", "ze_ohm"))
    return True


def tt_without_rcd(draft: Draft) -> bool:
    """On an electrode, and no RCD anywhere."""
    if draft.home.supply.earthing != "TT" or draft.taken or not draft.once("rcds"):
        return False
    draft.protection = "none"
    circuits = tuple(replace(c, rcd=None, device=("BS EN 60898", "B", c.device[2])) for c in draft.home.circuits)
    draft.home = replace(draft.home, rcds={}, circuits=circuits)
    places = {"b", "i", *(draft.id_of(c) for c in draft.home.circuits)}
    evidence = [(draft.id_of(c), "device_standard") for c in draft.home.circuits]
    draft.add("electrode without RCD", "tt-without-rcd", places, *evidence)
    return True


def bond(draft: Draft) -> bool:
    """A bond missing, not seen, too thin, or with a painted clamp."""
    if not draft.once("bond"):
        return False
    kind = draft.chance.choice(("missing", "not seen", "thin", "painted"))
    first = draft.home.bonds[0]
    if kind == "thin" and draft.home.supply.earthing == "TT":
        kind = "painted"  # with an electrode 6 mm² may be enough (rule 3.6)
    if kind == "thin":
        draft.home = replace(draft.home, bonds=(replace(first, csa_mm2=6.0, length_m=4.0), *draft.home.bonds[1:]))
        draft.add("bond too thin", "bond-undersized", {"bond0"}, ("bond0", "csa_mm2"))
    elif kind == "painted":
        painted = replace(first, clamp_ohm=draft.chance.uniform(0.08, 0.8), length_m=min(first.length_m, 9.0))
        draft.home = replace(draft.home, bonds=(painted, *draft.home.bonds[1:]))
        draft.add("painted clamp", "bond-high", {"bond0"}, ("bond0", "at_pipe_ohm"))
    else:
        key = "main-bond-missing" if kind == "missing" else "main-bond-not-seen"
        draft.add(f"bond {kind}", key, {"bond0"}, ("bond0", "state"))

        def write(document: Document) -> None:
            first_bond = document["inspection"]["bonds"][0]
            first_bond["state"] = kind
            for name in ("at_clamp_ohm", "at_pipe_ohm", "csa_mm2", "length_m"):
                first_bond.pop(name, None)

        draft.after.append(write)
    return True


def by_pipe(draft: Draft) -> bool:
    """Earthed by a water pipe."""
    if draft.home.supply.earthing == "TN-C-S" or not draft.once("pipe"):
        return False
    draft.after.append(lambda d: d["inspection"].update(earth_by="water pipe"))
    draft.add("earthed by a pipe", "earthing-by-pipe", {"i"}, ("i", "earth_by"))
    return True


def small_tails(draft: Draft) -> bool:
    """Tails of 10 mm² after a fuse of 100 A."""
    if not draft.once("tails"):
        return False
    draft.home = replace(draft.home, tails_mm2=10.0, service_fuse_a=100.0)
    draft.after.append(lambda d: board(d).pop("main_switch_a", None) and None)
    draft.add("tails too small", "tails-undersized", {"i"}, ("i", "tails_mm2"))
    return True


def surge(draft: Draft) -> bool:
    """A spent surge device."""
    if draft.old or draft.home.surge is None or not draft.once("surge"):
        return False
    draft.home = replace(draft.home, surge=Surge(275.0, draft.chance.uniform(120, 340), "spent"))
    draft.add("surge device spent", "spd-spent", {"b"}, ("b", "spd_u_dc_v"), ("b", "spd_state"))
    return True
