"""Bad input, no signal, an ended session, two people: what was typed stays."""

from playwright.sync_api import expect
from sqlalchemy import delete, select

from dorrik.store.database.account_tables import person, session
from tests.conftest import PASSWORD
from tests.e2e.on_device import kept_on_the_device
from tests.e2e.walk import all_kept, cell, fill, hold_polls


def at_the_cooker(page):
    figure = cell(page, "1 Cooker, R1+R2 Ω")
    figure.click()
    return figure


def test_a_figure_that_is_none_stays_with_its_reason_and_the_rest_is_kept(at_work):
    page = at_work("Cooker", stage="Dead tests")
    figure = at_the_cooker(page)
    page.keyboard.type("1..4")
    page.keyboard.press("Enter")
    page.keyboard.type(">500")
    page.keyboard.press("Enter")
    expect(page.get_by_text("1 not accepted")).to_be_visible()
    figure.click()
    expect(page.get_by_role("alert")).to_contain_text("more than one decimal mark")
    # It is still there after the tablet was switched off and on.
    page.reload()
    expect(figure).to_have_value("1..4")
    expect(cell(page, "1 Cooker, L–N MΩ")).to_have_value(">500")
    figure.click()
    page.keyboard.type("1.4")
    page.keyboard.press("Enter")
    expect(page.get_by_text("1 not accepted")).to_have_count(0)
    all_kept(page)
    page.reload()
    expect(figure).to_have_value("1.4")


def test_ten_thousand_characters_are_refused_at_the_field_and_stay(at_work):
    page = at_work()
    fill(page, "Client", "x" * 10_000)
    expect(page.get_by_role("alert")).to_contain_text("10000 characters long; at most 120 fit")
    expect(page.get_by_label("Client", exact=True)).to_have_value("x" * 10_000)
    fill(page, "Client", "Harbour Trust")
    expect(page.get_by_role("alert")).to_have_count(0)
    all_kept(page)


def test_a_date_in_1890_is_told_at_the_date(at_work):
    page = at_work()
    date = page.get_by_label("Date of inspection", exact=True)
    date.fill("1890-05-01")
    date.blur()
    expect(page.locator("[data-field=inspected_on]").get_by_role("alert")).to_contain_text("1890 is before")


def test_without_a_signal_entries_wait_and_are_sent_when_it_returns(at_work):
    page = at_work("Cooker", stage="Dead tests", on_device=True)
    at_the_cooker(page)
    kept_on_the_device(page)
    page.context.set_offline(True)
    page.keyboard.type("0.12")
    page.keyboard.press("Enter")
    page.keyboard.type(">500")
    page.keyboard.press("Enter")
    expect(page.get_by_text("2 to send")).to_be_visible()
    page.context.set_offline(False)
    all_kept(page)
    page.reload()
    expect(cell(page, "1 Cooker, R1+R2 Ω")).to_have_value("0.12")


def test_what_waits_outlives_the_page(at_work, server):
    """The battery dies with entries waiting; they are sent at the next start."""
    page = at_work("Cooker", stage="Dead tests")
    at_the_cooker(page)
    all_kept(page)
    address = page.url
    page.route("**/changes", lambda route: route.abort())
    page.keyboard.type("0.12")
    page.keyboard.press("Enter")
    expect(page.get_by_text("1 to send")).to_be_visible()
    page.close()
    again = page.context.new_page()
    again.goto(server.base)
    expect(again.get_by_role("heading", name="In progress")).to_be_visible()
    again.goto(address)
    expect(cell(again, "1 Cooker, R1+R2 Ω")).to_have_value("0.12")
    all_kept(again)


def test_a_session_that_ends_while_entries_wait(at_work, engine, firm):
    page = at_work("Cooker", stage="Dead tests")
    at_the_cooker(page)
    all_kept(page)
    hold_polls(page)
    with engine.begin() as connection:
        # The database is everybody's: only this firm's sessions end.
        people = select(person.c.id).where(person.c.firm_id == firm.id)
        connection.execute(delete(session).where(session.c.person_id.in_(people)))
    page.keyboard.type("0.12")
    page.keyboard.press("Enter")
    dialog = page.get_by_role("dialog", name="Sign in again")
    expect(dialog.get_by_text("Nothing you typed is lost")).to_be_visible()
    # Whoever has the device now reads nothing of the inspection behind it.
    behind = page.locator("[data-scope=dialog][data-part=backdrop]")
    assert behind.evaluate("one => getComputedStyle(one).backgroundColor").startswith("rgb(")
    assert behind.evaluate("one => getComputedStyle(one).opacity") == "1"
    dialog.get_by_label("Password").fill(PASSWORD)
    dialog.get_by_role("button", name="Sign in").click()
    expect(dialog).to_have_count(0)
    all_kept(page)
    page.reload()
    expect(cell(page, "1 Cooker, R1+R2 Ω")).to_have_value("0.12")


def test_a_page_left_open_writes_nothing_under_the_name_of_the_next(at_work, firm):
    """In another window of the same browser somebody else signs in: this one still shows the inspector's work."""
    page = at_work("Cooker", stage="Dead tests")
    figure = at_the_cooker(page)
    all_kept(page)
    request = page.context.request
    assert request.post("/api/session", data={"email": firm.supervisor_email, "password": PASSWORD}).ok
    page.keyboard.type("0.12")
    page.keyboard.press("Enter")
    dialog = page.get_by_role("dialog", name="Sign in again")
    expect(dialog).to_be_visible()
    dialog.get_by_label("Password").fill(PASSWORD)
    dialog.get_by_role("button", name="Sign in").click()
    expect(dialog).to_have_count(0)
    all_kept(page)
    figure.click()
    page.get_by_role("button", name="history").click()
    expect(page.get_by_role("dialog", name="History of this figure")).to_contain_text("Ines Pector")


def test_two_inspectors_on_one_figure(signed_in, at_work, firm):
    one = at_work("Cooker", stage="Dead tests")
    at_the_cooker(one)
    all_kept(one)
    other = signed_in(firm.supervisor_email)
    # The other does not hear of the first's figure: not even from what it asked before.
    other.route("**/changes?since=*", lambda route: route.abort())
    other.goto(one.url)
    expect(cell(other, "1 Cooker, R1+R2 Ω")).to_be_visible()
    one.keyboard.type("0.12")
    one.keyboard.press("Enter")
    all_kept(one)
    cell(other, "1 Cooker, R1+R2 Ω").click()
    other.keyboard.type("0.21")
    other.keyboard.press("Enter")
    # Both are asked, with who entered what; one tap of either decides for both.
    for page, theirs in ((other, "Ines Pector"), (one, "Sol Visor")):
        asked = page.get_by_role("status").filter(has_text="1 Cooker, R1+R2: 0.21 or 0.12?")
        expect(asked).to_contain_text(theirs)
        expect(asked).to_contain_text("you")
    expect(cell(one, "1 Cooker, R1+R2 Ω")).to_have_value("0.21")
    other.unroute("**/changes?since=*")
    one.get_by_role("button", name="Take 0.12").click()
    expect(cell(one, "1 Cooker, R1+R2 Ω")).to_have_value("0.12")
    all_kept(one)
    expect(cell(other, "1 Cooker, R1+R2 Ω")).to_have_value("0.12")
    for page in (one, other):
        expect(page.get_by_role("button", name="Keep 0.21")).to_have_count(0)


def test_an_entry_that_the_server_fails_on_does_not_hold_up_the_rest(at_work):
    page = at_work("Cooker", stage="Dead tests")
    figure = at_the_cooker(page)
    all_kept(page)

    def fail_on_it(route):
        poisoned = '"0.13"' in (route.request.post_data or "")
        route.fulfill(status=500, body="Internal Server Error") if poisoned else route.continue_()

    page.route("**/changes", fail_on_it)
    page.keyboard.type("0.13")
    page.keyboard.press("Enter")
    page.keyboard.type(">500")
    page.keyboard.press("Enter")
    expect(page.get_by_text("1 not accepted")).to_be_visible(timeout=60_000)
    all_kept(page)
    page.reload()
    expect(figure).to_have_value("0.13")
    expect(cell(page, "1 Cooker, L–N MΩ")).to_have_value(">500")


def test_entries_are_sent_under_the_name_of_who_made_them(at_work, firm):
    """A tablet is handed over with entries waiting: they wait for the one who made them."""
    page = at_work("Cooker", stage="Dead tests")
    figure = at_the_cooker(page)
    all_kept(page)
    address = page.url
    page.route("**/changes", lambda route: route.abort())
    page.keyboard.type("0.12")
    page.keyboard.press("Enter")
    expect(page.get_by_text("1 to send")).to_be_visible()
    # The page goes before the network is back: what it had on its way cannot arrive under its own name after all.
    page.goto("about:blank")
    page.unroute("**/changes")
    page.context.clear_cookies()
    page.goto(address)
    page.get_by_label("Email").fill(firm.supervisor_email)
    page.get_by_label("Password").fill(PASSWORD)
    page.get_by_role("button", name="Sign in").click()
    expect(figure).to_be_visible()
    expect(figure).to_have_value("")
    page.context.clear_cookies()
    page.goto(address)
    page.get_by_label("Email").fill(firm.inspector_email)
    page.get_by_label("Password").fill(PASSWORD)
    page.get_by_role("button", name="Sign in").click()
    expect(figure).to_have_value("0.12")
    all_kept(page)
    figure.click()
    page.get_by_role("button", name="history").click()
    expect(page.get_by_role("dialog", name="History of this figure")).to_contain_text("Ines Pector")
