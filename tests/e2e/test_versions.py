"""A device and a server of different versions: an update in the middle of a day, an older application before a newer
server and the other way round. Nothing that was entered is lost, and each screen is there."""

from pathlib import Path
from typing import Any

import pytest
from playwright.sync_api import Page, Route, expect

from tests.another_version import newer
from tests.e2e.on_device import journal, kept_on_the_device, on_the_device
from tests.e2e.walk import all_kept, cell, figure, stage

FIGURE = "1 Cooker, R1+R2 Ω"
OTHER = "1 Cooker, L–N MΩ"
NEWER = "html[data-version=newer]"


@pytest.fixture(scope="module")
def newer_web(built_web: Path, tmp_path_factory: pytest.TempPathFactory) -> Path:
    return newer(built_web, tmp_path_factory.mktemp("newer") / "dist")


def entered(page: Page, base: str) -> list[tuple[str, object]]:
    """Figures of the test grid that the server has, in the order in which they came."""
    inspection = page.url.split("/inspection/")[1].split("/")[0]
    return [line for line in journal(page, base, inspection) if line[0] in ("r1_r2_ohm", "insulation_ln_mohm")]


def test_an_update_in_the_middle_of_a_day(at_work, place, newer_web):
    page = at_work("Cooker", stage="Dead tests", base=place.base, on_device=True)
    all_kept(page)
    kept_on_the_device(page)
    script = page.evaluate("document.querySelector('script[type=module]').src")
    place.down()
    figure(page, FIGURE, "0.31")
    expect(page.get_by_text("1 to send")).to_be_visible()

    # The server comes back in another version. What waits goes, and the version that is open goes on.
    place.up(newer_web)
    all_kept(page)
    assert page.context.request.get(script).status == 404
    stage(page, "Isolation")
    expect(page.get_by_role("heading", name="Isolation", level=1)).to_be_visible()
    expect(page.locator(NEWER)).to_have_count(0)
    # That there is another is found without asking, and waits for a word.
    told = page.get_by_role("status").filter(has_text="A new version of Dorrik is on this device.")
    expect(told).to_be_visible()

    # Taken while something waits and nobody answers: it begins all the same, with what waits.
    stage(page, "Dead tests")
    place.down()
    figure(page, OTHER, ">500")
    expect(page.get_by_text("1 to send")).to_be_visible()
    told.get_by_role("button", name="Use it now").click()
    expect(page.locator(NEWER)).to_be_attached()
    expect(cell(page, OTHER)).to_have_value(">500")
    expect(cell(page, FIGURE)).to_have_value("0.31")
    expect(page.get_by_text("1 to send")).to_be_visible()
    place.up(newer_web)
    all_kept(page)
    assert entered(page, place.base) == [("r1_r2_ohm", "0.31"), ("insulation_ln_mohm", ">500")]


def test_another_window_of_the_version_before_is_not_left_without_its_screens(at_work, place, newer_web):
    first = at_work("Cooker", stage="Dead tests", base=place.base, on_device=True)
    all_kept(first)
    kept_on_the_device(first)
    second = first.context.new_page()
    second.goto(first.url)
    expect(cell(second, FIGURE)).to_be_visible()
    place.down()
    place.up(newer_web)
    # The next entry hears of it.
    figure(first, FIGURE, "0.31")
    all_kept(first)
    take = first.get_by_role("button", name="Use it now")
    expect(take).to_be_visible()
    place.down()
    figure(second, OTHER, "310")
    on_the_device(second, "dorrik", "pending", lambda rows: len(rows) == 1)
    take.click()
    expect(first.locator(NEWER)).to_be_attached()
    # The other window asks for a screen that it never had: of its own version there is none any more.
    second.context.new_cdp_session(second).send("Network.clearBrowserCache")
    second.get_by_label("Stages of the inspection").get_by_role("link", name="Isolation").click()
    expect(second.get_by_role("heading", name="Isolation", level=1)).to_be_visible()
    stage(second, "Dead tests")
    expect(cell(second, OTHER)).to_have_value("310")
    place.up(newer_web)
    all_kept(second)
    assert entered(second, place.base) == [("r1_r2_ohm", "0.31"), ("insulation_ln_mohm", "310")]


def _of_a_later_version(answer: dict[str, Any]) -> dict[str, Any]:
    """An inspection with kinds, fields and notes that this version has not heard of."""
    inspection = answer["id"]
    answer["arrives_later"] = {"a": [1]}
    answer["entities"][0]["values"]["field_of_later"] = "x"
    answer["entities"].append(
        {"kind": "kind_of_later", "id": "0198aaaa-0000-7000-8000-000000000001", "parent_id": inspection, "values": {}}
    )
    judgement = answer["judgement"]
    judgement["part_of_later"] = [{"id": inspection}]
    judgement["notes"].append({**judgement["notes"][0], "field": "field_of_later", "status": "status_of_later"})
    return answer


def test_an_older_application_goes_on_before_a_newer_server(at_work, place):
    page = at_work("Cooker", stage="Dead tests", base=place.base, on_device=True, rules=True)
    figure(page, FIGURE, "7.31")
    all_kept(page)
    seen = []

    def later(route: Route) -> None:
        answer = route.fetch()
        seen.append(route.request.url)
        route.fulfill(response=answer, json=_of_a_later_version(answer.json()))

    page.context.route(lambda url: "/api/inspections/" in url and len(url.split("/")) == 6, later)
    page.reload()
    for name in ("Boards", "Walk-round", "Observations", "Report", "Dead tests"):
        stage(page, name)
    figure(page, OTHER, ">500")
    all_kept(page)
    assert seen
    assert entered(page, place.base) == [("r1_r2_ohm", "7.31"), ("insulation_ln_mohm", ">500")]


def test_what_a_server_cannot_read_waits_until_one_can(at_work, place):
    """The application is ahead of the server, as where a server was put back to the version before."""
    page = at_work("Cooker", stage="Dead tests", base=place.base, on_device=True)
    all_kept(page)

    def unreadable(route: Route) -> None:
        problem = {"code": "invalid", "message": "The request has a part that is not known here.", "fields": []}
        route.fulfill(status=422, json=problem) if route.request.method == "POST" else route.continue_()

    page.context.route("**/api/inspections/*/changes*", unreadable)
    figure(page, FIGURE, "0.31")
    figure(page, OTHER, ">500")
    expect(page.get_by_text("What you typed is kept on this device.").first).to_be_visible()
    page.reload()
    expect(cell(page, FIGURE)).to_have_value("0.31")
    expect(cell(page, OTHER)).to_have_value(">500")
    page.context.unroute("**/api/inspections/*/changes*")
    page.reload()
    all_kept(page)
    assert entered(page, place.base) == [("r1_r2_ohm", "0.31"), ("insulation_ln_mohm", ">500")]
