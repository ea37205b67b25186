"""A walk round a ring while its points are renamed, moved and taken out by somebody else, while two type at one point,
over a reload, and by link with one thumb: nothing is lost."""

import re

import pytest
from playwright.sync_api import expect

from tests.e2e import instruments, seeding
from tests.e2e.test_as_it_is_done import at_ring, enter
from tests.e2e.test_bench import NAMES, at_point, readings
from tests.e2e.walk import all_kept, cell


class Colleague:
    """Another device at the same inspection."""

    def __init__(self, page):
        self.page, self.request = page, page.context.request
        self.inspection = page.url.split("/")[-2]

    def named(self, kind, name):
        found = self.request.get(f"/api/inspections/{self.inspection}").json()["entities"]
        names = ("name", "designation")
        return next(
            one["id"] for one in found if one["kind"] == kind and name in [one["values"].get(key) for key in names]
        )

    def write(self, kind, entity_id, field, value):
        change = seeding.change(kind, entity_id, field, value)
        answer = self.request.post(f"/api/inspections/{self.inspection}/changes", data={"changes": [change]})
        assert [result["state"] for result in answer.json()["results"]] == ["kept"], answer.text()

    def value(self, entity_id, field):
        found = self.request.get(f"/api/inspections/{self.inspection}").json()["entities"]
        return next(one["values"].get(field) for one in found if one["id"] == entity_id)


@pytest.fixture
def walked(at_work):
    """Three sockets of nine are read, in the middle of the ring."""
    page = at_ring(at_work)
    for pair in readings()[:3]:
        enter(page, *pair)
    all_kept(page)
    return page, Colleague(page)


def test_a_point_that_is_renamed_or_moved_takes_its_readings_along(walked):
    page, colleague = walked
    second = colleague.named("point", NAMES[1])
    stood = readings()[1][0]
    colleague.write("point", second, "name", "Front room, by the door")
    expect(at_point(page, "Front room, by the door", "neutral")).to_have_value(stood)

    # On another circuit it is no point of this ring; back again it stands where it stood.
    ring, other = colleague.named("circuit", "Sockets"), colleague.named("circuit", "Cooker")
    colleague.write("point", second, "circuit", other)
    expect(at_point(page, "Front room, by the door", "neutral")).to_have_count(0)
    expect(page.get_by_role("img", name=re.compile("Ring of 8 points"))).to_be_visible()
    expect(at_point(page, NAMES[2], "neutral")).to_have_value(readings()[2][0])
    colleague.write("point", second, "circuit", ring)
    expect(at_point(page, "Front room, by the door", "neutral")).to_have_value(stood)
    expect(page.get_by_role("img", name=re.compile("Ring of 9 points"))).to_be_visible()


def test_what_is_typed_at_a_point_that_somebody_takes_out_is_kept_with_it(walked):
    page, colleague = walked
    fourth = colleague.named("point", NAMES[3])
    expect(at_point(page, NAMES[3], "neutral")).to_be_focused()
    page.keyboard.type("0.2")
    colleague.write("point", fourth, "removed", True)
    expect(page.get_by_role("img", name=re.compile("Ring of 8 points"))).to_be_visible()
    # The figure is left by going on elsewhere, as people do when a row vanishes under their hands.
    at_point(page, NAMES[4], "neutral").click()
    all_kept(page)
    assert colleague.value(fourth, "line_neutral_ohm") == "0.2"
    colleague.write("point", fourth, "removed", None)
    expect(at_point(page, NAMES[3], "neutral")).to_have_value("0.2")


def test_two_at_one_point_both_stand_in_the_history(walked):
    page, colleague = walked
    fourth = colleague.named("point", NAMES[3])
    page.keyboard.type("0.23")
    colleague.write("point", fourth, "line_neutral_ohm", "0.31")
    page.keyboard.press("Enter")
    all_kept(page)
    expect(at_point(page, NAMES[3], "neutral")).to_have_value("0.23")
    asked = f"/api/inspections/{colleague.inspection}/history?entity_id={fourth}&field=line_neutral_ohm"
    assert [one["value"] for one in page.context.request.get(asked).json()] == ["0.23", "0.31"]


def test_a_reload_in_the_middle_of_the_ring_goes_on_where_it_was(walked):
    page, _ = walked
    page.keyboard.type("0.23")
    page.reload()
    for name, (neutral, cpc) in zip(NAMES[:3], readings(), strict=False):
        expect(at_point(page, name, "neutral")).to_have_value(neutral)
        expect(at_point(page, name)).to_have_value(cpc)
    at_point(page, NAMES[3], "neutral").click()
    enter(page, *readings()[3])
    all_kept(page)
    page.get_by_role("button", name="All circuits").click()
    expect(page.get_by_role("link", name="4/9 points of 1 Sockets tested")).to_be_visible()


def test_a_ring_is_walked_by_link_with_one_thumb(at_work):
    """At 390 px: the instrument is linked, its readings land at socket after socket, and its own key goes on."""
    page = at_ring(at_work, width=390, height=844)
    with instruments.told() as told:
        at_point(page, NAMES[0], "neutral").click()
        instruments.link(page, told.address, instruments.CODE)
        at_point(page, NAMES[0], "neutral").click()
        for number, (name, pair) in enumerate(zip(NAMES, readings(), strict=True)):
            for conductor, value in zip(("neutral", "cpc"), pair, strict=True):
                expect(at_point(page, name, conductor)).to_be_focused()
                told.reading(f"{number} {conductor}", value)
                expect(at_point(page, name, conductor)).to_have_value(value)
                told.send({"type": "next"})
        all_kept(page)
        # Nothing is wider than the phone, and what was kept is what was shown.
        assert page.evaluate("document.documentElement.scrollWidth") <= 390
    page.get_by_role("button", name="All circuits").click()
    expect(page.get_by_role("link", name="9/9 points of 1 Sockets tested")).to_be_visible()
    expect(cell(page, "1 Sockets, R1+R2 Ω")).to_be_visible()
