"""Surge devices, leakage and what switches, gone through with the pad; no Zs, and its observation, by one tap."""

from playwright.sync_api import expect

from tests.e2e import seeding
from tests.e2e.walk import all_kept, cell


def entity(page, kind):
    found = page.url.split("/inspection/")[1].split("/")[0]
    entities = page.context.request.get(f"/api/inspections/{found}").json()["entities"]
    return found, [one["id"] for one in entities if one["kind"] == kind]


def send(page, *changes):
    found, _ = entity(page, "board")
    answer = page.context.request.post(f"/api/inspections/{found}/changes", data={"changes": list(changes)})
    assert {result["state"] for result in answer.json()["results"]} == {"kept"}, answer.text()


def test_the_checks_are_a_walk_of_their_own(at_work):
    page = at_work("Ring sockets", "Lights", stage="Live tests")
    _, (board,) = entity(page, "board")
    _, (_, lights) = entity(page, "circuit")
    named = [("Landing", "switch"), ("Hall", "switch"), ("Stair", "light")]
    points = [
        seeding.change("point", f"00000000-0000-7000-8000-00000000000{n}", field, value)
        for n, (name, kind) in enumerate(named)
        for field, value in (("circuit", lights), ("name", name), ("kind", kind), ("position", n))
    ]
    send(
        page,
        seeding.change("board", board, "spd_state", "sound"),
        seeding.change("board", board, "spd_uc_v", 275),
        *points,
    )
    page.reload()
    page.get_by_role("radiogroup", name="Tests").get_by_text("Checks").click()
    varistor = cell(page, "Board 1, Varistor test")
    varistor.click()
    for text in ("310", "0.4"):
        page.keyboard.type(text)
        page.keyboard.press("Enter")
    expect(page.get_by_label("Margin", exact=True).get_by_text("Board 1: varistor test")).to_be_visible()
    # From leakage to the first switch; a letter answers and goes on.
    expect(cell(page, "Landing, Works as it should")).to_be_focused()
    page.keyboard.press("y")
    expect(cell(page, "Hall, Works as it should")).to_be_focused()
    page.get_by_label("Reading pad").get_by_role("button", name="not correct").click()
    expect(page.get_by_label("Margin", exact=True).get_by_text("Hall: does it work?", exact=False)).to_be_visible()
    expect(page.get_by_text("Stair")).to_have_count(0)
    all_kept(page)
    page.reload()
    expect(varistor).to_have_value("310")


def test_no_zs_with_its_observation_is_one_tap_once_the_half_test_is_made(at_work):
    page = at_work("Ring sockets", "Lights", stage="Live tests")
    _, (board,) = entity(page, "board")
    _, (sockets, lights) = entity(page, "circuit")
    rcd = "00000000-0000-7000-8000-0000000000f0"
    fields = {"board": board, "name": "RCD 1", "rated_ma": 30, "place": "its circuits", "delay": "none"}
    send(
        page,
        *(seeding.change("rcd", rcd, field, value) for field, value in fields.items()),
        *(seeding.change("circuit", circuit, "rcd_id", rcd) for circuit in (sockets, lights)),
    )
    page.reload()
    pad = page.get_by_label("Reading pad")
    cell(page, "1 Sockets, Zs Ω").click()
    pad.get_by_role("button", name="LIM").click()
    expect(pad.get_by_role("button", name="RCD trips on the test", exact=True)).to_be_visible()
    expect(pad.get_by_role("button", name="and its observation")).to_have_count(0)
    page.keyboard.press("Escape")
    send(page, seeding.change("rcd", rcd, "half", "correct"))
    page.reload()
    cell(page, "1 Sockets, Zs Ω").click()
    pad.get_by_role("button", name="LIM").click()
    pad.get_by_role("button", name="RCD trips on the test, and its observation").click()
    expect(cell(page, "1 Sockets, Zs Ω")).to_have_value("LIM RCD trips on the test")
    expect(page.get_by_text("RCD does not hold or trips at half its rating", exact=False).first).to_be_visible()
    all_kept(page)
    found, (observation,) = entity(page, "observation")
    entities = page.context.request.get(f"/api/inspections/{found}").json()["entities"]
    values = next(one["values"] for one in entities if one["id"] == observation)
    assert (values["about_id"], values["catalogue_key"], values["code"]) == (rcd, "rcd-trips-on-test", "C3")
    # Once for each device: the next circuit behind it is a limitation and no second observation.
    cell(page, "2 Lights, Zs Ω").click()
    pad.get_by_role("button", name="LIM").click()
    expect(pad.get_by_role("button", name="and its observation")).to_have_count(0)
