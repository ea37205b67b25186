"""Letters that did not arrive are shown and sent again; help by its key; work exported and imported."""

import io
import zipfile

import pytest
from playwright.sync_api import expect

from dorrik.core.inspection import document
from tests.conftest import PASSWORD, Firm
from tests.core.homes import cottage
from tests.e2e.test_accessibility import look  # noqa: F401
from tests.e2e.walk import fill


@pytest.fixture
def desk(look, firm: Firm):  # noqa: F811
    """A supervisor's desk, with what looks for barriers."""
    page = look.page
    assert page.context.request.post("/api/session", data={"email": firm.supervisor_email, "password": PASSWORD}).ok
    return page, look


def test_help_opens_by_its_key_and_finds_a_word_and_a_rule(desk):
    page, look = desk  # noqa: F811
    page.goto("/")
    page.get_by_role("heading", name="In progress").wait_for()
    page.keyboard.press("?")
    help_here = page.get_by_role("dialog", name="Help")
    expect(help_here.get_by_text("stages in their order")).to_be_visible()
    look("keys")
    help_here.get_by_role("tab", name="Words").click()
    fill(page, "Find a word", "long lead")
    expect(help_here.get_by_text("the cpc alone, from the board to a point")).to_be_visible()
    expect(help_here.get_by_text("danger present")).to_have_count(0)
    look("words")
    help_here.get_by_role("tab", name="Verdicts and rules").click()
    expect(help_here.get_by_text("worth a look; no failure and no code by itself")).to_be_visible()
    fill(page, "Find a rule", "11.1")
    page.get_by_role("button", name="11.1 ").first.click()
    expect(page.get_by_role("dialog", name="Rule 11.1")).to_be_visible()
    page.keyboard.press("Escape")
    page.keyboard.press("Escape")
    # In a field a question mark is a question mark.
    page.get_by_label("Find").fill("?")
    expect(page.get_by_role("dialog")).to_have_count(0)


def test_an_inspection_is_exported_and_imported(desk):
    page, look = desk  # noqa: F811
    page.goto("/firm/keeping")
    packed = io.BytesIO()
    with zipfile.ZipFile(packed, "w") as made:
        import json

        made.writestr("inspection.json", json.dumps(document.write(document.parse(cottage()))))
    archive = {"name": "home.zip", "mimeType": "application/zip", "buffer": packed.getvalue()}
    page.get_by_label("Archive to import").set_input_files(archive)
    expect(page.get_by_text("1 inspection, 0 entries of the register")).to_be_visible()
    look("import")
    page.get_by_label("Archive to import").set_input_files(archive | {"buffer": b"PK no archive"})
    expect(page.get_by_text("neither an archive (ZIP)")).to_be_visible()
    with page.expect_download() as taken:
        page.get_by_role("link", name="Export everything (ZIP)").click()
    names = zipfile.ZipFile(taken.value.path()).namelist()
    assert "firm.json" in names and sum(name.endswith("inspection.json") for name in names) == 1


def test_without_mail_the_lists_say_what_stands_there(desk):
    page, look = desk  # noqa: F811
    page.goto("/letters")
    expect(page.get_by_text("No letter yet")).to_be_visible()
    look("letters")
    page.get_by_role("button", name="Not arrived").click()
    expect(page.get_by_text("Every letter has arrived")).to_be_visible()
    page.goto("/to-put-right")
    expect(page.get_by_text("Nothing is open")).to_be_visible()
    look("to put right")
    page.goto("/firm/mail")
    page.get_by_role("button", name="Server of our own").click()
    fill(page, "Server", "mail.test.example")
    page.get_by_role("button", name="Save mail server").click()
    expect(page.get_by_text("Enter the address that your mails come from.").first).to_be_visible()
    fill(page, "Mail comes from", "desk@test.example")
    page.get_by_role("button", name="Save mail server").click()
    expect(page.get_by_text("Not tried yet: send a trial letter.")).to_be_visible()
    page.get_by_label("14 days").check(force=True)
    page.get_by_role("button", name="Save letters and numbers").click()
    expect(page.get_by_text("Saved.", exact=True)).to_be_visible()
    look("mail and numbers")
