"""Files to take along: their content under a name that every browser and every system takes (RFC 6266, RFC 8187)."""

import re
import unicodedata
from urllib.parse import quote

from fastapi import Response

#: Longest name in bytes; file systems take 255 with whatever is put behind.
LONGEST = 150


def download(content: bytes | str, name: str, media_type: str) -> Response:
    """An answer that a browser keeps as a file of that name."""
    return Response(content, media_type=media_type, headers={"Content-Disposition": disposition(name)})


def disposition(name: str) -> str:
    """The header for a file name: in plain letters for the oldest programs, whole for all others."""
    stem, dot, end = name.rpartition(".")
    stem = re.sub(r'[\x00-\x1f\x7f<>:"/\\|?*]+', "-", stem if dot else name).strip(" .-") or "file"
    stem = stem.encode("utf-8", "replace")[:LONGEST].decode("utf-8", "ignore")
    whole = f"{stem}{dot}{end}" if dot else stem
    plain = unicodedata.normalize("NFKD", whole).encode("ascii", "ignore").decode()
    plain = re.sub(r"[^A-Za-z0-9._-]+", "-", plain).strip("-")
    if not plain.partition(".")[0]:
        plain = f"file{dot}{end}"
    return f"attachment; filename=\"{plain}\"; filename*=UTF-8''{quote(whole, safe='')}"
