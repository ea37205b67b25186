"""A report on its way, as its two people do it: signed with a pen, asked about at a figure, answered, sent back,
changed and signed again, authorised."""

import io
import re

from playwright.sync_api import expect
from pypdf import PdfReader

from tests.conftest import Firm
from tests.e2e import seeding
from tests.e2e.test_accessibility import violations
from tests.e2e.walk import all_kept, cell, fill, stage

#: What a report needs before it can be signed for.
READY = {
    "client_name": "Kelder Haven Harbour Trust", "extent": "All of it", "declared_outcome": "unsatisfactory",
    "outcome_reason": "Much of it is not tested yet.", "next_years": 1, "next_reason": "Not tested yet.",
}  # fmt: skip


def ready(page):
    found = seeding.inspection(page.context.request, "Cooker")
    changes = [seeding.change("inspection", found, field, value) for field, value in READY.items()]
    answer = page.context.request.post(f"/api/inspections/{found}/changes", data={"changes": changes})
    assert {result["state"] for result in answer.json()["results"]} == {"kept"}
    return found


def drawn(page):
    """A signature with a pen, once the draft is there: what it says stands above the pad, and moves it."""
    expect(page.get_by_alt_text("Page 1 of the draft")).to_be_visible()
    page.get_by_role("button", name="Sign with a pen").click()
    pad = page.get_by_role("img", name="Sign here")
    pad.scroll_into_view_if_needed()
    box = pad.bounding_box()
    page.mouse.move(box["x"] + 40, box["y"] + 40)
    page.mouse.down()
    for step in range(1, 20):
        page.mouse.move(box["x"] + 40 + step * 8, box["y"] + 40 + (step % 4) * 9)
    page.mouse.up()
    expect(page.get_by_role("img", name="Your signature")).to_be_visible()


def test_submitted_asked_about_answered_sent_back_and_authorised(signed_in, firm: Firm):
    ines, sol = signed_in(home=False, width=390), signed_in(firm.supervisor_email, home=False)
    found = ready(ines)
    seeding.open_at(ines, found, "Report")
    drawn(ines)
    assert violations(ines) == []
    ines.get_by_role("button", name="Sign and submit for review").click()
    expect(ines.get_by_text("Signed and submitted for review.")).to_be_visible()
    expect(ines.get_by_text("A supervisor reads it, and issues it or sends it back.")).to_be_visible()

    # The supervisor asks at the figure in focus.
    seeding.open_at(sol, found, "Report")
    sol.get_by_role("button", name="I have read it up to here").click()
    expect(sol.get_by_text("Nothing changed since you read it last.")).to_be_visible()
    stage(sol, "Dead tests")
    cell(sol, "1 Cooker, R1+R2 Ω").click()
    sol.get_by_title("Leave what is in focus for later").click()
    sol.get_by_role("button", name="Ask whoever inspected").click()
    sol.get_by_label("What is still to do").fill("Why was it not measured?")
    sol.get_by_role("button", name="Save", exact=True).click()
    all_kept(sol)
    # A question reopens nothing, and has its answer before anybody issues.
    stage(sol, "Report")
    expect(sol.get_by_text("Sol Visor asks at 1 Cooker: R1+R2: Why was it not measured?")).to_be_visible()
    expect(sol.get_by_role("button", name="Sign and issue")).to_be_disabled()

    # Whoever inspected answers on the phone; a reading reopens the report, and both are told.
    things = ines.get_by_label("To come back to before issuing")
    expect(things.get_by_text("Sol Visor asks:")).to_be_visible()
    fill(ines, "Answer", "Behind the built-in oven.")
    ines.get_by_role("button", name="1 Cooker: R1+R2: done").click()
    all_kept(ines)
    expect(ines.get_by_text("Signed and submitted for review.")).to_be_visible()
    stage(ines, "Dead tests")
    cell(ines, "1 Cooker, R1+R2 Ω").click()
    ines.keyboard.type("0.12")
    ines.keyboard.press("Enter")
    all_kept(ines)
    sol.reload()
    reopened = sol.get_by_role("region", name="Changed since it was submitted")
    expect(reopened.get_by_text("nothing → 0.12")).to_be_visible()
    expect(sol.get_by_role("region", name="Changed since you read it last")).to_have_count(0)
    assert violations(sol) == []

    # Signed again, sent back with words, signed again, authorised.
    stage(ines, "Report")
    fill(ines, "Type your name to sign", "Somebody Else")
    ines.get_by_role("button", name="Sign and submit for review").click()
    expect(ines.get_by_text("Type your name as the firm has it: Ines Pector.").first).to_be_visible()
    fill(ines, "Type your name to sign", "Ines Pector")
    ines.get_by_role("button", name="Sign and submit for review").click()
    expect(ines.get_by_text("A supervisor reads it, and issues it or sends it back.")).to_be_visible()
    sol.reload()
    expect(sol.get_by_role("region", name="Changed since you read it last").get_by_text("0.12")).to_be_visible()
    sol.get_by_role("button", name="Send back …").click()
    fill(sol, "What is still to be done", "Say in the extent that the oven was not moved.")
    sol.get_by_role("button", name="Send back", exact=True).click()
    expect(sol.get_by_text("“Say in the extent that the oven was not moved.”")).to_be_visible()
    ines.reload()
    expect(ines.get_by_text("“Say in the extent that the oven was not moved.”")).to_be_visible()
    drawn(ines)
    ines.get_by_role("button", name="Sign and submit for review").click()
    expect(ines.get_by_text("A supervisor reads it, and issues it or sends it back.")).to_be_visible()
    sol.reload()
    fill(sol, "Type your name to sign", "Sol Visor")
    # Pressed twice: one report.
    sol.get_by_role("button", name="Sign and issue").dblclick()
    expect(sol.get_by_text("Issue 1", exact=True)).to_be_visible()
    (issued,) = sol.context.request.get(f"/api/inspections/{found}/reports").json()
    pdf = sol.context.request.get(f"/api/reports/{issued['id']}.pdf").body()
    words = " ".join(" ".join(page.extract_text() for page in PdfReader(io.BytesIO(pdf)).pages).split())
    assert "reported by Ines Pector (inspector)" in words and "Authorised by Sol Visor (supervisor)" in words

    # Whoever holds the paper checks it on a phone, without an account: by its square code, then with a slip.
    (code,) = re.findall(r"[0-9A-F]{4}-[0-9A-F]{4}-[0-9A-F]{4}", words)
    context = sol.context.browser.new_context(viewport={"width": 390, "height": 800}, reduced_motion="reduce")
    client = context.new_page()
    client.goto(f"{sol.url.partition('/inspection')[0]}/check#K-0001/{code}")
    known = client.get_by_role("region", name="What is known of it")
    expect(known.get_by_text("Genuine", exact=True)).to_be_visible()
    expect(known).to_contain_text("unsatisfactory")
    assert violations(client) == []
    fill(client, "Check code", code[:-1] + ("0" if code[-1] != "0" else "1"))
    client.get_by_role("button", name="Check", exact=True).click()
    expect(client.get_by_text("No report with this number has this check code.")).to_be_visible()
    context.close()
