"""The other school: R2 by long lead to every point (rule 4.7)."""

import pytest

from dorrik.core.basics.readings import Reading
from dorrik.core.electrical import continuity
from tests.core.whole_homes import RCD, board, circuit, figures, judged, offered, points, ring

R = Reading.parse


def test_expected_by_length_and_by_the_ring():
    # 1.0 mm² is 18.10 mΩ/m: 28 m lead to 0.507 Ω. Round a ring half-way is x(1−x) = 1/4 of it.
    assert continuity.expected_long_lead_ohm(1.0, 28) == pytest.approx(0.5068)
    assert continuity.expected_long_lead_ohm(1.5, 62, ring=True) == pytest.approx(62 * 0.0121 / 4)


def test_r1_from_r2_by_the_cable_s_ratio():
    # 1.5/1.0: 12.10 / 18.10.
    assert continuity.r1_from_r2_ohm(0.507, 1.5, 1.0) == pytest.approx(0.339, abs=0.001)


@pytest.mark.parametrize(
    ("readings", "most", "found"),
    [
        (["0.10", "0.22", "0.31", "0.44"], None, []),  # rises to the end of the line
        (["0.10", "0.62", "0.31", "0.44"], None, [1]),
        (["0.12", "0.19", "0.42", "0.18"], 0.19, [2]),  # a ring gives at most r2/4
        (["0.12", "LIM", "0.18"], 0.19, []),
        (["OL", "0.30"], None, []),  # no earth is another finding
    ],
)
def test_points_that_stand_out(readings, most, found):
    assert continuity.long_lead_outliers([R(r) for r in readings], most) == found


def test_zs_is_calculated_from_it():
    lights = circuit(
        1, "Lights", "lighting", line_csa_mm2=1.5, cpc_csa_mm2=1, device_rating_a=6, long_lead_r2_ohm="0.51",
        zs_ohm="LIM no access", **RCD,
    )  # fmt: skip
    judgement = judged(board(lights, zdb_ohm="0.21"))
    # 0.21 + 0.51 · 12.10/18.10 + 0.51 = 1.06 Ω.
    assert str(judgement.sums["c1"]) == "1.06"
    assert figures(judgement, "c1", "zs_ohm") == ["pass"]


def test_progress_asks_for_one_or_the_other():
    def left(home, **rules):
        stages = judged(home, house_rules=rules or None).progress.stages
        return [name for stage in stages if stage.stage == "dead" for name in stage.left_names]

    rest = {"insulation_lne_mohm": "200", "polarity": "correct"}
    assert left(board(circuit(1, "Cooker", **rest))) == ["1 Cooker: R1+R2"]
    assert left(board(circuit(1, "Cooker", long_lead_r2_ohm="0.3", **rest))) == []
    assert left(board(circuit(1, "Cooker", **rest)), ring_method="long lead") == ["1 Cooker: R2 by long lead"]
    assert left(board(circuit(1, "Cooker", r1_r2_ohm="0.3", **rest)), ring_method="long lead") == []


def test_a_point_without_earth_by_long_lead_is_one_finding():
    shed = circuit(1, "Shed", "sockets", long_lead_r2_ohm="OL", zs_ohm="OL",
                   points=points({"r2_ohm": "0.2"}, {"r2_ohm": "OL"}), **RCD)  # fmt: skip
    assert offered(judged(board(shed))) == {"no-cpc-at-point": "C2"}


def test_the_highest_is_offered_for_recording():
    shed = circuit(1, "Shed", "sockets", points=points({"r2_ohm": "0.2"}, {"r2_ohm": "0.31"}), **RCD)
    note = next(n for n in judged(board(shed)).notes if n.field == "long_lead_r2_ohm")
    assert [(o.field, o.value) for o in note.offers] == [("long_lead_r2_ohm", "0.31")]


def test_on_a_ring_it_is_held_against_a_quarter_of_its_cpc():
    sound = ring(1, r1_r2_ohm=None, long_lead_r2_ohm="0.19", **RCD)  # 0.76 / 4
    assert figures(judged(board(sound)), "c1", "long_lead_r2_ohm") == ["pass"]
    high = sound | {"long_lead_r2_ohm": "0.34"}
    assert figures(judged(board(high)), "c1", "long_lead_r2_ohm") == ["attention"]
