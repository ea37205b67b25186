"""An archive (ZIP) packed while it is sent: nothing of it is kept, in memory or on disk, but the part at hand."""

import zipfile
from collections.abc import Iterable, Iterator
from typing import IO, Any, cast

#: What is handed on at a time (bytes).
PART = 256 * 1024


class _Sink:
    """Takes what an archive writes until it is handed on. Nobody can go back in it, so lengths come behind contents."""

    def __init__(self) -> None:
        self._held = bytearray()

    def write(self, content: bytes) -> int:
        self._held += content
        return len(content)

    def flush(self) -> None:
        """Nothing is held back."""

    def take(self) -> bytes:
        """What was written since it was last taken."""
        taken, self._held = bytes(self._held), bytearray()
        return taken


class Archive:
    """Files are added one after another; each call gives what is to be sent by then."""

    def __init__(self) -> None:
        self._sink = _Sink()
        self._zip = zipfile.ZipFile(cast(IO[Any], self._sink), "w", zipfile.ZIP_DEFLATED)

    def add(self, name: str, content: Iterable[bytes], *, packed: bool = True) -> Iterator[bytes]:
        """Add a file. packed: photos and reports are no smaller for being packed."""
        about = zipfile.ZipInfo(name)
        about.compress_type = zipfile.ZIP_DEFLATED if packed else zipfile.ZIP_STORED
        about.external_attr = 0o600 << 16
        with self._zip.open(about, "w") as out:
            for whole in content:
                for at in range(0, len(whole), PART):
                    out.write(whole[at : at + PART])
                    if sent := self._sink.take():
                        yield sent
        yield self._sink.take()

    def put(self, name: str, content: bytes) -> Iterator[bytes]:
        """Add a file of ours, packed where that makes it smaller."""
        return self.add(name, [content], packed=not name.startswith(("photos/", "papers/")))

    def end(self) -> bytes:
        """The end of the archive, without which no program opens it."""
        self._zip.close()
        return self._sink.take()
