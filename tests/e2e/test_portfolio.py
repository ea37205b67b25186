"""A landlord's eighteen homes from a table to the next due date: taken in, planned, one told that does not fit, moved
by keyboard and by hand, agreed with an occupier on a phone, inspected, due again."""

import re
from collections.abc import Iterator
from datetime import date, timedelta
from functools import partial
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from dorrik.demo.mail_catcher import catch
from tests.e2e import seeding
from tests.e2e.test_a_firm_of_its_own import PASSWORD, Served, somebody, type_into  # noqa: F401
from tests.e2e.test_accessibility import violations
from tests.e2e.test_after_report import newest_mail
from tests.e2e.walk import fill
from tests.serving import free_port

HOMES = 18


@pytest.fixture
def served(tmp_path: Path, built_web: Path) -> Iterator[Served]:
    """A firm's server on an empty folder, with a mail server whose mail can be read."""
    port = free_port()
    catcher = catch(tmp_path / "mail", port)
    found = Served(tmp_path / "home", DORRIK_SMTP=f"127.0.0.1:{port}", DORRIK_INBOX=str(tmp_path / "mail"))
    yield found
    found.kill()
    catcher.stop()


def ahead(days: int) -> date:
    return date.today() + timedelta(days=days)


def table() -> bytes:
    """Eighteen homes as a landlord's program writes them; one of them has a day that there is not."""
    rows = ["Ref,Property address,Tenant,Tenant email,Expiry date,Lat,Long"]
    for at in range(HOMES):
        day = "31/02/2027" if at == 7 else f"{ahead(30):%d/%m/%Y}"
        rows.append(
            f"U{at + 1},{at + 1} Quay Steps,Tenant {at + 1},t{at + 1}@kelder.example,{day},{50.33 + at / 900:.4f},-4.75"
        )
    return "\n".join(rows).encode()


def set_up(served: Served, somebody) -> tuple[Page, str]:  # noqa: F811
    """A firm with a client, two inspectors and somebody who can be asked; its supervisor's page and the client's id."""
    fay = somebody(served.link)
    type_into(fay, Firm="Tide Testing", Phone="01632 960 101", Address="2 Slip Road, Kelder Haven")
    type_into(fay, Your_name="Fay First", Your_email="fay@tide.example", Password=PASSWORD)
    fay.get_by_role("button", name="Set up and sign in").click()
    expect(fay.get_by_role("heading", name="In progress")).to_be_visible()
    firm = fay.context.request.get("/api/session").json()["firm_id"]
    enter = partial(seeding.registered, fay.context.request)
    client = enter("client", firm, name="Kelder Haven Harbour Trust", email="trust@kelder.example")
    for name, east in (("Ruth Pellow", -4.76), ("Idris Quill", -4.70)):
        enter(
            "working_week", firm, name=name, latitude=50.34, longitude=east, starts_at="08:00", ends_at="17:00",
        )  # fmt: skip
    return fay, client


def settled(page: Page) -> None:
    """The last change of the plan has come to something."""
    expect(page.get_by_role("button", name="Replan")).to_be_enabled()


def test_from_a_table_of_eighteen_homes_to_the_next_due_date(served: Served, somebody):  # noqa: F811
    fay, client = set_up(served, somebody)
    # The table: every mistake at its cell, the sound rows taken, the corrected file adds what was left out.
    fay.goto(f"{served.base}/portfolio/{client}")
    fay.get_by_role("button", name="Import table …").click()
    chosen = {"name": "trust.csv", "mimeType": "text/csv", "buffer": table()}
    fay.get_by_label("Table of properties").set_input_files(chosen)
    expect(fay.get_by_text("18 rows: 17 new, 0 known")).to_be_visible()
    expect(fay.get_by_role("listitem").filter(has_text="Row 9, Expiry date")).to_contain_text("There is no such day")
    assert violations(fay) == []
    fay.get_by_role("button", name="Import 17 new").click()
    expect(fay.get_by_text("17 properties added.")).to_be_visible()
    fay.get_by_role("dialog").get_by_role("button", name="Close").last.click()
    fay.get_by_role("button", name="Import table …").click()
    mended = chosen | {"buffer": table().replace(b"31/02/2027", f"{ahead(30):%d/%m/%Y}".encode())}
    fay.get_by_label("Table of properties").set_input_files(mended)
    expect(fay.get_by_text("18 rows: 1 new, 17 known")).to_be_visible()
    fay.get_by_role("button", name="Import 1 new").click()
    fay.get_by_role("dialog").get_by_role("button", name="Close").last.click()
    expect(fay.get_by_text("18 properties", exact=True)).to_be_visible()
    expect(fay.get_by_role("button", name="due 18")).to_be_visible()
    assert violations(fay) == []
    # A job for each; one tenant is in on Mondays until eleven alone.
    homes = fay.context.request.get(f"/api/portfolio?client_id={client}&order=address&limit=100").json()["lines"]
    enter = partial(seeding.registered, fay.context.request)
    for at, home in enumerate(homes):
        enter("job", home["id"], number=f"J-{100 + at}", state="confirmed", visit_min=200, extent="All of it")
    narrow = next(home for home in homes if home["address"] == "9 Quay Steps")
    enter("access_window", narrow["id"], access="possible", weekday="Monday", from_time="08:00", until_time="11:00")

    # Planned by the solver, in a process of its own; what does not fit is said, and why.
    fay.goto(f"{served.base}/planner")
    expect(fay.get_by_role("heading", name=re.compile("18 to be planned before"))).to_be_visible()
    fay.get_by_role("button", name="Plan visits").click()
    expect(fay.get_by_role("heading", name=re.compile("All but one before"))).to_be_visible()
    expect(fay.get_by_role("region", name="9 Quay Steps does not fit")).to_contain_text("180 at most")
    assert violations(fay) == []

    # One is moved by hand onto another day, and stays; by keyboard its hour.
    bar = fay.locator("[data-strip] button").first
    name = str(bar.inner_text())
    bar.focus()
    fay.keyboard.press("Shift+ArrowRight")
    expect(fay.get_by_text(f"{name} moved.")).to_be_visible()
    settled(fay)
    bar.click()
    why = fay.get_by_role("complementary", name="Why")
    expect(why.get_by_text("Kept here by hand: planning does not move it.")).to_be_visible()
    visit = next(v for v in fay.context.request.get("/api/planner").json()["visits"] if v["name"] == name)
    free = fay.context.request.get(f"/api/visits/{visit['id']}/times").json()
    later = next(time for time in free if time["day"] > visit["day"])
    why.get_by_text("Move visit …").click()
    fill(fay, "Begins", "")
    why.get_by_label("Day", exact=True).fill(f"{date.fromisoformat(later['day']):%d %m %Y}")
    why.get_by_role("button", name="Move visit").click()
    to = date.fromisoformat(later["day"])
    expect(why.get_by_role("region", name=re.compile(f"{re.escape(name)}, {to:%a} {to.day} {to:%b}"))).to_be_visible()
    moved = next(v for v in fay.context.request.get("/api/planner").json()["visits"] if v["id"] == visit["id"])
    assert moved["pinned"] and moved["day"] == later["day"]

    # Its occupier takes a time on a phone; the visit is booked there, and the notice mailed.
    why.get_by_text("Occupier", exact=True).click()
    why.get_by_text("Propose times …").click()
    why.get_by_role("button", name="Mail times").click()
    expect(why.get_by_text(re.compile("times proposed to"))).to_be_visible()
    tenant = somebody(f"{served.base}/inbox", 390)
    tenant.goto(newest_mail(tenant, served.base, "When can we come"))
    expect(tenant.get_by_role("heading", name="When can we come?")).to_be_visible()
    assert violations(tenant) == [] and tenant.evaluate("document.documentElement.scrollWidth") <= 390
    tenant.get_by_role("button", name=re.compile(r"\d\d:\d\d to")).nth(1).click()
    expect(tenant.get_by_role("heading", name="We come then")).to_be_visible()
    fay.reload()
    fay.get_by_role("list").get_by_role("button", name=re.compile(f"^{re.escape(name)}")).click()
    expect(why.get_by_text("Booked: the occupier was told. Planning does not move it.")).to_be_visible()
    why.get_by_role("button", name="Mail notice").click()
    expect(why.get_by_text("The occupier was told of the power-off.")).to_be_visible()
    assert violations(fay) == []

    # The job's page on the inspector's phone: its day, its scope, nothing too wide.
    phone = somebody(f"{served.base}/job/{visit['job_id']}", 390)
    type_into(phone, Email="fay@tide.example", Password=PASSWORD)
    phone.get_by_role("button", name="Sign in").click()
    expect(phone.get_by_role("region", name="To pack")).to_be_visible()
    assert violations(phone) == [] and phone.evaluate("document.documentElement.scrollWidth") <= 390
    phone.goto(f"{served.base}/planner")
    expect(phone.get_by_role("region", name="Week")).to_be_visible()
    assert violations(phone) == [] and phone.evaluate("document.documentElement.scrollWidth") <= 390

    # Inspected and issued: the portfolio says when the next one is due.
    inspect(fay, visit["property_id"], visit["job_id"])
    fay.goto(f"{served.base}/portfolio/{client}")
    line = fay.get_by_role("listitem").filter(has_text=name).first
    fay.get_by_label("Address, client or reference").fill(name)
    expect(line).to_contain_text(f"{date.today().year + 5}")
    # The visit was made: only the copy that the law asks for is open.
    expect(line).to_contain_text("copies due")
    expect(line).not_to_contain_text("booked")


def inspect(page: Page, home: str, job: str) -> None:
    """An inspection of a home as it stands when it is issued."""
    request = page.context.request
    found = seeding.inspection(request, "Cooker")
    entities = request.get(f"/api/inspections/{found}").json()["entities"]
    board, circuit = (
        next(entity["id"] for entity in entities if entity["kind"] == kind) for kind in ("board", "circuit")
    )
    told = [
        ("inspection", found, {
            "property_id": home, "job_id": job, "client_name": "Kelder Haven Harbour Trust", "extent": "All of it",
            "declared_outcome": "satisfactory", "next_years": 5, "tenure": "let dwelling", "nation": "England",
            "earthing": "TN-C-S", "ze_ohm": "0.19", "ze_parallel_removed": True, "pscc_ka": "1.24", "pefc_ka": "1.19",
            "supply_polarity": "correct",
        }),
        ("board", board, {"zdb_ohm": "0.19", "main_switch_a": 100}),
        ("circuit", circuit, {
            "r1_r2_ohm": "0.12", "insulation_lne_mohm": "460", "polarity": "correct", "zs_ohm": "0.31",
        }),
    ]  # fmt: skip
    changes = [seeding.change(kind, of, name, value) for kind, of, values in told for name, value in values.items()]
    answer = request.post(f"/api/inspections/{found}/changes", data={"changes": changes})
    assert {result["state"] for result in answer.json()["results"]} == {"kept"}, answer.text()
    seen = request.get(f"/api/inspections/{found}").json()["seq"]
    signed = {"seen_seq": seen, "signature": {"typed": "Fay First"}}
    answer = request.post(f"/api/inspections/{found}/review/submit", data=signed)
    assert answer.ok, answer.text()
    seen = request.get(f"/api/inspections/{found}").json()["seq"]
    answer = request.post(f"/api/inspections/{found}/reports", data=signed | {"seen_seq": seen})
    assert answer.ok, answer.text()
