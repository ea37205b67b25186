"""Two windows of one browser on one inspection, and a right that ended meanwhile: without a server nothing is lost, and
nothing is sent twice or by somebody who may not any more."""

from playwright.sync_api import expect

from tests.e2e.on_device import journal, kept_on_the_device, nothing_to_read, on_the_device
from tests.e2e.walk import all_kept, cell, figure


def test_two_windows_of_one_browser_send_everything_once(at_work, place):
    first = at_work("Cooker", "Shower", stage="Dead tests", base=place.base, on_device=True)
    all_kept(first)
    kept_on_the_device(first)
    second = first.context.new_page()
    second.goto(first.url)
    expect(cell(second, "1 Cooker, R1+R2 Ω")).to_be_visible()
    inspection = first.url.split("/inspection/")[1].split("/")[0]
    before = len(journal(first, place.base, inspection))
    place.down()
    figure(first, "1 Cooker, R1+R2 Ω", "0.11")
    figure(second, "2 Shower, R1+R2 Ω", "0.22")
    figure(first, "1 Cooker, L–N MΩ", ">500")
    figure(second, "2 Shower, L–N MΩ", "310")
    on_the_device(first, "dorrik", "pending", lambda rows: len(rows) == 4)
    # One of them is closed; what was entered there is on the device, and goes from the other.
    second.close()
    place.up()
    all_kept(first)
    first.reload()
    expect(cell(first, "2 Shower, R1+R2 Ω")).to_have_value("0.22")
    all_kept(first)
    on_the_device(first, "dorrik", "pending", lambda rows: rows == [])
    added = journal(first, place.base, inspection)[before:]
    assert sorted(map(str, added)) == sorted(
        map(str, [("r1_r2_ohm", "0.11"), ("r1_r2_ohm", "0.22"), ("insulation_ln_mohm", ">500"),
                  ("insulation_ln_mohm", "310")])
    )  # fmt: skip


def test_who_may_not_sign_in_any_more_is_told_and_what_waits_stays_sealed(at_work, signed_in, place, firm):
    page = at_work("Cooker", stage="Dead tests", base=place.base, on_device=True)
    all_kept(page)
    kept_on_the_device(page)
    place.down()
    figure(page, "1 Cooker, R1+R2 Ω", "0.12")
    expect(page.get_by_text("1 to send")).to_be_visible()
    place.up()
    sol = signed_in(firm.supervisor_email, base=place.base, home=False)
    people = sol.context.request.get(f"{place.base}/api/people").json()
    ines = next(person for person in people if person["email"] == firm.inspector_email)
    ended = sol.context.request.post(f"{place.base}/api/people/{ines['id']}/end")
    assert ended.ok, ended.text()
    # The next contact says so; nothing of the day's bag is left to be read, and what was entered waits, sealed.
    page.reload()
    expect(page.get_by_label("Password")).to_be_visible()
    on_the_device(page, "dorrik.answers", "answers", lambda rows: rows == [])
    nothing_to_read(page, "0.12", "Lookout Row")
