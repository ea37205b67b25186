"""The grid of tests: a block from a spreadsheet, and a limitation that holds for several circuits."""

import re

from playwright.sync_api import expect

from tests.e2e.walk import all_kept, cell, pad

PRESETS = ("Lights", "Ring sockets", "Cooker", "Shower")


def paste(page, text):
    """What the spreadsheet put on the clipboard is pasted where the focus is."""
    page.evaluate(
        """text => { const data = new DataTransfer(); data.setData("text", text);
        const event = new ClipboardEvent("paste", {clipboardData: data, bubbles: true, cancelable: true});
        document.activeElement.dispatchEvent(event) }""",
        text,
    )


def test_a_block_with_gaps_and_mistakes_is_pasted_and_every_mistake_stands_at_its_cell(at_work):
    page = at_work(*PRESETS, stage="Dead tests")
    first = cell(page, "1 Lights, R1+R2 Ω")
    first.click()
    paste(page, "1.02\t>200\t150\tok\n\t\t\t✓\n0.19\tabout 5\t>500\tno\n0.1.2\t\t80\t")
    expect(page.get_by_text("11 figures pasted")).to_be_visible()
    all_kept_but_two = page.get_by_text("2 not accepted")
    expect(all_kept_but_two).to_be_visible()
    for way, name, text in (
        (1, "R1+R2 Ω", "1.02"), (1, "L–N MΩ", ">200"), (1, "L+N–E MΩ", "150"), (3, "R1+R2 Ω", "0.19"),
        (3, "L+N–E MΩ", ">500"), (4, "L+N–E MΩ", "80"), (2, "R1+R2 Ω", ""), (4, "L–N MΩ", ""),
    ):  # fmt: skip
        of = {1: "1 Lights", 2: "2 Sockets", 3: "3 Cooker", 4: "4 Shower"}[way]
        expect(cell(page, f"{of}, {name}")).to_have_value(text)
    # What cannot be stands where it was put, with why, until it is mended.
    for name, text in (("3 Cooker, L–N MΩ", "about 5"), ("4 Shower, R1+R2 Ω", "0.1.2")):
        wrong = cell(page, name)
        expect(wrong).to_have_value(text)
        expect(wrong).to_have_attribute("aria-invalid", "true")
    cell(page, "4 Shower, R1+R2 Ω").click()
    expect(page.get_by_label("Reading pad").get_by_role("alert")).to_contain_text("decimal mark")
    page.keyboard.type("0.12")
    page.keyboard.press("Enter")
    cell(page, "3 Cooker, L–N MΩ").click()
    page.keyboard.type("5")
    page.keyboard.press("Enter")
    expect(all_kept_but_two).to_have_count(0)
    all_kept(page)
    page.reload()
    expect(cell(page, "3 Cooker, L–N MΩ")).to_have_value("5")


def test_what_was_pasted_over_other_figures_can_be_taken_back(at_work):
    page = at_work(*PRESETS, stage="Dead tests")
    cell(page, "1 Lights, R1+R2 Ω").click()
    page.keyboard.type("1.11")
    page.keyboard.press("Enter")
    cell(page, "1 Lights, R1+R2 Ω").click()
    paste(page, "2.22\t>200")
    expect(page.get_by_text("1 of them over others")).to_be_visible()
    page.get_by_role("button", name="Undo", exact=True).click()
    expect(cell(page, "1 Lights, R1+R2 Ω")).to_have_value("1.11")
    expect(cell(page, "1 Lights, L–N MΩ")).to_have_value("")


def test_a_limitation_is_said_of_the_empty_figures_below_and_never_a_figure(at_work):
    page = at_work(*PRESETS, stage="Dead tests")
    cell(page, "3 Cooker, L–N MΩ").click()
    page.keyboard.type("88")
    page.keyboard.press("Enter")
    cell(page, "1 Lights, L–N MΩ").click()
    page.keyboard.type("99")
    page.keyboard.press("Enter")
    cell(page, "1 Lights, L–N MΩ").click()
    expect(page.get_by_role("button", name=re.compile("below"))).to_have_count(0)
    page.keyboard.press("l")
    pad(page, "electronics cannot be disconnected")
    cell(page, "1 Lights, L–N MΩ").click()
    pad(page, "same for 2 below")
    for name in ("2 Sockets", "4 Shower"):
        expect(cell(page, f"{name}, L–N MΩ")).to_have_value("LIM electronics cannot be disconnected")
    expect(cell(page, "3 Cooker, L–N MΩ")).to_have_value("88")
    page.get_by_role("button", name="Undo", exact=True).click()
    for name in ("2 Sockets", "4 Shower"):
        expect(cell(page, f"{name}, L–N MΩ")).to_have_value("")


def test_fourteen_ways_stand_without_scrolling_sideways(at_work):
    page = at_work(*(PRESETS * 4)[:14], stage="Dead tests")
    for stage in ("Dead", "Live"):
        page.get_by_role("radio", name=stage, exact=True).check(force=True)
        expect(page.locator("table tbody tr").last).to_be_attached()
        work = page.locator("#work")
        assert work.evaluate("one => one.scrollWidth <= one.clientWidth"), stage
        assert page.evaluate("document.documentElement.scrollWidth <= innerWidth"), stage
