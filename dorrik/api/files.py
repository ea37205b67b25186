"""Files to take along: their content under a name that every browser and every system takes (RFC 6266, RFC 8187)."""

import asyncio
import re
import time
import unicodedata
from collections.abc import AsyncIterator, Iterator
from urllib.parse import quote

from fastapi import Response
from fastapi.responses import StreamingResponse
from starlette.concurrency import run_in_threadpool

#: Longest name in bytes; file systems take 255 with whatever is put behind.
LONGEST = 150
#: How fast a long file is sent: what a line to a home or a tablet takes at best (bytes a second).
FASTEST_BYTES_S = 8_000_000
#: What a name may end in to tell its kind.
_END = re.compile(r"[A-Za-z0-9]{1,8}")


def download(content: bytes | str, name: str, media_type: str) -> Response:
    """An answer that a browser keeps as a file of that name."""
    return Response(content, media_type=media_type, headers={"Content-Disposition": disposition(name)})


def stream(parts: Iterator[bytes], name: str, media_type: str) -> Response:
    """An answer that a browser keeps as a file of that name, sent part by part as it is made, no faster than others
    are served beside it."""
    headers = {"Content-Disposition": disposition(name)}
    return StreamingResponse(_paced(parts), media_type=media_type, headers=headers)


async def _paced(parts: Iterator[bytes]) -> AsyncIterator[bytes]:
    """The same parts, each made in a thread, with a pause behind each for its length and for what it cost to make."""
    began = time.perf_counter()
    while (part := await run_in_threadpool(next, parts, None)) is not None:
        cost = time.perf_counter() - began
        yield part
        await asyncio.sleep(max(len(part) / FASTEST_BYTES_S, 2 * cost))
        began = time.perf_counter()


def disposition(name: str) -> str:
    """The header for a file name: in plain letters for the oldest programs, whole for all others."""
    stem, dot, end = name.rpartition(".")
    if not dot or not _END.fullmatch(end):
        stem, dot, end = name, "", ""
    ended = dot + end
    kept = re.sub(r'[\x00-\x1f\x7f-\x9f<>:"/\\|?*]+', "-", stem)
    kept = kept.encode("utf-8", "replace")[:LONGEST].decode("utf-8", "ignore").strip(" .-") or "file"
    plain = unicodedata.normalize("NFKD", kept).encode("ascii", "ignore").decode()
    plain = re.sub(r"[^A-Za-z0-9._-]+", "-", plain).strip("-.") or "file"
    return f"attachment; filename=\"{plain}{ended}\"; filename*=UTF-8''{quote(kept + ended, safe='')}"
