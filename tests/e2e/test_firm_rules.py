"""A supervisor settles the firm's rules; an inspector begins with them, and sees a verdict otherwise."""

from playwright.sync_api import expect

from tests.api.test_logo import ANCHOR
from tests.conftest import Firm
from tests.e2e.test_accessibility import violations
from tests.e2e.walk import all_kept, board, cell, choose, stage


def test_rules_settled_by_a_supervisor_reach_the_next_inspection(signed_in, at_work, firm: Firm):
    page = signed_in(firm.supervisor_email)
    page.get_by_role("link", name="House rules").click()
    page.get_by_label("RCDs are timed at", exact=True).select_option(label="½, 1 and 5 × IΔn")
    page.get_by_role("tab", name="Reference tables").click()
    page.get_by_label("Table", exact=True).select_option(label="Devices: operating currents")
    page.get_by_label("Row", exact=True).select_option(label="BS 3036 · rewirable · 30")
    page.get_by_label("Cell", exact=True).select_option(label="Operating current at 0.4 s (A)")
    page.get_by_label("Read as", exact=True).fill("much")
    page.get_by_label("Reason and source").fill("Our copy, appendix 3")
    page.get_by_role("button", name="Correct this cell").click()
    expect(page.get_by_role("alert")).to_have_text("This cell holds a number above nothing.")
    page.get_by_label("Read as", exact=True).fill("205")
    page.get_by_role("button", name="Correct this cell").click()
    expect(page.get_by_text("Our copy, appendix 3 · ")).to_be_visible()

    inspector = at_work()
    expect(inspector.get_by_text("House rules: 1 differs from the usual")).to_be_visible()
    board(inspector, "Ring sockets")
    inspector.get_by_label("RCD of 1 Sockets").fill("30")
    inspector.get_by_label("RCD of 1 Sockets").press("Enter")
    stage(inspector, "Live tests")
    expect(cell(inspector, "1 Sockets, At 5 × ms")).to_be_visible()

    page.get_by_role("button", name="Use printed value").click()
    expect(page.get_by_text("Every table is read as printed.")).to_be_visible()
    expect(page.get_by_text("Earlier corrections (1)")).to_be_visible()
    page.get_by_role("tab", name="Rules", exact=True).click()
    expect(page.locator("[data-other]")).to_have_count(1)
    page.get_by_label("RCDs are timed at", exact=True).select_option(label="1 × IΔn (usual)")
    expect(page.locator("[data-other]")).to_have_count(0)


def test_an_inspector_reads_the_rules_and_cannot_settle_them(signed_in):
    page = signed_in()
    page.get_by_role("link", name="House rules").click()
    expect(page.get_by_label("Zs compared with")).to_be_disabled()
    expect(page.get_by_text("A supervisor of your firm settles them.")).to_be_visible()
    page.get_by_role("tab", name="Reference tables").click()
    expect(page.get_by_text("Every table is read as printed.")).to_be_visible()
    expect(page.get_by_role("button", name="Correct this cell")).to_have_count(0)


def test_a_verdict_seen_otherwise_keeps_both_views(at_work):
    page = at_work("Cooker", stage="Live tests")
    page.get_by_role("button", name="Understood").click()
    cell(page, "1 Cooker, Zs Ω").click()
    page.keyboard.type("2.10")
    page.keyboard.press("Enter")
    cell(page, "1 Cooker, Zs Ω").click()
    margin = page.get_by_label("Margin", exact=True)
    expect(margin.get_by_text("above the device's limit")).to_be_visible()
    margin.get_by_role("button", name="Disagree …").click()
    keep = margin.get_by_role("button", name="Keep my view")
    expect(keep).to_be_disabled()
    margin.get_by_label("Reason (printed in the report)").fill("Measured at the wrong socket")
    keep.click()
    expect(margin.get_by_text("Your view: Measured at the wrong socket")).to_be_visible()
    expect(margin.get_by_text("above the device's limit")).to_be_visible()
    all_kept(page)
    stage(page, "Observations")
    expect(page.get_by_text("Loop impedance above", exact=False)).to_have_count(0)


def test_the_irish_rule_book_speaks_its_own_words(at_work, firm):
    page = at_work(email=firm.supervisor_email)
    choose(page, "rule_book", "Ireland: I.S. 10101:2020")
    board(page, "Ring sockets")
    stage(page, "Dead tests")
    page.get_by_role("button", name="Not now").click()
    expect(page.get_by_role("columnheader", name="RP+RE Ω")).to_be_visible()
    expect(page.get_by_role("columnheader", name="Protective conductor end–end Ω")).to_be_visible()
    expect(page.get_by_label("Margin", exact=True).get_by_text("I.S. 10101:2020")).to_be_visible()


def test_a_logo_is_taken_in_shown_and_taken_off(signed_in, firm: Firm):
    page = signed_in(firm.supervisor_email)
    page.get_by_role("link", name="House rules").click()
    page.get_by_role("tab", name="Letterhead").click()
    logo = page.get_by_label("Logo", exact=True)
    logo.set_input_files({"name": "firm.svg", "mimeType": "image/svg+xml", "buffer": ANCHOR.encode()})
    shown = page.get_by_alt_text("Logo of ")
    expect(shown).to_be_visible()
    assert page.evaluate("image => image.decode().then(() => image.naturalWidth > 0)", shown.element_handle())
    assert violations(page) == []
    # What cannot be taken says why, and the one before stays.
    words = ANCHOR.replace("<g ", "<text>Firm</text><g ")
    logo.set_input_files({"name": "firm.svg", "mimeType": "image/svg+xml", "buffer": words.encode()})
    expect(page.get_by_text("The drawing has text in it")).to_be_visible()
    expect(shown).to_be_visible()
    page.get_by_role("button", name="Remove the logo").click()
    expect(shown).to_have_count(0)
