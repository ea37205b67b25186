"""Photos, each stored once under the SHA-256 of its content, in a folder or in any store that fsspec knows."""

import hashlib
import re
from collections.abc import Mapping

import fsspec

from dorrik.store.database.engine import new_id

#: Largest photo that is taken (bytes); devices shrink theirs far below before they send them.
LARGEST = 12_000_000
#: How the content of each kind begins, and what it is called.
_KINDS = (
    (re.compile(rb"\xff\xd8\xff"), "image/jpeg"),
    (re.compile(rb"\x89PNG\r\n\x1a\n"), "image/png"),
    (re.compile(rb"RIFF....WEBP", re.DOTALL), "image/webp"),
    (re.compile(rb"....ftyp(heic|heix|hevc|hevx|mif1|msf1|heif)", re.DOTALL), "image/heic"),
)
#: In which sizes a photo is shown beside its original.
SIZES = ("small", "large", "printed-small", "printed-large")
_NAME = re.compile("[0-9a-f]{64}")


class NotAPhoto(ValueError):
    """The content cannot be kept as a photo; the message says why."""


def kind_of(content: bytes) -> str:
    """The media type of a photo by its content. Raises NotAPhoto."""
    if not content:
        raise NotAPhoto("The photo is empty.")
    if len(content) > LARGEST:
        raise NotAPhoto(f"The photo has {len(content) / 1e6:.0f} MB; at most {LARGEST / 1e6:.0f} MB are kept.")
    for begins, kind in _KINDS:
        if begins.match(content):
            return kind
    raise NotAPhoto("That is no photo that can be shown: JPEG, PNG, WebP and HEIC are.")


def check(sha256: str, content: bytes) -> None:
    """Is it a kind of photo, and whole? Raises NotAPhoto."""
    kind_of(content)
    if hashlib.sha256(content).hexdigest() != sha256:
        raise NotAPhoto("The photo did not arrive whole; it is sent again.")


class PhotoStore:
    """Photos of all firms under one root, each firm in a folder of its own."""

    def __init__(self, root: str) -> None:
        self._files, self._root = fsspec.core.url_to_fs(root)

    def _path(self, firm_id: str, sha256: str, size: str = "") -> str:
        return f"{self._root}/{firm_id}/{sha256[:2]}/{sha256}{f'.{size}' if size else ''}"

    def has(self, firm_id: str, sha256: str) -> bool:
        """Is the photo kept for that firm?"""
        exists: bool = self._files.exists(self._path(firm_id, sha256))
        return exists

    def keep(self, firm_id: str, sha256: str, content: bytes, renditions: Mapping[str, bytes] | None = None) -> None:
        """Keep a photo under its digest, with what is shown of it by size; keeping it again changes nothing.
        Raises NotAPhoto."""
        check(sha256, content)
        # Renditions first: whoever finds the photo finds them.
        for size, shown in (renditions or {}).items():
            self._write(self._path(firm_id, sha256, size), shown)
        self._write(self._path(firm_id, sha256), content)

    def _write(self, path: str, content: bytes) -> None:
        if self._files.exists(path):
            return
        self._files.makedirs(path.rsplit("/", 1)[0], exist_ok=True)
        # Under another name until it is whole: a broken line or a full disk leaves no half photo behind. A name of its
        # own, since the same photo can come from two devices at once.
        part = f"{path}.{new_id()}.part"
        try:
            self._files.pipe_file(part, content)
            self._files.mv(part, path)
        except OSError:
            if self._files.exists(part):
                self._files.rm_file(part)
            raise

    def names(self) -> list[str]:
        """Where every whole photo of every firm is, below the root."""
        if not self._files.exists(self._root):
            return []
        paths = self._files.find(self._root)
        root = self._root.rstrip("/") + "/"
        below = (path[path.index(root) + len(root) :] if root in path else path for path in paths)
        # Renditions are made anew from what they show.
        return sorted(name for name in below if _NAME.fullmatch(name.rpartition("/")[2]))

    def digests(self, firm_id: str) -> set[str]:
        """The digests of every whole photo of a firm."""
        folder = f"{self._root}/{firm_id}"
        paths = self._files.find(folder) if self._files.exists(folder) else []
        return {name for path in paths if _NAME.fullmatch(name := path.rpartition("/")[2])}

    def read(self, name: str) -> bytes:
        """The content of one of `names`."""
        content: bytes = self._files.cat_file(f"{self._root}/{name}")
        return content

    def put(self, name: str, content: bytes) -> None:
        """Put a photo back where it was."""
        path = f"{self._root}/{name}"
        self._files.makedirs(path.rsplit("/", 1)[0], exist_ok=True)
        self._files.pipe_file(path, content)

    def remove(self, firm_id: str, sha256: str) -> None:
        """Take a photo away; nothing happens where there is none."""
        for size in ("", *SIZES):
            path = self._path(firm_id, sha256, size)
            if self._files.exists(path):
                self._files.rm_file(path)

    def get(self, firm_id: str, sha256: str, size: str = "") -> bytes | None:
        """The content of a photo of that firm, or what is shown of it in a size; None where there is none."""
        path = self._path(firm_id, sha256, size)
        return self._files.cat_file(path) if self._files.exists(path) else None
