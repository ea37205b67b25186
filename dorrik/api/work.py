"""One request's work: a database transaction in which it is known who is asking, and what they may."""

from collections.abc import Iterator
from contextlib import contextmanager

from fastapi import Request, Response
from sqlalchemy import Connection, Engine

from dorrik.api import cookies
from dorrik.api.problems import ProblemError
from dorrik.core.work import workflow
from dorrik.core.work.workflow import Action, State
from dorrik.store.database.engine import snapshots
from dorrik.store.people import attempts, audit, devices
from dorrik.store.people.attempts import source_of
from dorrik.store.people.people import Person
from dorrik.store.people.sessions import LASTS, who

SIGNED_OUT = "Your session has ended. Sign in again; nothing you typed is lost."

#: For whom a page asks: whoever it shows as signed in. A browser has one cookie for all its pages, so that a page which
#: still shows one person would else write under the name of the next.
ASKS_FOR = "dorrik-person"
SOMEBODY_ELSE = (
    "Somebody else is signed in on this device now. Load this page again to go on; nothing you typed is lost."
)


@contextmanager
def work(
    request: Request, action: Action | None = None, *, only_reads: bool | None = None
) -> Iterator[tuple[Connection, Person]]:
    """The transaction and the signed-in person; it is committed when the block is left without an error.

    A request that names somebody else than who is signed in (ASKS_FOR) is answered with 401.
    action: what is about to be done with the firm; answered with 403 where the person's role does not allow it.
    only_reads: everything is read as it is at one moment; else as it is when it is asked for, which who writes needs
    after waiting for another's lock. Where it is not said, a GET only reads.
    Used inside the endpoint and not as a dependency: nothing may be acknowledged before it is committed.
    """
    token = cookies.read(request.headers, cookies.SESSION)
    if token is None:
        raise ProblemError(401, "signed-out", SIGNED_OUT)
    if only_reads is None:
        only_reads = request.method in ("GET", "HEAD")
    engine: Engine = request.app.state.engine
    with (snapshots(engine) if only_reads else engine).begin() as connection:
        person = who(connection, token)
        if person is None:
            raise ProblemError(401, "signed-out", SIGNED_OUT)
        if request.headers.get(ASKS_FOR, person.id) != person.id:
            raise ProblemError(401, "somebody-else", SOMEBODY_ELSE)
        if action is not None:
            must(person, action)
        yield connection, person


def must(me: Person, action: Action, state: State | None = None) -> None:
    """Answer with 403 and why, where somebody may not do that."""
    if (refusal := workflow.why_not(me.role, action, state)) is not None:
        raise ProblemError(403, "not-yours", refusal)


def source(request: Request) -> str:
    """Where a request comes from, as it is counted and written down."""
    return source_of(request.client.host) if request.client else "unknown"


def count_bad_link(request: Request) -> None:
    """Count that somebody came with a link that opens nothing. Raises ProblemError (429) after many."""
    try:
        attempts.begin_link(request.app.state.engine, source(request))
    except attempts.Wait as error:
        seconds = max(1, round(error.seconds))
        raise ProblemError(429, "wait", f"Too many attempts. Try again in {seconds} seconds.", wait_s=seconds) from None


def note(
    request: Request, connection: Connection, me: Person, action: audit.Action, subject: str = "", **detail: object
) -> None:
    """Write into the firm's audit log that somebody did something."""
    audit.note(
        connection, action, firm_id=me.firm_id, person_id=me.id, subject=subject, source=source(request), **detail
    )


def set_cookie(request: Request, response: Response, token: str) -> None:
    """Give the browser its session."""
    secure = request.url.scheme == "https"
    cookies.give(response, cookies.SESSION, token, seconds=LASTS.total_seconds(), secure=secure)


def set_device_cookie(request: Request, response: Response, token: str) -> None:
    """Have the browser remember that somebody signed in here."""
    secure = request.url.scheme == "https"
    cookies.give(response, cookies.DEVICE, token, seconds=devices.LASTS.total_seconds(), secure=secure)
