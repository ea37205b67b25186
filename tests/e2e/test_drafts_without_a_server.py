"""Drafts that a device makes by itself: the report as it stands, and letters, while nothing answers."""

import hashlib
import io
import re

import pytest
from PIL import Image
from playwright.sync_api import Page, expect

from tests.e2e import seeding
from tests.e2e.on_device import SET, kept_on_the_device, on_the_device, packed, warm
from tests.e2e.walk import all_kept, cell, stage


def drawn(page: Page, within=None) -> list[dict[str, float]]:
    """The pages of a draft as they were drawn: width and height of each (points)."""
    first = (within or page).get_by_role("img", name="Page 1 of the draft")
    expect(first).to_be_visible(timeout=SET)
    page.wait_for_function("image => image.complete && image.naturalWidth > 0", arg=first.element_handle())
    return page.evaluate(
        """() => [...document.querySelectorAll('img[alt^="Page "]')].map((image) => {
               image.loading = 'eager';
               return image.decode().then(() => ({ width: image.naturalWidth, height: image.naturalHeight }));
           }).reduce(async (all, one) => [...(await all), await one], [])"""
    )


def served(page: Page, base: str, inspection: str) -> list[dict[str, float]]:
    """The pages of the same draft as the server sets them."""
    answer = page.context.request.get(f"{base}/api/inspections/{inspection}/preview")
    assert answer.ok, answer.text()
    return answer.json()["pages"]


def alike(these: list[dict[str, float]], those: list[dict[str, float]]) -> bool:
    """As many pages, each of the same size; whole points on a device."""
    return [side for page in these for side in page.values()] == pytest.approx(
        [side for page in those for side in page.values()], abs=1
    )


def test_the_report_is_drafted_without_a_server_page_by_page_as_the_server_sets_it(at_work, place):
    page = at_work("Cooker", "Shower", stage="Report", base=place.base, on_device=True, rules=True)
    all_kept(page)
    warm(page)
    kept_on_the_device(page)
    inspection = page.url.split("/inspection/")[1].split("/")[0]
    seeding.add(
        page.context.request, inspection, "observation", "inspection", inspection,
        text="Live parts can be touched", code="C1", place="Hall",
    )  # fmt: skip
    work = page.url
    pages = served(page, place.base, inspection)
    packed(page, place.base)
    page.goto(work)
    warm(page)
    expect(page.get_by_role("img", name="Page 1 of the draft")).to_be_visible(timeout=SET)
    place.down()
    # Something is entered after the server went: the draft has it.
    stage(page, "Dead tests")
    cell(page, "1 Cooker, R1+R2 Ω").click()
    page.keyboard.type("0.31")
    page.keyboard.press("Enter")
    expect(page.get_by_text("1 to send")).to_be_visible()
    stage(page, "Report")
    expect(page.get_by_text("Made on this device from what is here")).to_be_visible(timeout=SET)
    assert alike(drawn(page), pages)
    # What stands in the way is told by the device's own rules.
    expect(page.get_by_text("The report needs the client's name.")).to_be_visible()
    # A page that was loaded anew makes it again.
    page.reload()
    warm(page)
    assert len(drawn(page)) == len(pages)

    # The notice of the danger, to be read out and shown on the spot.
    stage(page, "Observations")
    page.get_by_text("Live parts can be touched").first.click()
    page.get_by_role("button", name="Print the notice").click()
    notice = page.get_by_role("dialog")
    expect(notice.get_by_text("Nothing is sent")).to_be_visible()
    assert len(drawn(page, notice)) == 1
    notice.get_by_role("button", name="Close").click()

    place.up()
    all_kept(page)
    expect(page.get_by_role("link", name="Print the notice")).to_have_attribute("href", re.compile("notice.pdf$"))


def red(picture: bytes) -> int:
    """So many points of a picture are plainly red."""
    image = Image.open(io.BytesIO(picture)).convert("RGB")
    return sum(count for count, (r, g, b) in image.getcolors(1 << 24) or () if r > 180 and g < 70 and b < 70)


def test_photos_and_letters_of_a_job_are_in_the_drafts_too(signed_in, place):
    page = signed_in(base=place.base, on_device=True, rules=True)
    request = page.context.request
    job = seeding.job(request, "Una Mole", address="5 Signal Steps, Kelder Haven", occupier_name="Wyn Capstan")
    inspection = seeding.inspection(request, "Cooker")
    observation = seeding.add(
        request, inspection, "observation", "inspection", inspection, text="Cover broken", code="C2", place="Hall"
    )
    out = io.BytesIO()
    Image.new("RGB", (400, 300), (230, 20, 20)).save(out, "JPEG")
    sha256 = hashlib.sha256(out.getvalue()).hexdigest()
    assert request.put(f"/api/inspections/{inspection}/photos/{sha256}", data=out.getvalue()).ok
    seeding.add(
        request, inspection, "photo", "inspection", inspection,
        about_entity="observation", about_id=observation, shows="defect", print_size="large", sha256=sha256,
        marks=[{"kind": "blur", "x": 0.4, "y": 0.4, "x2": 0.6, "y2": 0.6}],
    )  # fmt: skip
    packed(page, place.base)
    seeding.open_at(page, inspection, "Report")
    warm(page)
    # What was there without the day's bag is there with it.
    page.goto(f"{place.base}/job/{job}")
    expect(page.get_by_role("heading", name="Letters")).to_be_visible()
    on_the_device(page, "dorrik.answers", "answers", lambda rows: f"letters/{job}" in {row["name"] for row in rows})
    place.down()

    page.goto(f"{place.base}/inspection/{inspection}/report")
    warm(page)
    pages = drawn(page)
    pictures = [
        page.get_by_role("img", name=f"Page {number} of the draft").screenshot() for number in range(1, len(pages) + 1)
    ]
    assert max(map(red, pictures)) > 5000

    page.goto(f"{place.base}/job/{job}")
    page.get_by_role("button", name="Power-off notice for the occupier").click()
    assert len(drawn(page, page.get_by_role("dialog"))) == 1
