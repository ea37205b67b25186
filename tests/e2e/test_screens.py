"""Screens fit, in both themes, on a tablet and on a phone."""

import pytest
from playwright.sync_api import expect

from tests.e2e.walk import all_kept, board, cell, choose, stage

STAGES = ["Brief", "Intake", "Isolation", "Boards", "Dead tests", "Live tests", "Observations", "Report"]


@pytest.mark.parametrize(("width", "height"), [(1280, 800), (390, 844)])
def test_nothing_is_cut_off_sideways(at_work, width, height):
    page = at_work("Ring sockets", *["Lights"] * 11, "Shower", "Cooker", width=width, height=height)
    for name in STAGES:
        stage(page, name)
        all_kept(page)
        expect(page.get_by_role("heading", level=1)).to_be_visible()
        wide = page.evaluate("""() => [document.documentElement, document.getElementById('work')]
            .map((e) => e.scrollWidth - e.clientWidth)""")
        assert wide == [0, 0], name


@pytest.mark.parametrize("width", [1280, 390])
def test_screens_of_the_register_are_not_cut_off_sideways(signed_in, width):
    page = signed_in(width=width, height=844)

    def fits(name):
        wide = page.evaluate("document.documentElement.scrollWidth - document.documentElement.clientWidth")
        assert wide == 0, name

    fits("home")
    page.get_by_role("link", name="Clients").click()
    page.get_by_role("button", name="New client").click()
    expect(page.get_by_role("heading", name="New client")).to_be_visible()
    fits("client")
    page.get_by_role("button", name="Add a property").click()
    page.get_by_role("button", name="Add an installation").click()
    expect(page.get_by_role("button", name="Remove House")).to_be_visible()
    fits("property")
    page.get_by_role("button", name="New job").click()
    page.get_by_role("heading", name="Scope").wait_for()
    fits("job")
    for name in ("Instruments", "House rules"):
        page.get_by_role("link", name="Home").click()
        page.get_by_role("link", name=name).click()
        page.get_by_role("heading", level=1).wait_for()
        fits(name)


def test_a_three_phase_board_stands_in_columns_of_three(at_work):
    page = at_work(stage="Intake")
    page.locator("[data-field=phases]").get_by_role("button", name="three phase").click()
    board(page, "Cooker", "Lights")
    page.get_by_role("button", name="More about 1 Cooker").click()
    choose(page, "phase", "all three")
    page.get_by_role("button", name="Less about 1 Cooker").click()
    page.get_by_role("button", name="More about 2 Lights").click()
    choose(page, "phase", "L2")
    front = page.get_by_label("Front of Board 1")
    whole = front.get_by_role("button", name="1 Cooker").bounding_box()
    one = front.get_by_role("button", name="2 Lights").bounding_box()
    # A three-phase device takes all three places of its way, a single-phase one a third.
    assert whole["height"] > 2.8 * one["height"]
    all_kept(page)
    stage(page, "Isolation")
    page.get_by_role("button", name="Begin: tester proved now").click()
    # Ten pairings at the busbar, ten at the three-phase way, three at the other.
    expect(page.get_by_text("23 of 23 left")).to_be_visible()


def test_keys_of_the_pad_are_large_enough_for_gloves(at_work):
    for width in (1280, 390):
        page = at_work("Cooker", stage="Dead tests", width=width, height=844)
        cell_name = "1 Cooker, R1+R2 Ω"
        cell(page, cell_name).click()
        boxes = [b.bounding_box() for b in page.locator("[aria-label='Reading pad'] [data-key]").all()]
        assert len(boxes) == 21
        assert all(b["height"] >= 48 and b["width"] >= 46 for b in boxes)
        # The pad never covers the figure that is being typed.
        figure = cell(page, cell_name).bounding_box()
        assert figure["y"] + figure["height"] <= min(b["y"] for b in boxes)


def test_the_dim_theme_is_remembered(signed_in):
    page = signed_in()
    page.get_by_role("button", name="Dim").click()
    page.reload()
    expect(page.get_by_role("button", name="Day")).to_be_visible()
    ground = page.evaluate("getComputedStyle(document.body).backgroundColor")
    assert max(int(c) for c in ground[4:-1].split(",")) < 40


def test_the_order_of_next_follows_the_circuit_or_the_test(at_work):
    page = at_work("Lights", "Cooker", stage="Dead tests")
    cell(page, "1 Lights, R1+R2 Ω").click()
    page.keyboard.press("Enter")
    expect(cell(page, "1 Lights, L–N MΩ")).to_be_focused()
    page.get_by_text("by test", exact=True).click()
    cell(page, "1 Lights, R1+R2 Ω").click()
    page.keyboard.press("Enter")
    expect(cell(page, "2 Cooker, R1+R2 Ω")).to_be_focused()
    page.keyboard.press("ArrowUp")
    expect(cell(page, "1 Lights, R1+R2 Ω")).to_be_focused()
    page.keyboard.press("ArrowRight")
    expect(cell(page, "1 Lights, L–N MΩ")).to_be_focused()


def test_an_empty_firm_is_told_where_to_begin(signed_in):
    page = signed_in()
    expect(page.get_by_text("Begin with New inspection")).to_be_visible()
