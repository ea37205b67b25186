"""One request's work: a database transaction in which it is known who is asking."""

from collections.abc import Iterator
from contextlib import contextmanager

from fastapi import Request
from sqlalchemy import Connection

from dorrik.api.problems import ProblemError
from dorrik.store.people import Person, who

COOKIE = "dorrik_session"


@contextmanager
def work(request: Request) -> Iterator[tuple[Connection, Person]]:
    """The transaction and the signed-in person; it is committed when the block is left without an error.

    Used inside the endpoint and not as a dependency: nothing may be acknowledged before it is committed.
    """
    with request.app.state.engine.begin() as connection:
        token = request.cookies.get(COOKIE)
        person = who(connection, token) if token else None
        if person is None:
            raise ProblemError(401, "signed-out", "Your session has ended. Sign in again; nothing you typed is lost.")
        yield connection, person
