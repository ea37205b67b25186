"""Repairs of one's own on site: as found, tested again, and a certificate with nothing typed twice."""

from io import BytesIO

from playwright.sync_api import expect
from pypdf import PdfReader

from tests.e2e.walk import all_kept, cell, stage


def read(page, *figures):
    """Figures one after another, as the pad leads on."""
    for figure in figures:
        page.keyboard.type(figure)
        page.keyboard.press("Enter")


def observe(page, text, code):
    page.get_by_label("Stages of the inspection").get_by_role("button", name="Observation").click()
    page.get_by_label("What was found").fill(text)
    page.get_by_role("group", name="Code").get_by_role("button", name=code).click()
    page.get_by_role("button", name="Record it").click()


def test_from_a_finding_to_its_certificate(at_work):
    page = at_work("Cooker", "Lights", stage="Dead tests")
    cell(page, "1 Cooker, R1+R2 Ω").click()
    read(page, "0.14", ">500", ">500", "y")
    cell(page, "1 Cooker, R1+R2 Ω").click()
    observe(page, "Terminal loose", "C2")
    all_kept(page)
    stage(page, "Observations")
    taps = 0

    def tap(name, **more):
        nonlocal taps
        page.get_by_role("button", name=name, **more).click()
        taps += 1

    tap("Own repair …")
    tap("Joint or terminal remade")
    repair = page.get_by_role("article", name="Own repair: Joint or terminal remade")
    expect(repair).to_contain_text("To be tested again: R1+R2")
    tap("Keep as found, test again")
    # What was read before stands as found; its fields are free.
    expect(repair).to_contain_text("0.14 Ω")
    expect(repair.get_by_role("button", name="Certificate: 4 to do")).to_be_disabled()
    repair.get_by_role("button", name="correct", exact=True).click()
    for label, figure in (("R1+R2", "0.12"), ("Insulation L+N–E", ">500"), ("Zs", "0.35")):
        repair.get_by_label(label, exact=True).click()
        page.keyboard.type(figure)
        page.keyboard.press("Enter")
    expect(repair.get_by_text("Still to do")).to_have_count(0)
    all_kept(page)
    draft = page.request.get(repair.get_by_role("link", name="Look at draft").get_attribute("href"))
    words = " ".join("".join(p.extract_text() for p in PdfReader(BytesIO(draft.body())).pages).split())
    for said in ("Minor works certificate", "Terminal loose (C2)", "0.14 Ω", "0.12 Ω", "1 Cooker", "Draft"):
        assert said in words, said
    tap("Issue certificate")
    tap("Sign and issue")
    expect(repair.get_by_text("-M1 is issued")).to_be_visible()
    # Counted, beside the readings: no more than twelve.
    assert taps <= 12
    expect(page.get_by_role("list", name="Recorded")).to_contain_text("put right on the day")


def test_a_repair_that_is_taken_back_leaves_what_was_found(at_work):
    page = at_work("Cooker", stage="Dead tests")
    cell(page, "1 Cooker, R1+R2 Ω").click()
    read(page, "0.14")
    cell(page, "1 Cooker, R1+R2 Ω").click()
    observe(page, "Breaker too large", "C2")
    stage(page, "Observations")
    page.get_by_role("button", name="Own repair …").click()
    page.get_by_role("button", name="Joint or terminal remade").click()
    page.get_by_role("button", name="Keep as found, test again").click()
    page.get_by_role("button", name="Remove repair: Joint or terminal remade").click()
    all_kept(page)
    stage(page, "Dead tests")
    expect(cell(page, "1 Cooker, R1+R2 Ω")).to_have_value("0.14")
