"""How requests are read: JSON bounded in depth, in things and in figures before anything is built from it."""

import json
import re
from collections.abc import Callable, Coroutine
from typing import Any

from fastapi import APIRouter, Request, Response
from fastapi.routing import APIRoute
from starlette.exceptions import HTTPException

#: What we take nests four deep; documents of an inspection, with their lists of lists, seven.
DEEPEST = 32
#: Objects, lists and separators: a batch of 500 changes has some 6,000, an inspection of 5,000 entries 300,000.
MOST_THINGS = 400_000
#: Digits of a whole number; a longer one is taken for endless, and refused where a number is looked at.
MOST_DIGITS = 300

#: A text, or what begins one and has no end: read once from end to end, never again from its middle.
_STRING = re.compile(rb'"(?:[^"\\]|\\.)*+(?:"|\\?\Z)', re.DOTALL)
_OTHERS = bytes(set(range(256)) - set(b"[]{},"))


class BodyTooLarge(ValueError):
    """JSON that is too deep or holds too many things."""


def _whole(digits: str) -> int | float:
    return int(digits) if len(digits) <= MOST_DIGITS else float("inf")


def loads(body: bytes) -> Any:
    """What a JSON text says. Raises BodyTooLarge before anything is built, ValueError for what is not JSON."""
    marks = _STRING.sub(b"", body).translate(None, _OTHERS)
    if len(marks) > MOST_THINGS:
        raise BodyTooLarge("The request holds more than can be taken at once; send it in parts.")
    depth = deepest = 0
    for mark in marks.replace(b",", b""):
        depth += 1 if mark in b"[{" else -1
        deepest = max(deepest, depth)
    if deepest > DEEPEST:
        raise BodyTooLarge(f"The request is nested {deepest} deep; at most {DEEPEST} are taken.")
    return json.loads(body, parse_int=_whole)


class BoundedRequest(Request):
    """A request whose JSON is bounded."""

    async def json(self) -> Any:
        """The body's data."""
        if not hasattr(self, "_bounded_json"):
            try:
                self._bounded_json = loads(await self.body())
            except BodyTooLarge as error:
                raise HTTPException(413, str(error)) from None
            except UnicodeDecodeError:
                raise json.JSONDecodeError("not in Unicode", "", 0) from None
        return self._bounded_json


class BoundedRoute(APIRoute):
    """A route that reads its requests within bounds."""

    def get_route_handler(self) -> Callable[[Request], Coroutine[Any, Any, Response]]:
        """The handler, given such a request."""
        handle = super().get_route_handler()

        async def bounded(request: Request) -> Response:
            return await handle(BoundedRequest(request.scope, request.receive))

        return bounded


def router(prefix: str, tag: str, responses: dict[int | str, dict[str, Any]] | None = None) -> APIRouter:
    """A router whose requests are read within bounds."""
    return APIRouter(prefix=prefix, tags=[tag], responses=responses or {}, route_class=BoundedRoute)
