"""The built front end: its files as they were made at build, packed where the browser takes that, kept for a year where
their name tells their content."""

import hashlib
import mimetypes
import re
from dataclasses import dataclass
from pathlib import Path

from starlette.requests import Request
from starlette.responses import FileResponse, Response

#: Under /assets a name carries the digest of its content: what has it once never asks again.
FOREVER = "public, max-age=31536000, immutable"
ASK_AGAIN = "no-cache"
#: Endings of packed files beside the plain one, the smallest first, by the name of the encoding.
PACKED = (("br", ".br"), ("gzip", ".gz"))
#: Screens have short addresses of plain letters; everything else is no address of ours.
SCREEN = re.compile(r"(?!.*\.\.)[A-Za-z0-9/_.~-]{0,300}")

mimetypes.add_type("application/manifest+json", ".webmanifest")
mimetypes.add_type("application/wasm", ".wasm")
mimetypes.add_type("text/javascript", ".mjs")
mimetypes.add_type("font/woff2", ".woff2")


@dataclass(frozen=True, slots=True)
class _File:
    path: Path
    media_type: str
    packed: dict[str, Path]
    cache: str
    etag: str


class Pages:
    """Every file of a built front end, listed once: nothing that a request says is ever looked for on the disk."""

    def __init__(self, folder: Path, rules: Path | None = None) -> None:
        """folder: of the front end; rules: of what devices judge with, where that was packed (web/rules)."""
        self._files = {path.relative_to(folder).as_posix(): _file(folder, path) for path in _listed(folder)}
        if rules is not None:
            here = {f"rules/{path.relative_to(rules).as_posix()}": path for path in _listed(rules)}
            self._files |= {name: _rules_file(rules, path) for name, path in here.items()}

    def answer(self, path: str, request: Request) -> Response | None:
        """The file of that name; the page itself for every screen; None for what is no address of ours."""
        file = self._files.get(path)
        if file is None:
            if path.startswith(("assets/", "rules/")) or not SCREEN.fullmatch(path):
                return None
            file = self._files["index.html"]
        headers = {"Cache-Control": file.cache, "Vary": "Accept-Encoding", "ETag": file.etag}
        if file.etag in request.headers.get("if-none-match", ""):
            return Response(status_code=304, headers=headers)
        takes = {part.partition(";")[0].strip() for part in request.headers.get("accept-encoding", "")[:200].split(",")}
        for encoding, _ in PACKED:
            if encoding in takes and encoding in file.packed:
                headers["Content-Encoding"] = encoding
                return FileResponse(file.packed[encoding], media_type=file.media_type, headers=headers)
        return FileResponse(file.path, media_type=file.media_type, headers=headers)


def _listed(folder: Path) -> list[Path]:
    return [
        path
        for path in sorted(folder.rglob("*"))
        if path.is_file() and not path.name.startswith(".") and path.suffix not in (".br", ".gz")
    ]


def _file(folder: Path, path: Path) -> _File:
    cache = FOREVER if path.parent == folder / "assets" else ASK_AGAIN
    return _made(path, cache, hashlib.sha256(path.read_bytes()).hexdigest()[:32])


def _rules_file(rules: Path, path: Path) -> _File:
    """A folder is named after what is in it: its files, some of them large, need not be read here."""
    if path.parent == rules:
        return _file(rules, path)
    return _made(path, FOREVER, f"{path.parent.name}-{path.name}")


def _made(path: Path, cache: str, etag: str) -> _File:
    beside = {encoding: path.with_name(path.name + ending) for encoding, ending in PACKED}
    return _File(
        path=path,
        media_type=mimetypes.guess_type(path.name)[0] or "application/octet-stream",
        packed={encoding: one for encoding, one in beside.items() if one.is_file()},
        cache=cache,
        etag=f'"{etag}"',
    )
