"""Every part of the kit: by keyboard alone, without barriers in both themes and on a phone; what throws stays apart."""

import pytest
from playwright.sync_api import Browser, Page, expect

from tests.conftest import PASSWORD, Firm
from tests.e2e.test_accessibility import violations
from tests.serving import Server


def _kit(browser: Browser, server: Server, firm: Firm, width: int = 1280, theme: str = "day") -> Page:
    context = browser.new_context(viewport={"width": width, "height": 844}, bypass_csp=True)
    context.add_init_script(f"localStorage.setItem('dorrik.theme', '{theme}')")
    page = context.new_page()
    answer = context.request.post(
        f"{server.base}/api/session", data={"email": firm.inspector_email, "password": PASSWORD}
    )
    assert answer.ok
    page.goto(f"{server.base}/kit")
    page.get_by_role("heading", name="The kit").wait_for()
    return page


def _now(page: Page, name: str, text: str) -> None:
    expect(page.locator(f"[data-now={name}]")).to_have_text(text)


def test_every_part_is_worked_by_keyboard_alone(browser, server, firm):
    page = _kit(browser, server, firm)
    keys = page.keyboard

    def to(label: str, role: str = "textbox") -> None:
        page.get_by_role(role, name=label, exact=True).focus()

    to("Name")
    keys.type("Curlew")
    _now(page, "name", "Curlew")
    to("Loop (Ω)")
    keys.type("0.95")
    _now(page, "ohms", "0.95")
    to("Day")
    keys.press("Control+a")
    keys.type("5 dec 26")
    keys.press("Tab")
    _now(page, "day", "2026-12-05")
    keys.press("Enter")  # the calendar beside it
    expect(page.get_by_role("grid")).to_be_visible()
    keys.press("ArrowRight")
    keys.press("Enter")
    _now(page, "day", "2026-12-06")
    to("Hour")
    keys.press("Control+a")
    keys.type("905")
    keys.press("Tab")
    _now(page, "time", "09:05")
    to("Fuel", "combobox")
    keys.press("ArrowDown")
    _now(page, "fuel", "gas")
    page.get_by_role("group", name="Of few").get_by_role("button", name="Gas").focus()
    keys.press("Space")
    _now(page, "few", "gas")
    keys.press("Space")
    _now(page, "few", "none")
    page.get_by_role("group", name="Sound").get_by_role("button", name="No").focus()
    keys.press("Enter")
    _now(page, "sound", "false")
    page.get_by_role("radiogroup", name="Order").get_by_role("radio", name="Oil").focus()
    keys.press("ArrowRight")
    _now(page, "by", "gas")
    page.get_by_role("group", name="All of these").get_by_role("checkbox", name="Oil").focus()
    keys.press("Space")
    _now(page, "all", "oil,gas")
    to("Keep it", "checkbox")
    keys.press("Space")
    _now(page, "kept", "true")
    to("Boat", "combobox")
    keys.type("g")
    expect(page.get_by_role("listbox", name="Boats", exact=True).get_by_role("option")).to_have_count(1)
    keys.press("Enter")
    _now(page, "boat", "gannet")
    to("Boat in a list", "combobox")
    keys.press("ArrowDown")
    keys.press("Enter")
    _now(page, "found", "dunlin")

    for name, inside in (("Dialog", "Is the kettle on?"), ("Drawer", "Built 1891.")):
        to(name, "button")
        keys.press("Enter")
        expect(page.get_by_text(inside)).to_be_visible()
        # The focus stays inside, however often one goes on.
        for _ in range(4):
            keys.press("Tab")
        assert page.evaluate("document.activeElement.closest('[role=dialog]') !== null")
        keys.press("Escape")
        expect(page.get_by_role("dialog")).to_have_count(0)
        expect(page.get_by_role("button", name=name, exact=True)).to_be_focused()
    to("Menu", "button")
    keys.press("Enter")
    expect(page.get_by_role("menuitem", name="Moor")).to_be_visible()
    keys.press("End")
    keys.press("Enter")
    _now(page, "did", "cast off")
    to("Popover", "button")
    keys.press("Enter")
    page.get_by_role("button", name="Enough").focus()
    keys.press("Enter")
    expect(page.get_by_role("button", name="Enough")).to_have_count(0)
    to("Add", "button")
    expect(page.get_by_role("tooltip")).to_have_text("Add a boat")
    keys.press("Enter")
    _now(page, "did", "added")
    to("Hull", "tab")
    keys.press("ArrowRight")
    expect(page.get_by_text("One mast.")).to_be_visible()
    page.get_by_text("Folded", exact=True).focus()
    keys.press("Enter")
    expect(page.get_by_text("Seldom wanted.")).to_be_visible()
    to("Tell", "button")
    keys.press("Enter")
    page.get_by_role("button", name="Undo").focus()
    keys.press("Enter")
    _now(page, "undone", "back")
    # With the message the focus goes back to where it was.
    expect(page.get_by_text("The boat is taken out.")).to_have_count(0)
    page.get_by_label("Papers", exact=True).set_input_files(
        {"name": "log.txt", "mimeType": "text/plain", "buffer": b"x"}
    )
    _now(page, "files", "log.txt")
    page.get_by_label("Papers", exact=True).set_input_files({"name": "p.png", "mimeType": "image/png", "buffer": b"x"})
    expect(page.get_by_text("That is not a file of the kind that is asked for here.")).to_be_visible()
    page.get_by_role("button", name="Break", exact=True).press("Enter")
    broken = page.get_by_role("alert").filter(has_text="The broken part cannot be shown.")
    expect(broken).to_contain_text("Nothing you entered is lost")
    expect(broken.get_by_role("button", name="Copy details")).to_be_visible()
    expect(page.get_by_role("heading", name="The kit")).to_be_visible()
    page.context.close()


@pytest.mark.parametrize(("width", "theme"), [(1280, "dim"), (390, "day")])
def test_no_barrier_in_any_part(browser, server, firm, width, theme):
    page = _kit(browser, server, firm, width, theme)
    found = violations(page)
    assert not found, "\n".join(found)
    wide = page.evaluate("document.documentElement.scrollWidth - document.documentElement.clientWidth")
    assert wide == 0
    page.context.close()
