"""The server goes away while somebody works: the page is loaded again and the work goes on; later all of it arrives."""

import re

from playwright.sync_api import expect

from dorrik.store.people import people, sessions
from tests.conftest import PASSWORD
from tests.e2e.on_device import kept_on_the_device, nothing_to_read, on_the_device
from tests.e2e.walk import all_kept, cell, hold_polls, sign_out, stage


def test_a_reload_shows_what_was_open_and_the_work_goes_on(at_work, place):
    page = at_work("Cooker", stage="Dead tests", base=place.base, on_device=True)
    figure = cell(page, "1 Cooker, R1+R2 Ω")
    figure.click()
    page.keyboard.type("0.31")
    page.keyboard.press("Enter")
    all_kept(page)
    kept_on_the_device(page)
    # The open inspection is kept in a calm moment after each figure.
    page.wait_for_timeout(2000)
    nothing_to_read(page, "0.31", "Lookout Row", "Ines Pector")

    place.down()
    figure.click()
    page.keyboard.type("0.12")
    page.keyboard.press("Enter")
    expect(page.get_by_text("1 to send")).to_be_visible()
    page.reload()
    # As it stood, with its verdicts, with what was typed since, and with what is not known said.
    expect(page.get_by_text("The server cannot be reached.")).to_be_visible()
    expect(figure).to_have_value("0.12")
    margin = page.get_by_label("Margin")
    expect(margin.get_by_text("One entry is not judged yet.")).to_be_visible()
    expect(margin.get_by_text("No notes.")).to_have_count(0)
    # Days stand as people write them.
    expect(page.get_by_text(re.compile(r"\d{4}-\d\d-\d\d"))).to_have_count(0)
    page.get_by_role("textbox", name="1 Cooker, L–N MΩ", exact=True).click()
    page.keyboard.type(">500")
    page.keyboard.press("Enter")
    expect(page.get_by_text("2 to send")).to_be_visible()
    # Another stage, which was not open before, is on the device too.
    stage(page, "Intake")
    expect(page.get_by_role("heading", level=1)).to_be_visible()
    # From home the inspection is found again.
    page.goto(place.base)
    page.get_by_role("link", name="7 Lookout Row").click()
    stage(page, "Dead tests")
    expect(figure).to_have_value("0.12")

    place.up()
    all_kept(page)
    expect(page.get_by_text("The server cannot be reached.")).to_have_count(0)
    page.reload()
    expect(figure).to_have_value("0.12")
    expect(cell(page, "1 Cooker, L–N MΩ")).to_have_value(">500")


def test_nobody_else_is_shown_what_was_open_after_signing_out(at_work, place):
    page = at_work(base=place.base, on_device=True)
    all_kept(page)
    address = page.url
    kept_on_the_device(page)
    page.goto(place.base)
    page.get_by_role("button", name="your account").click()
    page.get_by_role("menuitem", name="Sign out").click()
    expect(page.get_by_label("Password")).to_be_visible()
    place.down()
    page.goto(address)
    expect(page.get_by_text("The server cannot be reached.")).to_be_visible()
    expect(page.get_by_text("7 Lookout Row")).to_have_count(0)


def test_signing_out_without_a_server_forgets_at_once_and_ends_the_session_later(at_work, place):
    page = at_work(base=place.base, on_device=True)
    all_kept(page)
    address = page.url
    kept_on_the_device(page)
    page.goto(place.base)
    expect(page.get_by_role("heading", name="In progress")).to_be_visible()
    place.down()
    sign_out(page)
    expect(page.get_by_text("You are signed out on this device.")).to_be_visible()
    on_the_device(page, "dorrik.answers", "answers", lambda rows: rows == [])
    # Nor does what was on its way, or waited for a calm moment, write anything down afterwards.
    page.wait_for_timeout(2000)
    on_the_device(page, "dorrik.answers", "answers", lambda rows: rows == [])
    # Neither a reload nor the address of what was open brings anything back.
    page.goto(address)
    expect(page.get_by_text("You are signed out on this device.")).to_be_visible()
    expect(page.get_by_text("7 Lookout Row")).to_have_count(0)
    place.up()
    # The browser still has its cookie, and nobody is asked who that was: the server is told first.
    page.reload()
    expect(page.get_by_label("Password")).to_be_visible()
    expect(page.get_by_text("You are signed out on this device.")).to_have_count(0)
    assert page.context.request.get(f"{place.base}/api/session").json() is None


def test_what_waits_is_asked_about_and_goes_when_its_author_is_back(at_work, place, firm):
    page = at_work("Cooker", stage="Dead tests", base=place.base, on_device=True)
    all_kept(page)
    kept_on_the_device(page)
    place.down()
    figure = cell(page, "1 Cooker, R1+R2 Ω")
    figure.click()
    page.keyboard.type("0.12")
    page.keyboard.press("Enter")
    expect(page.get_by_text("1 to send")).to_be_visible()
    address = page.url
    page.goto(place.base)
    sign_out(page)
    question = page.get_by_role("dialog")
    expect(question.get_by_text("One entry has not reached the server.")).to_be_visible()
    question.get_by_role("button", name="Stay signed in").click()
    expect(page.get_by_text("You are signed out on this device.")).to_have_count(0)
    sign_out(page)
    question.get_by_role("button", name="Sign out, keep them here").click()
    expect(page.get_by_text("You are signed out on this device.")).to_be_visible()
    on_the_device(page, "dorrik", "pending", lambda rows: len(rows) == 1)
    nothing_to_read(page, "0.12")
    place.up()
    page.get_by_label("Email").fill(firm.inspector_email)
    page.get_by_label("Password").fill(PASSWORD)
    page.get_by_role("button", name="Sign in").click()
    expect(page.get_by_role("heading", name="In progress")).to_be_visible()
    on_the_device(page, "dorrik", "pending", lambda rows: rows == [])
    page.goto(address)
    expect(figure).to_have_value("0.12")


def test_a_session_that_was_ended_elsewhere_leaves_nothing_to_be_looked_at(at_work, place, firm, engine):
    page = at_work("Cooker", stage="Dead tests", base=place.base, on_device=True)
    all_kept(page)
    kept_on_the_device(page)
    hold_polls(page)
    with engine.begin() as connection:
        sessions.end_all(connection, people.by_address(connection, firm.inspector_email).id)
    # The next contact, whatever it is about.
    figure = cell(page, "1 Cooker, R1+R2 Ω")
    figure.click()
    page.keyboard.type("0.12")
    page.keyboard.press("Enter")
    expect(page.get_by_role("dialog").get_by_text("Your session has ended.")).to_be_visible()
    on_the_device(page, "dorrik.answers", "answers", lambda rows: rows == [])
    # What was typed waits for who typed it.
    on_the_device(page, "dorrik", "pending", lambda rows: len(rows) == 1)
    place.down()
    page.reload()
    expect(page.get_by_text("The server cannot be reached.")).to_be_visible()
    expect(page.get_by_text("7 Lookout Row")).to_have_count(0)


def test_a_photo_taken_without_a_server_arrives_from_whichever_screen_is_open(at_work, place):
    page = at_work("Cooker", base=place.base, on_device=True)
    kept_on_the_device(page)
    place.down()
    picture = page.screenshot()
    page.get_by_label("Photo of the chart").first.set_input_files(
        {"name": "chart.png", "mimeType": "image/png", "buffer": picture}
    )
    expect(page.get_by_text("a photo to send")).to_be_visible()
    # What makes it, what it is pinned to and shows, its name, and when it was taken.
    on_the_device(page, "dorrik", "pending", lambda rows: len(rows) == 6)
    # The tab is closed; next time somebody looks at something else altogether.
    page.close()
    place.up()
    again = page.context.new_page()
    with again.expect_response(lambda answer: "/photos/" in answer.url and answer.request.method == "PUT") as sent:
        again.goto(f"{place.base}/clients")
    assert sent.value.ok
    again.goto(place.base)
    again.get_by_role("link", name="7 Lookout Row").first.click()
    stage(again, "Boards")
    expect(again.get_by_role("button", name="Open photo of the chart")).to_be_visible()
    expect(again.get_by_text("a photo to send")).to_have_count(0)
