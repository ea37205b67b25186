"""One inspection from sign-in to the issued report, as its user does it."""

import hashlib
import json
from collections.abc import Callable
from pathlib import Path

from playwright.sync_api import Page, expect
from pypdf import PdfReader

from tests.conftest import Firm
from tests.e2e.walk import all_kept, board, cell, choose, fill, pad, stage


def inspect(page: Page, kept: Callable[[Page], None] = all_kept) -> None:
    """A small home with one board, from the intake to the live tests; one reading fails and is observed. kept: waits
    until what was entered has its place."""
    # Intake, by keyboard from figure to figure
    stage(page, "Intake")
    choose(page, "earthing", "TN-C-S")
    choose(page, "phases", "single phase")
    page.get_by_role("textbox", name="Ze", exact=True).click()
    for figure in ("0.21", "1.12", "1.08"):
        page.keyboard.type(figure)
        page.keyboard.press("Enter")
    choose(page, "ze_parallel_removed", "Yes")
    choose(page, "supply_polarity", "correct")
    page.get_by_label("The way of the supply").get_by_role("button", name="Service head").click()
    fill(page, "Service fuse (A)", "80")
    fill(page, "Tails (mm²)", "25")
    margin = page.get_by_label("Margin", exact=True)
    expect(margin.get_by_text("1.12 kA")).to_be_visible()

    # Board with six circuits
    board(page, "Ring sockets", "Lights", "Cooker", "Shower", "Immersion", "Radial sockets", kept=kept)
    fill(page, "Main switch (A)", "100")
    page.get_by_label("RCD of 1 Sockets").fill("30")
    page.get_by_label("RCD of 1 Sockets").press("Enter")

    # Dead tests ask for the isolation once; then the ring by pad
    stage(page, "Dead tests")
    expect(page.get_by_text("No safe isolation is recorded for Board 1.")).to_be_visible()
    page.get_by_role("link", name="Record isolation").click()
    page.get_by_role("button", name="Begin: tester proved now").click()
    page.get_by_role("button", name="Isolated now").click()
    fill(page, "Lock and tag", "Lock 7")
    for at in ("busbar", "way 1"):
        page.get_by_role("button", name=f"{at}: all dead").click()
    page.get_by_role("button", name="Proved again now").click()
    stage(page, "Dead tests")
    expect(page.get_by_text("No safe isolation")).to_have_count(0)
    cell(page, "1 Sockets, Line end–end Ω").click()
    pad(page, "0", ".", "4", "6", "next", "0", ".", "4", "6", "next", "0", ".", "7", "6", "next")
    expect(page.get_by_label("Reading pad").get_by_text("expected up to 0.30 Ω")).to_be_visible()
    pad(page, "0", ".", "3", "1", "next", ">", "5", "0", "0", "next", "0", ".", "6", "next", "correct")
    low = margin.get_by_text("1 Sockets: L+N–E 0.6 MΩ")
    expect(low).to_be_visible()
    # The board fails by this circuit alone: said under it, once.
    expect(margin.get_by_text("1 figure follows from it")).to_be_visible()

    # The others by keyboard: R1+R2, L–N, L+N–E, polarity
    for r1_r2 in ("0.84", "0.12", "0.09", "0.28", "0.42"):
        for text in (r1_r2, ">500", "310"):
            page.keyboard.type(text)
            page.keyboard.press("Enter")
        page.keyboard.press("y")
    expect(cell(page, "6 Sockets, R1+R2 Ω")).to_have_value("0.42")

    # An observation from the figure in focus, by O: suggested first, three keys
    cell(page, "1 Sockets, L+N–E MΩ").click()
    page.keyboard.press("o")
    dialog = page.get_by_role("dialog", name="Observation")
    expect(dialog.get_by_label("Where")).to_have_value("1 Sockets")
    page.keyboard.press("Enter")
    expect(dialog.get_by_text("Usual view")).to_be_visible()
    page.keyboard.press("Enter")
    expect(dialog).to_have_count(0)
    expect(cell(page, "1 Sockets, L+N–E MΩ")).to_be_focused()

    # Live tests
    stage(page, "Live tests")
    page.get_by_role("button", name="Understood").click()
    page.get_by_role("textbox", name="Zdb at this board").click()
    page.keyboard.type("0.21")
    page.keyboard.press("Enter")
    page.keyboard.type("0.52")
    page.keyboard.press("Enter")
    page.keyboard.type("24")
    page.keyboard.press("Enter")
    page.keyboard.press("y")
    expect(cell(page, "2 Lights, Zs Ω")).to_be_focused()
    page.keyboard.type("lim")
    page.get_by_label("Reading pad").get_by_role("button", name="no point could be reached").click()
    expect(cell(page, "2 Lights, Zs Ω")).to_have_value("LIM no point could be reached")
    expect(cell(page, "3 Cooker, Zs Ω")).to_be_focused()


def test_from_sign_in_to_an_issued_report(signed_in, firm: Firm, tmp_path: Path):
    page = signed_in(by_form=True)
    page.get_by_role("button", name="New inspection").click()

    # Brief
    fill(page, "Property", "7 Lookout Row, Kelder Haven")
    fill(page, "Client", "Kelder Haven Harbour Trust")
    page.get_by_label("Extent", exact=True).fill("The whole fixed installation; a quarter of the points opened.")
    page.get_by_label("Extent", exact=True).press("Tab")
    choose(page, "tenure", "let dwelling")
    page.get_by_role("button", name="Add a limitation").click()
    fill(page, "Left out", "Loft")
    fill(page, "Reason", "Boarded over")
    fill(page, "Agreed with", "Harbour Office")
    expect(page.get_by_text("7 Lookout Row", exact=True)).to_be_visible()

    inspect(page)
    all_kept(page)

    # Report
    stage(page, "Report")
    expect(page.get_by_text("unsatisfactory").first).to_be_visible()
    expect(page.get_by_role("button", name="Sign and submit for review")).to_be_disabled()
    choose(page, "declared_outcome", "unsatisfactory")
    fill(page, "Next inspection in (years)", "5")
    expect(page.get_by_alt_text("Page 1 of the draft")).to_be_visible()
    fill(page, "Type your name to sign", "Ines Pector")
    page.get_by_role("button", name="Sign and submit for review").click()
    expect(page.get_by_text("Signed and submitted for review.")).to_be_visible()
    # A supervisor reads it and authorises it.
    sol = signed_in(firm.supervisor_email)
    sol.goto(page.url)
    fill(sol, "Type your name to sign", "Sol Visor")
    sol.get_by_role("button", name="Sign and issue").click()
    expect(sol.get_by_text("Issue 1", exact=True)).to_be_visible()
    with sol.expect_download() as download:
        sol.get_by_role("link", name="Download").click()
    file = tmp_path / "report.pdf"
    download.value.save_as(file)

    reader = PdfReader(file)
    text = " ".join(" ".join(page.extract_text() for page in reader.pages).split())
    for words in (
        "7 Lookout Row",
        "unsatisfactory",
        "Insulation below the minimum",
        "0.46",
        "LIM 1",
        "1 no point could be reached",
        "Boarded over",
    ):
        assert words in text
    attached = json.loads(reader.attachments["inspection.json"][0])
    circuits = attached["inspection"]["boards"][0]["circuits"]
    assert len(circuits) == 6
    assert circuits[0]["insulation_lne_mohm"] == "0.6"
    assert sol.get_by_text(hashlib.sha256(file.read_bytes()).hexdigest()).is_visible()

    # A correction is a new issue that says what it replaces
    stage(page, "Brief")
    fill(page, "Client", "Kelder Haven Harbour Office")
    all_kept(page)
    sol.reload()
    # Whoever may do both does both, openly.
    fill(sol, "Type your name to sign", "Sol Visor")
    fill(sol, "What issue 2 corrects", "The client's name.")
    sol.get_by_role("button", name="Issue correction 2").click()
    expect(sol.get_by_text("The report says that both are you.")).to_be_visible()
    sol.get_by_role("button", name="Sign and issue").click()
    expect(sol.get_by_text("Replaces issue 1: The client's name.")).to_be_visible()


def test_a_slip_is_mended_with_undo_and_its_history_is_one_tap_away(at_work):
    page = at_work("Cooker", stage="Dead tests")
    figure = cell(page, "1 Cooker, R1+R2 Ω")
    figure.click()
    page.keyboard.type("0.12")
    page.keyboard.press("Enter")
    figure.click()
    page.keyboard.type("1.2")
    page.keyboard.press("Enter")
    all_kept(page)
    page.keyboard.press("Control+z")
    expect(figure).to_have_value("0.12")
    expect(figure).to_be_focused()
    all_kept(page)
    page.get_by_role("button", name="history").click()
    entries = page.get_by_role("dialog", name="History of this figure").get_by_role("listitem")
    expect(entries).to_have_count(3)
    expect(entries.nth(0)).to_contain_text("0.12 before 1.2")
    expect(entries.nth(2)).to_contain_text("Ines Pector")


def test_the_margin_offers_the_cable_that_fits(at_work):
    page = at_work("Ring sockets", stage="Dead tests")
    cell(page, "1 Sockets, Line end–end Ω").click()
    for text in ("0.38", "0.38", "0.93"):
        page.keyboard.type(text)
        page.keyboard.press("Enter")
    margin = page.get_by_label("Margin", exact=True)
    expect(margin.get_by_text("A 2.5/1 cable fits.")).to_be_visible()
    margin.get_by_role("button", name="Set cpc 1 mm²").click()
    expect(margin.get_by_text("A 2.5/1 cable fits.")).to_have_count(0)
    cell(page, "1 Sockets, Cpc end–end Ω").click()
    expect(margin.get_by_text("The ring closes.")).to_be_visible()
