"""Let-through energy, devices on one cable, bonds and boards: worked examples computed here."""

from math import sqrt

import pytest

from dorrik.core.basics.readings import Reading
from dorrik.core.electrical import bonding, devices, loop, overload, rcd, spd, supply

R = Reading.parse


@pytest.mark.parametrize(
    ("device", "fault_a", "energy"),
    [
        # A B32 operates at once from 160 A, in 0.1 s at most there, in a half cycle at more.
        (("BS EN 60898", "B", 32), 150, None),
        (("BS EN 60898", "B", 32), 160, 160**2 * 0.1),
        (("BS EN 60898", "B", 32), 1000, 1000**2 * 0.01),
        # Points of a fuse's characteristic: 210 A in 0.4 s, 87 A in 5 s.
        (("BS 3036", "rewirable", 30), 500, 210**2 * 0.4),
        (("BS 3036", "rewirable", 30), 100, 87**2 * 5),
        (("BS 3036", "rewirable", 30), 50, None),
    ],
)
def test_what_a_device_lets_through(device, fault_a, energy):
    row = devices.find(*device)
    assert overload.let_through_a2s(row, device[2], fault_a) == (None if energy is None else pytest.approx(energy))


def test_a_conductor_against_what_is_let_through():
    # √(210² · 0.4) / 115 = 1.155 mm².
    verdict = overload.judge_let_through(1.0, 210**2 * 0.4)
    # By a table and not by the device itself: worth a look, never a code.
    assert (verdict.status, verdict.observation) == ("attention", None)
    assert verdict.limit == pytest.approx(210 * sqrt(0.4) / 115)
    assert overload.judge_let_through(1.5, 210**2 * 0.4).status == "pass"


@pytest.mark.parametrize(
    ("csa", "method", "rating"),
    # 2.5 mm²: 27 A clipped direct, 20 A in an insulated wall, 13.5 A in a stud wall not touching.
    [(2.5, "C", 25), (2.5, "A", 20), (2.5, "103", 10), (2.5, None, 10), (1.0, "103", 6)],
)
def test_the_greatest_device_for_one_cable(csa, method, rating):
    assert overload.greatest_rating_a(csa, method) == rating


def test_a_size_that_is_not_tabulated():
    with pytest.raises(LookupError):
        overload.greatest_rating_a(3.3, "C")


@pytest.mark.parametrize(("design", "status"), [(30, "pass"), (32, "pass"), (33, "attention")])
def test_design_current_against_the_device(design, status):
    assert overload.judge_demand(design, 32).status == status


@pytest.mark.parametrize(
    ("ze", "zdb", "status"),
    # Above it by more than max(0.15 Ω, 50 %) a retest is asked for; by more than 0.5 Ω it is a cause of its own (rule
    # 3.1).
    [
        (0.30, "0.12", "pass"), (0.20, "0.22", "pass"), (0.20, "0.34", "pass"), (0.20, "0.55", "attention"),
        (0.60, "0.85", "pass"), (0.20, "0.75", "fail"), (0.20, "OL", "fail"), (0.20, "0.00", "attention"),
    ],
)  # fmt: skip
def test_a_board_beside_its_origin(ze, zdb, status):
    assert supply.judge_zdb(ze, R(zdb), spread_ohm=0.06).status == status


@pytest.mark.parametrize("stands", [{"retested": True}, {"loops_fail": True}])
def test_a_poor_earth_to_a_board_by_its_retest_or_its_loops(stands):
    assert supply.judge_zdb(0.20, R("0.55"), **stands).observation == "board-earth-poor"
    # What the way that feeds it adds is not known: asked, never coded.
    assert supply.judge_zdb(0.20, R("0.95"), explained=False, **stands).observation is None


@pytest.mark.parametrize(
    ("ra", "rcd_ma", "status", "limit"),
    # RA · IΔn ≤ 50 V: 1667 Ω at 30 mA, 500 Ω at 100 mA, 167 Ω at 300 mA.
    [("150", 30, "pass", 200), ("400", 30, "attention", 200), ("600", 100, "fail", 500), ("170", 300, "fail", 167)],
)
def test_an_electrode_for_its_rcd(ra, rcd_ma, status, limit):
    verdict = supply.judge_ze(R(ra), "TT", rcd_ma=rcd_ma)
    assert (verdict.status, verdict.limit) == (status, limit)


def test_another_declared_maximum():
    assert supply.judge_ze(R("0.45"), "TN-C-S").status == "fail"
    assert supply.judge_ze(R("0.45"), "TN-C-S", limit_ohm=0.5).status == "pass"


@pytest.mark.parametrize(
    ("csa", "length", "status"),
    # 10 mm² is 1.83 mΩ/m: 27.3 m to 0.05 Ω; 6 mm² 3.08 mΩ/m: 16.2 m.
    [(10, 27, "pass"), (10, 28, "attention"), (6, 16, "pass"), (6, 17, "attention"), (7, 3, "unknown")],
)
def test_a_bond_s_run(csa, length, status):
    assert bonding.judge_run(csa, length).status == status


@pytest.mark.parametrize(("state", "status"), [("present", None), (None, None), ("plastic service", "pass")])
def test_a_bond_that_is_there_or_not_needed(state, status):
    found = bonding.judge_presence(state, "gas")
    assert (found and found.status) == status


@pytest.mark.parametrize(("state", "status"), [("sound", "pass"), ("not verified", None), (None, None)])
def test_a_surge_device_s_indicator(state, status):
    found = spd.judge_state(state)
    assert (found and found.status) == status


def test_zs_both_ways():
    assert str(loop.calculated(R("0.22"), R("0.38"))) == "0.60"
    assert str(loop.calculated(R("0.22"), R(">0.38"))) == ">0.60"
    assert loop.calculated(R("0.22"), R("LIM")) is None
    assert str(loop.r1_r2_from_live(R("0.60"), R("0.22"))) == "0.38"
    assert str(loop.r1_r2_from_live(R("0.20"), R("0.22"))) == "0.00"
    assert loop.r1_r2_from_live(R(">0.60"), R("0.22")) is None


@pytest.mark.parametrize("key", ["rcd-missing-outdoor", "rcd-missing-bathroom", "rcd-missing-sockets"])
def test_a_missing_rcd_is_attention_never_a_failure_for_its_age(key):
    verdict = rcd.judge_missing({key: ["1 Sockets", "2 Shed"]}, None)
    assert (verdict.status, verdict.observation) == ("attention", key)
    assert "2 circuits" in verdict.reason and "2 Shed" in verdict.reason
    assert "100 mA" in rcd.judge_missing({key: ["1 Sockets"]}, 100).reason
