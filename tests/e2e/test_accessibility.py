"""WCAG 2.2 A and AA on every stage, in both themes, on a tablet and on a phone (axe-core)."""

import re
from collections.abc import Callable, Iterator
from functools import partial
from pathlib import Path

import pytest
from playwright.sync_api import Browser, Page, expect

from tests.conftest import PASSWORD, Firm
from tests.e2e import seeding
from tests.e2e.walk import cell, stage
from tests.pictures import picture
from tests.serving import Server

AXE = Path(__file__).parents[2] / "web" / "node_modules" / "axe-core" / "axe.min.js"
RULES = ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa"]


TABLET = {"width": 1280, "height": 844}
PHONE = {"width": 390, "height": 844}


def violations(page: Page) -> list[str]:
    if not page.evaluate("typeof axe === 'object'"):
        page.evaluate(AXE.read_text())
    found = page.evaluate(
        """async (rules) => {
            const asked = {runOnly: rules, resultTypes: ["violations"], iframes: false};
            const {violations} = await axe.run(document, asked);
            return violations.map((v) => `${v.id}: ${v.nodes[0].html.slice(0, 160)}`);
        }""",
        RULES,
    )
    return list(found)


def walk_round(page: Page, look: Callable[[str], None]) -> None:
    """A bathroom with a point in it, a defect with its photo marked, every part of the stage, and the coding desk."""
    stage(page, "Walk-round")
    page.get_by_role("button", name="Bathroom", exact=True).click()
    page.get_by_role("group", name="Count and go on").get_by_role("button", name=re.compile("One more fan, ")).click()
    page.get_by_role("button", name="bath", exact=True).click()
    page.get_by_text("zone 0").wait_for()
    page.get_by_text("Sizes and fixed partitions").click()
    page.get_by_role("button", name="+ fixed partition").click()
    page.get_by_text("from above").click()
    look("a bathroom")
    page.get_by_role("group", name="fan: looked at").get_by_role("button", name="Defect").click()
    page.get_by_role("dialog").wait_for()
    look("what is wrong")
    page.get_by_role("button", name="Cracked plate").click()
    photo = {"name": "p.jpg", "mimeType": "image/jpeg", "buffer": picture()}
    page.get_by_label("Take a photo").set_input_files(photo)
    for part, words in (
        ("Circuits", "Choose points, then tap their circuit"),
        ("Sample", "Risk"),
        ("Schedule", "lines answered"),
        ("Limitations", "From LIM and “no access” entries"),
    ):
        page.get_by_role("radiogroup", name="Part of the walk-round").get_by_text(part, exact=True).click()
        # Until then the part before it is still drawn, scrolled to wherever it was left.
        page.get_by_text(words).wait_for()
        look(part)
    stage(page, "Observations")
    row = page.get_by_label("Recorded").get_by_role("button", name=re.compile("Cracked plate"))
    row.click()
    page.get_by_role("group", name="The three views").wait_for()
    page.get_by_role("group", name="Code", exact=True).get_by_role("button", name="C1").click()
    page.get_by_text("Put right on the day").last.click()
    look("coding desk")
    page.get_by_role("button", name="Open photo as found").click()
    page.get_by_role("button", name="Arrows, rings, numbers").click()
    page.get_by_role("button", name="in the middle").click()
    look("marking a photo")
    page.get_by_role("button", name="Done").click()


@pytest.fixture
def look(browser: Browser, server: Server) -> Iterator[Callable[[str], None]]:
    """Looks at the page as it stands: on a tablet in the light theme, and on a phone in the dim one; all rules in both,
    since either has parts and colours of its own. What was found fails the test at its end, all of it together."""
    # The application's own policy would keep the test's script out.
    context = browser.new_context(base_url=server.base, viewport=TABLET, bypass_csp=True, reduced_motion="reduce")
    page = context.new_page()
    page.goto(server.base)
    barriers: list[str] = []

    def look(where: str) -> None:
        barriers.extend(f"{where}: {found}" for found in violations(page))
        page.set_viewport_size(PHONE)
        page.evaluate("document.documentElement.classList.add('dark')")
        barriers.extend(f"{where}, phone, dim: {found}" for found in violations(page))
        page.evaluate("document.documentElement.classList.remove('dark')")
        page.set_viewport_size(TABLET)

    look.page = page  # type: ignore[attr-defined]
    yield look
    context.close()
    assert not barriers, "\n".join(barriers)


def at_work(page: Page, firm: Firm, *presets: str, stage: str) -> None:
    request = page.context.request
    assert request.post("/api/session", data={"email": firm.inspector_email, "password": PASSWORD}).ok
    seeding.open_at(page, seeding.inspection(request, *presets), stage)


def test_no_barrier_on_any_stage(look, firm: Firm):
    page = look.page
    look("sign in")
    at_work(page, firm, "Ring sockets", "Lights", stage="Dead tests")
    cell(page, "1 Sockets, Line end–end Ω").click()
    for text in ("0.46", "0.46", "0.99", "1..2", ">500", "0.4"):
        page.keyboard.type(text)
        page.keyboard.press("Enter")
    expect(page.get_by_text("1 not accepted")).to_be_visible()
    for name in (
        "Brief",
        "Intake",
        "Walk-round",
        "Isolation",
        "Boards",
        "Dead tests",
        "Live tests",
        "Observations",
        "Report",
    ):
        stage(page, name)
        expect(page.get_by_role("heading", level=1)).to_be_visible()
        look(name)
    stage(page, "Live tests")
    page.get_by_role("radiogroup", name="Tests").get_by_text("Checks").click()
    page.get_by_text("Leakage by clamp").wait_for()
    look("live checks")
    stage(page, "Dead tests")
    page.get_by_role("button", name="Insulation circuit by circuit").click()
    page.get_by_role("radiogroup", name="Pairings of every circuit").wait_for()
    look("insulation circuit by circuit")
    page.keyboard.press("Escape")
    cell(page, "1 Sockets, Line end–end Ω").click()
    page.get_by_role("button", name="Positions of switches at").click()
    page.get_by_role("button", name="local isolator off").click()
    look("how switches stood")
    page.keyboard.press("Escape")
    page.get_by_role("link", name="0/0 points of 1 Sockets tested").click()
    for _ in range(3):
        page.get_by_role("button", name="Add a socket").click()
    expect(page.get_by_role("img", name=re.compile("Ring of 3 points"))).to_be_visible()
    page.get_by_role("row").nth(1).get_by_role("textbox").first.click()
    for text in ("0.23", "0.34", "0.55"):
        page.keyboard.type(text)
        page.keyboard.press("Enter")
    look("bench of a ring")
    stage(page, "Isolation")
    page.get_by_role("button", name="Begin: tester proved now").click()
    page.get_by_role("button", name="way 1 L–N").click()
    page.get_by_role("button", name="way 1 L–E").dblclick()
    look("isolation under way")
    stage(page, "Boards")
    page.get_by_role("button", name="More about 1 Sockets").click()
    page.get_by_label("Type a circuit").fill("li")
    look("board builder")
    stage(page, "Brief")
    chart = {"name": "c.csv", "mimeType": "text/csv", "buffer": b"Way,Circuit,Device\n1,Cooker,B32\n2,Hob,warm\n"}
    page.get_by_label("File to take over").set_input_files(chart)
    page.get_by_role("button", name="Record arrival").click()
    page.get_by_role("button", name="Put on hold").click()
    expect(page.get_by_text("“warm” is not such as B32.")).to_be_visible()
    look("earlier papers")
    page.keyboard.press("Escape")
    page.get_by_role("heading", level=1).click()
    page.keyboard.press("o")
    expect(page.get_by_role("dialog", name="Observation")).to_be_visible()
    look("observation")
    page.keyboard.press("Escape")


def test_no_barrier_on_the_walk_round(look, firm: Firm):
    at_work(look.page, firm, "Lights", stage="Walk-round")
    walk_round(look.page, look)


def test_no_barrier_in_the_office(look, firm: Firm):
    page = look.page
    at_work(page, firm, stage="Brief")
    page.goto("/firm")
    page.get_by_text("House rules of").wait_for()
    page.get_by_label("Zs compared with").wait_for()
    look("house rules")
    for tab, words in (
        ("Rates and prices", "How long things take"),
        ("Reference tables", "Every table is read as printed."),
        ("Catalogue", "Live part can be touched"),
        ("Letterhead", "Line under the letterhead"),
        ("Keeping", "Retention"),
    ):
        page.get_by_role("tab", name=tab).click()
        page.get_by_text(words).first.wait_for()
        look(tab)
    page.goto("/clients")
    page.get_by_role("button", name="New client").click()
    page.get_by_role("button", name="Add a property").click()
    page.get_by_role("button", name="Add an installation").click()
    expect(page.get_by_role("button", name="Remove House")).to_be_visible()
    look("property")
    page.get_by_role("button", name="New job").click()
    page.get_by_role("heading", name="Scope").wait_for()
    look("job")
    page.goto("/instruments")
    page.get_by_role("button", name="Add an instrument").click()
    expect(page.get_by_label("Serial number")).to_be_visible()
    look("an instrument's card")
    page.keyboard.press("Escape")
    page.get_by_role("button", name="Add a lead set").click()
    page.get_by_label("Known resistance").wait_for()
    page.keyboard.press("Escape")
    expect(page.get_by_role("dialog")).to_have_count(0)
    page.get_by_text("no null yet").wait_for()
    look("instruments")
    page.goto("/")
    page.get_by_label("Find").fill("lookout")
    page.get_by_role("option").first.wait_for()
    look("search")


def test_no_barrier_in_what_a_finding_leads_to(look, firm: Firm):
    page = look.page
    at_work(page, firm, "Cooker", "Lights", stage="Dead tests")
    cell(page, "1 Cooker, R1+R2 Ω").click()
    page.keyboard.type("0.14")
    page.keyboard.press("Enter")
    cell(page, "1 Cooker, R1+R2 Ω").click()
    page.get_by_title("Leave what is in focus for later").click()
    page.get_by_role("dialog").wait_for()
    look("come back")
    page.get_by_role("button", name="Look closer").click()
    page.get_by_role("button", name="Save").click()
    page.get_by_role("button", name="to come back to").click()
    page.get_by_role("button", name="1 Cooker: R1+R2: limitation").click()
    look("the list of what to come back to")
    page.get_by_role("button", name="Cancel").click()
    page.get_by_role("button", name="1 Cooker: R1+R2: observation").click()
    page.keyboard.press("Escape")
    stage(page, "Observations")
    page.get_by_role("button", name="Own repair …").click()
    page.get_by_role("button", name="Device of a lower rating fitted").click()
    page.get_by_role("button", name="Keep as found, test again").click()
    page.get_by_role("button", name="Certificate: ").wait_for()
    look("own repair")
    stage(page, "Intake")
    page.get_by_role("group", name="Called now about").get_by_role("button", name="Looped supply").click()
    page.get_by_role("button", name="+ Heat pump").click()
    page.get_by_role("article", name="Call about Looped supply").wait_for()
    look("operator and room for more")
    stage(page, "Boards")
    page.get_by_role("button", name="more about 2 Lights").click()
    page.get_by_role("button", name="Leave out by agreement: 2 Lights").click()
    page.get_by_text("Add evidence").click()
    look("left out, and parts with their years")
    page.get_by_role("region", name="Labels").first.get_by_role("button", name="missing").first.click()
    look("labels one by one")
    stage(page, "Observations")
    page.get_by_role("button", name="Price for repairs").click()
    page.get_by_role("button", name="Add other work").or_(
        page.get_by_role("button", name="Back to observations")
    ).first.wait_for()
    look("price for repairs")
    stage(page, "Brief")
    page.get_by_role("button", name="Add a question").click()
    page.get_by_label("What they ask about", exact=True).wait_for()
    look("what people ask about")


def test_no_barrier_in_planning(look, firm: Firm):
    page = look.page
    at_work(page, firm, stage="Brief")
    own = page.context.request.get("/api/session").json()["firm_id"]
    enter = partial(seeding.registered, page.context.request)
    enter("working_week", own, name="Ruth Pellow", latitude=50.34, longitude=-4.76, starts_at="08:00")
    enter("key_holder", own, name="Harbour Office", opens_at="08:00")
    client = enter("client", own, name="Kelder Haven Harbour Trust")
    for at in range(3):
        home = enter(
            "property", client, address=f"{at + 1} Lookout Row", nation="England", latitude=50.33 + at / 900,
            longitude=-4.75,
        )  # fmt: skip
        enter("job", home, number=f"P-{at}", state="done" if at == 2 else "asked", visit_min=200, spent_min=190)
    page.goto("/planner")
    page.get_by_role("button", name="Plan visits").click()
    expect(page.get_by_text("2 visits moved.")).to_be_visible()
    page.locator("[data-strip] button").first.click()
    page.get_by_text("Move visit …").click()
    page.get_by_text("Occupier", exact=True).click()
    page.get_by_text("Propose times …").click()
    page.get_by_label("Mail to").wait_for()
    look("planner")
    page.get_by_text("No access …").click()
    page.get_by_label("Time at the door").wait_for()
    look("no access")
    page.goto("/portfolio")
    page.get_by_role("group", name="State").wait_for()
    page.get_by_role("group", name="Map of the properties").wait_for()
    look("portfolio")
    page.goto("/planner/weeks")
    page.get_by_role("button", name="Make calendar address").click()
    page.get_by_text("Copy this address now").wait_for()
    look("inspectors and keys")
    page.goto("/planner/times")
    page.get_by_text("too few to go by").first.wait_for()
    look("visit times")
