"""Boards and isolation: fourteen ways by keyboard alone, ways moved, a tree of boards, the record of isolation."""

import struct
import zlib

from playwright.sync_api import expect

from tests.e2e.walk import all_kept, choose, drag, drag_by_finger, stage
from tests.pictures import picture

#: Fourteen ways as an inspector types them, and what they become.
WAYS = (
    ("cook 30ma", "Cooker"), ("kit", "Kitchen ring"), ("so d", "Sockets down"), ("so u", "Sockets up"),
    ("sho 10/4 b45", "Shower"), ("imm", "Immersion"), ("boil", "Boiler"), ("li d", "Lights down"),
    ("li u", "Lights up"), ("al", "Alarms"), ("outside l", "Outside lights"), ("gar", "Garage"), ("sp", "Spare"),
    ("=", "Spare"),
)  # fmt: skip


def test_a_board_of_fourteen_ways_by_keyboard_alone(at_work):
    page = at_work(stage="Boards")
    page.get_by_role("button", name="Add the first board").press("Enter")
    builder = page.get_by_label("Type a circuit")
    builder.focus()
    strokes = 0
    for typed, _ in WAYS:
        page.keyboard.type(typed)
        page.keyboard.press("Enter")
        strokes += len(typed) + 1
    names = page.get_by_label("Name of circuit")
    expect(names).to_have_count(14)
    assert [name.input_value() for name in names.all()] == [name for _, name in WAYS]
    expect(page.get_by_label("Cable of 5 Shower")).to_have_value("10/4")
    expect(page.get_by_label("Rating of 5 Shower")).to_have_value("45")
    # The RCD of the first way is carried on to those after it.
    expect(page.get_by_label("RCD of 12 Garage")).to_have_value("30")
    all_kept(page)
    assert strokes <= 90


def test_a_circuit_changes_its_way_by_keys_and_by_dragging_and_goes_back(at_work):
    page = at_work("Cooker", "Shower", "Lights")
    page.get_by_label("Name of circuit 1").press("Alt+ArrowDown")
    names = page.get_by_label("Name of circuit")
    expect(names.first).to_have_value("Shower")
    front = page.get_by_label("Front of Board 1")
    drag(page, front.get_by_role("button", name="3 Lights"), front.get_by_role("button", name="1 Shower"))
    expect(names.first).to_have_value("Lights")
    expect(names.nth(2)).to_have_value("Shower")
    all_kept(page)
    page.reload()
    expect(page.get_by_label("Name of circuit").first).to_have_value("Lights")


def test_a_circuit_is_dragged_with_a_finger_and_by_keyboard(at_work):
    page = at_work("Cooker", "Shower", "Lights")
    front = page.get_by_label("Front of Board 1")
    names = page.get_by_label("Name of circuit")
    drag_by_finger(page, front.get_by_role("button", name="3 Lights"), front.get_by_role("button", name="1 Cooker"))
    expect(names.first).to_have_value("Lights")
    expect(names.nth(2)).to_have_value("Cooker")
    # By keyboard: taken up, put on the next way but one, and told to who hears it.
    front.get_by_role("button", name="1 Lights").focus()
    page.keyboard.press("m")
    expect(page.get_by_text("Over way 1.")).to_be_attached()
    page.keyboard.press("ArrowRight")
    expect(page.get_by_text("Over way 2.")).to_be_attached()
    page.keyboard.press("Enter")
    expect(names.nth(1)).to_have_value("Lights")
    # Left again, it stays where it was; enter by itself chooses it.
    front.get_by_role("button", name="2 Lights").focus()
    page.keyboard.press("m")
    expect(page.get_by_text("Over way 2.")).to_be_attached()
    page.keyboard.press("ArrowRight")
    expect(page.get_by_text("Over way 3.")).to_be_attached()
    page.keyboard.press("Escape")
    expect(page.get_by_text("2 Lights stays where it was.")).to_be_attached()
    expect(names.nth(1)).to_have_value("Lights")
    all_kept(page)


def test_a_board_under_a_board_with_an_electrode_of_its_own(at_work):
    page = at_work("Cooker")
    page.get_by_label("Type a circuit").fill("shed")
    page.keyboard.press("Enter")
    page.get_by_role("button", name="Another board").click()
    page.get_by_text("Fed from the origin").click()
    page.get_by_label("Fed from").select_option(label="Board 1: 2 Shed")
    choose(page, "earthing", "own electrode")
    page.get_by_role("button", name="+ Lights").click()
    margin = page.get_by_label("Margin", exact=True)
    expect(margin.get_by_text("An electrode needs an RCD to clear a fault")).to_be_visible()
    tree = page.get_by_label("Boards", exact=True)
    expect(tree.get_by_role("button").nth(1)).to_contain_text("from way 2 Shed")
    all_kept(page)
    # The first board cannot be fed from the one that it feeds: said at the field.
    tree.get_by_role("button").first.click()
    page.get_by_text("Fed from the origin").click()
    page.get_by_label("Fed from").select_option(label="Board 2: 1 Lights")
    expect(page.get_by_text("A board cannot be fed from itself")).to_be_visible()
    # A circuit goes over to the other board.
    page.get_by_role("button", name="More about 1 Cooker").click()
    page.get_by_label("On board").select_option("Board 2")
    expect(page.get_by_label("Name of circuit")).to_have_count(1)
    tree.get_by_role("button").nth(1).click()
    expect(page.get_by_label("Name of circuit")).to_have_count(2)


def large_png(path, width=3600, height=2800):
    """A sound PNG of some thirty megabytes: its pixels are not packed."""

    def chunk(kind, data):
        return struct.pack(">I", len(data)) + kind + data + struct.pack(">I", zlib.crc32(kind + data))

    rows = b"".join(b"\0" + bytes((y & 255, 120, 90)) * width for y in range(height))
    head = struct.pack(">IIBBBBB", width, height, 8, 2, 0, 0, 0)
    parts = (chunk(b"IHDR", head), chunk(b"IDAT", zlib.compress(rows, 0)), chunk(b"IEND", b""))
    path.write_bytes(b"\x89PNG\r\n\x1a\n" + b"".join(parts))
    return path


def test_a_photo_of_thirty_megabytes_is_shrunk_on_the_device(at_work, tmp_path):
    page = at_work("Cooker")
    file = large_png(tmp_path / "chart.png")
    assert file.stat().st_size > 30_000_000
    with page.expect_response(lambda answer: "/photos/" in answer.url and answer.request.method == "PUT") as sent:
        page.get_by_label("Photo of the chart").set_input_files(file)
    assert sent.value.status == 204
    assert len(sent.value.request.post_data_buffer or b"") < 2_000_000
    page.get_by_role("button", name="Open photo of the chart").click()
    expect(page.locator("figure img")).to_have_js_property("naturalWidth", 2000)
    all_kept(page)


def test_a_photo_that_this_browser_cannot_open_goes_without_its_place_and_the_server_shows_it(at_work):
    page = at_work("Cooker")
    heic = {
        "name": "IMG_1.HEIC",
        "mimeType": "image/heic",
        "buffer": picture(kind="HEIF", place=54.0, owner="Merryn Tregear"),
    }
    with page.expect_response(lambda r: "/photos/" in r.url and r.request.method == "PUT") as sent:
        page.get_by_label("Photo of the chart").set_input_files(heic)
    # The server takes none that says where it was taken.
    assert sent.value.status == 204
    all_kept(page)
    page.reload()
    page.get_by_role("button", name="Open photo of the chart").click()
    expect(page.locator("figure img")).to_have_js_property("naturalWidth", 320)


def test_a_photo_of_the_chart_stands_beside_the_board(at_work):
    page = at_work("Cooker")
    camera = page.get_by_label("Photo of the chart")
    camera.set_input_files({"name": "notes.jpg", "mimeType": "image/jpeg", "buffer": b"no photo"})
    expect(page.get_by_text("notes.jpg cannot be opened as a photo.")).to_be_visible()
    camera.set_input_files({"name": "chart.png", "mimeType": "image/png", "buffer": page.screenshot()})
    small = page.get_by_role("button", name="Open photo of the chart")
    expect(small).to_be_visible()
    expect(page.get_by_text("cannot be opened")).to_have_count(0)
    all_kept(page)
    # It is on the server: a page that is loaded anew shows it from there.
    page.reload()
    small.click()
    shown = page.locator("figure img")
    expect(shown).to_be_visible()
    expect(page.locator("figure img")).to_have_js_property("naturalWidth", 1280)


def test_what_is_looked_at_raises_its_observation(at_work):
    page = at_work("Cooker")
    looked = page.get_by_label("Looked at")
    looked.get_by_label("Heat marks").get_by_role("button", name="Defect").click()
    looked.get_by_role("button", name="Mark rest OK").click()
    expect(looked.get_by_text("all of it")).to_be_visible()
    looked.get_by_role("button", name="Observation").click()
    dialog = page.get_by_role("dialog", name="Observation")
    dialog.get_by_role("button", name="Save observation").click()
    expect(looked.get_by_text("observation recorded")).to_be_visible()
    all_kept(page)


def test_an_isolation_is_recorded_step_by_step_until_it_is_restored(at_work):
    page = at_work("Cooker", "Lights", stage="Dead tests")
    expect(page.get_by_text("No safe isolation is recorded for Board 1.")).to_be_visible()
    page.get_by_role("link", name="Record isolation").click()
    page.get_by_role("button", name="Begin: tester proved now").click()
    page.get_by_role("button", name="Isolated now").click()
    page.get_by_label("Lock and tag").fill("Lock 7, main switch")
    page.get_by_label("Lock and tag").press("Tab")
    expect(page.get_by_text("9 of 9 left")).to_be_visible()
    for at in ("busbar", "way 1"):
        page.get_by_role("button", name=f"{at}: all dead").click()
    first = page.get_by_role("button", name="way 2 L–N")
    first.click()
    first.click()
    margin = page.get_by_label("Margin", exact=True)
    expect(page.get_by_text("Voltage at way 2 L–N. Keep off.")).to_be_visible()
    expect(margin.get_by_text("Voltage between way 2 L–N")).to_be_visible()
    page.get_by_role("button", name="way 2: all dead").click()
    expect(page.get_by_text("All 9 pairings dead")).to_be_visible()
    page.get_by_role("button", name="Proved again now").click()
    all_kept(page)
    expect(margin.get_by_text("Voltage between")).to_have_count(0)
    stage(page, "Dead tests")
    expect(page.get_by_text("No safe isolation is recorded")).to_have_count(0)
    expect(page.get_by_text("lock 7, main switch")).to_be_visible()
    stage(page, "Isolation")
    page.get_by_role("button", name="Restore …").click()
    page.get_by_role("button", name="Yes, restored now").click()
    expect(page.get_by_text("restored").first).to_be_visible()
    # It can be done again: a second visit has a record of its own.
    page.get_by_role("button", name="Isolate again: tester proved now").click()
    expect(page.get_by_text("9 of 9 left")).to_be_visible()
    all_kept(page)
