"""One private MariaDB and one server for the whole run, shared by its workers, started when the first test asks for
them."""

import uuid
from collections.abc import Iterator
from pathlib import Path

import pytest
from argon2 import PasswordHasher
from hypothesis import HealthCheck, settings
from sqlalchemy import Engine

from benchmarks import machine
from dorrik.store.database.engine import make_engine
from dorrik.store.database.mariadb import PrivateMariaDB
from dorrik.store.people import people
from tests import shared
from tests.examples import EVERY, examples
from tests.serving import Server

# How long an example takes is the machine's affair: speed is measured in benchmarks/.
# `make test` says the same of the same tree each time; what is drawn anew is tried in `make fuzz`.
settings.register_profile(
    "untimed", settings(), max_examples=examples(100), deadline=None, derandomize=not EVERY,
    suppress_health_check=[HealthCheck.too_slow],
)  # fmt: skip
settings.load_profile("untimed")


def pytest_terminal_summary(terminalreporter: pytest.TerminalReporter) -> None:
    """The time that the tests took is told with the speed of the machine that it was taken on."""
    terminalreporter.write_line(machine.in_words())


def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    """What takes longest begins first, half of it with each of two workers, who are given the list in halves: at the
    end they have short ones to share."""
    long = [item for item in items if item.path.is_relative_to(END_TO_END)]
    short = [item for item in items if not item.path.is_relative_to(END_TO_END)]
    middle = (len(short) - len(long) % 2) // 2
    items[:] = [*long[::2], *short[:middle], *long[1::2], *short[middle:]]


def pytest_sessionfinish(session: pytest.Session) -> None:
    """What the workers share ends with the run, not with the first of them."""
    if not hasattr(session.config, "workerinput"):
        factory: pytest.TempPathFactory | None = getattr(session.config, "_tmp_path_factory", None)
        if factory is not None:
            shared.end(factory.getbasetemp())


END_TO_END = Path(__file__).parent / "e2e"

PASSWORD = "a long test password"
#: Hashed once for the whole run and at the least cost there is: hashing is slow on purpose, and a hash says itself what
#: it takes to verify it. What the application hashes has its full cost (tests/api/test_store.py).
PASSWORD_HASH = PasswordHasher(time_cost=1, memory_cost=8, parallelism=1).hash(PASSWORD)


@pytest.fixture(scope="session")
def run_folder(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """The folder of the whole run: that of a worker lies within it."""
    return shared.folder_of_the_run(tmp_path_factory.getbasetemp())


@pytest.fixture(scope="session")
def mariadb(run_folder: Path) -> Iterator[PrivateMariaDB]:
    """A running server with the schema in place, the same for all workers."""
    with shared.database(run_folder) as server:
        yield server


@pytest.fixture
def own_mariadb(run_folder: Path, tmp_path: Path) -> Iterator[PrivateMariaDB]:
    """A running server of the test's own, with the schema in place."""
    server = PrivateMariaDB(shared.migrated_copy(run_folder, tmp_path / "db"))
    with server:
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
    from dorrik.api import WEB

    assert (WEB / "index.html").exists(), "The front end is not built: scripts/setup.sh run"
    return WEB


@pytest.fixture(scope="session")
def server(run_folder: Path, mariadb: PrivateMariaDB, built_web: Path) -> Server:
    """The application on the shared database, the same for all workers; it ends with the run."""
    return shared.server(run_folder, mariadb.url)
