"""From the key that leaves a figure to its verdict on screen, in Chromium, on boards of 12 and of 60 ways.

A Zs that fails is typed way after way and left with Enter; the clock runs in the page, from that key to the frame in
which the margin speaks of the figure.
"""

import statistics
from typing import Any

from playwright.sync_api import Page

from benchmarks.in_browser import seated
from benchmarks.round_trip import _change, _Client
from dorrik.store.database.engine import new_id

ROUNDS = 40
PHASES = ("L1", "L2", "L3")
#: How many circuits a board has, whether on three phases, and how it is called.
BOARDS = ((12, False, "12 ways"), (60, False, "60 ways"), (60, True, "60 circuits on three phases"))

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


#: Keeps the longest time between two frames from here until it is asked for.
FRAMES = """() => {
    let last = performance.now(), longest = 0, on = true;
    const look = (now) => {
        longest = Math.max(longest, now - last);
        last = now;
        if (on) requestAnimationFrame(look);
    };
    requestAnimationFrame(look);
    window.longest = () => { on = false; return longest; };
}"""


def home(client: _Client, firm: str, ways: int, *, three: bool = False) -> str:
    """An inspection with one board of that many circuits, a way each or three to a way on three phases; its id."""
    inspection, board = new_id(), new_id()
    changes = [_change("inspection", inspection, "firm", firm), _change("inspection", inspection, "earthing", "TN-S")]
    changes += [_change("board", board, "inspection", inspection), _change("board", board, "ways", ways)]
    if three:
        changes += [_change("board", board, "phases", "3")]
    for way in range(1, ways + 1):
        circuit = new_id()
        on_three: dict[str, Any] = {"phase": PHASES[(way - 1) % 3]} if three else {}
        fields: dict[str, Any] = on_three | {
            "way": _way(way, three=three), "position": way, "designation": f"Sockets {way}",
            "form": "radial", "serves": "sockets", "line_csa_mm2": 2.5, "cpc_csa_mm2": 1.5,
            "device_standard": "BS EN 60898", "device_type": "B", "device_rating_a": 20,
            "r1_r2_ohm": "0.40", "insulation_lne_mohm": ">200", "polarity": "correct",
        }  # fmt: skip
        changes.append(_change("circuit", circuit, "board", board))
        changes += [_change("circuit", circuit, name, value) for name, value in fields.items()]
    for at in range(0, len(changes), 200):
        client.post(f"/api/inspections/{inspection}/changes", {"changes": changes[at : at + 200]})
    return inspection


def _way(number: int, *, three: bool) -> str:
    return str((number - 1) // 3 + 1 if three else number)


def measure(page: Page, ways: int, *, three: bool, first: float = 5) -> tuple[list[float], list[float]]:
    """Milliseconds from key to verdict, and of the longest frame while the digits of each figure were typed.
    first: the first figure (Ω); each must be one that the margin has not spoken of."""
    taken, frames = [], []
    for n in range(ROUNDS):
        number = n % ways + 1
        figure = f"{_way(number, three=three)} Sockets {number}, Zs Ω"
        page.get_by_role("textbox", name=figure, exact=True).click()
        text = f"{first + n / 100:.2f}"
        page.keyboard.press("Control+a")
        # Going to the figure is not typing it.
        page.wait_for_timeout(200)
        page.evaluate(FRAMES)
        page.keyboard.type(text, delay=60)
        frames.append(page.evaluate("window.longest()"))
        page.evaluate(CLOCK, f"{text} Ω")
        page.keyboard.press("Enter")
        times_ms = page.evaluate("window.taken")
        if times_ms is None:
            raise RuntimeError(f"The margin did not speak of {text} Ω at {figure}.")
        taken.append(times_ms)
    return taken[5:], frames[5:]


def run() -> None:
    """Print p50 and p95 for each board, and the longest frame while a figure is typed."""
    with seated() as (page, client, firm, base):
        homes = [home(client, firm, ways, three=three) for ways, three, _ in BOARDS]
        for inspection, (ways, three, board_text) in zip(homes, BOARDS, strict=True):
            page.goto(f"{base}/inspection/{inspection}/live")
            page.get_by_role("textbox", name="1 Sockets 1, Zs Ω", exact=True).wait_for()
            page.wait_for_timeout(3000)
            taken, frames = measure(page, ways, three=three)
            middle, slow = statistics.median(taken), statistics.quantiles(taken, n=20)[18]
            frame = statistics.quantiles(frames, n=20)[18]
            print(
                f"key to verdict, {board_text}: p50 {middle:.0f} ms, p95 {slow:.0f} ms; "
                f"longest frame while a figure is typed, p95: {frame:.0f} ms"
            )
