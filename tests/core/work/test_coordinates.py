"""Coordinates as kilometres, and those that cannot be right."""

from math import hypot

import pytest

from dorrik.core.work.coordinates import MapSpot, doubts, places

#: Landmarks with published coordinates and the great-circle distance between them (km).
LIZARD, LANDS_END, KM = (49.9591, -5.2065), (50.0657, -5.7147), 38.2


def test_kilometres_are_those_of_the_map():
    found = places([MapSpot("lizard", *LIZARD), MapSpot("lands end", *LANDS_END)])
    one, other = found["lizard"], found["lands end"]
    assert hypot(one.east_km - other.east_km, one.north_km - other.north_km) == pytest.approx(KM, rel=0.01)


@pytest.mark.parametrize(
    ("spot", "says"),
    [
        (MapSpot("a", -4.75, 50.33, "England"), "swapped"),
        (MapSpot("a", 50.33, 4.75, "England"), "sign"),
        (MapSpot("a", 50.33, 4.75), "sign"),
        (MapSpot("a", 0.0, 0.0), "sea"),
        (MapSpot("a", 48.8, 2.3), "sea"),
        (MapSpot("a", 57.1, -2.1, "England"), "Not in England"),
    ],
)
def test_what_cannot_be_right_says_why(spot, says):
    assert says in doubts([spot])["a"]


def test_one_home_far_from_all_others_is_doubted_and_counts_as_not_known():
    near = [MapSpot(f"h{n}", 50.33 + n / 1000, -4.75, "England") for n in range(6)]
    far = MapSpot("far", 54.9, -1.6, "England")
    assert list(doubts([*near, far])) == ["far"]
    found = places([*near, far, MapSpot("nowhere", None, None)])
    assert found["far"].east_km is None and found["nowhere"].north_km is None
    assert all(found[spot.name].east_km is not None for spot in near)


@pytest.mark.parametrize(
    ("nation", "where"),
    [("Scotland", (60.15, -1.14)), ("Ireland", (51.85, -8.29)), ("Northern Ireland", (54.6, -5.93)),
     ("Wales", (51.62, -3.94)), ("England", (50.33, -4.75)), ("", (53.3, -6.2))],
)  # fmt: skip
def test_homes_of_every_nation_are_believed(nation, where):
    assert doubts([MapSpot("a", *where, nation)]) == {}


def test_a_typing_slip_shows_where_many_homes_are_together():
    """A digit that is missing takes a home hundreds of kilometres away."""
    near = [MapSpot(f"h{n}", 50.33, -4.75 - n / 1000, "England") for n in range(5)]
    assert "km away" in doubts([*near, MapSpot("slip", 52.33, -0.475, "England")])["slip"]
