"""An ordinary home of 12 circuits and 60 points, tested in the browser: its readings in keys and taps.

What is counted is what a person does: every key pressed, every tap. Digits are what the meter showed and cannot be
spared; the aim is one key more for each reading.
"""

import re
import time
from dataclasses import dataclass
from typing import Any

from playwright.sync_api import Locator, Page, expect

from benchmarks.in_browser import seated
from benchmarks.round_trip import _change, _Client
from dorrik.store.database.engine import new_id

#: Circuits with the number of their points: 60 in all.
CIRCUITS = (
    ("Sockets down", "ring", 12), ("Sockets up", "ring", 12),
    ("Lights down", "radial", 10), ("Lights up", "radial", 10),
    *((f"Fixed {n}", "radial", 2) for n in range(1, 9)),
)  # fmt: skip
#: The ends of a ring of 62 m in 2.5/1.5 mm², and what a sound socket of it reads half-way (rules 2.1 and 4.3).
ENDS, CROSSED = ("0.46", "0.46", "0.76"), ("0.23", "0.30")


@dataclass
class Hands:
    """Types and taps on a page, and counts."""

    page: Page
    readings: int = 0
    digits: int = 0
    keys: int = 0
    taps: int = 0

    def read(self, text: str) -> None:
        """A reading as the meter shows it, and the key that keeps it."""
        self.page.keyboard.type(text)
        self.page.keyboard.press("Enter")
        self.readings, self.digits, self.keys = self.readings + 1, self.digits + len(text), self.keys + 1

    def tap(self, what: Locator) -> None:
        """A tap."""
        what.click()
        self.taps += 1


def _home(client: _Client, firm: str) -> str:
    inspection, board = new_id(), new_id()
    changes = [_change("inspection", inspection, "firm", firm), _change("inspection", inspection, "earthing", "TN-S")]
    changes += [_change("board", board, "inspection", inspection), _change("board", board, "name", "Board 1")]

    def enter(kind: str, parent: str, parent_id: str, fields: dict[str, Any]) -> str:
        made = new_id()
        changes.append(_change(kind, made, parent, parent_id))
        changes.extend(_change(kind, made, name, value) for name, value in fields.items())
        return made

    for way, (name, form, points) in enumerate(CIRCUITS, 1):
        serves = "sockets" if form == "ring" else "lighting" if "Lights" in name else "fixed"
        circuit = enter("circuit", "board", board, {
            "way": str(way), "position": way, "designation": name, "form": form, "serves": serves,
            "line_csa_mm2": 2.5, "cpc_csa_mm2": 1.5, "device_standard": "BS EN 60898", "device_type": "B",
            "device_rating_a": 32 if form == "ring" else 16,
        })  # fmt: skip
        for number in range(1, points + 1):
            kind = "socket" if form == "ring" else "light"
            enter("point", "circuit", circuit, {"position": number, "name": f"{name} {number}", "kind": kind})
    for at in range(0, len(changes), 200):
        client.post(f"/api/inspections/{inspection}/changes", {"changes": changes[at : at + 200]})
    return inspection


def _cell(page: Page, name: str) -> Locator:
    return page.get_by_role("textbox", name=name, exact=True)


def _at_points(hands: Hands, way: int, name: str, form: str, points: int) -> None:
    first = f"{way} {name}, Line end to end" if form == "ring" else f"{name} 1, Line to cpc"
    expect(_cell(hands.page, first)).to_be_focused()
    for text in ENDS if form == "ring" else ():
        hands.read(text)
    for number in range(1, points + 1):
        for text in CROSSED if form == "ring" else (f"{0.1 + number * 0.04:.2f}",):
            hands.read(text)
    # The same key once more records the highest and the polarity, and goes on to the next circuit.
    hands.page.keyboard.press("Enter")
    hands.keys += 1


def _down(hands: Hands, figure: str, text: str) -> None:
    """One test down the board: two circuits show the way, from there on the key that keeps a reading leads there."""
    for way, (name, _, _) in enumerate(CIRCUITS, 1):
        cell = _cell(hands.page, f"{way} {name}, {figure}")
        if way <= 2:
            hands.tap(cell)
        else:
            expect(cell).to_be_focused()
        hands.read(text)


def run() -> None:
    """Print readings, keys and taps, and how long the pages took."""
    with seated() as (page, client, firm, base):
        inspection = _home(client, firm)
        page.goto(f"{base}/inspection/{inspection}/dead")
        hands = Hands(page)
        began = time.monotonic()
        hands.tap(page.get_by_role("link", name=re.compile("points of 1 ")))
        for way, (name, form, points) in enumerate(CIRCUITS, 1):
            _at_points(hands, way, name, form, points)
        # What the points do not say.
        _down(hands, "L+N–E MΩ", ">200")
        hands.tap(page.get_by_role("link", name="Live tests"))
        _down(hands, "Zs Ω", "0.62")
        taken = time.monotonic() - began
        page.get_by_text("All kept").wait_for()
        extra = (hands.keys + hands.taps) / hands.readings
        print(
            f"a home of {len(CIRCUITS)} circuits and {sum(n for *_, n in CIRCUITS)} points: {hands.readings} readings, "
            f"{hands.digits} digits, {hands.keys} keys and {hands.taps} taps beside them, {extra:.2f} a reading; "
            f"{hands.readings / taken * 60:.0f} readings a minute where hands take no time"
        )
