"""Pages of drafts, kept in files for the few minutes in which somebody looks at them: never in a backup, gone with the
client, and nobody's but theirs for whom they were made."""

import contextlib
import os
import shutil
import tempfile
import time
from collections.abc import Iterable, Iterator
from pathlib import Path

from dorrik.settings import settings
from dorrik.store.database.engine import new_id

#: How long a draft is kept (s), and how many of an inspection for one person: of a tablet and of a desk.
LASTS_S, MOST_EACH = 900, 2
_WORK = "at-work"


def default_root() -> Path:
    """DORRIK_DRAFTS, or where that is not set a folder of this user's among the temporary ones."""
    return settings().drafts or Path(tempfile.gettempdir()) / f"dorrik-drafts-{os.getuid()}"


class Drafts:
    """Drafts below one root, the same for all processes of a server: a folder an inspection, in it one a draft."""

    def __init__(self, root: Path) -> None:
        self._root = root

    def keep(self, inspection_id: str, person_id: str, pages: Path) -> str:
        """Take over the folder with a draft's pages, from a workplace; returns the draft's id. What is too old goes,
        and what the person has too many of."""
        self.sweep()
        draft_id = new_id()
        folder = self._folder(inspection_id, person_id, draft_id)
        folder.parent.mkdir(parents=True, exist_ok=True, mode=0o700)
        os.utime(pages)
        pages.rename(folder)
        own = sorted(self._of(inspection_id, person_id), key=_made_at)
        for former in own[: max(0, len(own) - MOST_EACH)]:
            shutil.rmtree(former, ignore_errors=True)
        return draft_id

    @contextlib.contextmanager
    def workplace(self) -> Iterator[Path]:
        """A folder to put things into that are typeset, gone after the block."""
        (self._root / _WORK).mkdir(parents=True, exist_ok=True, mode=0o700)
        with tempfile.TemporaryDirectory(dir=self._root / _WORK) as folder:
            yield Path(folder)

    def page(self, inspection_id: str, person_id: str, draft_id: str, number: int) -> bytes | None:
        """A page of a draft as a packed drawing; None where there is none, or none any more."""
        try:
            return (self._folder(inspection_id, person_id, draft_id) / f"{number}.svg.gz").read_bytes()
        except OSError:
            return None

    def forget(self, inspection_ids: Iterable[str]) -> None:
        """Remove every draft of those inspections."""
        for inspection_id in inspection_ids:
            shutil.rmtree(self._root / inspection_id, ignore_errors=True)

    def sweep(self) -> None:
        """Remove what is too old, also what a process that was killed has left."""
        for inspection in _below(self._root):
            for folder in _below(inspection):
                if _made_at(folder) < time.time() - LASTS_S:
                    shutil.rmtree(folder, ignore_errors=True)
            # Another process may be about to put a draft there: an empty folder is removed or stays.
            with contextlib.suppress(OSError):
                inspection.rmdir()

    def _of(self, inspection_id: str, person_id: str) -> list[Path]:
        return [path for path in _below(self._root / inspection_id) if path.name.startswith(f"{person_id}.")]

    def _folder(self, inspection_id: str, person_id: str, draft_id: str) -> Path:
        return self._root / inspection_id / f"{person_id}.{draft_id}"


def _below(folder: Path) -> list[Path]:
    try:
        return list(folder.iterdir())
    except OSError:
        return []


def _made_at(folder: Path) -> float:
    try:
        return folder.stat().st_mtime
    except OSError:
        return 0.0
