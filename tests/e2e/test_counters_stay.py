"""The counters of the walk-round stay where they are: what moves between press and release of a thumb gets no tap."""

import re

import pytest
from playwright.sync_api import expect

#: Where each counter stands, drawing after drawing, from here on: by its words, every place at which it was seen.
SEEN = """() => {
    const places = (window.places = {});
    const dock = () => document.querySelector('[aria-label="Count and go on"]');
    const look = () => {
        for (const button of dock()?.querySelectorAll("button") ?? []) {
            const { left, top } = button.getBoundingClientRect();
            const room = document.querySelector("main h2 ~ *") && document.querySelector("main h2").textContent;
            const said = button.textContent.replace(/[^a-z ].*/i, "");
            (places[`${room}: ${said}`] ??= []).push([left, top]);
        }
        requestAnimationFrame(look);
    };
    look();
}"""


@pytest.mark.parametrize(("width", "height"), [(390, 844), (1280, 800)])
def test_counters_stay_where_they_are_while_a_room_is_counted(at_work, width, height):
    page = at_work(stage="Walk-round", width=width, height=height)
    dock = page.get_by_role("group", name="Count and go on")
    page.get_by_role("button", name="Hall", exact=True).click()
    expect(dock).to_be_visible()
    page.evaluate(SEEN)
    for room in ("Hall", "Living room"):
        expect(page.get_by_role("heading", name=room, level=2)).to_be_visible()
        for kind in ("light", "switch", "socket", "socket", "socket", "alarm"):
            dock.get_by_role("button", name=re.compile(f"One more {kind}, ")).click()
        expect(page.get_by_role("list", name="Points").get_by_role("listitem")).to_have_count(6)
        dock.get_by_role("button", name=re.compile("Rest OK")).click()
    expect(page.get_by_role("heading", name="Dining room", level=2)).to_be_visible()
    places = page.evaluate("window.places")
    assert any("socket" in said for said in places)
    # Less than a letter's stroke is nothing to a thumb: a count of two digits may take a hair more room.
    moved = {said: [max(axis) - min(axis) for axis in zip(*at, strict=True)] for said, at in places.items()}
    assert {said: by for said, by in moved.items() if max(by) > 3} == {}
