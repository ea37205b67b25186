"""Every operation of the contract under requests made from its schema: no failure of the server, nothing undocumented.

Not part of `make test`: `make fuzz` takes minutes. FUZZ_EXAMPLES says how many requests an operation gets.
"""

import itertools
import os
from collections.abc import Iterator

import pytest
import schemathesis
from hypothesis import HealthCheck, given, settings
from schemathesis.checks import not_a_server_error
from schemathesis.specs.openapi.checks import (
    content_type_conformance,
    response_schema_conformance,
    status_code_conformance,
)

from dorrik.api.app import create_app
from dorrik.store.database import migrate
from dorrik.store.database.engine import make_engine
from dorrik.store.database.mariadb import PrivateMariaDB
from dorrik.store.people import people, sessions
from tests.serving import Server, free_port

EXAMPLES = int(os.environ.get("FUZZ_EXAMPLES", "100"))
#: Each in turn, a supervisor most often: they get furthest.
ROLES = ("supervisor", "inspector", "supervisor", "office")
CHECKS = [not_a_server_error, status_code_conformance, content_type_conformance, response_schema_conformance]


class _Fuzzed:
    """A server on a database of its own, and sessions of each role: one may be ended by what is asked with it."""

    def __init__(self, url: str) -> None:
        self.engine = make_engine(url)
        self.server = Server(url, free_port())
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
        found = _Fuzzed(server.url)
        yield found
        found.server.kill()


def _operations() -> dict[str, schemathesis.APIOperation]:
    schema = schemathesis.openapi.from_dict(create_app(make_engine("mysql+pymysql://")).openapi())
    found = (result.ok() for result in schema.get_all_operations())
    return {f"{operation.method.upper()} {operation.path}": operation for operation in found}


OPERATIONS = _operations()


@pytest.mark.parametrize("operation", OPERATIONS)
def test_operation(operation: str, fuzzed: _Fuzzed) -> None:
    roles = itertools.cycle(ROLES)

    @settings(max_examples=EXAMPLES, deadline=None, suppress_health_check=list(HealthCheck), database=None)
    @given(OPERATIONS[operation].as_strategy())
    def ask(case: schemathesis.Case) -> None:
        case.call_and_validate(base_url=fuzzed.server.base, cookies=fuzzed.cookie(next(roles)), checks=CHECKS)

    ask()
