"""The built front end in Debian's Chromium, against the real server and database."""

from collections.abc import Callable, Generator, Iterator
from contextlib import suppress
from pathlib import Path
from typing import Any

import pytest
from playwright.sync_api import Browser, BrowserContext, Page, expect, sync_playwright
from playwright.sync_api import Error as PlaywrightError
from sqlalchemy import Engine, select

from dorrik.store.database.account_tables import audit_entry
from tests.chromium import FLAGS, without_windows
from tests.conftest import PASSWORD, Firm
from tests.e2e import seeding
from tests.serving import Place, Server

# A wait ends when what is waited for is there; a test that waits in vain ends by its own limit (pyproject.toml).
expect.set_options(timeout=60_000)

#: Where a failed test leaves what its pages showed: a picture and the words of each.
LEFT = Path(__file__).parents[2] / "test-results"


@pytest.hookimpl(wrapper=True)
def pytest_runtest_makereport(item: pytest.Item) -> Generator[None, pytest.TestReport, pytest.TestReport]:
    report = yield
    if report.failed and report.when == "call":
        browser = getattr(item, "funcargs", {}).get("browser")
        for number, page in (
            enumerate(page for context in browser.contexts for page in context.pages) if browser else ()
        ):
            LEFT.mkdir(exist_ok=True)
            to = LEFT / f"{item.name}-{number}"
            with suppress(PlaywrightError):
                page.screenshot(path=to.with_suffix(".png"), timeout=5_000)
                to.with_suffix(".txt").write_text(f"{page.url}\n{page.inner_text('body', timeout=5_000)}")
    return report


@pytest.fixture(scope="session")
def browser() -> Iterator[Browser]:
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=without_windows(), args=FLAGS)
        yield browser
        browser.close()


@pytest.fixture
def signed_in(browser: Browser, server: Server, firm: Firm, engine: Engine) -> Iterator[Callable[..., Page]]:
    """Open the application on a new device and sign in; a page that reported an error fails the test, and so does a
    device that judged an inspection otherwise than the server."""
    contexts: list[BrowserContext] = []
    errors: list[str] = []

    def open_page(
        email: str = firm.inspector_email,
        width: int = 1280,
        height: int = 800,
        by_form: bool = False,
        base: str = server.base,
        on_device: bool = False,
        home: bool = True,
        rules: bool = False,
    ) -> Page:
        """on_device: the application stays on the device, as it does for its users; else each page comes anew; home:
        show what is in hand, else nothing yet; rules: the device judges by itself, where the application is on it."""
        context = browser.new_context(
            base_url=base,
            viewport={"width": width, "height": height},
            reduced_motion="reduce",
            service_workers="allow" if on_device else "block",
        )
        contexts.append(context)
        if not rules:
            # An empty page keeps nothing.
            context.add_init_script("location.origin !== 'null' && localStorage.setItem('dorrik.rules.off', '1')")
        page = context.new_page()
        page.on("pageerror", lambda error: errors.append(str(error)))
        if by_form:
            page.goto(base)
            page.get_by_label("Email").fill(email)
            page.get_by_label("Password").fill(PASSWORD)
            page.get_by_role("button", name="Sign in").click()
        else:
            # As the form does it, without drawing it each time.
            answer = context.request.post("/api/session", data={"email": email, "password": PASSWORD})
            assert answer.ok, answer.text()
            if not home:
                return page
            page.goto(base)
        expect(page.get_by_role("heading", name="In progress")).to_be_visible()
        return page

    yield open_page
    for context in contexts:
        context.close()
    assert errors == []
    c = audit_entry.c
    with engine.connect() as connection:
        differed = connection.execute(
            select(c.detail).where(c.firm_id == firm.id, c.action == "verdicts differed")
        ).scalars()
        assert list(differed) == []


@pytest.fixture
def place(mariadb, built_web: Path) -> Iterator[Place]:
    """A server of its own, which a test takes away and brings back."""
    place = Place(mariadb.url)
    place.up()
    yield place
    place.down()


@pytest.fixture
def at_work(signed_in: Callable[..., Page]) -> Callable[..., Page]:
    """Open a new inspection on a new device, at the stage that the test is about."""

    def open_page(*presets: str, stage: str | None = None, **device: Any) -> Page:
        """presets: usual circuits of its first board, by the words of their buttons; stage: by its name on the run
        sheet, else the boards where there are any, and the brief; device: as in signed_in."""
        page = signed_in(home=False, **device)
        found = seeding.inspection(page.context.request, *presets)
        seeding.open_at(page, found, stage or ("Boards" if presets else "Brief"))
        return page

    return open_page
