"""The application served on an empty database, with somebody signed in at it in Chromium."""

import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import NamedTuple

from playwright.sync_api import Page, sync_playwright

from benchmarks.round_trip import _Client, _serve
from dorrik.store.database import migrate
from dorrik.store.database.engine import make_engine
from dorrik.store.database.mariadb import PrivateMariaDB
from dorrik.store.people import passwords, people
from tests.chromium import FLAGS, executable

PORT = 18093


class Seat(NamedTuple):
    """A page of somebody signed in, a client that writes what it begins with, the id of the firm, the address."""

    page: Page
    client: _Client
    firm: str
    base: str


@contextmanager
def seated() -> Iterator[Seat]:
    """A tablet of 1280 × 800 at a server of its own."""
    base = f"http://127.0.0.1:{PORT}"
    with tempfile.TemporaryDirectory() as folder, PrivateMariaDB(Path(folder)) as database:
        migrate.upgrade(database.url)
        engine = make_engine(database.url)
        with engine.begin() as connection:
            firm = people.add_firm(connection, "Firm", "", "")
            secret = passwords.hash_password("password")
            people.add_person(connection, firm, "Ines", "ines@test.example", "inspector", secret)
        server = _serve("real", database.url, PORT)
        try:
            client = _Client(PORT)
            signed_in = {"email": "ines@test.example", "password": "password"}
            client.post("/api/session", signed_in)
            with sync_playwright() as playwright:
                browser = playwright.chromium.launch(executable_path=executable(), args=FLAGS)
                context = browser.new_context(viewport={"width": 1280, "height": 800})
                context.request.post(f"{base}/api/session", data=signed_in)
                # The server has let go of a connection that waited so long.
                client.connection.close()
                yield Seat(context.new_page(), client, firm, base)
                browser.close()
        finally:
            server.terminate()
            server.wait()
        engine.dispose()
