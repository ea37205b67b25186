"""Whole homes: their truth is told from the rules' text, and the judgement of some of them is held against it."""

import pytest

from dorrik.core.inspection.document import parse
from dorrik.practice.whole_home_accuracy import count_homes, count_sound_old, report
from dorrik.practice.whole_home_draw import draw, draw_sound_old

#: Seeds that no rule was tuned by.
FIRST, LAST = 31_030, 31_055


@pytest.fixture(scope="module")
def homes():
    return [draw(seed) for seed in range(FIRST, LAST)]


@pytest.fixture(scope="module")
def counted():
    return count_homes(FIRST, LAST)


def test_a_seed_gives_the_same_home(homes):
    assert draw(FIRST).document == homes[0].document
    assert draw(FIRST).causes == homes[0].causes


def test_homes_are_of_every_kind_and_can_be_read(homes):
    arrangements = {home.document["inspection"]["earthing"] for home in homes}
    assert arrangements == {"TN-S", "TN-C-S", "TT"}
    assert any(len(home.document["inspection"]["boards"]) > 1 for home in homes)
    assert any(not home.causes for home in homes) and any(len(home.causes) >= 3 for home in homes)
    for home in homes:
        parse(home.document)


def test_each_cause_has_its_place_in_the_home(homes):
    for home in homes:
        text = str(home.document)
        for cause in home.causes:
            assert cause.key is None or any(place in text for place in cause.places), (home.seed, cause)


def test_causes_are_named_once_with_their_code_and_nothing_else_is(counted):
    assert counted.homes == LAST - FIRST
    assert counted.detectable > 50
    assert counted.named >= 0.98 * counted.detectable, counted.misses
    assert counted.right_code >= 0.95 * counted.coded, counted.misses
    assert counted.without_cause <= 0.02 * counted.suggestions, counted.misses


def test_no_cause_has_two_voices_and_no_pass_is_given_on_part(counted):
    assert (counted.double, counted.passes_on_part) == (0, 0), counted.misses
    assert counted.slips_asked == counted.slips


def test_sound_old_homes_have_no_code_that_makes_them_unsatisfactory():
    assert count_sound_old(FIRST, LAST) == (0, [])
    # They are old ones, on rewirable fuses throughout, and not what would be built today.
    boards = [board for s in range(FIRST, LAST) for board in draw_sound_old(s).document["inspection"]["boards"]]
    assert {circuit["device_standard"] for board in boards for circuit in board["circuits"]} == {"BS 3036"}


def test_the_report_tells_its_aims_beside_what_was_found():
    text = report(4, 1)
    assert "4 homes" in text and "98 %" in text and "95 %" in text
