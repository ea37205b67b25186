"""What can be wrong with a whole home, and how often each is drawn."""

import random
from collections.abc import Callable

from dorrik.practice import whole_home_fittings_faults as fittings
from dorrik.practice import whole_home_supply_faults as supply
from dorrik.practice import whole_home_wiring_faults as wiring
from dorrik.practice.whole_home import Draft

Fault = Callable[[Draft], bool]


#: Every fault by name, and how often it is drawn.
FAULTS: dict[str, tuple[Fault, float]] = {
    "high Ze": (supply.high_ze, 1.0),
    "no earth": (supply.no_earth, 0.4),
    "weak electrode": (supply.weak_electrode, 1.0),
    "TT without RCD": (supply.tt_without_rcd, 0.5),
    "bond": (supply.bond, 1.5),
    "pipe": (supply.by_pipe, 0.3),
    "RCD": (fittings.rcd, 1.5),
    "open ring": (wiring.open_ring, 1.0),
    "rings joined": (wiring.rings_joined, 0.5),
    "loose cpc of a ring": (wiring.loose_cpc_of_ring, 0.7),
    "no cpc at a point": (wiring.no_cpc_at_a_point, 1.0),
    "cpc lost": (wiring.cpc_lost, 1.0),
    "neutral lost": (wiring.neutral_lost, 0.7),
    "reversed": (wiring.reversed_point, 1.0),
    "damp": (wiring.damp, 1.2),
    "borrowed neutral": (wiring.borrowed_neutral, 0.5),
    "device too large": (fittings.device_too_large, 0.8),
    "ring device": (fittings.ring_device, 0.4),
    "high loop": (wiring.high_loop, 0.8),
    "failing cpc": (wiring.failing_cpc, 0.8),
    "poor earth to the board": (wiring.poor_board_earth, 0.5),
    "class II claimed": (fittings.claimed_class_ii, 0.5),
    "notice over class I": (fittings.notice_over_class_i, 0.4),
    "small tails": (supply.small_tails, 0.3),
    "charge point": (fittings.charge_point, 0.5),
    "on the neutral": (fittings.on_the_neutral, 0.4),
    "surge": (supply.surge, 0.5),
    "looked at": (fittings.looked_at, 1.2),
    "small switch": (fittings.small_switch, 0.4),
    "hidden load": (fittings.hidden_load, 0.5),
}


def put_in(draft: Draft, count: int) -> int:
    """Put so many faults in, each of another kind where there is a place for it; how many were."""
    chance: random.Random = draft.chance
    names = list(FAULTS)
    done = 0
    for _ in range(count * 4):
        if done == count:
            break
        name = chance.choices(names, [FAULTS[n][1] for n in names])[0]
        if FAULTS[name][0](draft):
            done += 1
    return done
