"""The codes that the catalogue starts from, as experienced inspectors of two schools give them.

Written down from the field, topic by topic, apart from the catalogue itself; `note` is no code.
"""

import pytest

from dorrik.core.book.catalogue import entries
from dorrik.core.judging.result import classification
from dorrik.core.judging.result.outcome import decide

#: Entry: mainstream, stricter, milder.
OPINIONS = {
    "live-part-reachable": "C1 C1 C2",
    "no-earth-at-origin": "C2 C1 C2",
    "ze-above-maximum": "C2 C1 FI",
    "electrode-above-200": "C3 C2 note",
    "tt-without-rcd": "C2 C1 C2",
    "main-bond-missing": "C2 C2 C2",
    "main-bond-not-seen": "FI C2 FI",
    "bond-high": "C2 C2 C3",
    "bond-undersized": "C3 C2 C3",
    "safety-label-missing": "C3 C3 note",
    "tails-damaged": "C2 C2 C3",
    "joint-taped": "C2 C1 C2",
    "supplier-joint-taped": "C2 C1 FI",
    "ring-branch-at-origin": "note C3 note",
    "cpcs-in-one-sleeve": "C3 C2 note",
    "feed-and-load-exchanged": "C3 C2 note",
    "neon-on-wrong-side": "C3 C2 note",
    "ip-not-marked": "C3 C2 note",
    "armour-not-earthed": "C2 C2 C3",
    "breaking-capacity-below-pfc": "C2 C2 C3",
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
    "rewirable-fuses": "note C3 note",
    "rcd-no-trip": "C2 C2 C2",
    "rcd-trips-on-test": "FI C2 C3",
    "rcd-slow": "C2 C2 C3",
    "rcd-missing-outdoor": "C2 C2 C3",
    "rcd-missing-bathroom": "C2 C2 C3",
    "rcd-missing-sockets": "C3 C2 C3",
    "rcd-missing-hidden": "C3 C3 note",
    "rcd-kind": "C3 C2 note",
    "ring-open": "C2 C2 FI",
    "rings-bridged": "C2 C2 FI",
    "spur-off-spur": "C2 C2 C3",
    "ring-cpc-high": "FI C2 C3",
    "no-cpc-at-point": "C2 C1 C2",
    "cpc-used-live": "C2 C1 C2",
    "polarity-wrong": "C2 C1 C2",
    "socket-polarity": "C2 C2 C3",
    "neutral-lost": "C2 C1 C2",
    "insulation-below-minimum": "C2 C2 FI",
    "insulation-low": "C3 FI note",
    "metal-live": "C1 C1 C1",
    "supply-polarity-reversed": "C1 C1 C1",
    "board-earth-poor": "C2 C2 FI",
    "tails-undersized": "C2 C2 FI",
    "rccb-underrated": "note C3 note",
    "switch-underrated": "C3 C2 note",
    "rcd-voltage-operated": "C2 C2 C2",
    "rcd-missing-vehicle": "C2 C2 C3",
    "vehicle-broken-neutral": "C2 C2 FI",
    "hot-tub-on-supply-earth": "C3 C2 note",
    "hook-up-on-supply-earth": "C2 C2 FI",
    "cpc-lost": "C2 C1 C2",
    "bathroom-socket": "C2 C2 C3",
    "bathroom-accessory": "C2 C2 C3",
    "zs-above-limit": "C2 C2 C3",
    "shared-neutral": "C2 C2 C3",
    "sleeving-missing": "C3 C3 note",
    "voltage-drop": "C3 C3 note",
    "accessory-cracked": "C3 C2 C3",
    "accessory-heat": "C2 C2 C3",
    "accessory-loose": "C3 C2 note",
    "joint-unenclosed": "C2 C2 C3",
    "fitting-bare-connectors": "C2 C2 C3",
    "bathroom-ip": "C2 C2 C3",
    "isolator-broken": "C3 C2 C3",
    "isolator-buried": "C2 C2 FI",
    "indoor-cable-outdoors": "C3 C2 C3",
    "live-joint-outdoors": "C2 C1 C2",
    "downlight-fire": "C3 C2 note",
    "downlight-heat": "C2 C2 C3",
    "fan-fuse": "C3 C3 note",
    "cable-hanging": "C3 C2 C3",
    "alarm-old": "C3 C2 note",
    "alarm-missing": "C3 C2 note",
    "no-records": "note C3 note",
}
GRAVITY = {"note": 0, "C3": 1, "FI": 2, "C2": 3, "C1": 4}


@pytest.mark.parametrize(("key", "codes"), OPINIONS.items())
def test_where_each_school_starts(key, codes):
    assert [view.code for view in classification.views(key)] == codes.split()


@pytest.mark.parametrize("key", list(entries()))
def test_the_schools_deserve_their_names(key):
    """Stricter is not milder than milder. To look further into is between a recommendation and a danger."""
    main, strict, mild = (GRAVITY[view.code] for view in classification.views(key))
    assert strict >= mild
    assert strict >= main
    assert mild <= main


@pytest.mark.parametrize("school", ["mainstream", "stricter", "milder"])
def test_what_a_school_suggests_leads_to_an_outcome(school):
    for key in entries():
        code = classification.suggest(key, school).code
        assert decide([] if code == "note" else [code]) in ("satisfactory", "unsatisfactory")


def test_a_landlord_is_never_told_in_the_trade_s_own_words():
    for entry in entries().values():
        for word in ("cpc", "RCD", "Zs", "Ze", "MΩ", "R1+R2", "PEFC"):
            assert word not in entry.plain.split(), entry.key
