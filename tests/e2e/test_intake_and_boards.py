"""Bonds at the intake, and what decides over a circuit at the board, each judged as it is entered."""

from playwright.sync_api import expect

from tests.e2e.walk import all_kept, cell, choose, fill, stage


def test_bonds_are_judged_as_they_are_found(at_work):
    page = at_work(stage="Intake")
    choose(page, "earthing", "TN-S")
    page.get_by_label("The way of the supply").get_by_role("button", name="Tails").click()
    fill(page, "Tails (mm²)", "25")
    margin = page.get_by_label("Margin", exact=True)
    page.get_by_role("button", name="+ water").click()
    fill(page, "Conductor (mm²)", "10")
    fill(page, "Length (m)", "30")
    # 10 mm² is 1.83 mΩ a metre: 27 m to 0.05 Ω.
    expect(margin.get_by_text("27 m is the most")).to_be_visible()
    fill(page, "Length (m)", "5")
    cell(page, "At the clamp").click()
    page.keyboard.type("0.01")
    page.keyboard.press("Enter")
    page.keyboard.type("0.09")
    page.keyboard.press("Enter")
    # What is wrong is the clamp's contact; the reading at the pipe follows from it.
    expect(margin.get_by_text("The clamp does not grip the metal")).to_be_visible()
    expect(margin.get_by_text("1 figure follows from it")).to_be_visible()
    page.get_by_role("button", name="+ gas").click()
    page.locator("[data-field=state]").get_by_role("button", name="plastic service").click()
    expect(page.get_by_role("button", name="+ gas")).to_have_count(0)
    all_kept(page)
    stage(page, "Observations")
    expect(page.get_by_role("main").get_by_text("Bond to water: clamp and pipe").first).to_be_visible()


def test_a_cable_is_held_against_its_device_and_a_surge_device_against_its_indicator(at_work):
    page = at_work("Cooker")
    page.get_by_label("Cable of 1 Cooker").select_option("2.5/1.5")
    page.get_by_role("button", name="More about 1 Cooker").click()
    page.get_by_label("Installation method").select_option("C")
    margin = page.get_by_label("Margin", exact=True)
    expect(margin.get_by_text("2.5 mm² carries 27 A (method C)")).to_be_visible()
    choose(page, "one_fused_load", "Yes")
    fill(page, "Fuse at the load (A)", "13")
    expect(margin.get_by_text("The one load's own 13 A fuse protects it")).to_be_visible()
    choose(page, "spd_state", "spent")
    expect(margin.get_by_text("shows that it is spent")).to_be_visible()
    fill(page, "Surge device Uc (V)", "275")
    cell(page, "Varistor test").click()
    page.keyboard.type("300")
    page.keyboard.press("Enter")
    expect(margin.get_by_text("the varistor is worn")).to_be_visible()
    all_kept(page)


def test_an_intake_of_a_cottage_takes_few_strokes_and_taps(at_work):
    page = at_work(stage="Intake")
    strokes = taps = 0

    def tap(field: str, option: str) -> None:
        nonlocal taps
        choose(page, field, option)
        taps += 1

    def write(text: str, *, enter: bool = True) -> None:
        nonlocal strokes
        page.keyboard.type(text)
        page.keyboard.press("Enter" if enter else "Tab")
        strokes += len(text) + 1

    tap("earthing", "TN-C-S")
    tap("phases", "single phase")
    # The three figures of the origin follow each other with Enter.
    cell(page, "Ze").click()
    taps += 1
    for figure in ("0.21", "1.12", "1.08"):
        write(figure)
    tap("ze_parallel_removed", "Yes")
    tap("supply_polarity", "correct")
    drawing = page.get_by_label("The way of the supply")
    drawing.get_by_role("button", name="Service head").click()
    expect(page.get_by_label("Service fuse standard", exact=True)).to_be_focused()
    taps += 1
    for text in ("BS 1361", "80", "25", "2"):
        write(text, enter=False)
    drawing.get_by_role("button", name="Earth").click()
    expect(page.get_by_label("Main earthing conductor (mm²)", exact=True)).to_be_focused()
    taps += 1
    write("16", enter=False)
    for service in ("water", "gas"):
        page.get_by_role("button", name=f"+ {service}").click()
        expect(page.get_by_role("button", name=f"Remove bond to {service}")).to_be_visible()
        expect(page.get_by_label("Conductor (mm²)", exact=True)).to_be_focused()
        taps += 1
        write("10", enter=False)
        write("8", enter=False)
        for figure in ("0.02", "0.02"):
            write(figure)
    all_kept(page)
    expect(page.get_by_label("Margin", exact=True).get_by_text("left here")).to_have_count(0)
    assert strokes <= 70 and taps <= 12
    # The drawing says it all back, and a part of it brings its figures to hand.
    for part in ("Service head, BS 1361, 80 A", "Tails, 25 mm² · 2 m", "Ze, 0.21 Ω", "Earth, 16 mm²"):
        expect(drawing.get_by_role("button", name=part)).to_be_visible()
    drawing.get_by_role("button", name="Bond to water, 10 mm² · 0.02 Ω").click()
    expect(page.get_by_role("button", name="Remove bond to water")).to_be_visible()


def test_a_cable_whose_method_cannot_be_seen_becomes_a_limitation(at_work):
    page = at_work("Cooker")
    page.get_by_role("button", name="More about 1 Cooker").click()
    page.get_by_label("Installation method").select_option("not known")
    page.get_by_role("button", name="Record as a limitation").click()
    expect(page.get_by_text("Recorded as a limitation.")).to_be_visible()
    all_kept(page)
    stage(page, "Brief")
    expect(page.get_by_label("Left out", exact=True)).to_have_value("How the cable of 1 Cooker is installed")
