"""From the key that leaves a figure to its verdict on screen, in Chromium, on boards of 12 and of 60 ways.

A Zs that fails is typed way after way and left with Enter; the clock runs in the page, from that key to the frame in
which the margin speaks of the figure.
"""

import statistics
from typing import Any

from playwright.sync_api import Page

from benchmarks.in_browser import seated
from benchmarks.round_trip import _change, _Client
from dorrik.store.engine import new_id

ROUNDS = 40

#: Counts from the key to the frame after the one in which the margin has the text.
CLOCK = """(text) => {
    const margin = document.querySelector("[aria-label='Margin']");
    window.taken = new Promise((done) => {
        document.addEventListener("keydown", (event) => {
            const start = event.timeStamp;
            const look = () => margin.textContent.includes(text)
                ? requestAnimationFrame((now) => done(now - start))
                : performance.now() - start > 5000 ? done(null) : requestAnimationFrame(look);
            look();
        }, { once: true, capture: true });
    });
}"""


def _home(client: _Client, firm: str, ways: int) -> str:
    """An inspection with one board of that many ways; its id."""
    inspection, board = new_id(), new_id()
    changes = [_change("inspection", inspection, "firm", firm), _change("inspection", inspection, "earthing", "TN-S")]
    changes += [_change("board", board, "inspection", inspection), _change("board", board, "ways", ways)]
    for way in range(1, ways + 1):
        circuit = new_id()
        fields: dict[str, Any] = {
            "way": str(way), "position": way, "designation": f"Sockets {way}", "form": "radial", "serves": "sockets",
            "line_csa_mm2": 2.5, "cpc_csa_mm2": 1.5, "device_standard": "BS EN 60898", "device_type": "B",
            "device_rating_a": 20, "r1_r2_ohm": "0.40", "insulation_lne_mohm": ">200", "polarity": "correct",
        }  # fmt: skip
        changes.append(_change("circuit", circuit, "board", board))
        changes += [_change("circuit", circuit, name, value) for name, value in fields.items()]
    for at in range(0, len(changes), 200):
        client.post(f"/api/inspections/{inspection}/changes", {"changes": changes[at : at + 200]})
    return inspection


def _measure(page: Page, ways: int) -> list[float]:
    taken = []
    for n in range(ROUNDS):
        way = n % ways + 1
        page.get_by_role("textbox", name=f"{way} Sockets {way}, Zs Ω", exact=True).click()
        text = f"{5 + n / 100:.2f}"
        page.keyboard.press("Control+a")
        page.keyboard.type(text)
        page.evaluate(CLOCK, f"{text} Ω")
        page.keyboard.press("Enter")
        found = page.evaluate("window.taken")
        if found is None:
            raise RuntimeError(f"The margin did not speak of {text} Ω at way {way}.")
        taken.append(found)
    return taken[5:]


def run() -> None:
    """Print p50 and p95 for each board."""
    with seated() as (page, client, firm, base):
        homes = {ways: _home(client, firm, ways) for ways in (12, 60)}
        for ways, inspection in homes.items():
            page.goto(f"{base}/inspection/{inspection}/live")
            page.get_by_role("textbox", name="1 Sockets 1, Zs Ω", exact=True).wait_for()
            page.wait_for_timeout(3000)
            taken = _measure(page, ways)
            slow = statistics.quantiles(taken, n=20)[18]
            print(f"key to verdict, {ways:2} ways: p50 {statistics.median(taken):.0f} ms, p95 {slow:.0f} ms")
