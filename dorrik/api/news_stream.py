"""News of an open inspection as they come: a stream of its latest sequence number (server-sent events).

The stream says only that there is something; what it is is asked for like before, by whoever may. It ends after some
minutes, with the session or with the server, and the browser begins it anew.
"""

import hashlib
import logging
import threading
from collections.abc import AsyncIterator

from fastapi import Path, Query, Request
from sqlalchemy import Engine
from sqlalchemy.exc import SQLAlchemyError
from starlette.concurrency import run_in_threadpool
from starlette.responses import StreamingResponse

from dorrik.api import cookies
from dorrik.api.problems import RESPONSES, ProblemError, not_found
from dorrik.api.routing import router as make_router
from dorrik.api.streams import ASKS_EVERY_S, StreamListener, Streams, TooManyStreams
from dorrik.api.work import work
from dorrik.store.inspections import inspections

router = make_router("/api", "inspections", RESPONSES)
log = logging.getLogger("dorrik.news")

#: So often a stream says that it lives, and looks whether its session still does (s).
BEAT_S = 15.0
#: After so long it ends and is begun anew (s); so long the browser waits before that (ms).
LASTS_S, AGAIN_MS = 300.0, 1_000
_ID = Path(pattern="^[0-9a-f-]{36}$")


@router.get("/inspections/{inspection_id}/stream", response_class=StreamingResponse)
async def stream(
    request: Request, inspection_id: str = _ID, since: int = Query(default=0, ge=0, le=2**31 - 1)
) -> StreamingResponse:
    """Sequence numbers after `since`, each as soon as something was kept; 429 where one session has too many."""
    streams: Streams = request.app.state.streams
    seq = await run_in_threadpool(_latest, request, inspection_id)
    session = hashlib.sha256((cookies.read(request.headers, cookies.SESSION) or "").encode()).hexdigest()
    listening = streams.listening(inspection_id, session, seq)
    try:
        listener = listening.__enter__()
    except TooManyStreams:
        raise ProblemError(429, "busy", "This device listens in too many tabs; close some of them.") from None

    async def told() -> AsyncIterator[bytes]:
        try:
            yield f"retry: {AGAIN_MS}\n\n".encode()
            if seq > since:
                yield _event(seq)
            async for event in _events(request, inspection_id, listener):
                yield event
        finally:
            listening.__exit__(None, None, None)

    # A proxy that gathers answers before it passes them on would keep the news to itself.
    return StreamingResponse(told(), media_type="text/event-stream", headers={"X-Accel-Buffering": "no"})


async def _events(request: Request, inspection_id: str, listener: StreamListener) -> AsyncIterator[bytes]:
    beats = int(LASTS_S / BEAT_S)
    while beats and not listener.ended:
        if await listener.wait(BEAT_S):
            if not listener.ended:
                yield _event(listener.seq)
            continue
        beats -= 1
        try:
            await run_in_threadpool(_latest, request, inspection_id)
        except (ProblemError, SQLAlchemyError):
            return
        yield b"event: beat\ndata: \n\n"


def _event(seq: int) -> bytes:
    return f"data: {seq}\n\n".encode()


def _latest(request: Request, inspection_id: str) -> int:
    """The latest sequence number. Raises ProblemError for who is signed out, and where the firm has none of that id."""
    with work(request) as (connection, me):
        seq = inspections.sequence(connection, inspection_id, me.firm_id)
    if seq is None:
        raise not_found()
    return seq


def watch(engine: Engine, streams: Streams, stopped: threading.Event) -> None:
    """Tell those who wait what other processes have kept, until stopped. A database that does not answer is asked
    again: meanwhile devices ask by themselves."""
    while not stopped.wait(ASKS_EVERY_S):
        wanted = streams.wanted()
        if not wanted:
            continue
        try:
            with engine.connect() as connection:
                streams.tell(inspections.sequences(connection, wanted))
        except SQLAlchemyError as error:
            log.info("not asked: %s", error)
