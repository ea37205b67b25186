"""Before going and arriving: the book and its search, a job begun, earlier papers carried over and confirmed."""

from io import BytesIO
from pathlib import Path

from playwright.sync_api import Page, expect
from pypdf import PdfReader

from tests.e2e.walk import all_kept, begin, cell, choose, fill, stage

CHART = (
    "Way;Circuit;Cable;Device;RCD mA;R1+R2;Zs;Colour\n"
    "1;Kitchen ring;2,5/1,5;B32;30;0,41;0,62;red\n"
    "2;Lights down;1.5/1;B6;30;0,9;1,2;blue\n"
    "3;Shower;10/4;forty amps;30;;;\n"
    "4;Spare;;;;;;\n"
)


def drop(page: Page, text: str, name: str = "chart.csv", encoding: str = "latin-1") -> None:
    """Choose a file as earlier papers."""
    file = {"name": name, "mimeType": "text/csv", "buffer": text.encode(encoding)}
    page.get_by_label("File to take over").set_input_files(file)


def test_from_a_client_to_a_begun_inspection(signed_in):
    page = signed_in()
    page.get_by_role("link", name="Clients").click()
    page.get_by_role("button", name="New client").click()
    expect(page.get_by_role("heading", name="New client")).to_be_visible()
    fill(page, "Client", "Kelder Haven Harbour Trust")
    page.get_by_role("button", name="Add a property").click()
    expect(page.get_by_role("heading", name="New property")).to_be_visible()
    fill(page, "Address", "The Pilot's House, Signal Hill, Kelder Haven")
    choose(page, "nation", "England")
    choose(page, "tenure", "let dwelling")
    fill(page, "Built in", "1967")
    fill(page, "Rewired in", "1956")
    expect(page.get_by_text("It cannot have been rewired before it was built.")).to_be_visible()
    # What was refused still stands in its field.
    expect(page.get_by_label("Rewired in", exact=True)).to_have_value("1956")
    fill(page, "Rewired in", "1986")
    expect(page.get_by_text("It cannot have been rewired")).to_have_count(0)
    fill(page, "Must stay on", "Freezer")
    page.get_by_role("button", name="Add an installation").click()
    expect(page.get_by_label("Installation", exact=True)).to_have_count(1)
    page.get_by_role("button", name="Add an installation").click()
    expect(page.get_by_label("Installation", exact=True)).to_have_count(2)
    page.get_by_role("button", name="New job J-0001").click()
    expect(page.get_by_role("heading", name="Job J-0001")).to_be_visible()
    fill(page, "Extent", "House and outbuilding")
    fill(page, "Left out, one a line", "Signal mast\nLoft")
    fill(page, "Agreed with", "Wilf Sorrel")
    fill(page, "Agreed on", "2026-11-20")
    fill(page, "Ring circuits", "3")
    expect(page.get_by_label("Time").get_by_text("42 min")).to_be_visible()
    with page.expect_download() as download:
        page.get_by_role("link", name="Confirmation for the client").click()
    said = PdfReader(BytesIO(Path(download.value.path()).read_bytes())).pages[0].extract_text()
    assert "Pilot's House" in said.replace("’", "'") and "Signal mast; Loft" in said
    page.get_by_role("button", name="Begin the inspection of House").click()
    all_kept(page)
    expect(page.get_by_label("Property", exact=True)).to_have_value("The Pilot's House, Signal Hill, Kelder Haven")
    expect(page.get_by_label("Must stay on", exact=True)).to_have_value("Freezer")
    expect(page.get_by_label("Left out", exact=True)).to_have_count(2)
    expect(page.get_by_label("Agreed on", exact=True).first).to_have_value("20 Nov 2026")
    page.get_by_role("link", name="Dorrik, home").click()
    expect(page.get_by_label("Find")).to_be_visible()
    page.keyboard.press("/")
    expect(page.get_by_label("Find")).to_be_focused()
    page.keyboard.type("ilot's hou")
    found = page.get_by_role("listbox", name="Found")
    expect(found.get_by_role("option")).to_have_count(3)
    page.get_by_label("Find").fill("J-0001")
    expect(found.get_by_role("option")).to_have_count(1)
    page.keyboard.press("Enter")
    expect(page.get_by_role("heading", name="Job J-0001")).to_be_visible()


def test_a_chart_is_matched_carried_over_and_confirmed_on_site(at_work):
    page = at_work()
    drop(page, CHART)
    expect(page.get_by_text("1 not matched: left out.")).to_be_visible()
    expect(page.get_by_text("“forty amps” is not such as B32.")).to_be_visible()
    # A column can be matched otherwise, and two of a kind are told.
    page.get_by_label("What column 8 is").select_option("Circuit")
    expect(page.get_by_text("Two columns are matched with “Circuit”")).to_be_visible()
    page.get_by_label("What column 8 is").select_option("left out")
    page.get_by_label("Day of its figures, for comparison").fill("2021-05-04")
    page.get_by_role("button", name="Copy 3 circuits").click()
    expect(page.get_by_text("3 circuits on 1 board copied, not confirmed yet")).to_be_visible()
    stage(page, "Boards")
    expect(page.get_by_text("3 circuits not confirmed yet.")).to_be_visible()
    expect(page.get_by_label("Cable of 1 Kitchen ring")).to_have_value("2.5/1.5")
    expect(page.get_by_label("Form of 1 Kitchen ring")).to_have_value("ring")
    page.get_by_role("button", name="Confirm 1 Kitchen ring").click()
    expect(page.get_by_text("2 circuits not confirmed yet.")).to_be_visible()
    all_kept(page)
    stage(page, "Report")
    expect(page.get_by_text("copied from earlier reports, not confirmed: Board 1, 2 Lights down")).to_be_visible()
    stage(page, "Boards")
    page.get_by_role("button", name="Confirm whole board").click()
    expect(page.get_by_text("not confirmed yet")).to_have_count(0)
    all_kept(page)
    # Its figures are there to compare with, not as readings of today.
    stage(page, "Dead tests")
    expect(cell(page, "2 Lights down, R1+R2 Ω")).to_have_value("")


def test_files_that_cannot_be_used_are_told_and_nothing_is_lost(at_work):
    page = at_work()
    drop(page, "PK\x03\x04 broken", "chart.xlsx")
    expect(page.get_by_text("The workbook is damaged or not complete")).to_be_visible()
    drop(page, "%PDF-1.4 nothing", "report.pdf")
    expect(page.get_by_text("The PDF is damaged").or_(page.get_by_text("carries no inspection data"))).to_be_visible()
    drop(page, "Way,Circuit\n" + "".join(f"{n},Circuit {n}\n" for n in range(1500)))
    expect(page.get_by_text("a chart of one home has at most 600")).to_be_visible()
    expect(page.get_by_label("Property", exact=True)).to_have_value("7 Lookout Row, Kelder Haven")
    all_kept(page)


def test_instruments_are_warned_of_and_a_bad_null_marks_what_was_measured(signed_in):
    page = signed_in()
    page.get_by_role("link", name="Instruments").click()
    page.get_by_role("button", name="Add an instrument").click()
    fill(page, "Instrument", "Multifunction tester")
    fill(page, "Serial number", "MF-1")
    fill(page, "Bought on", "2024-03-01")
    fill(page, "Calibrated on", "2024-02-01")
    expect(page.get_by_text("It cannot have been calibrated before it was bought.")).to_be_visible()
    fill(page, "Calibrated on", "2024-03-02")
    fill(page, "Calibration due", "2025-03-02")
    expect(page.get_by_text("Calibration ran out")).to_be_visible()
    page.keyboard.press("Escape")
    page.get_by_role("button", name="Add a lead set").click()
    fill(page, "Lead set", "Blue pouch")
    fill(page, "Known resistance (Ω)", "0.06")
    page.keyboard.press("Escape")
    page.get_by_role("link", name="Home").click()
    begin(page)
    page.get_by_role("button", name="+ Multifunction tester MF-1").click()
    expect(page.get_by_label("Margin", exact=True).get_by_text("Calibration ran out")).to_be_visible()
    stage(page, "Boards")
    page.get_by_role("button", name="Add the first board").click()
    page.get_by_role("button", name="+ Cooker").click()
    all_kept(page)
    stage(page, "Dead tests")
    for reading in ("0.06", "0.31"):
        page.get_by_role("button", name="Null the leads").click()
        page.get_by_label("Null reading, Ω").fill(reading)
        page.keyboard.press("Enter")
        all_kept(page)
        if reading == "0.06":
            expect(page.get_by_text("nulled")).to_contain_text("0.06 Ω")
            cell(page, "1 Cooker, R1+R2 Ω").click()
            page.keyboard.type("0.21")
            page.keyboard.press("Enter")
            all_kept(page)
    margin = page.get_by_label("Margin", exact=True)
    expect(margin.get_by_text("where these leads read 0.06 Ω: a bad contact or a failing lead.")).to_be_visible()
    # What was measured since the last good null follows from it, and is marked at its own figure too.
    expect(margin.get_by_text("1 figure follows from it")).to_be_visible()
    cell(page, "1 Cooker, R1+R2 Ω").click()
    expect(margin.get_by_text("Taken since the last good null")).to_be_visible()
