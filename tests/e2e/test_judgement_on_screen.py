"""What the rules say, on the screens: one device for many circuits, the rule behind a verdict, one voice, next date."""

from playwright.sync_api import expect

from tests.e2e.walk import all_kept, board, cell, choose, fill, pad, stage


def test_an_rcd_is_entered_once_and_tested_once_for_all_behind_it(at_work):
    page = at_work("Radial sockets", "Cooker")
    page.get_by_role("button", name="+ RCD for some ways").click()
    ways = page.get_by_role("group", name="Ways behind RCD 1")
    ways.get_by_role("button", name="1 Sockets").click()
    ways.get_by_role("button", name="2 Cooker").click()
    expect(ways.get_by_role("button", pressed=True)).to_have_count(2)
    all_kept(page)
    stage(page, "Live tests")
    devices = page.get_by_label("Residual current devices")
    expect(devices.get_by_text("ways 1, 2")).to_be_visible()
    trip = cell(page, "RCD 1, Trip ms")
    trip.click()
    page.keyboard.type(">300")
    page.keyboard.press("Enter")
    margin = page.get_by_label("Margin", exact=True)
    expect(margin.get_by_text("longer than the 300 ms allowed")).to_be_visible()
    all_kept(page)
    # One observation for the device, and none for each of its circuits.
    stage(page, "Observations")
    expect(page.get_by_role("button", name="Record: ")).to_have_count(1)
    # After it was put right the figure passes and nothing is raised.
    stage(page, "Live tests")
    cell(page, "RCD 1, Trip ms").fill("24")
    page.keyboard.press("Enter")
    all_kept(page)
    stage(page, "Observations")
    expect(page.get_by_role("button", name="Record: ")).to_have_count(0)


def test_the_rule_behind_a_verdict_opens_from_the_margin_and_closes_with_the_focus_kept(at_work):
    page = at_work("Cooker", stage="Live tests")
    zs = cell(page, "1 Cooker, Zs Ω")
    zs.click()
    page.keyboard.type("3.10")
    page.keyboard.press("Enter")
    zs.click()
    margin = page.get_by_label("Margin", exact=True)
    margin.get_by_role("button", name="Rule 7.1").first.click()
    rule = page.get_by_role("dialog", name="Rule 7.1")
    # The formula and its factor, as the rules have them.
    expect(rule.get_by_text("0.95").first).to_be_visible()
    page.keyboard.press("Escape")
    expect(rule).to_have_count(0)
    expect(zs).to_have_value("3.10")


def test_a_ring_that_is_open_is_one_statement_with_what_follows_under_it(at_work):
    page = at_work("Ring sockets", stage="Dead tests")
    cell(page, "1 Sockets, Line end–end Ω").click()
    pad(page, "OL")
    for label, typed in (("Neutral", "0.46"), ("Cpc", "0.76")):
        cell(page, f"1 Sockets, {label} end–end Ω").click()
        page.keyboard.type(typed)
        page.keyboard.press("Enter")
    all_kept(page)
    stage(page, "Observations")
    # The open ring, and that its sockets have no RCD: two causes, two voices.
    expect(page.get_by_role("button", name="Record: Ring open in a conductor")).to_have_count(1)
    expect(page.get_by_role("button", name="Record: ")).to_have_count(2)


def test_a_next_date_is_proposed_with_its_reason_and_taken_in_one_tap(at_work):
    page = at_work()
    choose(page, "tenure", "let dwelling")
    board(page, "Cooker")
    stage(page, "Report")
    page.get_by_role("button", name="Take 5 years").click()
    expect(page.get_by_role("button", name="Take 5 years")).to_have_count(0)
    all_kept(page)
    # Ten years for a let dwelling does not go without a word.
    fill(page, "Next inspection in (years)", "10")
    expect(page.get_by_text("5 are the most that is usual").first).to_be_visible()
