"""One intake for two flats: entered once, one call and one letter, both held, overdue on Home, and apart again."""

from datetime import UTC, datetime, timedelta
from io import BytesIO
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect
from pypdf import PdfReader

from tests.e2e import seeding
from tests.e2e.walk import all_kept, cell, fill


@pytest.fixture
def flats(at_work):
    """A flat at its intake, and the flat next door: page, this inspection, the other one."""
    page = at_work("Cooker", stage="Intake")
    here = page.url.split("/inspection/")[1].split("/")[0]
    request = page.context.request
    there = seeding.inspection(request, "Cooker")
    for inspection, address in ((here, "Flat 1, 3 Lookout Row"), (there, "Flat 2, 3 Lookout Row")):
        told = [seeding.change("inspection", inspection, "property_address", address)]
        assert request.post(f"/api/inspections/{inspection}/changes", data={"changes": told}).ok
    page.reload()
    return page, here, there


def shared(page: Page):
    return page.get_by_role("region", name="Shared supply")


def share(page: Page) -> None:
    shared(page).get_by_text("Share with another home").click()
    shared(page).get_by_role("button", name="Flat 2, 3 Lookout Row", exact=False).click()


def values(page: Page, inspection: str) -> dict:
    whole = page.context.request.get(f"/api/inspections/{inspection}").json()
    return next(entity["values"] for entity in whole["entities"] if entity["id"] == inspection)


def test_one_letter_both_held_and_overdue_next_day(flats):
    page, here, there = flats
    share(page)
    expect(shared(page).get_by_role("list", name="Homes that share the supply")).to_contain_text("Flat 2")
    page.get_by_role("group", name="Earthing arrangement").get_by_role("button", name="TN-S", exact=True).click()
    cell(page, "Ze").click()
    page.keyboard.type("12.2")
    page.keyboard.press("Enter")
    all_kept(page)
    assert values(page, there)["ze_ohm"] == "12.2"
    page.get_by_role("group", name="Called now about").get_by_role("button", name="Earth of the supply").click()
    call = page.get_by_role("article", name="Call about Earth of the supply")
    call.get_by_label("Their reference", exact=True).fill("48-221")
    call.get_by_label("Their reference", exact=True).blur()
    call.get_by_role("button", name="in 24 hours").click()
    call.get_by_role("button", name="Put all homes on hold").click()
    all_kept(page)
    with page.expect_download() as download:
        call.get_by_role("button", name="Print letter").click()
    pdf = PdfReader(BytesIO(Path(download.value.path()).read_bytes()))
    text = " ".join("".join(page.extract_text() for page in pdf.pages).split())
    assert "Flat 1, 3 Lookout Row" in text and "The same supply feeds Flat 2, 3 Lookout Row" in text
    assert values(page, there)["held_reason"] == values(page, here)["held_reason"]
    # The next day: the hour that they promised has gone by.
    late = (datetime.now(UTC) - timedelta(hours=2)).isoformat().replace("+00:00", "Z")
    whole = page.context.request.get(f"/api/inspections/{here}").json()
    key = next(entity["id"] for entity in whole["entities"] if entity["kind"] == "operator_call")
    told = [seeding.change("operator_call", key, "promised_by", late)]
    page.context.request.post(f"/api/inspections/{here}/changes", data={"changes": told})
    page.goto("/")
    for flat in ("Flat 1, 3 Lookout Row", "Flat 2, 3 Lookout Row"):
        expect(page.get_by_role("listitem").filter(has_text=flat).filter(has_text="48-221").first).to_be_visible()


def test_homes_that_disagree_are_asked_field_by_field_and_taken_apart_with_undo(flats):
    page, here, there = flats
    request = page.context.request
    for inspection, amperes in ((here, 100), (there, 60)):
        told = [seeding.change("inspection", inspection, "service_fuse_a", amperes)]
        assert request.post(f"/api/inspections/{inspection}/changes", data={"changes": told}).ok
    page.reload()
    share(page)
    asked = shared(page).get_by_role("group", name="Service fuse: 100 A or 60 A", exact=False)
    expect(shared(page).get_by_role("button", name="Share: 1 to choose")).to_be_disabled()
    asked.get_by_role("button", name="The other home's").click()
    shared(page).get_by_role("button", name="Share", exact=True).last.click()
    expect(shared(page).get_by_role("list", name="Homes that share the supply")).to_contain_text("Flat 2")
    assert values(page, here)["service_fuse_a"] == 60
    page.get_by_role("button", name="Service head", exact=False).first.click()
    expect(page.get_by_text("Shared with K-", exact=False).first).to_be_visible()
    # Taken apart: each keeps what it has, and a slip of the finger is undone.
    shared(page).get_by_role("button", name="Remove this home").click()
    expect(shared(page).get_by_text("Share with another home")).to_be_visible()
    page.get_by_role("button", name="Undo", exact=True).click()
    expect(shared(page).get_by_role("list", name="Homes that share the supply")).to_contain_text("Flat 2")
    fill(page, "Service fuse (A)", "80")
    all_kept(page)
    assert values(page, there)["service_fuse_a"] == 80
