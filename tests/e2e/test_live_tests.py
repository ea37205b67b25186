"""Loop impedances as bars against their limits."""

from playwright.sync_api import expect

from tests.e2e import seeding
from tests.e2e.walk import all_kept, cell, stage


def test_zs_is_drawn_against_its_limits_and_beside_what_the_dead_test_leads_to(at_work):
    page = at_work("Cooker", stage="Dead tests")
    cell(page, "1 Cooker, R1+R2 Ω").click()
    page.keyboard.type("0.30")
    page.keyboard.press("Enter")
    all_kept(page)
    stage(page, "Live tests")
    cell(page, "Zdb at this board").click()
    page.keyboard.type("0.21")
    page.keyboard.press("Enter")
    # 1.37 Ω is what the tables print for B32; 0.8 of it when cold; 0.21 + 0.30 Ω expected.
    told = "max 1.37 Ω, 1.10 Ω when cold, expected 0.51 Ω"
    expect(page.get_by_role("img", name=f"not measured, {told}")).to_be_visible()
    # The last figure of the board: what is typed behind Enter replaces it.
    cell(page, "1 Cooker, Zs Ω").click()
    for typed, read in (("0.54", "0.54 Ω"), ("1.52", "1.52 Ω"), ("x", "over range")):
        page.keyboard.type(typed)
        page.keyboard.press("Enter")
        expect(page.get_by_role("img", name=f"{read}, {told}")).to_be_visible()


def test_zs_and_voltages_are_measured_at_the_points_and_the_highest_is_carried_up(at_work):
    page = at_work("Lights", stage="Live tests")
    found = page.url.split("/")[-2]
    seeding.points(page.context.request, found, "Lights", "Hall", "Kitchen", "Loft")
    page.reload()
    page.get_by_role("link", name="0/3 points of 1 Lights tested").click()
    cell(page, "Hall, Zs here").click()
    for row in (("0.51", "231", "230", "1"), ("0.62", "231", "230", "1"), ("0.80", "230", "231", "0")):
        for text in row:
            page.keyboard.type(text)
            page.keyboard.press("Enter")
    page.get_by_role("main").get_by_role("button", name="Record 0.80 Ω").click()
    all_kept(page)
    page.get_by_role("button", name="All circuits").click()
    expect(cell(page, "1 Lights, Zs Ω")).to_have_value("0.80")
    expect(page.get_by_role("link", name="3/3 points of 1 Lights tested")).to_be_visible()
