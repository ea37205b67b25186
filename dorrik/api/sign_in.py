"""Signing in and out; the session lives on the server, the browser holds a cookie that scripts cannot read."""

from collections.abc import Iterator
from contextlib import contextmanager
from typing import Any

from fastapi import Request, Response
from sqlalchemy import Engine

from dorrik.api import accounts, cookies
from dorrik.api.account_types import Me, SignIn
from dorrik.api.common_types import Problem
from dorrik.api.metrics import FAILED_SIGN_INS
from dorrik.api.problems import ProblemError
from dorrik.api.routing import router as make_router
from dorrik.api.work import note, set_cookie, set_device_cookie, source
from dorrik.api.worker_pool import WorkerPool
from dorrik.store.people import attempts, audit, devices, passwords, people, second_factor, sessions

router = make_router("/api/session", "session")


@router.post("", responses={401: {"model": Problem}, 429: {"model": Problem}})
async def sign_in(request: Request, response: Response, given: SignIn) -> Me:
    """Sign in; sets the session cookie. Answered with the code `code` where the second factor is asked for."""
    engine: Engine = request.app.state.engine
    where, agent = source(request), request.headers.get("user-agent", "")
    device = cookies.read(request.headers, cookies.DEVICE)
    pool: WorkerPool = request.app.state.password_pool
    token, known, me = await pool.run(lambda: _sign_in(engine, given, where, agent, device))
    set_cookie(request, response, token)
    set_device_cookie(request, response, known)
    return me


def _sign_in(engine: Engine, given: SignIn, where: str, agent: str, device: str | None) -> tuple[str, str, Me]:
    """A new session's token, that of the device, and whose they are."""
    with engine.connect() as connection:
        row = people.by_address(connection, given.email)
        known = row is not None and row.ended_at is None
        counted_as = devices.find(connection, device, row.id) if known else None
    with _waiting_told():
        attempt = attempts.begin(engine, given.email, where, counted_as)
    if not passwords.matches(row.password_hash if known else None, given.password):
        _failed(engine, row, where, "wrong password" if known else "unknown or ended")
        raise ProblemError(401, "wrong", "That address and password do not belong together.")
    code_attempt = None
    if second_factor.is_asked(row):
        # The password was right: that is no failure. Codes count by themselves.
        attempts.withdraw(engine, attempt)
        if not given.code:
            raise ProblemError(401, "code", "Type the code that your device shows, or a recovery code.")
        with _waiting_told():
            code_attempt = attempts.begin_code(engine, given.email, where, counted_as)
        _check_code(engine, row, given.code, where)
    with engine.begin() as connection:
        token = sessions.open_one(connection, row.id, agent, where)
        audit.note(connection, "signed in", firm_id=row.firm_id, person_id=row.id, source=where, agent=agent[:200])
        person = sessions.who(connection, token)
        if person is None:
            raise ProblemError(401, "wrong", "That address and password do not belong together.")
        me = accounts.me(connection, person)
        device = devices.know(connection, device, row.id)
    attempts.right(engine, attempt)
    if code_attempt is not None:
        attempts.right(engine, code_attempt)
    return token, device, me


@contextmanager
def _waiting_told() -> Iterator[None]:
    """Answer with 429 and how long to wait, where there were too many tries."""
    try:
        yield
    except attempts.Wait as error:
        seconds = max(1, round(error.seconds))
        wait = f"{seconds} seconds" if seconds < 90 else f"{round(seconds / 60)} minutes"
        message = f"Too many attempts. Try again in {wait}, or ask for a link by mail."
        raise ProblemError(429, "wait", message, wait_s=seconds) from None


def _check_code(engine: Engine, row: Any, code: str, where: str) -> None:
    """Raise ProblemError (401) where that is no code of this person's; a recovery code is spent."""
    with engine.begin() as connection:
        before = second_factor.left(connection, row.id)
        right = second_factor.check(connection, row.id, code)
        if right and (left := second_factor.left(connection, row.id)) < before:
            audit.note(
                connection, "recovery code used", firm_id=row.firm_id, person_id=row.id, source=where, left=left
            )  # fmt: skip
    if not right:
        _failed(engine, row, where, "wrong code")
        raise ProblemError(401, "wrong-code", "That code is not right, or was used already. Wait for the next one.")


def _failed(engine: Engine, row: Any, where: str, why: str) -> None:
    FAILED_SIGN_INS.inc()
    if row is not None:
        with engine.begin() as connection:
            audit.note(connection, "sign-in failed", firm_id=row.firm_id, subject=row.email, source=where, why=why)


@router.get("")
def who_am_i(request: Request) -> Me | None:
    """Who is signed in; null where nobody is."""
    token = cookies.read(request.headers, cookies.SESSION)
    if token is None:
        return None
    with request.app.state.engine.begin() as connection:
        person = sessions.who(connection, token)
        return None if person is None else accounts.me(connection, person)


@router.delete("", status_code=204)
def sign_out(request: Request, response: Response) -> None:
    """End the session. What the browser kept of pages and photos goes with it."""
    if token := cookies.read(request.headers, cookies.SESSION):
        with request.app.state.engine.begin() as connection:
            person = sessions.who(connection, token)
            if person is not None:
                note(request, connection, person, "signed out")
            sessions.sign_out(connection, token)
    cookies.take_back(response, cookies.SESSION)
    response.headers["Clear-Site-Data"] = '"cache"'
