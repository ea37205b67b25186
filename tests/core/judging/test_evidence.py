"""What shows that the work was done is counted from what was entered, and claims no more."""

from tests.core.whole_homes import board, circuit, judged, points, ring

VISIT = {"id": "a", "who": "Ruth Pellow", "arrived_at": "2026-11-03T08:40:00Z", "left_at": "2026-11-03T13:05:00Z"}


def test_points_readings_time_photos_and_nulls_are_counted():
    each = points(
        {"opened": True, "line_neutral_ohm": "0.23", "line_cpc_ohm": "0.30"},
        {"tested": True},
        {"line_cpc_ohm": "LIM no access"},
    )
    lights = circuit(2, "Lights", insulation_ln_mohm=">200", insulation_lne_mohm="150", zs_ohm="OL", rcd_trip_ms="24")
    null = {"id": "n", "name": "Leads", "known_ohm": 0.06, "reading_ohm": "0.06", "nulled_at": "2026-11-03T09:00:00Z"}
    photo = {"id": "p", "about_entity": "inspection", "about_id": "i", "sha256": "0" * 64}
    earlier = [{"id": "e", "figure": "zs_ohm", "reading": "0.5", "measured_on": "2021-11-03", "source": "K-0001"}]
    found = judged(
        board(ring(1, points=each, earlier=earlier), lights),
        attendances=[VISIT],
        lead_nulls=[null, {"id": "c", "name": "Leads", "nulled_at": "2026-11-03T10:00:00Z"}],
        photos=[photo],
    ).evidence
    # Ends and R1+R2 of the ring, and two at its first socket; the limitation and the old report's figure are no tests.
    assert dict(found.readings) == {
        "continuity": 6, "insulation": 2, "loop and fault current": 4, "RCD times": 1,
    }  # fmt: skip
    assert (found.points, found.opened, found.tested) == (3, 1, 2)
    assert (found.minutes, found.photos, found.nulls, found.good_nulls) == (265, 1, 1, 1)
    assert found.says.startswith("1 of 3 points opened, 2 tested; readings: 6 of continuity, 2 of insulation")
    assert found.says.endswith("4 h 25 min on site; 1 photo; leads nulled 1 time.")


def test_time_is_told_only_of_those_who_came_and_left():
    assert judged(board(), attendances=[VISIT | {"left_at": None}]).evidence.minutes is None
    backwards = VISIT | {"left_at": "2026-11-03T07:00:00Z"}
    assert judged(board(), attendances=[backwards]).evidence.minutes is None
    two = [VISIT, VISIT | {"id": "second", "who": "Idris Quill", "arrived_at": "2026-11-03T12:05:00Z"}]
    assert judged(board(), attendances=two).evidence.minutes == 265 + 60


def test_before_anything_is_done_nothing_is_claimed():
    nothing = {"ze_ohm": None, "pscc_ka": None, "pefc_ka": None}
    assert judged(board(), **nothing).evidence.says == ""
