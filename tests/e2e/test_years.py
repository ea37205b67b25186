"""Parts and their years: offered from what was entered, taken by a tap, drawn, and held against their own edition."""

from playwright.sync_api import expect

from tests.e2e.walk import all_kept


def test_a_circuit_of_new_colours_has_its_years_taken_and_drawn(at_work):
    page = at_work("Cooker", "Lights", stage="Boards")
    page.get_by_role("button", name="more about 1 Cooker").click()
    page.locator("[data-field=core_colours]").get_by_role("button", name="brown and blue", exact=True).click()
    parts = page.get_by_role("list", name="Parts and their years")
    parts.get_by_role("button", name="Take for 1 Cooker: Brown and blue cores: not fitted before 2004").click()
    expect(parts).to_contain_text("1 Cooker 2004 or later")
    all_kept(page)
    # Evidence against it is told, and nothing rests on either.
    page.get_by_text("Add evidence").click()
    page.get_by_label("Of which part").select_option(label="1 Cooker")
    page.get_by_label("Not after").last.fill("1999")
    page.get_by_role("button", name="Save evidence").click()
    expect(parts).to_contain_text("evidence does not agree")
    expect(page.get_by_label("Margin", exact=True)).to_contain_text("leaves no year")
    all_kept(page)
