"""Photos, each stored once under the SHA-256 of its content, in a folder or in any store that fsspec knows."""

import hashlib
import re

import fsspec

from dorrik.store.engine import new_id

#: Largest photo that is taken (bytes); devices shrink theirs far below before they send them.
LARGEST = 12_000_000
#: How the content of each kind begins, and what it is called.
_KINDS = (
    (re.compile(rb"\xff\xd8\xff"), "image/jpeg"),
    (re.compile(rb"\x89PNG\r\n\x1a\n"), "image/png"),
    (re.compile(rb"RIFF....WEBP", re.DOTALL), "image/webp"),
)
_HEIC = re.compile(rb"....ftyp(heic|heix|hevc|mif1|heif)", re.DOTALL)


class NotAPhoto(ValueError):
    """The content cannot be kept as a photo; the message says why."""


def kind_of(content: bytes) -> str:
    """The media type of a photo by its content. Raises NotAPhoto."""
    if not content:
        raise NotAPhoto("The photo is empty.")
    if len(content) > LARGEST:
        raise NotAPhoto(f"The photo has {len(content) / 1e6:.0f} MB; at most {LARGEST / 1e6:.0f} MB are kept.")
    if _HEIC.match(content):
        raise NotAPhoto("That is an HEIC photo, which browsers cannot show: set the camera to JPEG, or save it as one.")
    for begins, kind in _KINDS:
        if begins.match(content):
            return kind
    raise NotAPhoto("That is no photo that can be shown: JPEG, PNG and WebP are.")


class PhotoStore:
    """Photos of all firms under one root, each firm in a folder of its own."""

    def __init__(self, root: str) -> None:
        self._files, self._root = fsspec.core.url_to_fs(root)

    def _path(self, firm_id: str, sha256: str) -> str:
        return f"{self._root}/{firm_id}/{sha256[:2]}/{sha256}"

    def keep(self, firm_id: str, sha256: str, content: bytes) -> None:
        """Keep a photo under its digest; keeping it again changes nothing. Raises NotAPhoto."""
        kind_of(content)
        if hashlib.sha256(content).hexdigest() != sha256:
            raise NotAPhoto("The photo did not arrive whole; it is sent again.")
        path = self._path(firm_id, sha256)
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
        found = self._files.find(self._root)
        root = self._root.rstrip("/") + "/"
        below = (path[path.index(root) + len(root) :] if root in path else path for path in found)
        return sorted(name for name in below if not name.endswith(".part"))

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
        path = self._path(firm_id, sha256)
        if self._files.exists(path):
            self._files.rm_file(path)

    def get(self, firm_id: str, sha256: str) -> bytes | None:
        """The content of a photo of that firm; None where it has none."""
        path = self._path(firm_id, sha256)
        return self._files.cat_file(path) if self._files.exists(path) else None
