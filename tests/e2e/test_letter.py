"""A supply whose earth is not what its operator declares: the margin offers the letter, on the firm's paper."""

from io import BytesIO
from pathlib import Path

from playwright.sync_api import expect
from pypdf import PdfReader

from tests.e2e.walk import all_kept, cell, choose


def test_high_ze_leads_to_the_letter(at_work):
    page = at_work(stage="Intake")
    choose(page, "earthing", "TN-C-S")
    cell(page, "Ze").click()
    page.keyboard.type("0.20")
    page.keyboard.press("Enter")
    letter = page.get_by_label("Margin", exact=True).get_by_role("link", name="Letter to the operator")
    expect(letter).to_have_count(0)
    cell(page, "Ze").click()
    page.keyboard.type("0.71")
    page.keyboard.press("Enter")
    expect(letter).to_be_visible()
    all_kept(page)
    with page.expect_download() as download:
        letter.click()
    text = PdfReader(BytesIO(Path(download.value.path()).read_bytes())).pages[0].extract_text()
    assert "0.71 Ω" in text and "7 Lookout Row" in text


def test_how_much_is_opened_is_asked_in_the_brief(at_work):
    page = at_work()
    choose(page, "records", "fair")
    choose(page, "condition_on_sight", "good")
    all_kept(page)
    page.reload()
    pressed = page.locator("[data-field=records] button[aria-pressed=true]")
    expect(pressed).to_have_text("fair")
