"""From an empty folder to a firm at work: the printed link, two people invited, roles, a second factor, a reset."""

import os
import re
import signal
import subprocess
import sys
import time
from collections.abc import Iterator
from pathlib import Path

import httpx
import pyotp
import pytest
from playwright.sync_api import Browser, Page, expect

from dorrik.store.database.mariadb import PrivateMariaDB
from tests.e2e.test_accessibility import violations
from tests.e2e.walk import begin, stage
from tests.serving import ask, free_port

PASSWORD = "five plain words in a row"
OTHER = "some other words in a row"


class Served:
    """`python -m dorrik serve` on an empty folder, as a firm starts it, and the link that it prints."""

    def __init__(self, home: Path, **environment: str) -> None:
        port = free_port()
        self.base = f"http://127.0.0.1:{port}"
        without = {k: v for k, v in os.environ.items() if not k.startswith("DORRIK_")}
        self.home = home
        self.log = home / "said"
        home.mkdir()
        with self.log.open("w") as log:
            self.process = subprocess.Popen(
                [sys.executable, "-m", "dorrik", "serve", "--port", str(port), "--workers", "2"],
                env=without | {"DORRIK_HOME": str(home)} | environment,
                stdout=log,
            )
        while not (found := re.search(r"http://\S+/welcome#\S+", self.log.read_text())):
            assert self.process.poll() is None, self.log.read_text()
            time.sleep(0.1)
        self.link = found[0]

    def kill(self) -> None:
        """As the machine would: nothing that it made goes on listening. Its database is picked up, and stopped."""
        self.process.send_signal(signal.SIGKILL)
        self.process.wait(30)
        end = time.monotonic() + 60
        while self._answers():
            assert time.monotonic() < end, "Somebody still answers there."
            time.sleep(0.1)
        with PrivateMariaDB(self.home / "mariadb"):
            pass

    def _answers(self) -> bool:
        try:
            ask(f"{self.base}/api/health", timeout=1)
        except httpx.HTTPError:
            return False
        return True


@pytest.fixture
def served(tmp_path: Path, built_web: Path) -> Iterator[Served]:
    found = Served(tmp_path / "home")
    yield found
    found.kill()


@pytest.fixture
def somebody(browser: Browser) -> Iterator:
    """A browser of somebody's own."""
    contexts = []

    def open_at(address: str, width: int = 1280) -> Page:
        base = "/".join(address.split("/")[:3])
        context = browser.new_context(base_url=base, viewport={"width": width, "height": 800}, bypass_csp=True)
        contexts.append(context)
        page = context.new_page()
        # The server says where it will be before it answers there.
        for _ in range(100):
            try:
                page.goto(address)
                break
            except Exception:
                page.wait_for_timeout(200)
        return page

    yield open_at
    for context in contexts:
        context.close()


def type_into(page: Page, **fields: str) -> None:
    for label, value in fields.items():
        page.get_by_label(re.compile(f"^{label.replace('_', ' ')}")).fill(value)


def sign_in(page: Page, email: str, password: str) -> None:
    type_into(page, Email=email, Password=password)
    page.get_by_role("button", name="Sign in").click()


def test_from_an_empty_folder_to_a_firm_at_work(served: Served, somebody):
    # The link sets the firm up; what is missing is told at its field, and nothing typed is lost.
    fay = somebody(served.link)
    expect(fay.get_by_role("heading", name="Set up your firm")).to_be_visible()
    assert violations(fay) == []
    type_into(fay, Firm="Tide Testing", Phone="01632 960 101", Address="2 Slip Road, Kelder Haven")
    type_into(fay, Your_name="Fay First", Your_email="fay@tide.example", Password="short")
    fay.get_by_role("button", name="Set up and sign in").click()
    expect(fay.get_by_text("at least 10 characters")).to_be_visible()
    type_into(fay, Password=PASSWORD)
    fay.get_by_role("button", name="Set up and sign in").click()
    expect(fay.get_by_role("heading", name="In progress")).to_be_visible()

    # Whatever the server writes is for its own user alone.
    for folder in ("mariadb", "mariadb/data"):
        assert (served.home / folder).stat().st_mode & 0o077 == 0, folder

    # Two people are invited; without mail their links are shown, once.
    fay.get_by_role("link", name="People").click()
    links = {}
    for name, role in (("Ira Spector", "inspector"), ("Otis Desk", "office")):
        type_into(fay, Name=name, Email=f"{role}@tide.example")
        fay.get_by_label("Role", exact=True).select_option(role)
        fay.get_by_role("button", name="Invite").click()
        expect(fay.get_by_text(f"Hand this link to {name}")).to_be_visible()
        links[role] = fay.locator("[data-link]").inner_text()
    assert violations(fay) == []
    expect(fay.get_by_role("list", name="People").get_by_role("listitem")).to_have_count(3)

    # They join, and each sees what their role allows.
    pages = {}
    for role, link in links.items():
        page = pages[role] = somebody(link, 390 if role == "inspector" else 1280)
        expect(page.get_by_role("heading", name="Welcome to Tide Testing")).to_be_visible()
        type_into(page, Password=PASSWORD)
        page.get_by_role("button", name="Join").click()
        expect(page.get_by_role("heading", name="In progress")).to_be_visible()
        for only in ("People", "Audit log"):
            expect(page.get_by_role("link", name=only)).to_have_count(0)
    ira, otis = pages["inspector"], pages["office"]
    begin(otis)
    stage(otis, "Report")
    expect(otis.get_by_text("An inspector or a supervisor decides this.").first).to_be_visible()
    expect(otis.get_by_role("button", name="satisfactory", exact=True)).to_be_disabled()
    expect(otis.get_by_role("button", name="Issue the report")).to_have_count(0)

    # A second factor: drawn, confirmed by a code of the device, asked for at the next signing in.
    ira.goto(f"{served.base}/account")
    type_into(ira, Your_password=PASSWORD)
    ira.get_by_role("button", name="Set it up").click()
    secret = ira.get_by_text(re.compile(r"^([A-Z2-7]{4} ?){8}$")).inner_text().replace(" ", "")
    assert violations(ira) == []
    type_into(ira, Code_it_shows_now=pyotp.TOTP(secret).now())
    ira.get_by_role("button", name="Confirm").click()
    shown = ira.get_by_role("list", name="Recovery codes").get_by_role("listitem")
    expect(shown).to_have_count(10)
    codes = shown.all_inner_texts()
    ira.goto(served.base)
    ira.get_by_role("button", name="Your account").click()
    ira.get_by_role("menuitem", name="Sign out").click()
    sign_in(ira, "inspector@tide.example", PASSWORD)
    expect(ira.get_by_label("Code of your device")).to_be_visible()
    type_into(ira, Code_of_your_device="000000")
    ira.get_by_role("button", name="Sign in").click()
    expect(ira.get_by_text("That code is not right")).to_be_visible()
    type_into(ira, Code_of_your_device=codes[0])
    ira.get_by_role("button", name="Sign in").click()
    expect(ira.get_by_role("heading", name="In progress")).to_be_visible()

    # The office has forgotten: a new link, a new password, and the old sessions are over.
    fay.get_by_role("button", name="New link for Otis Desk").click()
    expect(fay.get_by_text("Hand this link to Otis Desk")).to_be_visible()
    again = somebody(fay.locator("[data-link]").inner_text())
    type_into(again, Password=OTHER)
    again.get_by_role("button", name="Keep it and sign in").click()
    expect(again.get_by_role("heading", name="In progress")).to_be_visible()
    otis.goto(served.base)
    sign_in(otis, "office@tide.example", PASSWORD)
    expect(otis.get_by_text("do not belong together")).to_be_visible()

    # What was done stands in the audit log.
    fay.goto(f"{served.base}/audit")
    log = fay.get_by_role("list", name="What was done")
    for action in (
        "firm set up",
        "person invited",
        "person joined",
        "second factor on",
        "recovery code used",
        "password reset",
    ):
        expect(log.get_by_text(action, exact=True).first).to_be_visible()
    assert violations(fay) == []
