"""A whole inspection without a network, from its job to the signature, closed and opened between; later all of it
arrives and is submitted."""

from collections.abc import Iterator
from datetime import date
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from dorrik.store.database.engine import new_id
from tests.e2e.test_drafts_without_a_server import SET, packed
from tests.e2e.test_inspection import inspect
from tests.e2e.test_rules_on_the_device import warm
from tests.e2e.test_without_a_server import Place, nothing_to_read, on_the_device
from tests.e2e.walk import all_kept, cell, choose, fill, stage


@pytest.fixture
def place(mariadb, built_web: Path) -> Iterator[Place]:
    place = Place(mariadb.url)
    place.up()
    yield place
    place.down()


def here(page: Page) -> None:
    """What was entered waits on the device."""
    expect(page.get_by_text("to send").first).to_be_visible()


def test_a_whole_inspection_from_its_job_to_the_signature(signed_in, place, firm):
    page = signed_in(base=place.base, on_device=True, rules=True)
    request = page.context.request
    firm_id = request.get("/api/session").json()["firm_id"]

    def entry(kind: str, parent: str, **values: str) -> str:
        answer = request.post(f"/api/register/{kind}", data={"parent_id": parent, "values": values})
        assert answer.ok, answer.text()
        return answer.json()["id"]

    client = entry("client", firm_id, name="Kelder Haven Harbour Trust")
    home = entry("property", client, address="5 Signal Steps, Kelder Haven")
    job = entry(
        "job", home, number=f"J-{new_id()[-8:]}", extent="The whole fixed installation", purpose="periodic",
        booked_on=date.today().isoformat(), state="booked",
    )  # fmt: skip
    packed(page, place.base)
    page.goto(f"{place.base}/job/{job}")
    expect(page.get_by_role("heading", name="Letters")).to_be_visible()
    on_the_device(page, "dorrik.answers", "answers", lambda rows: f"job/{job}" in {row["name"] for row in rows})
    place.down()

    page.get_by_role("button", name="Begin", exact=False).first.click()
    expect(page.get_by_label("Stages of the inspection")).to_be_visible()
    here(page)
    inspect(page, here)
    # The tablet is put away and taken up again.
    work = page.url
    page.close()
    page = page.context.new_page()
    page.goto(work)
    warm(page)
    expect(cell(page, "1 Sockets, Zs Ω")).to_have_value("0.52")

    stage(page, "Report")
    choose(page, "declared_outcome", "unsatisfactory")
    fill(page, "Next inspection in (years)", "5")
    expect(page.get_by_alt_text("Page 1 of the draft")).to_be_visible(timeout=SET)
    fill(page, "Type your name to sign", "Ines Pector")
    page.get_by_role("button", name="Sign; submit later").click()
    expect(page.get_by_text("on this device. It is submitted for review once")).to_be_visible()
    nothing_to_read(page, "Signal Steps", "Ines Pector")
    # What is entered afterwards asks for another signature.
    fill(page, "Next inspection in (years)", "3")
    expect(page.get_by_text("does not count")).to_be_visible()
    page.get_by_role("button", name="Sign again").click()
    fill(page, "Type your name to sign", "Ines Pector")
    page.get_by_role("button", name="Sign; submit later").click()
    expect(page.get_by_text("on this device. It is submitted for review once")).to_be_visible()
    # Closed once more: the signature waits, whichever screen is open next.
    page.close()
    page = page.context.new_page()
    page.goto(f"{place.base}/device")
    expect(page.get_by_text("1 signature")).to_be_visible()

    place.up()
    expect(page.get_by_text("Everything has arrived at the server.")).to_be_visible(timeout=60_000)
    page.goto(work)
    stage(page, "Report")
    all_kept(page)
    expect(page.get_by_text("on a device that was away")).to_be_visible()
    expect(page.get_by_text("A supervisor reads it")).to_be_visible()
    # Signed in as a supervisor: what arrived is what was signed for, and is issued.
    sol = signed_in(firm.supervisor_email, base=place.base)
    sol.goto(page.url)
    fill(sol, "Type your name to sign", "Sol Visor")
    sol.get_by_role("button", name="Sign and issue").click()
    expect(sol.get_by_text("Issue 1", exact=True)).to_be_visible()
