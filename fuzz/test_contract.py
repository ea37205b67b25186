"""Every operation of the contract under requests made from its schema: no failure of the server, nothing undocumented.

Not part of `make test`: `make fuzz` takes minutes. FUZZ_EXAMPLES says how many requests an operation gets.
"""

import os
from collections.abc import Iterator

import pytest
import schemathesis
from hypothesis import HealthCheck, settings
from schemathesis.checks import not_a_server_error
from schemathesis.specs.openapi.checks import (
    content_type_conformance,
    response_schema_conformance,
    status_code_conformance,
)
from starlette.testclient import TestClient

from dorrik.api.app import create_app
from dorrik.store import migrate, people, sessions
from dorrik.store.engine import make_engine
from dorrik.store.mariadb import PrivateMariaDB

EXAMPLES = int(os.environ.get("FUZZ_EXAMPLES", "100"))
CHECKS = [not_a_server_error, status_code_conformance, content_type_conformance, response_schema_conformance]


class _Fuzzed:
    """The application on a database of its own, and a session of each role that is opened again when it was ended."""

    def __init__(self, url: str, photos: str) -> None:
        self.engine = make_engine(url)
        self.app = create_app(self.engine, photos=photos)
        with self.engine.begin() as connection:
            firm = people.add_firm(connection, "Fuzzed", "", "")
            self.people = {
                role: people.add_person(connection, firm, role, f"{role}@fuzz.example", role, "x")
                for role in ("supervisor", "inspector", "office")
            }

    def cookie(self, role: str) -> dict[str, str]:
        with self.engine.begin() as connection:
            return {"dorrik_session": sessions.open_one(connection, self.people[role], "fuzz", "127.0.0.1")}


@pytest.fixture(scope="session")
def fuzzed(tmp_path_factory: pytest.TempPathFactory) -> Iterator[_Fuzzed]:
    folder = tmp_path_factory.mktemp("fuzz")
    with PrivateMariaDB(folder / "db") as server:
        migrate.upgrade(server.url)
        yield _Fuzzed(server.url, str(folder / "photos"))


@pytest.fixture(scope="session")
def contract(fuzzed: _Fuzzed) -> schemathesis.BaseSchema:
    return schemathesis.openapi.from_dict(fuzzed.app.openapi())


schema = schemathesis.pytest.from_fixture("contract")


@pytest.mark.parametrize("role", ["supervisor", "inspector", "office"])
@schema.parametrize()
@settings(max_examples=EXAMPLES, deadline=None, suppress_health_check=list(HealthCheck))
def test_operation(case: schemathesis.Case, fuzzed: _Fuzzed, role: str) -> None:
    with TestClient(fuzzed.app, cookies=fuzzed.cookie(role)) as http:
        case.call_and_validate(session=http, base_url="http://testserver", checks=CHECKS)
