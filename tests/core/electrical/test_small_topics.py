"""Leads, surge devices, bathrooms, intervals, trends and sampling against figures worked out here."""

from datetime import date
from math import comb

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dorrik.core.basics import readings
from dorrik.core.basics.readings import Reading
from dorrik.core.book import intervals
from dorrik.core.electrical import bathroom, spd, trend
from dorrik.core.judging.coverage import sampling

R = Reading.parse


@pytest.mark.parametrize(
    ("null", "known", "status"),
    [
        ("0.08", 0.08, "pass"),
        ("0.11", 0.08, "pass"),  # 0.03 Ω apart
        ("0.12", 0.08, "attention"),
        ("0.04", 0.08, "attention"),
        ("0.24", 0.20, "pass"),  # 25 % of 0.20 is 0.05
        ("0.26", 0.20, "attention"),
        ("OL", 0.08, "fail"),
        ("0.08", None, "unknown"),
        ("LIM", 0.08, "unknown"),
    ],
)
def test_a_null_against_what_the_leads_should_read(null, known, status):
    assert readings.check_null(R(null), known).status == status


def test_what_a_lead_set_should_read():
    assert readings.lead_resistance_ohm([R("0.08"), R("0.10"), R(">1"), R("LIM")]) == pytest.approx(0.09)
    assert readings.lead_resistance_ohm([]) is None


def test_subtracting_leads_never_goes_below_nothing():
    assert str(readings.subtract(R("0.38"), 0.08)) == "0.30"
    assert str(readings.subtract(R("0.05"), 0.08)) == "0.00"
    assert str(readings.subtract(R(">20"), 0.08)) == ">19.9"
    assert str(readings.subtract(R("LIM"), 0.08)) == "LIM"


@pytest.mark.parametrize(
    ("u_dc", "status"),
    [
        ("440", "pass"),
        ("374", "pass"),
        ("373", "fail"),
        ("528", "pass"),
        ("529", "fail"),
        (">1000", "fail"),
        (">400", "unknown"),
        ("OL", "unknown"),
    ],
)
def test_varistor_of_275_v(u_dc, status):
    # U_dc / 1.6: 440 V is 275 V; −15 % is 374 V, +20 % is 528 V.
    assert spd.judge_varistor(R(u_dc), 275).status == status


@pytest.mark.parametrize(
    ("height", "distance", "more", "zone"),
    [
        (0.3, 0, {"inside_basin": True}, "0"),
        (1.8, 0, {}, "1"),
        (2.25, 0, {}, "1"),
        (2.3, 0, {}, "outside"),
        (2.3, 0, {"shower_head_m": 2.4}, "1"),
        (1.2, 0.6, {}, "2"),
        (1.2, 0.61, {}, "outside"),
        (2.3, 0.3, {}, "outside"),
        (1.2, 0.3, {"behind_partition": True}, "outside"),
        (1.2, 1.2, {"basin": False}, "1"),
        (1.2, 1.3, {"basin": False}, "outside"),
        (0.05, 0.5, {"basin": False}, "0"),
    ],
)
def test_bathroom_zones(height, distance, more, zone):
    assert bathroom.zone(height, distance, **more) == zone


def test_protection_by_zone():
    assert [bathroom.required_ip(z) for z in ("0", "1", "2", "outside")] == ["IPX7", "IPX4", "IPX4", None]
    assert bathroom.required_ip("1", jets=True) == "IPX5"
    assert bathroom.socket_allowed(2.5) and not bathroom.socket_allowed(2.4)
    assert bathroom.switch_allowed("1", cord_only=True) and not bathroom.switch_allowed("1", cord_only=False)
    with pytest.raises(ValueError, match="negative"):
        bathroom.zone(-1, 0)


@pytest.mark.parametrize(
    ("on", "premises", "years", "due"),
    [
        (date(2026, 11, 3), "let dwelling", None, date(2031, 11, 3)),
        (date(2026, 11, 3), "let dwelling", 3, date(2029, 11, 3)),
        (date(2026, 11, 3), "let dwelling", 9, date(2031, 11, 3)),
        (date(2024, 2, 29), "let dwelling", 1, date(2025, 2, 28)),
        (date(2026, 12, 31), "owner-occupied dwelling", None, date(2036, 12, 31)),
        (date(2026, 11, 30), "temporary installation", None, date(2027, 2, 28)),
    ],
)
def test_next_inspection(on, premises, years, due):
    assert intervals.next_due(on, premises, years=years) == due


def test_duties_of_a_nation():
    copy = intervals.duties("England")[0]
    assert (copy.who, copy.due(date(2026, 11, 3))) == ("landlord", date(2026, 12, 1))
    assert intervals.duties("Atlantis") == ()
    with pytest.raises(LookupError):
        intervals.longest_years("lighthouse")


@pytest.mark.parametrize(
    ("earlier", "later", "quantity", "direction"),
    [
        ("0.46", "0.47", "continuity", "same"),
        ("0.46", "0.60", "continuity", "worse"),
        ("0.60", "0.46", "continuity", "better"),
        ("310", "120", "insulation", "same"),  # above 50 MΩ nothing is made of it
        ("310", "30", "insulation", "worse"),
        (">500", "12", "insulation", "worse"),
        (">200", "310", "insulation", "unknown"),
        (">200", ">500", "insulation", "unknown"),
        ("LIM", "0.4", "loop", "unknown"),
    ],
)
def test_comparing_with_last_time(earlier, later, quantity, direction):
    assert trend.compare(R(earlier), R(later), quantity).direction == direction


def test_where_insulation_leads():
    # Halved every five years from 32 MΩ: 1 MΩ after five halvings, twenty-five years.
    history = [(date(2010, 1, 1), R("32")), (date(2015, 1, 1), R("16")), (date(2020, 1, 1), R("8"))]
    found = trend.project_insulation([*history, (date(2012, 1, 1), R(">200")), (date(2005, 1, 1), R("300"))])
    assert found.points == 3
    assert abs((found.reaches - date(2035, 1, 1)).days) < 10
    assert trend.project_insulation([(date(2010, 1, 1), R("10")), (date(2020, 1, 1), R("20"))]).reaches is None
    assert trend.project_insulation(history[:1]) is None


@pytest.mark.parametrize(
    ("population", "sampled", "defective"), [(40, 10, 0), (40, 20, 1), (12, 12, 3), (100, 25, 2), (5, 0, 0)]
)
def test_greatest_number_of_defective_points_by_counting(population, sampled, defective):
    def chance(total):
        return sum(comb(total, k) * comb(population - total, sampled - k) for k in range(defective + 1)) / comb(
            population, sampled
        )

    found = sampling.greatest_defective(population, sampled, defective)
    possible = range(defective, population - (sampled - defective) + 1)
    assert found == max(d for d in possible if chance(d) >= 0.05)


def test_impossible_samples_are_refused():
    with pytest.raises(ValueError, match="part of"):
        sampling.greatest_defective(10, 11, 0)


POINTS = [sampling.SamplePoint(f"p{i}", f"c{i % 4}", f"r{i % 7}", risk=1 + i % 3, always=i == 5) for i in range(40)]


@given(st.integers(0, 2**32), st.sampled_from(["good", "fair", "poor"]))
def test_a_plan_takes_every_room_circuit_and_past_defect_and_can_be_repeated(seed, condition):
    found = sampling.plan(POINTS, "good", condition, seed)
    assert found == sampling.plan(POINTS, "good", condition, seed)
    assert {p.circuit for p in found.points} == {p.circuit for p in POINTS}
    assert {p.room for p in found.points} == {p.room for p in POINTS}
    assert POINTS[5] in found.points
    assert len(found.points) == {"good": 10, "fair": 20, "poor": 40}[condition]


def test_risk_weighs_the_draw():
    points = [sampling.SamplePoint(f"p{i}", "c", "r", risk=9 if i < 10 else 1) for i in range(20)]
    risky = sum(p.risk == 9 for seed in range(200) for p in sampling.plan(points, "good", "good", seed).points)
    assert risky / (200 * 5) > 0.8


def test_defects_widen_the_sample():
    assert [sampling.widened(0.25, n) for n in (0, 1, 2)] == [0.25, 0.5, 1.0]


def test_what_a_sample_says_in_words():
    most = sampling.greatest_defective(40, 10, 0)
    assert f"no more than {most} of all 40" in sampling.in_words(40, 10, 0)
    assert sampling.in_words(12, 12, 1).startswith("All 12")
