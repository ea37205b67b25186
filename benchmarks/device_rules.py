"""The rules on a device: how long they take to start, what they weigh, and from a key to its verdict with them.

With a server, and with the network cut; the processor as it is, and slowed down to a quarter. The browser slows the
thread of the page only: what the thread with the rules takes stands beside it, to be counted four times.
"""

import json
import statistics
from collections.abc import Iterator
from contextlib import contextmanager

from playwright.sync_api import Page

from benchmarks.in_browser import seated
from benchmarks.key_to_verdict import BOARDS, home, measure

STARTED = "JSON.stringify(performance.getEntriesByName('rules').map(({duration, detail}) => ({duration, ...detail})))"
#: What each answer took in the thread with the rules (ms), of the last inspection that was opened.
ANSWERS = "performance.getEntriesByName('verdict').slice(-30).map(({detail}) => detail.took)"
WARM = "[data-rules=warm]"


def _start(page: Page, address: str) -> dict[str, float]:
    page.goto(address)
    page.wait_for_selector(WARM, timeout=120_000)
    return dict(json.loads(page.evaluate(STARTED))[-1])


@contextmanager
def throttled(page: Page, rate: float) -> Iterator[None]:
    session = page.context.new_cdp_session(page)
    session.send("Emulation.setCPUThrottlingRate", {"rate": rate})
    try:
        yield
    finally:
        session.send("Emulation.setCPUThrottlingRate", {"rate": 1})
        session.detach()


def run() -> None:
    """Print starts, weight, memory, and p50 and p95 for boards of 12 and 60 ways."""
    with seated() as (page, client, firm, base):
        homes = [home(client, firm, ways) for ways, three, _ in BOARDS if not three]
        first = _start(page, f"{base}/inspection/{homes[0]}/live")
        page.wait_for_timeout(3000)
        again = [_start(page, f"{base}/inspection/{homes[0]}/live") for _ in range(5)]
        warm = statistics.median(one["duration"] for one in again)
        print(
            f"rules: first start {first['duration']:.0f} ms, warm start {warm:.0f} ms (median of 5); "
            f"{first['weight'] / 1e6:.1f} MB on the device, {again[-1]['heap'] / 1e6:.0f} MB of memory for Python"
        )
        runs = 0
        for inspection, (ways, three, board) in zip(homes, BOARDS, strict=False):
            for rate in (1, 4):
                for network in ("with the server", "without a network"):
                    runs += 1
                    page.context.set_offline(False)
                    page.goto(f"{base}/inspection/{inspection}/live")
                    page.wait_for_selector(WARM, timeout=120_000)
                    page.get_by_role("textbox", name="1 Sockets 1, Zs Ω", exact=True).wait_for()
                    page.wait_for_timeout(3000)
                    page.context.set_offline(network == "without a network")
                    with throttled(page, rate):
                        taken, _ = measure(page, ways, three=three, first=5 + runs)
                    rules = page.evaluate(ANSWERS)
                    middle, slow = statistics.median(taken), statistics.quantiles(taken, n=20)[18]
                    print(
                        f"key to verdict, {board}, {network}, page at 1/{rate}: p50 {middle:.0f} ms, p95 {slow:.0f} ms"
                        f"; in the thread with the rules p50 {statistics.median(rules):.0f} ms"
                    )
        page.context.set_offline(False)
