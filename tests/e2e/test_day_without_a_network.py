"""A whole inspection without a network, from its job to the signature, closed and opened between; later all of it
arrives and is submitted."""

from playwright.sync_api import Page, expect

from tests.e2e import seeding
from tests.e2e.on_device import SET, nothing_to_read, on_the_device, packed, warm
from tests.e2e.test_inspection import inspect
from tests.e2e.walk import all_kept, cell, choose, fill, sign_out, stage


def here(page: Page) -> None:
    """What was entered waits on the device."""
    expect(page.get_by_text("to send").first).to_be_visible()


def test_a_whole_inspection_from_its_job_to_the_signature(signed_in, place, firm):
    page = signed_in(base=place.base, on_device=True, rules=True)
    job = seeding.job(page.context.request, "Kelder Haven Harbour Trust", address="5 Signal Steps, Kelder Haven")
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
    # Whoever signs out is told what waits, the signature among it.
    page.goto(place.base)
    sign_out(page)
    question = page.get_by_role("dialog")
    expect(question.get_by_text("entries and one signature have not reached the server.")).to_be_visible()
    question.get_by_role("button", name="Stay signed in").click()

    place.up()
    page.goto(f"{place.base}/device")
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
