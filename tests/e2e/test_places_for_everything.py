"""What has a place of its own, entered on the screen: neutrals, the main switch, what stood open, screw lampholders, a
live R1+R2, switches that were tried, a link across a ring."""

import re

from playwright.sync_api import expect

from tests.e2e import seeding
from tests.e2e.test_bench import at_the_ring
from tests.e2e.walk import all_kept, cell, fill, stage


def inspection_of(page):
    return page.url.split("/inspection/")[1].split("/")[0]


def send(page, *changes):
    answer = page.context.request.post(
        f"/api/inspections/{inspection_of(page)}/changes", data={"changes": list(changes)}
    )
    assert {result["state"] for result in answer.json()["results"]} == {"kept"}, answer.text()


def entity(page, kind, **values):
    entities = page.context.request.get(f"/api/inspections/{inspection_of(page)}").json()["entities"]
    return next(one["id"] for one in entities if one["kind"] == kind and values.items() <= one["values"].items())


def margin(page):
    return page.get_by_label("Margin", exact=True)


def test_a_neutral_elsewhere_is_said_and_two_at_one_terminal_are_asked_about(at_work):
    page = at_work("Cooker", "Lights", stage="Boards")
    page.get_by_role("button", name="More about 1 Cooker").click()
    fill(page, "Neutral at terminal", "2")
    expect(margin(page).get_by_text("as is that of 2 Lights", exact=False)).to_be_visible()
    fill(page, "Neutral at terminal", "7")
    expect(margin(page).get_by_text("terminal 7, not 1", exact=False)).to_be_visible()
    all_kept(page)


def test_the_main_switch_is_drawn_where_it_stands(at_work):
    page = at_work("Cooker", "Lights", "Shower", stage="Boards")
    front = page.get_by_role("group", name="Front of Board 1")

    def drawn():
        return front.locator("b").all_inner_texts()

    expect(front.get_by_text("main")).to_be_visible()
    assert drawn()[0] == "main"
    page.locator("[data-field=main_switch_at]").get_by_role("button", name="in the middle").click()
    fill(page, "Ways left of the main switch", "1")
    all_kept(page)
    assert drawn()[:2] == ["1", "main"]
    page.locator("[data-field=main_switch_at]").get_by_role("button", name="right end").click()
    all_kept(page)
    assert drawn()[-1] == "main"


def test_what_stood_open_during_the_insulation_test_is_no_part_of_it(at_work):
    page = at_work("Cooker", "Lights", stage="Dead tests")
    for way, name in ((1, "Cooker"), (2, "Lights")):
        cell(page, f"{way} {name}, L+N–E MΩ").click()
        page.keyboard.type(">500")
        page.keyboard.press("Enter")
    page.get_by_role("button", name="Insulation circuit by circuit").click()
    dialog = page.get_by_role("dialog", name="Insulation of Board 1")
    dialog.get_by_label("1 Cooker: Switches during the insulation test").select_option("some open")
    dialog.get_by_label("Open switches").fill("the cooker's isolator")
    dialog.get_by_label("Open switches").blur()
    expect(dialog.get_by_text("Not measured, or not whole: 1 Cooker.")).to_be_visible()
    expect(dialog.get_by_text("1 circuit is sound and can stay", exact=False)).to_be_visible()
    page.keyboard.press("Escape")
    all_kept(page)
    cell(page, "1 Cooker, L+N–E MΩ").click()
    expect(margin(page).get_by_text("without what lies beyond the cooker's isolator", exact=False)).to_be_visible()


def test_a_live_r1_r2_stands_beside_the_dead_one(at_work):
    page = at_work("Lights", stage="Live tests")
    circuit = entity(page, "circuit")
    seeding.points(page.context.request, inspection_of(page), "Lights", "Hall", "Loft")
    send(page, seeding.change("circuit", circuit, "r1_r2_ohm", "0.40"))
    page.reload()
    page.get_by_role("link", name="0/2 points of 1 Lights").click()
    live = page.get_by_role("textbox", name=re.compile("^R1\\+R2 by live test"))
    live.click()
    page.keyboard.type("0.92")
    page.keyboard.press("Enter")
    all_kept(page)
    expect(margin(page).get_by_text("1 Lights: R1+R2 by live test")).to_be_visible()
    page.get_by_role("button", name="All circuits").click()
    stage(page, "Dead tests")
    expect(cell(page, "1 Lights, R1+R2 Ω")).to_have_value("0.40")


def test_the_thread_of_a_screw_lampholder_is_asked_about_in_its_room(at_work):
    page = at_work("Lights", stage="Walk-round")
    circuit = entity(page, "circuit")
    room, point = (f"00000000-0000-7000-8000-0000000000{n}" for n in ("a0", "a1"))
    fields = {"circuit": circuit, "kind": "light", "name": "pendant", "room_id": room, "position": 1}
    send(
        page,
        *(
            seeding.change("room", room, field, value)
            for field, value in {
                "inspection": inspection_of(page),
                "name": "Hall",
                "kind": "hall, landing or stairs",
            }.items()
        ),
        *(seeding.change("point", point, field, value) for field, value in fields.items()),
    )
    page.reload()
    page.get_by_role("button", name=re.compile("Hall")).first.click()
    page.locator("[data-point]").filter(has_text="pendant").get_by_role("button", name=re.compile("More|more")).click()
    holder = page.locator("[data-field=lampholder]")
    expect(page.locator("[data-field=centre_contact]")).to_have_count(0)
    holder.get_by_role("button", name="screw", exact=True).click()
    contact = page.locator("[data-field=centre_contact]")
    expect(contact).to_be_visible()
    all_kept(page)
    # It is tested dead: there it is asked about, and there its verdict stands.
    stage(page, "Dead tests")
    margin(page).get_by_text("1 cannot be judged yet").click()
    expect(margin(page).get_by_text("A screw lampholder", exact=False)).to_be_visible()
    stage(page, "Walk-round")
    page.get_by_role("button", name=re.compile("Hall")).first.click()
    page.locator("[data-point]").filter(has_text="pendant").get_by_role("button", name=re.compile("More|more")).click()
    contact.get_by_role("button", name="incorrect", exact=True).click()
    all_kept(page)
    stage(page, "Dead tests")
    expect(margin(page).get_by_text("The line is at the thread of the lampholder", exact=False)).to_be_visible()


def test_switches_that_were_tried_are_offered_as_working(at_work):
    page = at_work("Lights", stage="Dead tests")
    circuit = entity(page, "circuit")
    seeding.points(page.context.request, inspection_of(page), "Lights", "Hall", "Stair", "Switch")
    for name, kind in (("Hall", "light"), ("Stair", "light"), ("Switch", "switch")):
        send(page, seeding.change("point", entity(page, "point", name=name), "kind", kind))
    send(page, seeding.change("circuit", circuit, "switches_both_ways", value=True))
    page.reload()
    page.get_by_role("link", name=re.compile("points of 1 Lights tested")).click()
    expect(cell(page, "Hall, Line to cpc")).to_be_focused()
    for text in ("0.30", "0.41"):
        page.keyboard.type(text)
        page.keyboard.press("Enter")
    page.get_by_role("button", name="Its switch opens and closes: works").click()
    all_kept(page)
    found = page.context.request.get(f"/api/inspections/{inspection_of(page)}").json()["entities"]
    assert [one["values"]["functional"] for one in found if one["values"].get("kind") == "switch"] == ["correct"]


def test_a_link_across_a_ring_is_drawn_between_the_points_that_read_high(at_work):
    page = at_work("Ring sockets", stage="Dead tests")
    at_the_ring(page)
    cell(page, "1 Sockets, Line end to end").click()
    sound, high = ("0.23", "0.29"), (("0.33", "0.42"), ("0.34", "0.43"), ("0.33", "0.42"))
    for pair in (("0.46", "0.46", "0.75"), sound, sound, *high, *[sound] * 4):
        for text in pair:
            page.keyboard.type(text)
            page.keyboard.press("Enter")
    drawn = page.get_by_role("img", name=re.compile("Ring of 9 points"))
    expect(drawn.get_by_text("A link across the ring could run here")).to_have_count(1)
    all_kept(page)
