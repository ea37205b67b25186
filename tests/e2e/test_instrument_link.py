"""An instrument is linked: its readings land in the figure in focus, and what does not fit is told and not taken."""

import re
import subprocess
import sys
from datetime import UTC, datetime, timedelta

import pytest
from playwright.sync_api import expect

from tests.e2e import instruments
from tests.e2e.walk import all_kept, cell

LINE_END = "1 Sockets, Line end–end Ω"
NEUTRAL_END = "1 Sockets, Neutral end–end Ω"
CPC_END = "1 Sockets, Cpc end–end Ω"


@pytest.fixture
def told():
    with instruments.told() as made:
        yield made


@pytest.fixture
def linked(at_work, told):
    page = at_work("Ring sockets", stage="Dead tests")
    cell(page, LINE_END).click()
    instruments.link(page, told.address, instruments.CODE)
    return page


def stands(page, name, text):
    expect(cell(page, name)).to_have_value(text)


def said(page, words):
    expect(page.get_by_label("Reading pad").get_by_role("status")).to_contain_text(words)


def used(page):
    """Serials of the instruments of the inspection."""
    found = page.context.request.get(f"/api/inspections/{page.url.split('/')[-2]}").json()
    return [entity["values"].get("serial") for entity in found["entities"] if entity["kind"] == "instrument_used"]


def history(page, field):
    found = page.url.split("/")[-2]
    entities = page.context.request.get(f"/api/inspections/{found}").json()["entities"]
    circuit = next(entity["id"] for entity in entities if entity["values"].get("designation") == "Sockets")
    used = {entity["id"]: entity["values"] for entity in entities if entity["kind"] == "instrument_used"}
    asked = f"/api/inspections/{found}/history?entity_id={circuit}&field={field}"
    return [(h["value"], used.get(h["instrument_id"], {}).get("serial"), h["read_at"]) for h in
            page.context.request.get(asked).json()]  # fmt: skip


def test_a_reading_stands_before_the_figure_and_is_kept_with_its_instrument_when_it_is_left(linked, told):
    page = linked
    shown = (datetime.now(UTC) - timedelta(seconds=20)).isoformat(timespec="milliseconds")
    told.reading("a", "0.46", at=shown)
    stands(page, LINE_END, "0.46")
    said(page, "from Told instrument: next keeps it")
    assert history(page, "r1_ohm") == []
    # What nobody keeps leaves no instrument in the inspection either.
    page.get_by_label("Reading pad").get_by_role("button", name="clear").click()
    page.keyboard.press("Enter")
    all_kept(page)
    assert used(page) == []
    cell(page, LINE_END).click()
    told.reading("a again", "0.46", at=shown)
    stands(page, LINE_END, "0.46")
    told.send({"type": "next"})
    expect(cell(page, NEUTRAL_END)).to_be_focused()
    told.reading("b", "0.47")
    stands(page, NEUTRAL_END, "0.47")
    page.keyboard.press("Enter")
    all_kept(page)
    kept = history(page, "r1_ohm")
    assert [(value, serial) for value, serial, _ in kept] == [("0.46", "T-1")]
    assert datetime.fromisoformat(kept[0][2]) == datetime.fromisoformat(shown)
    # What is typed beside it says nothing of an instrument.
    page.keyboard.type("0.75")
    page.keyboard.press("Enter")
    all_kept(page)
    assert history(page, "r2_ohm") == [("0.75", None, None)]
    page.get_by_label("Reading pad").get_by_role("button", name="back").click()
    page.get_by_role("button", name=re.compile("History of Neutral|History of Cpc|History of R1")).first.click()
    assert len(told.lines) == 1


def test_what_does_not_fit_the_figure_is_told_and_nothing_is_taken(linked, told):
    page = linked
    for function, unit, value, words in (
        ("insulation", "MΩ", ">299", "this takes continuity"),
        ("loop", "Ω", "0.31", "this takes continuity"),
        ("null", "Ω", "0.07", "keep it beside the leads"),
        ("continuity", "V", "0.31", "this figure is in Ω"),
    ):
        told.reading(f"{function}{unit}", value, function, unit)
        said(page, words)
        stands(page, LINE_END, "")
    # Another unit of the same thing is taken as it stands.
    told.reading("milli", "460", unit="mΩ")
    stands(page, LINE_END, "460 mΩ")
    # The null waits in its own place.
    expect(page.get_by_label("Null reading, Ω")).to_have_value("0.07")
    page.get_by_role("button", name="Keep", exact=True).click()
    expect(page.get_by_text(re.compile("nulled \\d\\d:\\d\\d"))).to_be_visible()


def test_a_reading_neither_overwrites_what_is_typed_nor_lands_in_a_figure_it_was_not_begun_at(linked, told):
    page = linked
    page.keyboard.type("0.4")
    told.reading("a", "0.99")
    said(page, "rub out what is typed here first")
    stands(page, LINE_END, "0.4")
    page.keyboard.press("Enter")
    told.send({"type": "measuring", "function": "continuity"})
    said(page, "is measuring")
    cell(page, LINE_END).click()
    told.reading("b", "0.98")
    said(page, "begun at another figure")
    stands(page, LINE_END, "0.4")
    stands(page, NEUTRAL_END, "")


def test_duplicates_nonsense_and_a_hundred_readings_a_second(linked, told):
    page = linked
    told.reading("a", "0.46")
    stands(page, LINE_END, "0.46")
    told.send({"type": "next"})
    told.reading("a", "0.46")
    expect(cell(page, NEUTRAL_END)).to_be_focused()
    for nonsense in (
        "", "{", "[]", "5", "x" * 6000, '{"type":"reading"}', '{"type":"boom"}',
        '{"type":"reading","id":"n1","function":"continuity","value":"<script>","unit":"Ω"}',
        '{"type":"reading","id":"n2","function":"continuity","value":"1e9","unit":"Ω"}',
        '{"type":"reading","id":"n3","function":"continuity","value":"-0.2","unit":"Ω"}',
        '{"type":"reading","id":"n4","function":"continuity","value":0.46,"unit":"Ω"}',
        '{"type":"reading","id":"n5","function":["continuity"],"value":"0.46","unit":"Ω"}',
    ):  # fmt: skip
        told.send(nonsense)
    said(page, "no reading")
    stands(page, NEUTRAL_END, "")
    for number in range(300):
        told.reading(f"many{number}", f"{number / 100:.2f}")
    stands(page, NEUTRAL_END, "2.99")
    told.send({"type": "next"})
    # The page has heard of it, and left the figure.
    expect(cell(page, CPC_END)).to_be_focused()
    all_kept(page)
    assert [value for value, _, _ in history(page, "rn_ohm")] == ["2.99"]


def test_an_instrument_that_goes_away_in_the_middle_is_told_and_found_again(linked, told):
    page = linked
    told.send({"type": "measuring", "function": "continuity"})
    said(page, "is measuring")
    told.down()
    said(page, "went away while measuring: nothing was taken")
    expect(page.get_by_role("button", name="Instrument: out of reach")).to_be_visible()
    # Typing goes on meanwhile.
    page.keyboard.type("0.5")
    page.keyboard.press("Enter")
    stands(page, LINE_END, "0.5")
    told.up()
    expect(page.get_by_role("button", name="Instrument: Told instrument")).to_be_visible()
    told.reading("back", "0.47")
    stands(page, NEUTRAL_END, "0.47")
    told.send({"type": "refused", "says": "Switched off."})
    said(page, "Switched off.")
    expect(page.get_by_role("button", name="Instrument: link ended")).to_be_visible()


def test_a_reload_finds_the_instrument_again_and_ending_the_link_forgets_it(linked, told):
    page = linked
    page.reload()
    expect(page.get_by_role("button", name="Instrument: Told instrument")).to_be_visible()
    cell(page, LINE_END).click()
    told.reading("after", "0.46")
    stands(page, LINE_END, "0.46")
    page.get_by_role("button", name="Instrument: Told instrument").click()
    page.get_by_role("button", name="End the link").click()
    page.keyboard.press("Escape")
    page.reload()
    expect(page.get_by_role("button", name="Instrument", exact=True)).to_be_visible()


def test_pairing_says_what_is_wrong(at_work, told):
    page = at_work("Ring sockets", stage="Dead tests")
    page.get_by_role("button", name="Instrument", exact=True).click()
    dialog = page.get_by_role("dialog")
    for address, code, words in (
        (told.address, "000000", "Not the code"),
        ("ws://127.0.0.1:9", instruments.CODE, "No instrument answers there"),
        ("ws://instrument.example:8787", instruments.CODE, "no address of an instrument on this device"),
        ("not an address", instruments.CODE, "no address of an instrument"),
    ):
        dialog.get_by_label("Where its program listens").fill(address)
        dialog.get_by_label("Pairing code").fill(code)
        dialog.get_by_role("button", name="Link").click()
        expect(dialog.get_by_text(words)).to_be_visible()


STORED = """Circuit,Point,Test,Result,Unit,Time
1,,r1,0.46,Ω,2026-11-29T09:14:00Z
1,,rn,0.47,Ω,2026-11-29T09:15:00Z
Sockets,,L+N-E,>299,MΩ,2026-11-29T09:20:00Z
7,,Zs,0.4,Ω,
1,,Zs,0.4,V,
"""


def test_readings_stored_in_an_instrument_are_matched_looked_over_and_taken(at_work):
    page = at_work("Ring sockets", stage="Dead tests")
    cell(page, NEUTRAL_END).click()
    page.keyboard.type("0.52")
    page.keyboard.press("Enter")
    all_kept(page)
    page.get_by_role("button", name="Instrument", exact=True).click()
    dialog = page.get_by_role("dialog")
    file = {"name": "stored.csv", "mimeType": "text/csv", "buffer": STORED.encode()}
    dialog.locator("input[type=file]").set_input_files(file)
    expect(dialog.get_by_role("status")).to_contain_text("2 new, 1 where another value is entered, 2 without a figure")
    expect(dialog.get_by_text("0.52 is entered there.", exact=False)).to_be_visible()
    expect(dialog.get_by_text("no circuit is called that", exact=False)).to_be_visible()
    dialog.get_by_role("button", name="Take the 2 new").click()
    stands(page, LINE_END, "0.46")
    stands(page, NEUTRAL_END, "0.52")
    stands(page, "1 Sockets, L+N–E MΩ", ">299")
    page.get_by_role("button", name="Undo", exact=True).click()
    stands(page, LINE_END, "")
    stands(page, NEUTRAL_END, "0.52")


def test_the_example_instrument_is_one(at_work):
    page = at_work("Ring sockets", stage="Dead tests")
    cell(page, LINE_END).click()
    example = subprocess.Popen(
        [sys.executable, "docs/examples/instrument.py", "0"],
        stdin=subprocess.PIPE, stdout=subprocess.PIPE, text=True, bufsize=1,
    )  # fmt: skip
    try:
        address, _, code = example.stdout.readline().split()
        instruments.link(page, address, code)
        assert any("Line end to end" in example.stdout.readline() for _ in range(3))
        example.stdin.write("continuity 0.46\n")
        stands(page, LINE_END, "0.46")
    finally:
        example.kill()
        example.wait()
