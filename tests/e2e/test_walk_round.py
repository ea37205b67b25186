"""The walk-round as its user does it: on a phone with one thumb, counted in taps, and on a tablet by keyboard."""

import re
from pathlib import Path

import pytest
from playwright.sync_api import Locator, Page, expect

from tests.e2e.walk import all_kept, choose, drag, fill, stage
from tests.pictures import opened, picture

#: Five rooms and what hangs in each: 25 points.
ROOMS = {
    "Hall": ["light", "switch", "socket", "alarm"],
    "Living room": ["socket", "socket", "socket", "light", "switch"],
    "Dining room": ["socket", "socket", "light", "switch"],
    "Kitchen": ["socket", "socket", "socket", "light", "switch", "cooker outlet", "alarm"],
    "Utility": ["socket", "light", "switch", "fixed equipment", "fan"],
}
POINTS = sum(map(len, ROOMS.values()))


class Thumb:
    """Taps, and counts them."""

    def __init__(self, page: Page) -> None:
        self.page, self.taps = page, 0

    def tap(self, what: Locator) -> None:
        what.click()
        self.taps += 1

    def photo(self, path: Path) -> None:
        with self.page.expect_file_chooser() as chooser:
            self.tap(self.page.get_by_role("group", name="Count and go on").get_by_role("button", name="Photo"))
        chooser.value.set_files(path)


@pytest.fixture
def shot(tmp_path: Path) -> Path:
    path = tmp_path / "IMG_2041.jpg"
    path.write_bytes(picture(1600, 1200, turned=6, place=54.0))
    return path


#: Which file fields are opened from here on.
WATCHED = """() => {
    const opened = [];
    const own = HTMLInputElement.prototype;
    own.before ??= own.click;
    own.click = function () { opened.push(this.getAttribute("aria-label")); };
    return opened;
}"""


def marked(page: Page, point: str) -> Locator:
    return page.get_by_role("group", name=f"{point}: looked at")


def stands(page: Page, seen: int) -> None:
    """What the walk left behind, as the screens show it."""
    expect(page.get_by_text(f"{seen}/{POINTS}", exact=True)).to_be_visible()
    all_kept(page)
    stage(page, "Observations")
    expect(page.get_by_label("Recorded").get_by_role("listitem")).to_have_count(2)
    for place in ("Living room, socket 2", "Kitchen, socket 1"):
        expect(page.get_by_label("Recorded").get_by_text(place)).to_be_visible()


def photos_arrived(page: Page) -> None:
    """Both photos are on the server, shrunk on the device, turned upright, and without the place in them."""
    base, inspection = re.match(r"(.*)/inspection/([^/?]+)", page.url).groups()
    contents: list[bytes] = []
    for _ in range(80):
        found = page.request.get(f"{base}/api/inspections/{inspection}").json()
        photos = [e["values"] for e in found["entities"] if e["kind"] == "photo"]
        observed = {e["id"] for e in found["entities"] if e["kind"] == "observation"}
        at = f"{base}/api/inspections/{inspection}/photos"
        answers = [page.request.get(f"{at}/{one['sha256']}") for one in photos if one.get("sha256")]
        contents = [answer.body() for answer in answers if answer.ok]
        if len(contents) == 2:
            break
        page.wait_for_timeout(250)
    assert {one["about_id"] for one in photos} == observed and len(observed) == 2
    for content in contents:
        assert content[:2] == b"\xff\xd8" and b"Exif" not in content
        # It was taken on its side: upright it is higher than wide.
        assert opened(content).size == (1200, 1600)
    assert len(contents) == 2


def test_five_rooms_on_a_phone_counted_in_taps(at_work, shot):
    page = at_work(stage="Walk-round", width=390, height=844)
    thumb = Thumb(page)
    dock = page.get_by_role("group", name="Count and go on")

    thumb.tap(page.get_by_role("button", name="Hall", exact=True))
    walk, defects = 0, 0
    for number, (room, kinds) in enumerate(ROOMS.items()):
        expect(page.get_by_role("heading", name=room, level=2)).to_be_visible()
        for kind in kinds:
            thumb.tap(dock.get_by_role("button", name=re.compile(f"One more {kind}, ")))
        before = thumb.taps
        if room == "Living room":
            # Defect, which one, photo: three taps.
            thumb.tap(marked(page, "socket 2").get_by_role("button", name="Defect"))
            thumb.tap(page.get_by_role("button", name="Cracked plate"))
            thumb.photo(shot)
            thumb.tap(marked(page, "socket 3").get_by_role("button", name="No access"))
            defects += thumb.taps - before - 1
        if room == "Kitchen":
            thumb.tap(marked(page, "socket 1").get_by_role("button", name="Defect"))
            thumb.tap(page.get_by_role("button", name="Heat marks"))
            thumb.photo(shot)
            defects += thumb.taps - before
        walk += thumb.taps - before
        last = number == len(ROOMS) - 1
        thumb.tap(dock.get_by_role("button", name=re.compile("Rest OK")))
        if last:
            # What would come next was made: it is not part of this home.
            page.get_by_role("button", name="about this room").click()
            page.get_by_role("button", name="Remove room").click()
    counted = thumb.taps - walk
    assert defects <= 3 * 2, defects
    assert counted / POINTS <= 1.3, (counted, POINTS)

    # What was blocked stands among the limitations by itself, its share in sight on every stage.
    page.get_by_text("Limitations", exact=True).click()
    expect(page.get_by_text("Living room socket 3")).to_be_visible()
    expect(page.get_by_text(f"and 1 of {POINTS} points are limited.")).to_be_visible()
    expect(page.get_by_label("Stages of the inspection").get_by_text("4 %")).to_be_visible()
    stands(page, POINTS)
    expect(page.get_by_role("status").get_by_text("Saved", exact=True)).to_be_visible()
    page.wait_for_function("() => !document.body.innerText.includes('to send')")
    photos_arrived(page)


def go_up_to(page: Page, to: Locator) -> None:
    """Up from point to point, each step once the one before it is drawn."""
    unfolded = page.locator("[data-point]").filter(has=page.locator("[aria-expanded=true]"))
    while not to.locator("[aria-expanded=true]").count():
        here = unfolded.get_attribute("data-point")
        page.keyboard.press("ArrowUp")
        expect(unfolded).not_to_have_attribute("data-point", here or "")


def test_the_same_on_a_tablet_by_keyboard(at_work, shot):
    page = at_work(stage="Walk-round")
    page.get_by_role("button", name="Hall", exact=True).press("Enter")
    dock = page.get_by_role("group", name="Count and go on")
    for room, kinds in ROOMS.items():
        expect(page.get_by_role("heading", name=room, level=2)).to_be_visible()
        for kind in kinds:
            digit = dock.get_by_role("button", name=re.compile(f"One more {kind}, ")).locator("kbd").inner_text()
            page.keyboard.press(digit)
        if room in ("Living room", "Kitchen"):
            # Up to the socket in question, defect, the entry by its digit, a photo.
            to = page.locator("[data-point]").filter(has_text="socket 2" if room == "Living room" else "socket 1")
            go_up_to(page, to)
            page.keyboard.press("d")
            page.keyboard.press("1" if room == "Living room" else "2")
            expect(page.get_by_text("The next photo is pinned to it.")).to_be_visible()
            expect(page.get_by_role("dialog")).to_have_count(0)
            expect(dock.get_by_role("button", name="Photo of it")).to_be_visible()
            opened = page.evaluate_handle(WATCHED)
            page.keyboard.press("p")
            page.wait_for_function("(opened) => opened.length === 1", arg=opened)
            page.get_by_label("Take a photo").set_input_files(shot)
        if room == "Living room":
            page.keyboard.press("ArrowDown")
            page.keyboard.press("b")
            expect(marked(page, "socket 3").get_by_role("button", name="No access")).to_have_attribute(
                "aria-pressed", "true"
            )
        if room != "Utility":
            page.keyboard.press("n")
    for _ in ROOMS["Utility"]:
        page.keyboard.press("f")
        page.keyboard.press("ArrowUp")
    stands(page, POINTS)
    photos_arrived(page)


def test_a_room_is_taken_out_and_put_back_and_points_go_to_a_circuit_together(at_work):
    page = at_work(stage="Boards")
    page.get_by_role("button", name="Add the first board").click()
    page.get_by_role("button", name="+ Ring sockets").click()
    page.get_by_role("button", name="+ Lights").click()
    all_kept(page)
    stage(page, "Walk-round")
    page.get_by_role("button", name="Living room", exact=True).click()
    dock = page.get_by_role("group", name="Count and go on")
    for kind in ("socket", "socket", "light"):
        dock.get_by_role("button", name=re.compile(f"One more {kind}, ")).click()
    page.get_by_role("button", name="about this room").click()
    page.get_by_role("button", name="Remove room").click()
    told = page.get_by_text("Its 3 points stay, without a room.")
    expect(told).to_be_visible()
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_label("Points", exact=True).get_by_role("listitem")).to_have_count(3)

    # Several at once, by tap; then one that hung on another circuit before is told.
    page.get_by_text("Circuits", exact=True).click()
    circuits = page.get_by_role("group", name="Circuits")
    page.get_by_role("button", name="every socket").click()
    circuits.get_by_role("button", name="1 Sockets").click()
    expect(page.get_by_text("2 points on 1 Sockets.")).to_be_visible()
    expect(circuits.get_by_role("button", name="1 Sockets")).to_contain_text("2")
    page.get_by_role("button", name="every socket").click()
    circuits.get_by_role("button", name="2 Lights").click()
    expect(page.get_by_text("2 points on 2 Lights. 2 assigned to 1 Sockets before.")).to_be_visible()
    told = page.get_by_role("status").filter(has_text="2 assigned to 1 Sockets before.")
    told.get_by_role("button", name="Undo").click()
    expect(circuits.get_by_role("button", name="1 Sockets")).to_contain_text("2")
    # By drag as well.
    drag(page, page.get_by_role("button", name=re.compile("^light")), circuits.get_by_role("button", name="2 Lights"))
    expect(circuits.get_by_role("button", name="2 Lights")).to_contain_text("1")
    all_kept(page)
    page.reload()
    expect(page.get_by_role("group", name="Circuits").get_by_role("button", name="2 Lights")).to_contain_text("1")


def test_a_bathroom_is_drawn_and_a_point_placed_in_it_by_a_tap(at_work):
    page = at_work(stage="Walk-round")
    page.get_by_role("button", name="Bathroom", exact=True).click()
    page.get_by_role("group", name="Count and go on").get_by_role("button", name=re.compile("One more fan, ")).click()
    page.get_by_role("button", name="bath", exact=True).click()
    side = page.get_by_role("img", name=re.compile("Zones from the side"))
    expect(side).to_be_visible()
    page.get_by_role("button", name="fan: more").click()
    page.get_by_role("button", name="fan: more").click()
    # Over the middle of the bath, well under 2.25 m.
    box = side.bounding_box()
    scale = min(box["width"] / (170 + 190 + 100), box["height"] / (2.55 * 100 + 30))
    page.mouse.click(box["x"] + box["width"] / 2 - (460 / 2 - 70 - 85) * scale, box["y"] + box["height"] * 0.45)
    expect(page.get_by_text("zone 1 · needs IPX4 · no mark seen")).to_be_visible()
    margin = page.get_by_label("Margin", exact=True)
    fill(page, "IPX", "2")
    expect(margin.get_by_text("IPX2 in zone 1, which asks for IPX4.")).to_be_visible()
    fill(page, "IPX", "5")
    expect(page.get_by_text("zone 1 · needs IPX4 · IPX5")).to_be_visible()


def test_the_sample_is_drawn_kept_and_grows_with_what_is_found(at_work):
    page = at_work(stage="Walk-round")
    page.get_by_role("button", name="Living room", exact=True).click()
    dock = page.get_by_role("group", name="Count and go on")
    for _ in range(8):
        dock.get_by_role("button", name=re.compile("One more socket, ")).click()
    page.get_by_text("Sample", exact=True).click()
    choose(page, "records", "good")
    choose(page, "condition_on_sight", "good")
    expect(page.get_by_text("25 %", exact=True)).to_be_visible()
    page.get_by_role("button", name="Pick at random").click()
    expect(page.get_by_text("0 of 2 opened")).to_be_visible()
    choose(page, "other_hands", "Yes")
    expect(page.get_by_text("50 %", exact=True)).to_be_visible()
    choose(page, "other_hands", "No")
    expect(page.get_by_text("0 of 2 opened")).to_be_visible()
    drawn = page.get_by_role("region", name="In walking order").get_by_role("button")
    names = drawn.all_inner_texts()
    drawn.first.click()
    expect(page.get_by_text("1 of 2 opened")).to_be_visible()
    all_kept(page)
    page.reload()
    expect(drawn).to_have_count(2)
    assert drawn.all_inner_texts() == names
    # A defect behind that front: the sample doubles, and the margin says so where it was found.
    page.get_by_text("Rooms", exact=True).click()
    marked(page, names[0]).get_by_role("button", name="Defect").click()
    page.get_by_role("button", name="Heat marks").click()
    margin = page.get_by_label("Margin", exact=True)
    expect(
        margin.get_by_text("Heat marks on an accessory was found once: the sample grows to 50% there.")
    ).to_be_visible()
    page.get_by_text("Sample", exact=True).click()
    expect(page.get_by_text("1 of 4 opened")).to_be_visible()
