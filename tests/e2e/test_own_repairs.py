"""Repairs of one's own on site: as found, tested again, and a certificate with nothing typed twice."""

import re
from io import BytesIO

from playwright.sync_api import expect
from pypdf import PdfReader

from tests.e2e import seeding
from tests.e2e.walk import all_kept, cell, fill, stage


def read(page, *figures):
    """Figures one after another, as the pad leads on."""
    for figure in figures:
        page.keyboard.type(figure)
        page.keyboard.press("Enter")


def observe(page, text, code):
    page.get_by_label("Stages of the inspection").get_by_role("button", name="Add observation").click()
    page.get_by_label("What was found").fill(text)
    page.get_by_role("group", name="Code").get_by_role("button", name=code).click()
    page.get_by_role("button", name="Save observation").click()


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


def test_two_certificates_close_the_report(at_work):
    """A ring lowered from 32 A to 20 A, a socket put right: what each undoes is asked again, nothing is retyped."""
    page = at_work("Ring sockets", stage="Brief")
    inspection = page.url.split("/inspection/")[1].split("/")[0]
    page.goto("/")
    request = page.context.request
    whole = request.get(f"/api/inspections/{inspection}").json()
    ring = next(entity["id"] for entity in whole["entities"] if entity["kind"] == "circuit")
    socket = seeding.add(
        request, inspection, "point", "circuit", ring, name="Sink socket", kind="socket", polarity="incorrect"
    )
    read_before = {"r1_ohm": "0.36", "rn_ohm": "OL", "r2_ohm": "0.60", "polarity": "correct", "zs_ohm": "0.71"}
    told = [seeding.change("circuit", ring, field, value) for field, value in read_before.items()]
    assert request.post(f"/api/inspections/{inspection}/changes", data={"changes": told}).ok
    for key, text, entity, entity_id in (
        ("ring-open", "Neutral of the ring open", "circuit", ring),
        ("socket-polarity", "Sink socket reversed", "point", socket),
    ):
        words = {"text": text, "catalogue_key": key, "code": "C2", "about_entity": entity, "about_id": entity_id}
        seeding.add(request, inspection, "observation", "inspection", inspection, **words)
    seeding.open_at(page, inspection, "Observations")
    recorded = page.get_by_role("list", name="Recorded")

    def begin(observation, work):
        recorded.get_by_role("button", name=observation, exact=False).click()
        # Beside the one before, which has a button of the same words.
        desk = page.get_by_role("article", name=f"Which code: {observation}")
        desk.get_by_role("button", name="Own repair …", exact=True).click()
        desk.get_by_role("button", name=work).click()
        repair = desk.get_by_role("article", name=f"Own repair: {work}")
        repair.get_by_role("button", name="Keep as found, test again").click()
        return repair

    def issue(repair, number):
        all_kept(page)
        draft = page.request.get(repair.get_by_role("link", name="Look at draft").get_attribute("href"))
        repair.get_by_role("button", name="Issue certificate").click()
        repair.get_by_role("button", name="Sign and issue").click()
        expect(repair.get_by_text(f"-M{number} is issued")).to_be_visible()
        return " ".join("".join(p.extract_text() for p in PdfReader(BytesIO(draft.body())).pages).split())

    repair = begin("Neutral of the ring open", "Device of a lower rating fitted")
    # The old device stands as found, the one of now beside it.
    fill(page, "Rating (A)", "20")
    repair.get_by_label("Zs", exact=True).click()
    read(page, "0.69")
    repair.get_by_role("group", name="Polarity").get_by_role("button", name="correct", exact=True).click()
    words = issue(repair, 1)
    assert "Neutral of the ring open (C2)" in words and "0.71 Ω" in words and "0.69 Ω" in words
    assert "32" in words and "20" in words
    repair = begin("Sink socket reversed", "Polarity put right")
    # Of the circuit, and at the socket: drawn once what the work undoes is judged.
    polarity = repair.get_by_role("group", name="Polarity")
    expect(polarity).to_have_count(2)
    for group in polarity.all():
        group.get_by_role("button", name="correct", exact=True).click()
    repair.get_by_label("Zs", exact=True).first.click()
    read(page, "0.70")
    words = issue(repair, 2)
    assert "Sink socket reversed (C2)" in words
    stage(page, "Report")
    closed = page.get_by_role("region", name="Own repairs")
    for number in (1, 2):
        expect(closed).to_contain_text(re.compile(rf"closed by certificate K-\d+-M{number}"))
    judged = page.request.get(f"/api/inspections/{inspection}").json()["judgement"]
    assert not judged["outcome_because"]
