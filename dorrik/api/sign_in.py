"""Signing in and out; the session lives on the server, the browser holds a cookie that scripts cannot read."""

from fastapi import APIRouter, Request, Response

from dorrik.api.problems import RESPONSES, ProblemError
from dorrik.api.schemas import Me, Problem, SignIn
from dorrik.api.work import COOKIE, work
from dorrik.store import people

router = APIRouter(prefix="/api/session", tags=["session"])


@router.post("", responses={401: {"model": Problem}, 429: {"model": Problem}})
def sign_in(request: Request, response: Response, given: SignIn) -> Me:
    """Sign in; sets the session cookie."""
    with request.app.state.engine.begin() as connection:
        try:
            token = people.sign_in(connection, given.email, given.password)
        except people.TooManyFailures:
            raise ProblemError(429, "wait", "Too many attempts for this address. Wait a quarter of an hour.") from None
        person = people.who(connection, token) if token else None
    if token is None or person is None:
        raise ProblemError(401, "wrong", "That address and password do not belong together.")
    response.set_cookie(
        COOKIE,
        token,
        max_age=int(people.SESSION.total_seconds()),
        httponly=True,
        samesite="strict",
        secure=request.url.scheme == "https",
        path="/",
    )
    return Me.model_validate(person, from_attributes=True)


@router.get("", responses=RESPONSES)
def who_am_i(request: Request) -> Me:
    """Who is signed in."""
    with work(request) as (_, me):
        return Me.model_validate(me, from_attributes=True)


@router.delete("", status_code=204)
def sign_out(request: Request, response: Response) -> None:
    """End the session."""
    if token := request.cookies.get(COOKIE):
        with request.app.state.engine.begin() as connection:
            people.sign_out(connection, token)
    response.delete_cookie(COOKIE, path="/", httponly=True, samesite="strict")
