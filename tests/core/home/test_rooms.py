"""Rooms and their points: names, zones from the plan, checks by place, notes (rules 11, 12.2, 13.2)."""

import copy
import re
from dataclasses import replace

import pytest

from dorrik.core.home.placing import short_names
from dorrik.core.inspection import document
from dorrik.core.judging.judgement import judge
from dorrik.core.judging.readiness import readiness
from tests.core.homes import cottage

BATH = {"id": "bath", "name": "Bathroom", "kind": "bath or shower", "position": 2, "basin": "bath",
        "basin_length_m": 1.7, "basin_width_m": 0.7}  # fmt: skip


def home(*rooms, points=(), on_circuit=(), **fields):
    """The cottage with rooms, points on no circuit, and points on its lights."""
    found = copy.deepcopy(cottage())
    i = found["inspection"]
    i["rooms"] = [*i["rooms"], *rooms]
    i["points"] = list(points)
    i["boards"][0]["circuits"][2]["points"] = list(on_circuit)
    i.update(fields)
    return document.parse(found)


def judged(*rooms, **more):
    return judge(home(*rooms, **more))


def note(judgement, entity_id, field):
    return next((n for n in judgement.notes if (n.entity_id, n.field) == (entity_id, field)), None)


def point(identity, kind, **more):
    return {"id": identity, "room_id": "bath", "kind": kind} | more


def test_a_point_of_a_room_is_named_by_it_and_numbered_among_its_like():
    found = judged(
        points=[{"id": f"p{n}", "room_id": "r1", "kind": kind} for n, kind in enumerate(["socket", "light", "socket"])]
    )
    assert [(p.id, p.name) for p in found.walk.points] == [("p0", "socket 1"), ("p1", "light"), ("p2", "socket 2")]
    assert found.sampling.planned == ("Parlour socket 1", "Parlour light", "Parlour socket 2")


def test_short_names_count_only_what_has_no_name_of_its_own():
    one = document.parse(cottage()).boards[0].circuits[0]
    assert short_names(one.points) == []


# A bath of 1.7 by 0.7 m in the corner: places on the plan, height, and the zone of BS 7671 701.32.
PLACES = [
    ((0.8, 0.3), 2.1, "1", "IPX4"),
    ((0.8, 0.3), 2.3, "outside", None),
    ((2.2, 0.3), 1.0, "2", "IPX4"),
    ((2.4, 0.3), 1.0, "outside", None),
    ((0.8, 1.25), 2.0, "2", "IPX4"),
    ((2.0, 1.1), 2.0, "2", "IPX4"),
    ((2.2, 1.2), 2.0, "outside", None),
]


@pytest.mark.parametrize(("at", "height", "zone", "needs"), PLACES)
def test_the_zone_of_a_point_follows_its_place_on_the_plan(at, height, zone, needs):
    light = point("p1", "light", plan_x_m=at[0], plan_y_m=at[1], height_m=height)
    (view,) = judged(BATH, points=[light]).walk.points
    assert (view.zone, view.needs) == (zone, needs)


def test_a_fixed_partition_ends_the_zone_and_one_that_is_lower_does_not():
    light = point("p1", "light", plan_x_m=2.0, plan_y_m=0.3, height_m=1.5)
    screen = {"x1": 1.7, "y1": 0, "x2": 1.7, "y2": 2.0}
    assert judged(BATH, points=[light]).walk.points[0].zone == "2"
    assert judged(BATH | {"partitions": [screen]}, points=[light]).walk.points[0].zone == "outside"
    assert judged(BATH | {"partitions": [screen | {"top_m": 1.2}]}, points=[light]).walk.points[0].zone == "2"


def test_what_the_room_says_holds_for_all_its_points():
    far = point("p1", "light", height_m=2.4, distance_m=0.0, water_protection=2)
    assert note(judged(BATH, points=[far]), "p1", "water_protection").verdict.status == "pass"
    # A fixed shower head at 2.5 m lifts zone 1 to it; jets ask for IPX5 there.
    high = BATH | {"shower_head_m": 2.5}
    assert note(judged(high, points=[far]), "p1", "water_protection").verdict.status == "fail"
    jets = BATH | {"jets": True}
    four = point("p1", "light", height_m=1.5, distance_m=0.3, water_protection=4)
    assert note(judged(BATH, points=[four]), "p1", "water_protection").verdict.status == "pass"
    assert note(judged(jets, points=[four]), "p1", "water_protection").verdict.status == "fail"


def test_a_shower_without_a_tray_has_zone_1_to_1_20_m_and_no_zone_2():
    wet = {"id": "bath", "kind": "bath or shower", "basin": "no tray", "basin_x_m": 1.0, "basin_y_m": 0.0}
    for x, zone in ((2.1, "1"), (2.3, "outside")):
        fan = point("p1", "fan", plan_x_m=x, plan_y_m=0.0, height_m=2.0)
        assert judged(wet, points=[fan]).walk.points[0].zone == zone


def test_the_body_of_a_pull_cord_stays_out_of_the_zones():
    inside = point("p1", "pull cord", height_m=2.0, distance_m=0.3)
    outside = point("p1", "pull cord", height_m=2.0, distance_m=0.7)
    assert note(judged(BATH, points=[inside]), "p1", "distance_m").verdict.status == "fail"
    assert note(judged(BATH, points=[outside]), "p1", "distance_m").verdict.status == "pass"


def test_the_drawn_band_reaches_as_far_as_the_zone():
    zones = judged(BATH).walk.rooms[1].zones
    assert {"2.25 m", "0.6 m"} <= {words.text for part in zones.side.parts for words in part.words}
    (band,) = (path.d for part in zones.above.parts for path in part.paths if path.look == "band")
    # Strips "M x y H x V y H x z", 100 units to a metre.
    strips = [
        [float(one) / 100 for one in strip]
        for strip in re.findall(r"M([\d.]+) ([\d.]+)H([\d.]+)V([\d.]+)H[\d.]+z", band)
    ]
    xs = [x for start, _, end, _ in strips for x in (start, end)]
    ys = [y for _, low, _, _ in strips for y in (low,)]
    # The bath lies in the corner: the zone ends at the two walls, and 0.6 m from the bath elsewhere.
    assert (min(xs), min(ys)) == (0.0, 0.0)
    assert max(xs) == pytest.approx(2.3, abs=0.05)
    assert max(ys) == pytest.approx(1.25, abs=0.05)
    # 1.7 × 0.7 of the bath, 0.6 × 0.7 and 1.7 × 0.6 beside it, a quarter of a circle of 0.6: 2.91 m².
    area = sum((end - start) * (high - low) for start, low, end, high in strips)
    assert area == pytest.approx(2.91, abs=0.08)


def test_a_screen_on_the_very_edge_of_the_bath_screens_only_what_it_covers():
    """From (2.0, 0.3) round the end of a screen at (1.7, 0.9): √(0.3² + 0.6²) + 0.2 = 0.87 m; at (1.7, 0.4) it is
    √(0.3² + 0.1²) = 0.32 m to the end itself, where the bath begins."""
    light = point("p1", "light", plan_x_m=2.0, plan_y_m=0.3, height_m=1.5)
    long = {"x1": 1.7, "y1": 0, "x2": 1.7, "y2": 0.9}
    short = long | {"y2": 0.4}
    assert judged(BATH | {"partitions": [long]}, points=[light]).walk.points[0].zone == "outside"
    assert judged(BATH | {"partitions": [short]}, points=[light]).walk.points[0].zone == "2"
    # 0.25 m past the end of the long one: √(0.1² + 0.05²) + 0.2 = 0.31 m.
    past = light | {"plan_x_m": 1.8, "plan_y_m": 0.95}
    assert judged(BATH | {"partitions": [long]}, points=[past]).walk.points[0].zone == "2"


def test_a_defect_without_words_fails_until_it_is_recorded():
    marked = {"id": "p1", "room_id": "r1", "kind": "socket", "looked": "defect"}
    found = judged(points=[marked])
    assert note(found, "p1", "looked").status == "fail"
    assert found.outcome == "open"
    recorded = {"id": "o1", "about_entity": "point", "about_id": "p1", "text": "Cracked", "code": "C3"}
    found = judged(points=[marked], observations=[recorded])
    assert note(found, "p1", "looked") is None
    assert found.outcome == "satisfactory"


def test_a_check_of_a_room_that_is_not_good_raises_its_observation_where_the_room_stands():
    hanging = {"id": "k9", "item": "cables-held", "state": "not good"}
    hall = {"id": "hall", "name": "Hall", "kind": "hall, landing or stairs", "position": 2, "checks": [hanging]}
    found = judged(hall)
    (suggestion,) = [one for one in found.suggested if one.key == "cable-hanging"]
    # The way out leads through a hall: the catalogue's C3 becomes C2 by itself, and nothing is asked.
    assert (suggestion.code, suggestion.questions) == ("C2", ())
    loft = hall | {"kind": "loft"}
    (suggestion,) = [one for one in judged(loft).suggested if one.key == "cable-hanging"]
    assert suggestion.code == "C3" and not suggestion.moved


def test_an_alarm_past_its_date_and_a_downlight_under_another_dwelling():
    old = {"id": "p1", "room_id": "r1", "kind": "alarm", "looked": "fine", "replace_by": "2025-06-30"}
    assert note(judged(points=[old]), "p1", "replace_by").verdict.observation == "alarm-old"
    fresh = old | {"replace_by": "2031-06-30"}
    assert note(judged(points=[fresh]), "p1", "replace_by") is None
    soon = old | {"replace_by": "2026-12-31"}
    assert note(judged(points=[soon]), "p1", "replace_by").verdict.observation is None
    down = {"id": "p1", "room_id": "r1", "kind": "downlights", "above": "another dwelling", "fire_rated": False}
    (suggestion,) = [one for one in judged(points=[down]).suggested if one.key == "downlight-fire"]
    assert suggestion.code == "C2"
    assert note(judged(points=[down | {"fire_rated": True}]), "p1", "fire_rated") is None


def test_a_room_that_was_not_reached_asks_for_nothing_and_stands_for_its_points():
    shut = {"id": "loft", "name": "Loft", "kind": "loft", "position": 2, "not_reached": "locked"}
    hidden = {"id": "p1", "room_id": "loft", "kind": "light"}
    found = judged(shut, points=[hidden])
    assert next(room for room in found.walk.rooms if room.id == "loft").left == 0
    whole = [limit for limit in found.limits if limit.entity == "room"]
    assert [(one.what, one.whom, one.why) for one in whole] == [("The whole room", "Loft", "Locked")]
    assert not [limit for limit in found.limits if limit.entity == "point"]
    assert found.limited_share.limited_points == 1


def test_what_limits_the_riskiest_circuit_is_named():
    blocked = {"id": "p1", "room_id": "r1", "kind": "light", "not_reached": "furniture in the way"}
    wet = {"id": "p2", "room_id": "bath", "kind": "light", "not_reached": "too high"}
    found = judge(home(BATH, on_circuit=[blocked, wet]))
    assert found.limited_share.riskiest.startswith("The one at most risk is 3 Lights (bath or shower)")
    assert (found.limited_share.points, found.limited_share.limited_points) == (2, 2)
    assert found.limited_share.share == 1.0


def test_points_served_count_themselves_without_switches_and_joints():
    kinds = ["light", "light", "switch", "fused unit", "joint", "pull cord"]
    found = judged(on_circuit=[{"id": f"p{n}", "room_id": "r1", "kind": kind} for n, kind in enumerate(kinds)])
    assert found.walk.served == {"c3": 3}
    circuit = home(on_circuit=[{"id": f"p{n}", "kind": kind} for n, kind in enumerate(kinds)]).boards[0].circuits[2]
    assert circuit.served == 3
    assert replace(circuit, points_served=5).served == 5
    assert replace(circuit, points=()).served is None


def test_what_is_left_of_the_walk_is_named_before_issuing():
    found = home(points=[{"id": "p1", "room_id": "r1", "kind": "socket", "sample": "added"}])
    told = [one.text for one in readiness(found, judge(found)) if one.stage == "walk"]
    assert "1 left: Parlour: socket" in told
    assert "Socket was added by choice, without a reason." in told


def test_the_code_at_a_point_is_moved_by_its_room():
    socket = {"id": "p1", "room_id": "r1", "kind": "socket"}
    (dry,) = judged(points=[socket]).walk.points
    assert dry.moved == {}
    (wet,) = judged(BATH, points=[socket | {"room_id": "bath"}]).walk.points
    assert wet.moved["accessory-cracked"].code == "C2"


def over_the_bath(**fan):
    placed = {"height_m": 2.1, "plan_x_m": 0.8, "plan_y_m": 0.3}
    return judged(BATH, on_circuit=[point("fan", "fan", **placed, **fan)])


def test_no_marking_found_is_an_answer_and_shows_no_protection():
    """The field was looked at: it is asked no more, never passes, and is no more than an improvement by itself."""
    asked, answered = over_the_bath(), over_the_bath(ip_unmarked=True)
    assert note(asked, "fan", "water_protection").status == "unknown"
    told = note(answered, "fan", "water_protection")
    assert (told.status, told.verdict.observation) == ("attention", "ip-not-marked")
    assert [one.code for one in answered.suggested if one.key == "ip-not-marked"] == ["C3"]


def test_a_mark_that_was_read_counts_whatever_else_was_ticked():
    assert note(over_the_bath(ip_unmarked=True, water_protection=2), "fan", "water_protection").status == "fail"
    assert note(over_the_bath(ip_unmarked=True, water_protection=5), "fan", "water_protection").status == "pass"
