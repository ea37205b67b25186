"""One private MariaDB for the whole run, started when the first test asks for it."""

import uuid
from collections.abc import Iterator
from pathlib import Path

import pytest
from argon2 import PasswordHasher
from hypothesis import HealthCheck, settings
from sqlalchemy import Engine

from dorrik.store import migrate, people
from dorrik.store.engine import make_engine
from dorrik.store.mariadb import PrivateMariaDB
from tests.serving import Server, free_port

# How long an example takes is the machine's affair: speed is measured in benchmarks/.
settings.register_profile("untimed", settings(), deadline=None, suppress_health_check=[HealthCheck.too_slow])
settings.load_profile("untimed")

PASSWORD = "a long test password"
#: Hashed once for the whole run and at the least cost there is: hashing is slow on purpose, and a hash says itself what
#: it takes to verify it. What the application hashes has its full cost (tests/api/test_store.py).
PASSWORD_HASH = PasswordHasher(time_cost=1, memory_cost=8, parallelism=1).hash(PASSWORD)


@pytest.fixture(scope="session")
def mariadb(tmp_path_factory: pytest.TempPathFactory) -> Iterator[PrivateMariaDB]:
    """A running server with the schema in place."""
    with PrivateMariaDB(tmp_path_factory.mktemp("mariadb")) as server:
        migrate.upgrade(server.url)
        yield server


@pytest.fixture(scope="session")
def engine(mariadb: PrivateMariaDB) -> Iterator[Engine]:
    """An engine on it."""
    found = make_engine(mariadb.url)
    yield found
    found.dispose()


class Firm:
    """A firm of its own for one test, with somebody in each role."""

    def __init__(self, engine: Engine) -> None:
        tag = uuid.uuid4().hex[:8]
        self.inspector_email = f"inspector-{tag}@test.example"
        self.supervisor_email = f"supervisor-{tag}@test.example"
        self.office_email = f"office-{tag}@test.example"
        with engine.begin() as connection:
            self.id = people.add_firm(connection, f"Firm {tag}", "1 Test Quay", "0")
            for name, email, role in (
                ("Ines Pector", self.inspector_email, "inspector"),
                ("Sol Visor", self.supervisor_email, "supervisor"),
                ("Otis Desk", self.office_email, "office"),
            ):
                people.add_person(connection, self.id, name, email, role, PASSWORD_HASH)


@pytest.fixture
def firm(engine: Engine) -> Firm:
    """A firm that no other test knows."""
    return Firm(engine)


@pytest.fixture
def other_firm(engine: Engine) -> Firm:
    """Another firm."""
    return Firm(engine)


@pytest.fixture(scope="session")
def built_web() -> Path:
    """The folder of the built front end."""
    from dorrik.api.app import WEB

    assert (WEB / "index.html").exists(), "The front end is not built: scripts/setup.sh run"
    return WEB


@pytest.fixture(scope="session")
def server(mariadb: PrivateMariaDB, built_web: Path) -> Iterator[Server]:
    server = Server(mariadb.url, free_port())
    yield server
    server.kill()
