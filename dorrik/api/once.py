"""Doing once what is asked for twice, in a request."""

import time
from collections.abc import Callable
from typing import Any

from fastapi import Request
from sqlalchemy import Connection, Engine

from dorrik.api.problems import ProblemError
from dorrik.api.work import work
from dorrik.store.database import once
from dorrik.store.people.people import Person

#: How long whoever asks second waits for the answer of the first (s), and how often they look.
PATIENCE_S, LOOK_EVERY_S = 20.0, 0.1


def do_once(
    request: Request, me: Person, action: str, asked: tuple[object, ...], do: Callable[[Connection], Any]
) -> Any:
    """The answer of `do`, made once for the same thing asked; whoever asks at the same time gets the same answer.

    do: the work in one transaction, with what leaves the house last: what is refused is refused before; its answer is
    plain data. The key is the header Idempotency-Key, or else made of `asked`.
    """
    engine: Engine = request.app.state.engine
    key = once.RequestKey(me.firm_id, action, request.headers.get("idempotency-key"), *asked)
    before = _claim(engine, key)
    if before is not None:
        return before
    through = False
    try:
        with work(request) as (connection, _):
            answer = do(connection)
            once.done(connection, key, answer)
            through = True
    except BaseException:
        # Where the work went through and could not be written down, it is not to be done again by whoever presses next.
        if not through:
            once.failed(engine, key)
        raise
    return answer


def _claim(engine: Engine, key: once.RequestKey) -> Any:
    """The answer that was given before, or None where it is ours to do. Waits for whoever is doing it."""
    end = time.monotonic() + PATIENCE_S
    while True:
        try:
            return once.begin(engine, key)
        except once.OtherContent:
            message = "This key was used for something else. Nothing was done."
            raise ProblemError(409, "other-content", message) from None
        except once.Busy:
            if time.monotonic() > end:
                message = "The same is being done at this moment. Look again in a little while."
                raise ProblemError(409, "busy", message) from None
            time.sleep(LOOK_EVERY_S)
