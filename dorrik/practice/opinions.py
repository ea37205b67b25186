"""The codes that experienced inspectors give, by school, for judging a judgement: written from how they classify, apart
from the catalogue that is judged. The first school is the mainstream, then the stricter, then the milder view."""

from typing import NamedTuple


class Codes(NamedTuple):
    """One code for each school; `note` is none."""

    mainstream: str
    stricter: str
    milder: str


def codes(written: str) -> Codes:
    """Codes from a row as it is written down: `C2 C1 FI`."""
    return Codes(*written.split())


#: Without anything that moves them.
OPINIONS: dict[str, Codes] = {
    key: codes(written)
    for key, written in {
        "no-earth-at-origin": "C2 C1 C2",
        "ze-above-maximum": "C2 C1 FI",
        "electrode-above-200": "C3 C2 note",
        "tt-without-rcd": "C2 C1 C2",
        "main-bond-missing": "C2 C2 C2",
        "main-bond-not-seen": "FI C2 FI",
        "bond-high": "C2 C2 C3",
        "bond-undersized": "C3 C2 C3",
        "combustible-enclosure": "C3 C2 note",
        "heat-damage": "C2 C1 C2",
        "device-loose": "C2 C2 C2",
        "entry-open": "C3 C2 C3",
        "mixed-makes": "C3 C3 note",
        "breaker-too-large": "C2 C2 C3",
        "ring-device-too-large": "C2 C2 C3",
        "no-circuit-chart": "C3 C3 note",
        "labels-missing": "C3 C3 note",
        "no-surge-protection": "C3 C3 note",
        "spd-spent": "C3 C2 C3",
        "rcd-no-trip": "C2 C2 C2",
        "rcd-button-fails": "C3 C2 C3",
        "rcd-trips-on-test": "FI C2 C3",
        "rcd-slow": "C2 C2 C3",
        "leakage-high": "C3 FI note",
        "rcd-missing-outdoor": "C2 C2 C3",
        "rcd-missing-bathroom": "C2 C2 C3",
        "rcd-missing-sockets": "C3 C2 C3",
        "rcd-missing-hidden": "C3 C3 note",
        "rcd-kind": "C3 C2 note",
        "rcd-kind-sockets": "C3 C3 C3",
        "ring-open": "C2 C2 FI",
        "rings-bridged": "C2 C2 FI",
        "ring-cpc-high": "FI C2 C3",
        "no-cpc-at-point": "C2 C1 C2",
        "circuit-without-cpc": "C3 C3 note",
        "socket-polarity": "C2 C2 C3",
        "neutral-lost": "C2 C1 C2",
        "insulation-below-minimum": "C2 C2 FI",
        "zs-above-limit": "C2 C2 C3",
        "shared-neutral": "C2 C2 C3",
        "switch-underrated": "C3 C2 note",
        "earthing-by-pipe": "C2 C1 C2",
        "earth-exported": "C3 C2 C3",
        "supplementary-bonding-missing": "C2 C2 C3",
        "cpc-lost": "C2 C1 C2",
        "board-earth-poor": "C2 C2 FI",
        "tails-undersized": "C2 C2 FI",
        "rcd-missing-vehicle": "C2 C2 C3",
        "vehicle-broken-neutral": "C2 C2 FI",
        "hot-tub-on-supply-earth": "C3 C2 note",
        "hook-up-on-supply-earth": "C2 C2 FI",
        "live-part-reachable": "C1 C1 C2",
    }.items()
}

#: What moves the mainstream view, as the inspection itself can know it.
MOVED: dict[tuple[str, str], str] = {
    ("no-earth-at-origin", "no working RCD"): "C1",
    ("ze-above-maximum", "up to twice, loops within"): "FI",
    ("rcd-missing-outdoor", "upper floor flat"): "C3",
    ("rcd-missing-bathroom", "supplementary bonding proved"): "C3",
    ("rcd-missing-bathroom", "supplementary bonding not measured"): "C3",
    ("rcd-missing-vehicle", "shared with others"): "C3",
    ("zs-above-limit", "working RCD, loop as calculated"): "C3",
    ("combustible-enclosure", "heat"): "C2",
    ("switch-underrated", "heat"): "C2",
    ("combustible-enclosure", "elsewhere"): "note",
    ("no-cpc-at-point", "insulating front"): "C3",
    ("earth-exported", "metal there unbonded"): "C2",
    ("circuit-without-cpc", "metal fitting"): "C2",
    ("circuit-without-cpc", "earth needed"): "C2",
}
#: Entries that speak of one cause in several words.
FAMILIES = (
    frozenset(("rcd-missing-outdoor", "rcd-missing-bathroom", "rcd-missing-sockets", "rcd-missing-hidden")),
    frozenset(("socket-polarity", "polarity-wrong")),
    frozenset(("rcd-button-fails", "rcd-no-trip")),
)


def mainstream(key: str, *context: str) -> str:
    """The mainstream code of a cause with what is known of its place."""
    moved = (MOVED[key, word] for word in context if (key, word) in MOVED)
    return next(moved, OPINIONS[key].mainstream)


def same_cause(one: str, other: str) -> bool:
    """Do two entries speak of one kind of cause?"""
    return one == other or any(one in family and other in family for family in FAMILIES)
