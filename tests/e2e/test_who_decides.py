"""The office sees what a competent person says was done, and has nothing to say it with."""

from playwright.sync_api import expect

from tests.e2e import seeding
from tests.e2e.seeding import _entity, open_at

DECIDES = "An inspector or a supervisor decides this."


def test_the_office_has_no_button_for_what_only_a_competent_person_says(signed_in, firm):
    ines = signed_in(home=False)
    found = seeding.inspection(ines.context.request, "Lights")
    _, danger = _entity("observation", "inspection", found, text="Live part can be touched", code="C1")
    sent = ines.context.request.post(f"/api/inspections/{found}/changes", data={"changes": danger})
    assert {result["state"] for result in sent.json()["results"]} == {"kept"}

    for email, says in ((firm.inspector_email, True), (firm.office_email, False)):
        page = signed_in(email=email, home=False)
        open_at(page, found, "Isolation")
        expect(page.get_by_text("Nothing recorded yet.")).to_be_visible()
        expect(page.get_by_role("button", name="Begin: tester proved now")).to_have_count(int(says))
        expect(page.get_by_text(DECIDES)).to_have_count(int(not says))
        open_at(page, found, "Observations")
        page.get_by_text("Live part can be touched").first.click()
        expect(page.get_by_label("Danger present")).to_be_visible()
        expect(page.get_by_role("button", name="Record: told now")).to_have_count(int(says))
