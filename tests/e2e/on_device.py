"""What a browser keeps for a day without a server, and how a test waits for it."""

import time
from collections.abc import Callable
from typing import Any

from playwright.sync_api import Page, expect

#: Starting Python takes a while on a machine that is busy (ms).
WARM = 240_000
#: So does setting the first pages.
SET = 60_000

ROWS = """async ([name, store]) => {
    const open = indexedDB.open(name);
    const db = await new Promise((done) => (open.onsuccess = () => done(open.result)));
    const asked = db.transaction(store).objectStore(store).getAll();
    const rows = await new Promise((done) => (asked.onsuccess = () => done(asked.result)));
    db.close();
    return rows;
}"""


def on_the_device(page: Page, database: str, store: str, enough: Callable[[list[dict[str, Any]]], bool]) -> None:
    """Wait until the device itself has enough of something."""
    end = time.monotonic() + 60
    while not enough(page.evaluate(ROWS, [database, store])):
        assert time.monotonic() < end, f"{database} does not have it"
        page.wait_for_timeout(50)


EVERYTHING = """async () => {
    const found = [JSON.stringify({ ...localStorage }), JSON.stringify({ ...sessionStorage })];
    for (const { name } of await indexedDB.databases()) {
        const open = indexedDB.open(name);
        const db = await new Promise((done) => (open.onsuccess = () => done(open.result)));
        for (const store of db.objectStoreNames) {
            const asked = db.transaction(store).objectStore(store).getAll();
            const rows = await new Promise((done) => (asked.onsuccess = () => done(asked.result)));
            const bytes = (value) => (value instanceof Uint8Array ? new TextDecoder("latin1").decode(value) : value);
            found.push(JSON.stringify(rows, (_, value) => bytes(value)));
        }
        db.close();
    }
    for (const name of await caches.keys()) {
        const cache = await caches.open(name);
        for (const request of await cache.keys())
            if (request.url.includes("/api/")) found.push(await (await cache.match(request)).text());
    }
    return found.join("\\n");
}"""


def nothing_to_read(page: Page, *words: str) -> None:
    """What is kept on the device is sealed: none of these words stands in it, wherever a browser keeps something."""
    found = page.evaluate(EVERYTHING)
    assert "dorrik.device" in found
    assert [word for word in words if word in found] == []


def kept_on_the_device(page: Page) -> None:
    """Wait until the application itself, and what is open, are on the device."""
    page.evaluate("navigator.serviceWorker.ready.then(() => true)")
    wanted = {"session", "reference", "inspection"}
    on_the_device(page, "dorrik.answers", "answers", lambda rows: wanted <= {row["name"].split("/")[0] for row in rows})


def warm(page: Page) -> None:
    """Wait until the rules are there."""
    expect(page.locator("[data-rules=warm]")).to_be_visible(timeout=WARM)


def device_page(page: Page, base: str = "") -> None:
    page.goto(f"{base}/device")
    expect(page.get_by_role("heading", name="This device")).to_be_visible()


def packed(page: Page, base: str) -> None:
    """The rules, and what drafts are made with, are on the device."""
    page.evaluate("navigator.serviceWorker.ready.then(() => true)")
    device_page(page, base)
    page.get_by_role("button", name="Pack now").click()
    expect(page.get_by_text("are drafted on this device")).to_be_visible(timeout=SET)
    expect(page.get_by_text("This device judges by itself")).to_be_visible(timeout=SET)


def journal(page: Page, base: str, inspection: str) -> list[tuple[str, object]]:
    """What the server keeps of an inspection, in order: field and value."""
    answer = page.context.request.get(f"{base}/api/inspections/{inspection}/changes", params={"since": 0})
    assert answer.ok, answer.text()
    return [(entry["field"], entry["value"]) for entry in answer.json()["entries"]]
