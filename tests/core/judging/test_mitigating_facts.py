"""Every fact that lowers a code, refuted, gives the code back (the fourth principle). The facts are read off the
catalogue: a new one without its home here fails."""

import copy

import pytest

from dorrik.core.book.catalogue import entries
from dorrik.core.book.codes import WEIGHT
from dorrik.core.inspection.document import parse
from dorrik.core.judging.judgement import judge
from dorrik.core.judging.topics.facts import FACTS
from tests.core.whole_homes import ORIGIN, RCD, board, circuit, points, ring

LOWERING = {
    (key, fact.fact)
    for key, entry in entries().items()
    for fact in entry.facts
    if WEIGHT[fact.code] < WEIGHT[entry.code]
}


def document(*boards, **origin):
    return {"format": "dorrik-inspection", "version": 3, "inspection": ORIGIN | {"boards": list(boards)} | origin}


def first(home):
    return home["inspection"]["boards"][0]["circuits"][0]


def on_circuit(**fields):
    """Change the first circuit."""
    return lambda home: first(home).update(fields)


def on_board(**fields):
    return lambda home: home["inspection"]["boards"][0].update(fields)


def on_origin(**fields):
    return lambda home: home["inspection"].update(fields)


def on_point(**fields):
    return lambda home: first(home)["points"][0].update(fields)


def on_bond(**fields):
    return lambda home: home["inspection"]["bonds"][0].update(fields)


BATH = {"bathroom": True, "device_rating_a": 6, "line_csa_mm2": 1.5, "cpc_csa_mm2": 1}
WET = {"kind": "light", "bathroom": True, "accessible_with": "towel rail"}
WATER = [{"id": "w", "service": "water", "state": "present", "csa_mm2": 10, "length_m": 5, "at_pipe_ohm": "0.02"}]
#: What refutes an RCD, whatever it is relied on for.
NO_RCD = (
    on_circuit(rcd_trip_ms="OL"),
    on_circuit(rcd_trip_ms="460"),
    on_circuit(rcd_trip_ms=None),
    on_circuit(rcd_trip_ms="LIM no access"),
    on_circuit(rcd_trip_ms="0.024"),
    on_circuit(rcd_button="incorrect"),
    on_circuit(rcd_rated_ma=None, rcd_trip_ms=None, rcd_button=None),
)
HIGH = {"zs_ohm": "3.40", "r1_r2_ohm": "3.20"}
LAMP = {"kind": "light", "front": "insulating", "line_cpc_ohm": "OL"}

#: Entry and fact: a home in which the fact is so, what the observation is about, and everything that refutes it.
HOMES = {
    ("ze-above-maximum", "loops-within"): (
        document(
            board(circuit(1, "Cooker", zs_ohm="0.80", r1_r2_ohm="0.20"), zdb_ohm="0.60"), ze_ohm="0.60", pefc_ka="0.38"
        ),
        "i",
        (
            on_circuit(zs_ohm="3.10"),
            on_circuit(zs_ohm="OL"),
            on_circuit(zs_ohm=None),
            on_origin(ze_ohm="0.75"),
            on_origin(ze_ohm="OL"),
        ),
    ),
    ("combustible-enclosure", "elsewhere"): (
        document(board(circuit(1, "Cooker", **RCD), only_way_out=False)),
        "b",
        (on_board(only_way_out=True), on_board(checks=[{"id": "k", "item": "heat", "state": "not good"}])),
    ),
    ("breaker-too-large", "fused-downstream"): (
        document(
            board(circuit(1, "Heater", device_rating_a=32, one_fused_load=True, load_fuse_a=13, cable_method="103"))
        ),
        "c1",
        (
            on_circuit(load_fuse_a=None),
            on_circuit(load_fuse_a=30),
            on_circuit(one_fused_load=False),
            on_circuit(one_fused_load=None),
        ),
    ),
    ("rcd-trips-on-test", "loop-tests-alone"): (
        document(board(circuit(1, "Cooker", zs_not_possible="RCD trips on the test", rcd_half="correct", **RCD))),
        "c1",
        (on_circuit(rcd_half="incorrect"), on_circuit(rcd_half=None), on_circuit(rcd_half="LIM")),
    ),
    ("rcd-missing-outdoor", "upper-floor-flat"): (
        document(board(ring(1, outdoors=True)), storey="upper floor flat"),
        "b",
        (on_origin(storey="house or ground floor"),),
    ),
    ("rcd-missing-bathroom", "supplementary-proved"): (
        document(
            board(
                circuit(
                    1,
                    "Bath",
                    "lighting",
                    supplementary_bonding="present",
                    points=points(WET | {"supplementary_ohm": "0.20"}),
                    **BATH,
                )
            )
        ),
        "c1",
        (
            on_point(supplementary_ohm="900"),
            on_point(supplementary_ohm="OL"),
            on_point(supplementary_ohm="1.80"),
            on_circuit(supplementary_bonding="missing", points=points(WET)),
        ),
    ),
    ("ring-open", "device-lowered"): (
        document(board(ring(1, rn_ohm="OL", device_rating_a=20, **RCD))),
        "c1",
        (
            on_circuit(device_rating_a=32),
            on_circuit(cable_method="103"),
            on_circuit(r2_ohm="OL"),
            on_circuit(r2_ohm="OL", zs_ohm="9", r1_r2_ohm="0.4"),
            on_circuit(device_rating_a=None),
        ),
    ),
    ("ring-cpc-high", "small-excess"): (
        # 0.46 × 1.63 to 1.67: 0.75 to 0.77 Ω, tolerance 0.06 Ω, twice that 0.12 Ω.
        document(
            board(
                ring(
                    1,
                    r2_ohm="0.86",
                    r1_r2_ohm="0.33",
                    points=points({"line_cpc_ohm": "0.33"}, {"line_cpc_ohm": "0.32"}),
                    **RCD,
                )
            )
        ),
        "c1",
        (
            on_circuit(r2_ohm="1.20"),
            on_point(line_cpc_ohm="OL"),
            on_point(no_cpc=True),
            on_point(line_cpc_ohm=None),
            on_circuit(points=[]),
        ),
    ),
    ("no-cpc-at-point", "insulating-front"): (
        document(board(circuit(1, "Lights", "lighting", points=points(LAMP), **RCD))),
        "p0",
        (
            on_point(front="metal"),
            on_point(kind="socket"),
            on_point(kind="fused unit"),
            on_point(kind="cooker outlet"),
            on_point(kind="shower", class_ii=True),
            on_point(kind="fixed equipment"),
            on_circuit(appliance="boiler"),
        ),
    ),
    ("insulation-low", "every-circuit-sound"): (
        document(board(circuit(1, "A", insulation_lne_mohm="40"), insulation_lne_mohm="1.5")),
        "b",
        (
            on_circuit(insulation_lne_mohm="1.2"),
            on_circuit(insulation_lne_mohm=None),
            on_circuit(insulation_lne_mohm="LIM"),
        ),
    ),
    ("zs-above-limit", "rcd-for-fault"): (
        document(board(circuit(1, "Cooker", **HIGH, **RCD), zdb_ohm="0.21")),
        "c1",
        (
            *NO_RCD,
            on_circuit(r1_r2_ohm="1.20"),
            on_circuit(r1_r2_ohm=None),
            on_board(zdb_ohm=None),
            on_circuit(load="vehicle", rcd_kind="AC"),
            on_board(earthing="own electrode"),
        ),
    ),
    ("supplementary-bonding-missing", "rcd-and-main-bond"): (
        document(board(circuit(1, "Bath", "lighting", points=points(WET), **BATH, **RCD)), bonds=WATER),
        "p0",
        (
            *NO_RCD,
            on_circuit(rcd_delay="S"),
            on_circuit(rcd_rated_ma=100),
            on_bond(at_pipe_ohm="0.60"),
            on_bond(at_pipe_ohm="OL"),
            on_bond(at_pipe_ohm=None),
            on_bond(state="missing"),
            on_bond(at_clamp_ohm="0.00", at_pipe_ohm="0.04"),
        ),
    ),
    ("tails-undersized", "tails-one-size"): (
        document(board(circuit(1, "A", **RCD)), tails_mm2=16, service_fuse_a=100, maximum_demand_a=92),
        "i",
        (on_origin(tails_mm2=10), on_origin(service_fuse_a=None)),
    ),
    ("rcd-missing-vehicle", "charger-shared"): (
        document(
            board(
                circuit(1, "Charger", load="vehicle", dc_detection=True, rcd_kind="A", rcd_group="1", **RCD),
                circuit(2, "Other", rcd_group="1", rcd_kind="A", **RCD),
            )
        ),
        "c1",
        (
            *tuple(
                lambda home, change=change: [change(home), home["inspection"]["boards"][0]["circuits"].pop(1)]
                for change in NO_RCD
            ),
            on_circuit(rcd_delay="S", rcd_group=None),
        ),
    ),
}
#: Facts that only eyes can tell: they lower by an answer, and not by anything else.
EYES = {(key, fact) for key, fact in LOWERING if fact not in FACTS}


def coded(home, key, about, **answers):
    """The code of an entry recorded there."""
    found = copy.deepcopy(home)
    one = {
        "id": "o",
        "about_id": about,
        "text": "x",
        "code": entries()[key].code,
        "catalogue_key": key,
        "answers": answers,
    }
    found["inspection"]["observations"] = [one | ({} if answers else {"answers": None})]
    return judge(parse(found)).coding[0].code


def test_every_fact_that_lowers_a_code_has_its_home_here():
    assert set(HOMES) | EYES == LOWERING and not set(HOMES) & EYES


CASES = [
    pytest.param(key, number, id=f"{key[0]}-{key[1]}-{number}")
    for key, (_, _, refutations) in HOMES.items()
    for number in range(len(refutations))
]


@pytest.mark.parametrize("key", list(HOMES), ids=lambda key: "-".join(key))
def test_the_fact_lowers_the_code_while_nothing_speaks_against_it(key):
    home, about, _ = HOMES[key]
    fact = next(f for f in entries()[key[0]].facts if f.fact == key[1])
    assert coded(home, key[0], about) == fact.code


@pytest.mark.parametrize(("key", "number"), CASES)
def test_refuted_it_gives_the_code_back(key, number):
    home, about, refutations = HOMES[key]
    fact = next(f for f in entries()[key[0]].facts if f.fact == key[1])
    worse = copy.deepcopy(home)
    refutations[number](worse)
    assert WEIGHT[coded(worse, key[0], about)] > WEIGHT[fact.code]


@pytest.mark.parametrize(("key", "fact"), sorted(EYES))
def test_what_only_eyes_can_tell_lowers_by_an_answer(key, fact):
    home = document(board(circuit(1, "Cooker", points=points({"kind": "light"}), **RCD)))
    lowered = next(f for f in entries()[key].facts if f.fact == fact).code
    assert coded(home, key, "p0", **{fact: True}) == lowered
    assert coded(home, key, "p0", **{fact: False}) == entries()[key].code
    assert coded(home, key, "p0") == entries()[key].code


@pytest.mark.parametrize("key", ["cpc-lost", "circuit-without-cpc"])
def test_nothing_lowers_a_lost_cpc(key):
    assert not [fact for fact in entries()[key].facts if WEIGHT[fact.code] < WEIGHT["C2"]]
