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


def test_a_ring_of_new_colours_in_an_old_board_is_judged_apart_from_its_neighbours(at_work):
    """Rule 13.6: an addition is held against its own edition, its old neighbours against theirs."""
    page = at_work("Ring sockets", "Ring sockets", stage="Boards")
    parts = page.get_by_role("list", name="Parts and their years")
    page.get_by_text("Add evidence").click()
    page.get_by_label("Of which part").select_option(label="a part of the home …")
    page.get_by_label("Part of the home", exact=True).fill("Extension")
    page.get_by_label("Not before").last.fill("2012")
    page.get_by_label("Evidence", exact=True).last.fill("Building notice of 2012")
    page.get_by_role("button", name="Save evidence").click()
    # Said once, for every circuit of the extension.
    page.get_by_role("group", name="1 Sockets belongs to").get_by_role("button", name="Extension").click()
    expect(parts).to_contain_text("1 Sockets 2012 or later")
    all_kept(page)
    inspection = page.url.split("/inspection/")[1].split("/")[0]
    judged = page.request.get(f"/api/inspections/{inspection}").json()["judgement"]
    codes = {one["entity_id"]: one["code"] for one in judged["suggested"] if one["key"] == "rcd-missing-sockets"}
    assert sorted(codes.values()) == ["C2", "C3"], codes
