"""Loop impedances as bars against their limits."""

from playwright.sync_api import expect

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
