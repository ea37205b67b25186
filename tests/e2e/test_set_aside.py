"""Left disconnected and out of scope: said where the thing is, drawn grey, asking nothing, told in writing."""

import re

from playwright.sync_api import expect

from tests.e2e.walk import all_kept, cell, choose, fill, stage


def set_aside(page, circuit, state="left disconnected"):
    page.get_by_role("button", name=f"more about {circuit}").click()
    page.get_by_role("button", name=f"Leave out by agreement: {circuit}").click()
    choose(page, "state", state)


def test_a_circuit_left_disconnected_asks_for_nothing_once_somebody_agreed(at_work):
    page = at_work("Cooker", "Lights", stage="Boards")
    set_aside(page, "2 Lights")
    # Not agreed with anybody yet: it is still asked for, and that is said.
    expect(page.get_by_label("Margin", exact=True).get_by_text("Set aside", exact=False)).to_be_visible()
    fill(page, "Agreed with", "Hester Vane")
    fill(page, "Why", "Water in the gland")
    expect(page.get_by_text("Asks for no test", exact=False)).to_be_visible()
    all_kept(page)
    stage(page, "Dead tests")
    row = page.get_by_role("row").filter(has_text="Lights")
    expect(row).to_contain_text("left disconnected")
    expect(cell(page, "2 Lights, R1+R2 Ω")).to_have_count(0)
    expect(cell(page, "1 Cooker, R1+R2 Ω")).to_be_visible()
    expect(page.get_by_role("button", name="2 Lights, left disconnected")).to_be_visible()
    stage(page, "Brief")
    expect(page.get_by_text("2 Lights", exact=True)).to_be_visible()
    letter = page.get_by_role("link", name="Print the letter").get_attribute("href")
    answer = page.request.get(letter)
    assert answer.ok and answer.body().startswith(b"%PDF")
    page.get_by_role("button", name="End agreement").click()
    all_kept(page)
    stage(page, "Dead tests")
    expect(cell(page, "2 Lights, R1+R2 Ω")).to_be_visible()


def test_a_room_out_of_scope_is_seen_and_drawn_grey(at_work):
    page = at_work(stage="Walk-round")
    page.get_by_role("button", name="Garage", exact=True).click()
    page.get_by_role("button", name="about this room").click()
    page.get_by_role("button", name="Leave out by agreement: Garage").click()
    choose(page, "state", "out of scope")
    fill(page, "Agreed with", "Harbour Office")
    expect(page.get_by_text("Asks for no test", exact=False)).to_be_visible()
    expect(page.get_by_role("button", name=re.compile("Garage: out of scope"))).to_be_visible()
