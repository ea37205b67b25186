"""Files to take along: their content under a name that every browser and every system takes (RFC 6266, RFC 8187)."""

import os
import re
import unicodedata
from collections.abc import Iterator
from typing import IO
from urllib.parse import quote

from fastapi import Response
from fastapi.responses import StreamingResponse

#: Longest name in bytes; file systems take 255 with whatever is put behind.
LONGEST = 150
#: What is read of a file at a time (bytes).
PART = 256 * 1024
#: What a name may end in to tell its kind.
_END = re.compile(r"[A-Za-z0-9]{1,8}")


def download(content: bytes | str, name: str, media_type: str) -> Response:
    """An answer that a browser keeps as a file of that name."""
    return Response(content, media_type=media_type, headers={"Content-Disposition": disposition(name)})


def stream(content: IO[bytes], name: str, media_type: str) -> Response:
    """An answer that a browser keeps as a file of that name, read from an open file part by part; it is closed then."""
    size = content.seek(0, os.SEEK_END)
    content.seek(0)

    def parts() -> Iterator[bytes]:
        with content:
            while part := content.read(PART):
                yield part

    headers = {"Content-Disposition": disposition(name), "Content-Length": str(size)}
    return StreamingResponse(parts(), media_type=media_type, headers=headers)


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
