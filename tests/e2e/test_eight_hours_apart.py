"""Two tablets work in one home for eight hours without a server, one with its clock ahead and one behind; it is killed
while both come back. All of it arrives, each entry once, and both show the same in the end."""

import time
from datetime import UTC, datetime, timedelta

from playwright.sync_api import expect

from tests.e2e import seeding
from tests.e2e.on_device import kept_on_the_device
from tests.e2e.test_test_grid import paste
from tests.e2e.walk import cell

WAYS = 40
#: Blocks that each pastes: forty ways with three readings each time.
BLOCKS = 9
READINGS = ("R1+R2 Ω", "L–N MΩ", "L+N–E MΩ")


def entries_of(request, inspection):
    found, since = [], 0
    while True:
        news = request.get(f"/api/inspections/{inspection}/changes?since={since}").json()
        if not news["entries"]:
            return found
        found += news["entries"]
        since = news["entries"][-1]["seq"]


def shown(page):
    figures = page.evaluate("[...document.querySelectorAll('[data-cell]')].map((one) => [one.ariaLabel, one.value])")
    return [tuple(one) for one in figures]


def away_for_four_hours(page, tablet, begins):
    """An hour of work after the other, each with its clock an hour on."""
    for block in range(BLOCKS):
        page.clock.set_system_time(begins + timedelta(hours=block))
        cell(page, "1 Cooker, R1+R2 Ω").click()
        rows = [f"0.{tablet}{way:02}{block}\t{200 + block}\t{300 + 10 * way + block}" for way in range(WAYS)]
        paste(page, "\n".join(rows))
        expect(cell(page, f"{WAYS} Cooker, R1+R2 Ω")).to_have_value(f"0.{tablet}{WAYS - 1:02}{block}")


def test_two_thousand_entries_of_two_tablets_arrive_once(signed_in, firm, place):
    one = signed_in(home=False, base=place.base, on_device=True)
    inspection = seeding.inspection(one.context.request, *["Cooker"] * WAYS)
    other = signed_in(firm.supervisor_email, home=False, base=place.base, on_device=True)
    now = datetime.now(UTC)
    for page, hours in ((one, 1), (other, -24)):
        page.clock.set_system_time(now + timedelta(hours=hours))
        seeding.open_at(page, inspection, "Dead tests")
        expect(cell(page, f"{WAYS} Cooker, R1+R2 Ω")).to_be_visible()
        kept_on_the_device(page)
    before = len(entries_of(one.request, inspection))
    place.down()
    away_for_four_hours(one, 1, now + timedelta(hours=1))
    away_for_four_hours(other, 2, now - timedelta(hours=24))
    made = WAYS * len(READINGS) * BLOCKS
    for page in (one, other):
        expect(page.get_by_text(f"{made} to send")).to_be_visible()

    # It comes back, and is killed as both are at sending; once more; then it stays.
    for _ in range(2):
        place.up()
        begun = time.monotonic()
        while time.monotonic() - begun < 2.5:
            one.wait_for_timeout(100)
        place.down()
        one.wait_for_timeout(500)
    place.up()
    for page in (one, other):
        expect(page.get_by_role("status").get_by_text("Saved", exact=True)).to_be_visible(timeout=150_000)

    entries = entries_of(one.request, inspection)[before:]
    assert len(entries) == 2 * made
    assert len({entry["id"] for entry in entries}) == 2 * made
    for author in ("Ines Pector", "Sol Visor"):
        values = [entry["value"] for entry in entries if entry["author"] == author and entry["field"] == "r1_r2_ohm"]
        tablet = 1 if author == "Ines Pector" else 2
        # Each tablet's own order is kept.
        assert values == [f"0.{tablet}{way:02}{block}" for block in range(BLOCKS) for way in range(WAYS)]
    # Both show what stands, and both are asked about what crossed.
    expect(one.get_by_text("two devices entered different things")).to_be_visible()
    expect(other.get_by_text("two devices entered different things")).to_be_visible()
    for _ in range(100):
        if shown(one) == shown(other):
            break
        one.wait_for_timeout(200)
    assert shown(one) == shown(other)
    kept = one.request.get(f"/api/inspections/{inspection}").json()["entities"]
    first = next(entity["values"] for entity in kept if entity["values"].get("way") == "1")
    assert dict(shown(one))["1 Cooker, R1+R2 Ω"] == first["r1_r2_ohm"]
