"""Steps that an inspector takes, for the tests that walk them."""

from collections.abc import Callable

from playwright.sync_api import Locator, Page, expect


def stage(page: Page, name: str) -> None:
    """Open a stage from the run sheet."""
    link = page.get_by_label("Stages of the inspection").get_by_role("link", name=name)
    link.click()
    # The stage before it stays on screen until this one is drawn.
    expect(link).to_have_attribute("aria-current", "step")


def all_kept(page: Page) -> None:
    """Wait until the server has everything."""
    expect(page.get_by_role("status").get_by_text("Saved", exact=True)).to_be_visible()


def fill(page: Page, label: str, value: str) -> None:
    """Type into a field of a form and leave it."""
    field = page.get_by_label(label, exact=True)
    field.fill(value)
    # Tab goes from day to month within a date before it leaves the field.
    field.blur()


def choose(page: Page, field: str, option: str) -> None:
    """Press one of a field's choices."""
    page.locator(f"[data-field={field}]").get_by_role("button", name=option, exact=True).click()


def begin(page: Page) -> None:
    """A new inspection with the least that names it."""
    page.get_by_role("button", name="New inspection").click()
    fill(page, "Property", "7 Lookout Row, Kelder Haven")
    all_kept(page)


def board(page: Page, *presets: str, kept: Callable[[Page], None] = all_kept) -> None:
    """The first board with circuits from the usual ones. kept: waits until they have their place."""
    stage(page, "Boards")
    page.get_by_role("button", name="Add the first board").click()
    for count, preset in enumerate(presets, 1):
        page.get_by_role("button", name=f"+ {preset}").click()
        expect(page.locator("table tbody tr")).to_have_count(count)
    kept(page)


def cell(page: Page, label: str):
    """A figure of the test grid."""
    return page.get_by_role("textbox", name=label, exact=True)


def figure(page: Page, label: str, text: str) -> None:
    """Type a figure into the test grid."""
    cell(page, label).click()
    page.keyboard.type(text)
    page.keyboard.press("Enter")


def pad(page: Page, *keys: str) -> None:
    """Press keys of the reading pad."""
    for key in keys:
        page.get_by_label("Reading pad").get_by_role("button", name=key, exact=key != "next").click()


def sign_out(page: Page) -> None:
    """From the home screen."""
    page.get_by_role("button", name="your account").click()
    page.get_by_role("menuitem", name="Sign out").click()


def hold_polls(page: Page) -> None:
    """What the page asks by itself every few seconds gets no answer from here on: the next contact is what the test
    does."""
    page.route("**/changes?since=*", lambda route: None)


def _middle(thing: Locator) -> tuple[float, float]:
    thing.scroll_into_view_if_needed()
    box = thing.bounding_box()
    assert box is not None
    return box["x"] + box["width"] / 2, box["y"] + box["height"] / 2


def drag(page: Page, thing: Locator, place: Locator) -> None:
    """By mouse, as a hand does it: not in one jump."""
    to = _middle(place)
    page.mouse.move(*_middle(thing))
    page.mouse.down()
    page.mouse.move(*to, steps=8)
    page.mouse.up()


def drag_by_finger(page: Page, thing: Locator, place: Locator) -> None:
    """A finger that rests on the thing first, then moves."""
    (x, y), (to_x, to_y) = _middle(thing), _middle(place)
    client = page.context.new_cdp_session(page)

    def touch(kind: str, *points: tuple[float, float]) -> None:
        client.send("Input.dispatchTouchEvent", {"type": kind, "touchPoints": [{"x": a, "y": b} for a, b in points]})

    touch("touchStart", (x, y))
    page.wait_for_timeout(400)
    for step in range(1, 9):
        touch("touchMove", (x + (to_x - x) * step / 8, y + (to_y - y) * step / 8))
    touch("touchEnd")
