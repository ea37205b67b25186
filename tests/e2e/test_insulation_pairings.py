"""The pairings of the insulation test by tap: of one circuit or of all, each with its own table and neighbours."""

from playwright.sync_api import expect

from tests.e2e.walk import all_kept, cell


def table(page):
    return page.get_by_role("dialog", name="Insulation of Board 1")


def open_table(page):
    page.get_by_role("button", name="Insulation circuit by circuit").click()
    return table(page)


def test_one_circuit_is_measured_apart_and_what_it_reads_stands_beside_its_neighbours(at_work):
    page = at_work("Cooker", "Lights", "Shower", stage="Dead tests")
    # Before anything is measured there is where to say how.
    dialog = open_table(page)
    dialog.get_by_label("2 Lights: Insulation pairings").select_option("all three")
    page.keyboard.press("Escape")
    expect(cell(page, "2 Lights, L–E MΩ")).to_be_visible()
    for figure, text in (
        ("1 Cooker, L–N MΩ", "90"),
        ("1 Cooker, L+N–E MΩ", "200"),
        ("2 Lights, L–N MΩ", "80"),
        ("2 Lights, L–E MΩ", "160"),
        ("2 Lights, N–E MΩ", "12"),
        ("3 Shower, L–N MΩ", "0.3"),
        ("3 Shower, L+N–E MΩ", "180"),
    ):
        cell(page, figure).click()
        page.keyboard.type(text)
        page.keyboard.press("Enter")
    all_kept(page)
    dialog = open_table(page)
    expect(dialog.get_by_text("L–E 160 · N–E 12 MΩ")).to_be_visible()
    expect(dialog.get_by_text("sound and can stay", exact=False)).to_contain_text("1 circuit is sound")
    dialog.get_by_role("radiogroup", name="Pairing", exact=True).get_by_text("L–N", exact=True).click()
    expect(dialog.get_by_role("listitem").filter(has_text="3 Shower")).to_contain_text("0.3")
    expect(dialog.get_by_text("For the client")).to_have_count(0)
    # And all of them by one tap.
    dialog.get_by_role("radiogroup", name="Pairings of every circuit").get_by_text("L–N, L–E, N–E").click()
    page.keyboard.press("Escape")
    expect(cell(page, "1 Cooker, N–E MΩ")).to_be_visible()
    # What was read joined is kept where it stands.
    expect(cell(page, "1 Cooker, L+N–E MΩ")).to_have_value("200")
