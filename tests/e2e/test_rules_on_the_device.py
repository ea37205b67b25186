"""The device judges by itself: without a network from the first reading on, also after a reload; what it says is what
the server says of the same entries afterwards."""

import json

from playwright.sync_api import Page, expect

from tests.e2e.on_device import WARM, kept_on_the_device, packed, warm
from tests.e2e.walk import all_kept, figure, fill, stage


def statuses(page: Page, base: str, inspection: str) -> dict[str, list[str]]:
    """What the server says of each Zs, by circuit."""
    found = page.context.request.get(f"{base}/api/inspections/{inspection}").json()["judgement"]["notes"]
    return {note["id"]: [note["status"]] for note in found if note["field"] == "zs_ohm"}


def differences(supervisor: Page, base: str) -> list[object]:
    answer = supervisor.context.request.get(f"{base}/api/audit", params={"action": "verdicts differed"})
    return answer.json()["lines"]


def test_readings_are_judged_without_a_network_and_after_a_reload(at_work, signed_in, place, firm):
    page = at_work("Cooker", "Shower", stage="Live tests", base=place.base, on_device=True, rules=True)
    all_kept(page)
    warm(page)
    kept_on_the_device(page)
    margin = page.get_by_label("Margin")
    place.down()
    figure(page, "1 Cooker, Zs Ω", "7.31")
    expect(margin.get_by_text("7.31 Ω").first).to_be_visible()
    expect(margin.get_by_text("not judged yet")).to_have_count(0)
    expect(page.get_by_text("1 to send")).to_be_visible()
    page.reload()
    expect(page.get_by_text("The server cannot be reached.")).to_be_visible()
    warm(page)
    expect(margin.get_by_text("7.31 Ω").first).to_be_visible()
    # What the server would refuse is told here at once.
    figure(page, "2 Shower, Zs Ω", "0.4.1")
    expect(page.get_by_text("has more than one decimal mark").first).to_be_visible()
    figure(page, "2 Shower, Zs Ω", "0.41")

    place.up()
    all_kept(page)
    expect(margin.get_by_text("7.31 Ω").first).to_be_visible()
    inspection = page.url.split("/inspection/")[1].split("/")[0]
    assert sorted(map(tuple, statuses(page, place.base, inspection).values()))
    # Both have judged the same state by now.
    page.wait_for_timeout(2500)
    expect(page.get_by_text("do not judge this inspection alike")).to_have_count(0)
    page.context.request.delete(f"{place.base}/api/session")
    boss = signed_in(firm.supervisor_email, base=place.base, home=False)
    assert differences(boss, place.base) == []


def test_an_inspection_begun_without_a_network_is_judged_from_its_first_board_on(signed_in, place):
    page = signed_in(base=place.base, on_device=True, rules=True)
    # The bag packs itself; the rules come behind it.
    page.evaluate("navigator.serviceWorker.ready.then(() => true)")
    page.reload()
    expect(page.get_by_role("button", name="New inspection")).to_be_visible()
    page.get_by_role("button", name="your account").click()
    page.get_by_role("menuitem", name="This device").click()
    expect(page.get_by_text("This device judges by itself")).to_be_visible(timeout=WARM)
    page.get_by_role("button", name="Pack now").click()
    expect(page.get_by_text("packed")).to_be_visible()
    place.down()
    page.goto(place.base)
    expect(page.get_by_text("The server cannot be reached.")).to_be_visible()
    page.get_by_role("button", name="New inspection").click()
    fill(page, "Property", "9 Lookout Row, Kelder Haven")
    stage(page, "Boards")
    page.get_by_role("button", name="Add the first board").click()
    page.get_by_role("button", name="+ Cooker").click()
    expect(page.locator("table tbody tr")).to_have_count(1)
    stage(page, "Isolation")
    # Which conductors are proved dead is the rules' to say.
    page.get_by_role("button", name="Begin: tester proved now").click()
    page.get_by_role("button", name="Isolated now").click()
    fill(page, "Lock and tag", "Lock 7, main switch")
    expect(page.get_by_text("6 of 6 left")).to_be_visible()
    page.get_by_role("button", name="way 1: all dead").click()
    expect(page.get_by_text("3 of 6 left")).to_be_visible()
    stage(page, "Live tests")
    figure(page, "1 Cooker, Zs Ω", "7.31")
    expect(page.get_by_label("Margin").get_by_text("7.31 Ω").first).to_be_visible()
    # The tab is closed and opened again, still without a network.
    address = page.url
    page.close()
    again: Page = page.context.new_page()
    again.goto(place.base)
    expect(again.get_by_role("link", name="9 Lookout Row")).to_contain_text("only on this device")
    again.goto(address)
    expect(again.get_by_label("Margin").get_by_text("7.31 Ω").first).to_be_visible(timeout=WARM)
    place.up()
    all_kept(again)
    found = again.context.request.get(f"{place.base}/api/home").json()["in_hand"]
    assert ["9 Lookout Row" in json.dumps(line) for line in found] == [True]


def test_rules_switched_off_on_a_device_leave_the_verdicts_to_the_server(at_work):
    page = at_work("Cooker", stage="Live tests", on_device=True)
    all_kept(page)
    page.evaluate("navigator.serviceWorker.ready.then(() => true)")
    page.reload()
    figure(page, "1 Cooker, Zs Ω", "7.31")
    expect(page.get_by_label("Margin").get_by_text("7.31 Ω").first).to_be_visible()
    expect(page.locator("[data-rules=off]")).to_be_visible()


def test_a_thread_that_was_killed_is_begun_anew_without_a_server(at_work, place):
    page = at_work("Cooker", "Shower", stage="Live tests", base=place.base, on_device=True, rules=True)
    all_kept(page)
    kept_on_the_device(page)
    work = page.url
    packed(page, place.base)
    page.goto(work)
    warm(page)
    place.down()
    # As a browser does it that is short of memory: without a word.
    for worker in page.workers:
        worker.evaluate("close()")
    figure(page, "1 Cooker, Zs Ω", "7.31")
    margin = page.get_by_label("Margin")
    expect(margin.get_by_text("One entry is not judged yet.")).to_be_visible()
    # Nobody waits for it: the next figure goes in.
    figure(page, "2 Shower, Zs Ω", "0.44")
    expect(page.get_by_text("2 to send")).to_be_visible()
    expect(margin.get_by_text("7.31 Ω").first).to_be_visible(timeout=WARM)
    expect(margin.get_by_text("not judged yet")).to_have_count(0)
