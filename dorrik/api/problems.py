"""Errors in one shape, for programs and for people."""

import errno
from typing import Any

from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse
from sqlalchemy.exc import DBAPIError
from starlette.exceptions import HTTPException

from dorrik.api.common_types import Problem
from dorrik.core.basics.text import shown
from dorrik.pictures import subprocess_reader
from dorrik.report import press


class ProblemError(Exception):
    """Answer with a status, a code and a message."""

    def __init__(self, status: int, code: str, message: str, **more: Any) -> None:
        super().__init__(message)
        self.status = status
        self.body = {"code": code, "message": message, "fields": [], **more}


def not_found(what: str = "inspection") -> ProblemError:
    """The same answer for what is not there and for what belongs to another firm."""
    return ProblemError(404, "not-found", f"There is no such {what}.")


#: What any route can answer: before it is asked at all, or where the machine lacks something.
EVERYWHERE: dict[int | str, dict[str, Any]] = {
    400: {"model": Problem, "description": "Not a request that can be read"},
    403: {"model": Problem, "description": "Not for this role, or sent by another site's page"},
    408: {"model": Problem, "description": "Came in too slowly"},
    413: {"model": Problem, "description": "Too large, too deep or too many things"},
    414: {"model": Problem, "description": "An address or a query longer than any here"},
    422: {"model": Problem, "description": "Fields that cannot be kept, each with its reason"},
    429: {"model": Problem, "description": "Too many at once or too often"},
    431: {"model": Problem, "description": "The head of the request is too large"},
    503: {"model": Problem, "description": "The database did not answer, or the machine has too much to do"},
    507: {"model": Problem, "description": "The disk is full"},
}

#: For `responses=` of the routers.
RESPONSES: dict[int | str, dict[str, Any]] = {
    401: {"model": Problem, "description": "Not signed in"},
    404: {"model": Problem, "description": "No such thing in your firm"},
}


#: What MariaDB says where there is no room: a table or a temporary file that cannot grow, a write that failed.
FULL = frozenset((1021, 1026, 1114))


def _number(error: DBAPIError) -> int | None:
    arguments = getattr(error.orig, "args", ())
    return arguments[0] if arguments and isinstance(arguments[0], int) else None


def _full() -> JSONResponse:
    message = "The server's disk is full. What you entered is saved on this device. It is sent again by itself."
    return JSONResponse({"code": "disk-full", "message": message, "fields": []}, 507)


#: The code of what the framework answers by itself.
_CODES = {401: "signed-out", 404: "not-found", 405: "method", 408: "slow", 413: "too-large"}


def install(app: FastAPI) -> None:
    """Turn every error into a Problem."""

    @app.exception_handler(ProblemError)
    def problem(_: Request, error: ProblemError) -> JSONResponse:
        wait = error.body.get("wait_s")
        return JSONResponse(error.body, error.status, headers={"Retry-After": str(wait)} if wait else None)

    @app.exception_handler(press.TypesettingTooLarge)
    def too_much(_: Request, error: press.TypesettingTooLarge) -> JSONResponse:
        return JSONResponse({"code": "too-much", "message": str(error), "fields": []}, 422)

    @app.exception_handler(press.TypesettingLate)
    @app.exception_handler(subprocess_reader.DecodingLate)
    def late(_: Request, error: Exception) -> JSONResponse:
        body = {"code": "busy", "message": str(error), "fields": []}
        return JSONResponse(body, 503, headers={"Retry-After": "30"})

    @app.exception_handler(OSError)
    def disk(_: Request, error: OSError) -> JSONResponse:
        if error.errno not in (errno.ENOSPC, errno.EDQUOT, errno.EFBIG):
            raise error
        return _full()

    @app.exception_handler(HTTPException)
    def http(_: Request, error: HTTPException) -> JSONResponse:
        code = _CODES.get(error.status_code, "http")
        body = {"code": code, "message": str(error.detail), "fields": []}
        return JSONResponse(body, error.status_code, headers=error.headers)

    @app.exception_handler(RequestValidationError)
    def invalid(_: Request, error: RequestValidationError) -> JSONResponse:
        fields = [
            {
                "field": ".".join(shown(str(part)[:80]) for part in one["loc"][1:]) or "body",
                "message": shown(one["msg"]),
            }
            for one in error.errors()
        ]
        message = "The request cannot be read: " + "; ".join(f"{f['field']}: {f['message']}" for f in fields[:3])
        return JSONResponse({"code": "invalid", "message": message, "fields": fields}, 422)

    @app.exception_handler(DBAPIError)
    def database(_: Request, error: DBAPIError) -> JSONResponse:
        if _number(error) in FULL:
            return _full()
        if not error.connection_invalidated and type(error).__name__ != "OperationalError":
            raise error
        message = "The server has a fault. What you entered is saved. It is sent again by itself."
        return JSONResponse({"code": "database", "message": message, "fields": []}, 503)
