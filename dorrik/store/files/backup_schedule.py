"""Backups by themselves: one every so many hours into a folder or any address that fsspec knows, the oldest let go."""

import logging
import re
import threading
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta

import fsspec

from dorrik.store.files import backup

log = logging.getLogger("dorrik.backup")
_NAME = re.compile(r"dorrik-(\d{8}-\d{6})\.tar\.gz")
#: How often it is looked whether one is due (s).
LOOK_S = 60.0


@dataclass(frozen=True, slots=True)
class Schedule:
    """Where to, how often, and how many are kept."""

    folder: str
    every: timedelta
    keep: int


def made(folder: str) -> list[tuple[datetime, str]]:
    """The backups in a folder by when they were made, the oldest first."""
    files, path = fsspec.core.url_to_fs(folder)
    if not files.exists(path):
        return []
    backups = []
    for one in files.ls(path, detail=False):
        name = _NAME.fullmatch(str(one).rpartition("/")[2])
        if name is not None:
            backups.append((datetime.strptime(name[1], "%Y%m%d-%H%M%S").replace(tzinfo=UTC), str(one)))
    return sorted(backups)


def step(url: str, photos: str, schedule: Schedule, at: datetime) -> str | None:
    """Make a backup if one is due and let go of those beyond what is kept; returns the new one's address."""
    there = made(schedule.folder)
    if there and at - there[-1][0] < schedule.every:
        return None
    target = f"{schedule.folder.rstrip('/')}/dorrik-{at:%Y%m%d-%H%M%S}.tar.gz"
    backup.make(url, photos, target)
    files, _ = fsspec.core.url_to_fs(schedule.folder)
    for _, old in made(schedule.folder)[: -schedule.keep]:
        files.rm_file(old)
    return target


def keep_going(url: str, photos: str, schedule: Schedule, stopped: threading.Event) -> None:
    """Backups until `stopped` is set. One that fails is told in the log, and tried again at the next look."""
    while not stopped.is_set():
        try:
            if (target := step(url, photos, schedule, datetime.now(UTC))) is not None:
                log.warning("Backed up into %s", target)
        except Exception as error:
            # Whatever a store of somebody else's raises: the server goes on, and whoever watches the log hears of it.
            log.error("The backup was not made: %s", error)
        stopped.wait(LOOK_S)
