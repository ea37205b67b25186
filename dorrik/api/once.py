"""Doing once what is asked for twice, in a request."""

import time
from collections.abc import Callable
from typing import Any

from fastapi import Request
from sqlalchemy import Connection, Engine

from dorrik.api.problems import ProblemError
from dorrik.api.work import work
from dorrik.store import once
from dorrik.store.people import Person

#: How long whoever asks second waits for the answer of the first (s), and how often they look.
PATIENCE_S, LOOK_EVERY_S = 20.0, 0.1


def do_once(
    request: Request, me: Person, action: str, asked: tuple[object, ...], do: Callable[[], Any],
    keep: Callable[[Connection, Any], Any] | None = None,
) -> Any:  # fmt: skip
    """The answer of `do`, made once for the same thing asked; whoever asks at the same time gets the same answer.

    do: the work, with a transaction of its own; its answer is plain data. keep: what has to be kept with the answer, in
    one transaction; its return value is then the answer. The key is the header Idempotency-Key, or else made of `asked`.
    """
    engine: Engine = request.app.state.engine
    key = once.Key(me.firm_id, action, request.headers.get("idempotency-key"), *asked)
    end = time.monotonic() + PATIENCE_S
    while True:
        try:
            before = once.begin(engine, key)
            break
        except once.OtherContent:
            message = "This key was used for something else. Nothing was done."
            raise ProblemError(409, "other-content", message) from None
        except once.Busy:
            if time.monotonic() > end:
                message = "The same is being done at this moment. Look again in a little while."
                raise ProblemError(409, "busy", message) from None
            time.sleep(LOOK_EVERY_S)
    if before is not None:
        return before
    try:
        answer = do()
        with work(request) as (connection, _):
            if keep is not None:
                answer = keep(connection, answer)
            once.done(connection, key, answer)
    except BaseException:
        once.failed(engine, key)
        raise
    return answer
