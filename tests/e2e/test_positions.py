"""How switches stood at a reading: tapped at the pad, kept beside the reading, told in the margin."""

from playwright.sync_api import expect

from tests.e2e.walk import all_kept, cell


def stood(page):
    return page.get_by_label("Reading pad").get_by_role("button", name="Positions of switches at")


def choose(page, *words):
    stood(page).click()
    for word in words:
        page.get_by_role("group", name="Positions").get_by_role("button", name=word, exact=True).click()


def test_a_reading_with_the_isolator_off_is_of_a_part_until_it_is_read_with_it_on(at_work):
    page = at_work("Cooker", "Lights", stage="Dead tests")
    figure = cell(page, "1 Cooker, R1+R2 Ω")
    figure.click()
    choose(page, "other ways off", "local isolator off")
    expect(page.get_by_text("not in the reading: a limitation", exact=False)).to_be_visible()
    page.get_by_role("button", name="Done").click()
    figure.click()
    page.keyboard.type("0.14")
    page.keyboard.press("Enter")
    margin = page.get_by_label("Margin", exact=True)
    expect(margin.get_by_text("Measured with local isolator off", exact=False)).to_be_visible()
    # What is of the board goes on at the next circuit, what is of this one does not.
    cell(page, "2 Lights, R1+R2 Ω").click()
    expect(stood(page)).to_have_accessible_name("Positions of switches at R1+R2: other ways off")
    page.keyboard.type("0.61")
    page.keyboard.press("Enter")
    all_kept(page)
    page.reload()
    figure.click()
    expect(page.get_by_label("Reading pad").get_by_text("other ways off, local isolator off")).to_be_visible()
    # Said of a reading that stands: nothing is typed again.
    choose(page, "local isolator on")
    page.get_by_label("In own words").fill("hatch switch up")
    page.get_by_role("button", name="Done").click()
    expect(margin.get_by_text("Measured with local isolator off", exact=False)).to_have_count(0)
    expect(page.get_by_label("Reading pad").get_by_text("local isolator on, hatch switch up")).to_be_visible()
    all_kept(page)
    page.reload()
    figure.click()
    expect(page.get_by_label("Reading pad").get_by_text("local isolator on, hatch switch up")).to_be_visible()
