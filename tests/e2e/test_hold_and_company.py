"""A high Ze stops live tests: letter, hold, return. And two inspectors on one home, each seeing the other's entries."""

from playwright.sync_api import expect

from tests.e2e.walk import all_kept, board, cell, choose, fill, stage


def test_high_ze_letter_hold_and_return(at_work):
    page = at_work()
    page.get_by_role("button", name="Record arrival").click()
    board(page, "Cooker")
    stage(page, "Intake")
    choose(page, "earthing", "TN-S")
    choose(page, "ze_parallel_removed", "Yes")
    cell(page, "Ze").click()
    page.keyboard.type("1.9")
    page.keyboard.press("Enter")
    margin = page.get_by_label("Margin", exact=True)
    with page.expect_download() as download:
        margin.get_by_role("link", name="Letter to the operator").click()
    assert download.value.suggested_filename.endswith(".pdf")
    margin.get_by_role("button", name="Operator called now").click()
    expect(margin.get_by_role("button", name="Operator called now")).to_have_count(0)
    # When it was called stands where the supply is entered, and can be taken back.
    called = page.get_by_role("article", name="Call about Earth of the supply")
    called.wait_for()
    called.get_by_role("button", name="Remove call").click()
    expect(called).to_have_count(0)
    margin.get_by_role("button", name="Operator called now").click()
    called.wait_for()
    margin.get_by_role("button", name="Put on hold").click()
    assert "1.9 Ω" in page.get_by_role("textbox", name="Because").input_value()
    fill(page, "Return visit", "2026-12-03")
    page.get_by_role("button", name="Record departure").click()
    all_kept(page)
    page.get_by_role("link", name="Dorrik, home").click()
    expect(page.get_by_text("On hold, return 3 Dec 2026")).to_be_visible()
    page.get_by_role("region", name="In progress").get_by_text("7 Lookout Row").click()
    # Dead tests stay open while it is on hold.
    stage(page, "Dead tests")
    page.get_by_role("button", name="Not now").click()
    cell(page, "1 Cooker, R1+R2 Ω").click()
    page.keyboard.type("0.21")
    page.keyboard.press("Enter")
    all_kept(page)
    page.get_by_role("button", name="Back on site: go on").click()
    expect(page.get_by_role("note").get_by_text("On hold")).to_have_count(0)
    stage(page, "Brief")
    expect(page.get_by_text("still here")).to_have_count(1)
    expect(page.locator("summary", has_text="return visit")).to_be_visible()
    all_kept(page)
    page.get_by_role("link", name="Dorrik, home").click()
    expect(page.get_by_text("On hold")).to_have_count(0)


def test_two_inspectors_on_one_home_see_each_other_within_seconds(signed_in, at_work, firm):
    ines = at_work("Cooker", "Lights", stage="Dead tests")
    ines.get_by_role("button", name="Not now").click()
    sol = signed_in(firm.supervisor_email)
    sol.get_by_text("7 Lookout Row").click()
    stage(sol, "Dead tests")
    sol.get_by_role("button", name="Not now").click()
    # Ines is in the middle of a figure while Sol's arrive.
    cell(ines, "1 Cooker, R1+R2 Ω").click()
    ines.keyboard.type("0.2")
    cell(sol, "2 Lights, R1+R2 Ω").click()
    sol.keyboard.type("0.87")
    sol.keyboard.press("Enter")
    all_kept(sol)
    expect(cell(ines, "2 Lights, R1+R2 Ω")).to_have_value("0.87")
    expect(cell(ines, "1 Cooker, R1+R2 Ω")).to_be_focused()
    ines.keyboard.type("1")
    ines.keyboard.press("Enter")
    all_kept(ines)
    expect(cell(sol, "1 Cooker, R1+R2 Ω")).to_have_value("0.21")
    # A circuit that one adds stands with the other too.
    stage(sol, "Boards")
    sol.get_by_label("Type a circuit").fill("imm")
    sol.keyboard.press("Enter")
    expect(ines.get_by_text("3 Immersion").first).to_be_attached(timeout=8000)


def test_every_field_of_a_form_has_its_history(at_work, firm):
    page = at_work()
    fill(page, "Client", "Orla Fenwik")
    fill(page, "Client", "Orla Fenwick")
    all_kept(page)
    page.get_by_label("Client", exact=True).focus()
    page.get_by_role("button", name="History of Client", exact=True).click()
    history = page.get_by_role("dialog", name="History of this figure")
    expect(history).to_contain_text("Orla Fenwick before Orla Fenwik")
    expect(history).to_contain_text("Ines Pector")
    history.get_by_role("button", name="put Orla Fenwik back").click()
    expect(page.get_by_label("Client", exact=True)).to_have_value("Orla Fenwik")
    all_kept(page)


def test_a_circuit_has_the_history_of_all_its_fields(at_work):
    page = at_work("Cooker")
    page.get_by_label("Rating of 1 Cooker").fill("40")
    page.get_by_label("Rating of 1 Cooker").press("Enter")
    all_kept(page)
    page.get_by_role("button", name="More about 1 Cooker").click()
    page.get_by_role("button", name="History of this circuit").click()
    history = page.get_by_role("dialog", name="History of all its fields")
    expect(history).to_contain_text("Rating: 40 before 32")
    history.get_by_role("button", name="put 32 back").click()
    expect(page.get_by_label("Rating of 1 Cooker")).to_have_value("32")
