"""Things to come back to: left with a tap, in sight, shown before leaving and issuing, ended by a tap."""

from playwright.sync_api import expect

from tests.e2e.walk import all_kept, cell, fill, stage


def later(page, *words):
    page.get_by_title("Leave what is in focus for later").click()
    for word in words:
        page.get_by_role("button", name=word, exact=True).click()
    page.get_by_role("button", name="Save").click()


def listed(page):
    page.get_by_role("button", name="to come back to").click()
    return page.get_by_role("list", name="To come back to")


def test_a_figure_and_a_board_are_left_found_again_and_ended(at_work):
    page = at_work("Cooker", "Lights", stage="Dead tests")
    cell(page, "2 Lights, R1+R2 Ω").click()
    later(page, "Measure again")
    stage(page, "Walk-round")
    page.keyboard.press("c")
    page.get_by_label("What is still to do").fill("key at two o'clock")
    page.keyboard.press("Enter")
    all_kept(page)
    # Nothing of it is lost with the page.
    page.reload()
    things = listed(page)
    expect(things.get_by_role("listitem")).to_have_count(2)
    expect(things.get_by_role("listitem").nth(0)).to_contain_text("key at two o'clock")
    expect(things.get_by_role("listitem").nth(1)).to_contain_text("2 Lights: R1+R2")
    things.get_by_role("button", name="2 Lights: R1+R2: go there").click()
    expect(cell(page, "2 Lights, R1+R2 Ω")).to_be_focused()
    # One becomes a limitation with its reason and with whom that was agreed, the other is done.
    things = listed(page)
    things.get_by_role("button", name="Walk-round: limitation").click()
    things.get_by_role("button", name="No access today").click()
    things.get_by_label("Agreed with").fill("Hester Vane")
    things.get_by_role("button", name="Save limitation").click()
    expect(things.get_by_role("listitem")).to_have_count(1)
    things.get_by_role("button", name="2 Lights: R1+R2: done").click()
    expect(page.get_by_text("Nothing is left open.")).to_be_visible()
    page.get_by_role("button", name="Undo").first.click()
    expect(things.get_by_role("listitem")).to_have_count(1)
    page.keyboard.press("Escape")
    all_kept(page)
    stage(page, "Brief")
    expect(page.get_by_label("Left out", exact=True)).to_have_value("Walk-round: key at two o'clock")
    expect(page.get_by_label("Agreed with", exact=True)).to_have_value("Hester Vane")


def test_it_is_shown_before_leaving_and_a_finding_becomes_an_observation(at_work):
    page = at_work("Cooker", stage="Brief")
    page.get_by_role("button", name="Record arrival").click()
    stage(page, "Dead tests")
    cell(page, "1 Cooker, R1+R2 Ω").click()
    page.get_by_title("Leave what is in focus for later").click()
    fill(page, "What is still to do", "outlet is warm")
    page.get_by_role("button", name="Save").click()
    stage(page, "Brief")
    page.get_by_role("button", name="Record departure").click()
    reminder = page.get_by_role("region", name="To come back to before you leave")
    expect(reminder).to_contain_text("outlet is warm")
    expect(page.get_by_text("still here")).to_be_visible()
    reminder.get_by_role("button", name="1 Cooker: R1+R2: observation").click()
    expect(reminder).to_have_count(0)
    page.get_by_role("button", name="Record departure").click()
    expect(page.get_by_text("still here")).to_have_count(0)
    stage(page, "Observations")
    expect(page.get_by_role("list", name="Recorded")).to_contain_text("outlet is warm")


def test_what_lies_under_a_cover_is_shown_before_that_cover_goes_on(at_work):
    page = at_work("Cooker", stage="Boards")
    stage(page, "Dead tests")
    cell(page, "1 Cooker, R1+R2 Ω").click()
    later(page, "Look closer")
    stage(page, "Isolation")
    page.get_by_role("button", name="Begin: tester proved now").click()
    expect(page.get_by_role("region", name="To come back to before the cover goes on")).to_contain_text("Look closer")


def test_what_people_ask_about_is_answered_and_stops_the_report_until_then(at_work):
    page = at_work("Cooker", stage="Brief")
    page.get_by_role("button", name="Add a question").click()
    fill(page, "What they ask about", "Lights dim with the kettle")
    expect(page.get_by_text("Not answered yet.")).to_be_visible()
    all_kept(page)
    stage(page, "Report")
    expect(page.get_by_role("link", name="“Lights dim with the kettle”: say what was found.")).to_be_visible()
    stage(page, "Brief")
    fill(page, "What was found", "Loose neutral at the main switch, tightened")
    all_kept(page)
    stage(page, "Report")
    expect(page.get_by_role("status").get_by_text("Saved", exact=True)).to_be_visible()
    expect(page.get_by_role("link", name="“Lights dim with the kettle”: say what was found.")).to_have_count(0)
