"""The network operator from the intake, and whether there is room for what the client asks about."""

from io import BytesIO
from pathlib import Path

from playwright.sync_api import expect
from pypdf import PdfReader

from tests.e2e.walk import all_kept, fill


def test_a_call_its_letter_and_the_hold(at_work):
    page = at_work("Cooker", stage="Intake")
    page.get_by_role("group", name="Called now about").get_by_role("button", name="Seals broken or missing").click()
    call = page.get_by_role("article", name="Call about Seals broken or missing")
    call.get_by_label("Their reference", exact=True).fill("48-221")
    call.get_by_label("What was seen", exact=True).fill("Seal of the meter cut.")
    call.get_by_label("What was seen", exact=True).blur()
    all_kept(page)
    with page.expect_download() as download:
        call.get_by_role("button", name="Print letter").click()
    pdf = PdfReader(BytesIO(Path(download.value.path()).read_bytes()))
    text = " ".join("".join(p.extract_text() for p in pdf.pages).split())
    assert "Seals broken or missing" in text and "48-221" in text and "Seal of the meter cut." in text
    call.get_by_role("button", name="Put on hold").click()
    expect(page.get_by_text("On hold", exact=False).first).to_be_visible()
    call.get_by_role("button", name="Settled").click()
    expect(call.get_by_role("button", name="Settled")).to_have_attribute("aria-pressed", "true")
    all_kept(page)


def test_room_for_a_charge_point_is_told_with_its_sum(at_work):
    page = at_work("Cooker", "Lights", stage="Intake")
    room = page.get_by_role("region", name="Room for more")
    expect(room).to_contain_text("Enter the service fuse to compare.")
    page.get_by_role("button", name="Service head", exact=False).first.click()
    fill(page, "Service fuse (A)", "60")
    expect(room).to_contain_text("of 60 A")
    room.get_by_role("button", name="+ Charge point").click()
    expect(room).to_contain_text("Enter the current of the vehicle charge point.")
    fill(page, "Current (A)", "32")
    # 10 + 0.30 × 22 for the cooker, 0.66 × 6 for the lights, and all of the charge point.
    expect(room).to_contain_text("with a vehicle charge point of 32 A 52.6 A, of 60 A.")
    all_kept(page)
