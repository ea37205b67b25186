"""Signing in and out; the session lives on the server, the browser holds a cookie that scripts cannot read."""

from typing import Any

from fastapi import Request, Response
from sqlalchemy import Engine

from dorrik.api import accounts
from dorrik.api.account_types import Me, SignIn
from dorrik.api.common_types import Problem
from dorrik.api.costly import Pool
from dorrik.api.observed import FAILED_SIGN_INS
from dorrik.api.problems import ProblemError
from dorrik.api.routing import router as make_router
from dorrik.api.work import COOKIE, note, set_cookie, source
from dorrik.store import attempts, audit, passwords, people, second_factor, sessions

router = make_router("/api/session", "session")


@router.post("", responses={401: {"model": Problem}, 429: {"model": Problem}})
async def sign_in(request: Request, response: Response, given: SignIn) -> Me:
    """Sign in; sets the session cookie. Answered with the code `code` where the second factor is asked for."""
    engine: Engine = request.app.state.engine
    where, agent = source(request), request.headers.get("user-agent", "")
    pool: Pool = request.app.state.costly
    token, me = await pool.run(lambda: _sign_in(engine, given, where, agent))
    set_cookie(request, response, token)
    return me


def _sign_in(engine: Engine, given: SignIn, where: str, agent: str) -> tuple[str, Me]:
    """A new session's token, and whose it is."""
    with engine.connect() as connection:
        row = people.by_address(connection, given.email)
    known = row is not None and row.ended_at is None
    with_code = bool(given.code) and known and second_factor.is_asked(row)
    try:
        attempt = attempts.begin(engine, given.email, where, second_factor=with_code)
    except attempts.Wait as error:
        seconds = max(1, round(error.seconds))
        told = f"{seconds} seconds" if seconds < 90 else f"{round(seconds / 60)} minutes"
        message = f"Too many attempts. Try again in {told}, or ask for a link by mail."
        raise ProblemError(429, "wait", message, wait_s=seconds) from None
    if not passwords.matches(row.password_hash if known else None, given.password):
        _failed(engine, row, where, "wrong password" if known else "unknown or ended")
        raise ProblemError(401, "wrong", "That address and password do not belong together.")
    with engine.begin() as connection:
        if second_factor.is_asked(row):
            if not given.code:
                # The password was right: that is no failure. Codes that were guessed before still count.
                attempts.withdraw(engine, attempt)
                raise ProblemError(401, "code", "Type the code that your device shows, or a recovery code.")
            before = second_factor.left(connection, row.id)
            if not second_factor.check(connection, row.id, given.code):
                connection.rollback()
                _failed(engine, row, where, "wrong code")
                raise ProblemError(
                    401, "wrong-code", "That code is not right, or was used already. Wait for the next one."
                )
            if second_factor.left(connection, row.id) < before:
                audit.note(
                    connection,
                    "recovery code used",
                    firm_id=row.firm_id,
                    person_id=row.id,
                    source=where,
                    left=before - 1,
                )
        token = sessions.open_one(connection, row.id, agent, where)
        audit.note(connection, "signed in", firm_id=row.firm_id, person_id=row.id, source=where, agent=agent[:200])
        person = sessions.who(connection, token)
        if person is None:
            raise ProblemError(401, "wrong", "That address and password do not belong together.")
        me = accounts.me(connection, person)
    attempts.right(engine, attempt, given.email, where)
    return token, me


def _failed(engine: Engine, row: Any, where: str, why: str) -> None:
    FAILED_SIGN_INS.inc()
    if row is not None:
        with engine.begin() as connection:
            audit.note(connection, "sign-in failed", firm_id=row.firm_id, subject=row.email, source=where, why=why)


@router.get("")
def who_am_i(request: Request) -> Me | None:
    """Who is signed in; null where nobody is."""
    token = request.cookies.get(COOKIE)
    with request.app.state.engine.begin() as connection:
        person = sessions.who(connection, token) if token else None
        return None if person is None else accounts.me(connection, person)


@router.delete("", status_code=204)
def sign_out(request: Request, response: Response) -> None:
    """End the session. What the browser kept of pages and photos goes with it."""
    if token := request.cookies.get(COOKIE):
        with request.app.state.engine.begin() as connection:
            person = sessions.who(connection, token)
            if person is not None:
                note(request, connection, person, "signed out")
            sessions.sign_out(connection, token)
    response.delete_cookie(COOKIE, path="/", httponly=True, samesite="strict")
    response.headers["Clear-Site-Data"] = '"cache"'
