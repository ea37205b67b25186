"""The coding desk: questions, views, history, refusals, a blind second opinion, a danger told; photos marked and kept
through a broken line."""

import re
from io import BytesIO
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect
from pypdf import PdfReader

from tests.e2e.on_device import kept_on_the_device
from tests.e2e.walk import all_kept, cell, fill, stage
from tests.pictures import picture

PHOTO = {"name": "📷 " + "n" * 300 + ".jpg", "mimeType": "image/jpeg", "buffer": picture(1200, 900)}


def cracked(page: Page) -> None:
    """A cracked socket in a living room, recorded on the walk."""
    stage(page, "Walk-round")
    page.get_by_role("button", name="Living room", exact=True).click()
    page.get_by_role("group", name="Count and go on").get_by_role(
        "button", name=re.compile("One more socket, ")
    ).click()
    page.get_by_role("group", name="socket: looked at").get_by_role("button", name="Defect").click()
    page.get_by_role("button", name="Cracked plate").click()
    all_kept(page)


def desk(page: Page):
    return page.get_by_role("article", name=re.compile("Which code"))


@pytest.fixture
def page(at_work) -> Page:
    page = at_work()
    cracked(page)
    return page


def test_an_answer_moves_the_code_and_the_history_says_how_it_came_to_be(page):
    stage(page, "Observations")
    at = desk(page)
    at.get_by_role("group", name="Do children reach it, or is it a wet place?").get_by_role(
        "button", name="yes"
    ).click()
    expect(at.get_by_text("What is known leads to C2")).to_be_visible()
    # The inspector decides: the code stays as it is until a view is taken.
    codes = at.get_by_role("group", name="Code", exact=True)
    expect(codes.get_by_role("button", name="C3")).to_have_attribute("aria-pressed", "true")
    at.get_by_role("group", name="The three views").get_by_role("button", name=re.compile("^Stricter view: C2")).click()
    expect(codes.get_by_role("button", name="C2")).to_have_attribute("aria-pressed", "true")
    expect(at.get_by_label("Why C2")).to_have_value(re.compile("^Stricter view:"))
    all_kept(page)
    history = at.get_by_role("list", name="How the code came to be").get_by_role("listitem")
    expect(history).to_have_count(2)
    expect(history.first).to_contain_text("Written as C3 by Ines Pector")
    expect(history.last).to_contain_text("Changed to C2")


def test_a_suggestion_is_refused_with_its_reason_and_taken_up_again(at_work):
    page = at_work("Lights", stage="Dead tests")
    cell(page, "1 Lights, L+N–E MΩ").click()
    page.keyboard.type("0.4")
    page.keyboard.press("Enter")
    all_kept(page)
    stage(page, "Observations")
    expect(page.get_by_text("not decided: 1 suggestion not answered")).to_be_visible()
    page.get_by_role("button", name="Dismiss: Insulation below").click()
    page.get_by_label("Why it is not raised").fill(
        "A neon in the circuit; taken out and measured again at the next visit."
    )
    page.get_by_role("button", name="Dismiss", exact=True).click()
    page.get_by_text("1 refused, with the reason").click()
    expect(page.get_by_text("A neon in the circuit")).to_be_visible()
    page.get_by_role("button", name="Reopen").click()
    page.get_by_role("button", name="Record: Insulation below").click()
    expect(page.get_by_label("Recorded", exact=True).get_by_role("listitem")).to_have_count(1)
    expect(page.get_by_text("unsatisfactory")).to_be_visible()


def test_a_second_opinion_is_given_without_seeing_the_first_code(page, signed_in, firm):
    stage(page, "Observations")
    desk(page).get_by_role("button", name="Ask for a second opinion (your code stays hidden)").click()
    all_kept(page)
    other = signed_in(email=firm.supervisor_email)
    # In the inspection the code is covered as well.
    other.goto(page.url)
    expect(desk(other).get_by_text("You are asked for a second opinion.")).to_be_visible()
    expect(other.get_by_role("group", name="The three views")).to_have_count(0)
    other.goto(page.url.split("/inspection")[0] + "/opinions")
    expect(other.get_by_text("Living room, socket")).to_be_visible()
    expect(other.get_by_role("article").get_by_role("button", pressed=True)).to_have_count(0)
    other.get_by_role("group", name="Your code").get_by_role("button", name="C2").click()
    fill(other, "Why C2", "Within reach of a cot.")
    other.get_by_role("button", name="Give it").click()
    expect(other.get_by_text("Nothing waits")).to_be_visible()
    expect(other.get_by_role("row", name=re.compile("Ines Pector 1 0 %"))).to_be_visible()
    expect(desk(page).get_by_text("Second opinion, Sol Visor")).to_be_visible()
    expect(desk(page).get_by_text("Within reach of a cot.")).to_be_visible()


def test_a_danger_is_told_and_confirmed_in_writing(page):
    stage(page, "Observations")
    at = desk(page)
    at.get_by_role("group", name="Code", exact=True).get_by_role("button", name="C1").click()
    danger = page.get_by_role("region", name="Danger present")
    danger.get_by_role("button", name="Record: told now").click()
    fill(page, "Told to", "Hester Vane")
    danger.get_by_role("button", name="made safe", exact=True).click()
    fill(page, "With the consent of", "Hester Vane")
    all_kept(page)
    with page.expect_download() as download:
        danger.get_by_role("link", name="Print the notice").click()
    text = PdfReader(BytesIO(Path(download.value.path()).read_bytes())).pages[0].extract_text()
    assert "Danger at 7 Lookout Row" in text and "Hester Vane" in text and "Cracked plate" in text


def test_a_photo_is_marked_and_what_is_no_photo_is_told(page):
    stage(page, "Observations")
    at = desk(page)
    take = at.get_by_label("Photo as found", exact=True)
    take.set_input_files({"name": "x.jpg", "mimeType": "image/jpeg", "buffer": b"not a photo at all"})
    expect(at.get_by_text("x.jpg cannot be opened as a photo.")).to_be_visible()
    take.set_input_files([PHOTO] + [PHOTO | {"name": f"{n}.jpg", "buffer": picture(200 + n, 150)} for n in range(3)])
    expect(at.get_by_role("button", name="Open photo as found")).to_have_count(4)
    at.get_by_role("button", name="Open photo as found").first.click()
    at.get_by_role("button", name="Arrows, rings, numbers").click()
    sheet = page.get_by_role("application")
    box = sheet.get_by_role("img").bounding_box()
    page.mouse.move(box["x"] + box["width"] * 0.2, box["y"] + box["height"] * 0.2)
    page.mouse.down()
    page.mouse.move(box["x"] + box["width"] * 0.6, box["y"] + box["height"] * 0.5)
    page.mouse.up()
    page.get_by_text("make unreadable", exact=True).click()
    page.get_by_role("button", name="in the middle").click()
    expect(page.get_by_role("application", name=re.compile("2 marks"))).to_be_visible()
    page.get_by_role("button", name="Done").click()
    all_kept(page)
    inspection = re.search(r"/inspection/([^/?]+)", page.url)[1]
    found = page.request.get(f"{page.url.split('/inspection')[0]}/api/inspections/{inspection}").json()
    (marks,) = [e["values"]["marks"] for e in found["entities"] if e["kind"] == "photo" and e["values"].get("marks")]
    assert [mark["kind"] for mark in marks] == ["arrow", "blur"]
    arrow = marks[0]
    assert abs(arrow["x"] - 0.2) < 0.02 and abs(arrow["y2"] - 0.5) < 0.02


def test_photos_outlive_a_server_that_dies_and_a_tab_that_is_closed(at_work, place):
    page = at_work(base=place.base, on_device=True)
    cracked(page)
    kept_on_the_device(page)
    page.wait_for_timeout(1000)
    place.down()
    stage(page, "Observations")
    desk(page).get_by_label("Photo as found", exact=True).set_input_files(
        [PHOTO, PHOTO | {"buffer": picture(640, 480)}]
    )
    expect(desk(page).get_by_role("button", name="Open photo as found")).to_have_count(2)
    # Shown from the device while it waits.
    expect(desk(page).get_by_role("img").first).to_have_js_property("complete", True)
    expect(page.get_by_text(re.compile("to send"))).to_be_visible()
    url, context = page.url, page.context
    page.close()
    place.up()
    page = context.new_page()
    page.goto(url)
    all_kept(page)
    inspection = re.search(r"/inspection/([^/?]+)", url)[1]

    def arrived() -> int:
        whole = page.request.get(f"{place.base}/api/inspections/{inspection}").json()
        names = [e["values"]["sha256"] for e in whole["entities"] if e["kind"] == "photo"]
        at = f"{place.base}/api/inspections/{inspection}/photos"
        return sum(page.request.get(f"{at}/{name}?size=small").ok for name in names)

    for _ in range(60):
        if arrived() == 2:
            break
        page.wait_for_timeout(250)
    assert arrived() == 2
