"""Takes docs/screenshots/ from the demo data: `make screenshots`. Look at each picture before committing it."""

import tempfile
from pathlib import Path

from playwright.sync_api import Browser, Page, sync_playwright

from dorrik.demo.people import PASSWORD, PEOPLE, DemoPerson
from dorrik.store.database import migrate
from dorrik.store.database.mariadb import PrivateMariaDB
from tests.chromium import FLAGS, executable
from tests.serving import Server, free_port

OUT = Path(__file__).parents[1] / "docs" / "screenshots"


class Camera:
    """Signs in on a new device and takes pictures of what it shows."""

    def __init__(
        self,
        browser: Browser,
        base: str,
        width: int = 1280,
        height: int = 800,
        dim: bool = False,
        person: DemoPerson = PEOPLE[0],
    ) -> None:
        # Inspectors' tablets are set to British English: it shows in the date fields.
        context = browser.new_context(viewport={"width": width, "height": height}, locale="en-GB")
        if dim:
            context.add_init_script("localStorage.setItem('dorrik.theme', 'dim')")
        self.page: Page = context.new_page()
        self.base = base
        self.page.goto(base)
        self.page.get_by_label("Email").fill(person.email)
        self.page.get_by_label("Password").fill(PASSWORD)
        self.page.get_by_role("button", name="Sign in").click()
        self.page.get_by_role("heading", name="In progress").wait_for()

    def open(self, address: str, stage: str) -> None:
        """Open a stage of the inspection at that address."""
        self.page.goto(self.base)
        self.page.get_by_role("listitem").filter(has_text="K-01").get_by_text(address).click()
        self.page.get_by_role("heading", level=1).wait_for()
        self.page.goto(self.page.url.rsplit("/", 1)[0] + f"/{stage}")
        self.page.get_by_role("heading", level=1).wait_for()
        # The stream of news never ends: what is waited for is that nothing is asked any more.
        self.page.wait_for_timeout(1500)

    def focus(self, label: str) -> None:
        """Take up a figure."""
        self.page.get_by_role("textbox", name=label, exact=True).click()

    def room(self, name: str) -> None:
        """Go to a room of the walk."""
        self.page.get_by_role("navigation", name="Rooms").get_by_role("button", name=name).click()
        self.page.get_by_role("heading", name=name, level=2).wait_for()

    def take(self, name: str) -> None:
        """Write the picture."""
        self.page.wait_for_timeout(400)
        self.page.screenshot(path=OUT / f"{name}.png")


def _take_all(browser: Browser, base: str) -> None:
    day = Camera(browser, base)
    day.take("home")
    day.page.get_by_text("J-0209").first.click()
    day.page.get_by_role("heading", name="Scope").wait_for()
    day.take("job")
    day.page.goto(base)
    day.page.get_by_label("Find").fill("Flat 2")
    day.page.get_by_role("option").filter(has_text="property").first.click()
    day.page.get_by_role("region", name="Circuits over the years").wait_for()
    day.take("property")
    day.page.goto(f"{base}/instruments")
    day.page.get_by_text("mean of 5 accepted nulls").wait_for()
    day.take("instruments")
    day.open("3 Lookout Row", "brief")
    day.take("brief")
    day.open("Flat 2", "intake")
    day.focus("Ze")
    day.take("intake")
    day.open("3 Lookout Row", "walk")
    day.room("Bathroom")
    day.page.get_by_role("button", name="light over the bath: more").click()
    day.take("walk-round")
    day.open("3 Lookout Row", "isolation")
    shed = day.page.get_by_label("Isolation of Pump shed")
    shed.get_by_role("button", name="Begin: tester proved now").click()
    shed.get_by_role("button", name="Isolated now").click()
    shed.get_by_label("Lock and tag").fill("Lock 4, way 9")
    shed.get_by_role("button", name="busbar: all dead").click()
    shed.scroll_into_view_if_needed()
    day.take("isolation")
    day.open("3 Lookout Row", "boards")
    day.take("boards")
    day.open("3 Lookout Row", "dead")
    day.focus("3 Kitchen ring, Cpc end–end Ω")
    day.take("dead-tests")
    day.page.get_by_role("link", name="Points of 5 Sockets up").click()
    day.focus("large bedroom door, Line to cpc")
    day.take("ring-bench")
    day.open("3 Lookout Row", "live")
    day.page.get_by_role("button", name="Understood").click()
    day.focus("RCD 1, Trip ms")
    day.take("live-tests")
    day.open("Flat 2", "observations")
    day.page.get_by_label("Recorded", exact=True).get_by_role("button", name="C3 Cracked plate").click()
    day.page.get_by_text("Colleagues on this entry").wait_for()
    day.take("observations")
    day.open("Flat 2", "report")
    day.page.get_by_alt_text("Page 1 of the draft").wait_for()
    day.page.get_by_role("heading", name="Review and signatures").scroll_into_view_if_needed()
    day.page.evaluate("document.querySelector('#work').scrollBy(0, 560)")
    day.page.wait_for_timeout(500)
    day.take("report")
    day.page.get_by_role("link", name="What follows").click()
    day.page.get_by_text("1 of 4 cleared").wait_for()
    day.take("to-put-right")
    _client_page(browser, day)
    _planned(Camera(browser, base, person=PEOPLE[2]))
    phone = Camera(browser, base, 390, 844, dim=True)
    phone.open("3 Lookout Row", "walk")
    phone.room("Kitchen")
    phone.take("phone")


def _client_page(browser: Browser, day: Camera) -> None:
    """As a landlord opens it, on a telephone and without an account."""
    day.page.get_by_role("button", name="Make a link …").click()
    day.page.get_by_label("For", exact=True).select_option("landlord")
    day.page.get_by_role("button", name="Make link").click()
    address = day.page.locator("[data-link]").inner_text()
    client = browser.new_context(viewport={"width": 390, "height": 844}, reduced_motion="reduce").new_page()
    client.goto(address)
    client.get_by_role("button", name="Show photo").wait_for()
    client.wait_for_timeout(600)
    client.screenshot(path=OUT / "client-page.png")
    client.context.close()


def _planned(desk: Camera) -> None:
    """The office plans the trust's homes, looks at one of them, and at where all of them stand."""
    page = desk.page
    page.goto(f"{desk.base}/planner")
    page.get_by_role("button", name="Plan visits").click()
    page.get_by_role("heading", name="All but one").wait_for()
    page.get_by_role("status").get_by_role("button", name="Close").click()
    # Which homes are in this week depends on the day: one whose keys are to be fetched says the most.
    for visit in page.locator("[data-strip] button").all():
        visit.click()
        page.wait_for_timeout(500)
        if page.get_by_text("Its keys").count():
            break
    page.evaluate("window.scrollTo(0, 0)")
    desk.take("planner")
    page.goto(f"{desk.base}/clients")
    page.get_by_role("link", name="Kelder Haven Harbour Trust").click()
    page.get_by_role("link", name="Portfolio and map").click()
    page.get_by_role("group", name="Map of the properties").wait_for()
    desk.take("portfolio")


def main() -> None:
    """A private database with the demo, a server, a browser; all gone afterwards."""
    OUT.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory() as folder, PrivateMariaDB(Path(folder)) as database:
        migrate.upgrade(database.url)
        # The server itself loads the demo, with its photos.
        server = Server(database.url, free_port(), "demo")
        try:
            with sync_playwright() as playwright:
                browser = playwright.chromium.launch(executable_path=executable(), args=FLAGS)
                _take_all(browser, server.base)
                browser.close()
        finally:
            server.kill()


if __name__ == "__main__":
    main()
