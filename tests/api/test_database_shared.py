"""The private database: shared by a lease, watched, migrated by one of those who start at once; and backed up."""

import hashlib
import tarfile
import threading
import time
from concurrent.futures import ThreadPoolExecutor
from datetime import UTC, datetime, timedelta

import pytest
from sqlalchemy import create_engine, select, text

from dorrik.core.inspection import KINDS
from dorrik.demo import load
from dorrik.store import backup, backup_schedule, migrate
from dorrik.store.engine import make_engine
from dorrik.store.mariadb import PrivateMariaDB
from dorrik.store.photos import PhotoStore
from dorrik.store.tables import inspection, issued_report
from tests.pictures import picture

PHOTO = picture()


def alive(url):
    engine = create_engine(url)
    try:
        with engine.connect() as connection:
            return connection.execute(text("SELECT 1")).scalar() == 1
    except Exception:
        return False
    finally:
        engine.dispose()


@pytest.fixture(scope="module")
def shared(tmp_path_factory):
    """A server that two have started, each as a process of its own would, on an empty folder at the same moment."""
    folder = tmp_path_factory.mktemp("shared") / "db"
    servers = [PrivateMariaDB(folder), PrivateMariaDB(folder)]
    with ThreadPoolExecutor(2) as pool:
        list(pool.map(PrivateMariaDB.start, servers))
        # And both migrate it.
        list(pool.map(migrate.upgrade, [servers[0].url, servers[1].url]))
    yield servers
    for server in servers:
        server.stop()


def test_two_that_start_at_once_share_one_server_and_one_schema(shared):
    first, second = shared
    assert first.pid == second.pid is not None and first.url == second.url
    engine = make_engine(first.url)
    with engine.connect() as connection:
        assert connection.execute(text("SELECT COUNT(*) FROM alembic_version")).scalar() == 1
    engine.dispose()


def test_a_server_that_dies_is_started_again_on_its_port(shared):
    first, _ = shared
    pid, port = first.pid, first.port
    stopped = threading.Event()
    watcher = threading.Thread(target=first.watch, args=(stopped,))
    watcher.start()
    try:
        first.kill()
        end = time.monotonic() + 120
        while time.monotonic() < end and (first.pid in (None, pid) or not alive(first.url)):
            time.sleep(0.1)
        assert first.pid not in (None, pid) and first.port == port and alive(first.url)
    finally:
        stopped.set()
        watcher.join()


def test_a_backup_is_made_while_it_runs_checked_and_restored(shared, tmp_path):
    """The drill: everything into one file, the file checked, and all of it there again in an empty place."""
    url = shared[0].url
    engine = make_engine(url)
    load.load(engine)
    photos = PhotoStore(str(tmp_path / "photos"))
    photos.keep("firm", hashlib.sha256(PHOTO).hexdigest(), PHOTO)
    target = str(tmp_path / "out" / "b.tar.gz")
    made = backup.make(url, str(tmp_path / "photos"), target)
    assert (made.photos, made.tables["inspection"]) == (1, 4)
    checked = backup.verify(target)
    assert (checked.reports, checked.tables) == (3, made.tables)

    with pytest.raises(backup.BackupError, match="not empty"):
        backup.restore(url, str(tmp_path / "photos"), target)
    with PrivateMariaDB(tmp_path / "other") as other:
        backup.restore(other.url, str(tmp_path / "photos2"), target)
        again = make_engine(other.url)
        for table in (inspection, issued_report):
            with engine.connect() as one, again.connect() as two:
                key = table.primary_key.columns
                rows = [connection.execute(select(table).order_by(*key)).all() for connection in (one, two)]
            assert rows[0] == rows[1] and rows[0]
        again.dispose()
    assert PhotoStore(str(tmp_path / "photos2")).get("firm", hashlib.sha256(PHOTO).hexdigest()) == PHOTO
    engine.dispose()

    for damaged, told in _damaged(tmp_path / "out" / "b.tar.gz", tmp_path):
        with pytest.raises(backup.BackupError, match=told):
            backup.verify(str(damaged))
    assert len(KINDS) > 10


def _damaged(whole, folder):
    """The backup cut short; with another photo under the name; with a file that leads out of the folder."""
    short = folder / "short.tar.gz"
    short.write_bytes(whole.read_bytes()[:-5000])
    yield short, "no whole backup"
    for name, change, told in (
        ("photo.tar.gz", lambda member, data: data[:-1] + b"y" if "photos/" in member.name else data, "SHA-256"),
        ("out.tar.gz", lambda member, data: setattr(member, "name", "../" + member.name) or data, "none of ours"),
    ):
        with tarfile.open(whole) as old, tarfile.open(folder / name, "w:gz", compresslevel=1) as new:
            for member in old:
                data = change(member, old.extractfile(member).read())
                backup._add(new, member.name, data)
        yield folder / name, told


def test_backups_by_themselves_come_in_time_and_the_oldest_go(shared, tmp_path):
    schedule = backup_schedule.Schedule(str(tmp_path / "out"), timedelta(hours=24), keep=2)
    start = datetime(2026, 11, 3, 2, tzinfo=UTC)
    made = [
        backup_schedule.step(shared[0].url, str(tmp_path / "photos"), schedule, start + timedelta(hours=hours))
        for hours in (0, 23, 24, 47, 49)
    ]
    assert [one is not None for one in made] == [True, False, True, False, True]
    assert [at.hour for at, _ in backup_schedule.made(schedule.folder)] == [2, 3]
    # What somebody else put there is nothing of ours.
    (tmp_path / "out" / "dorrik-notes.txt").write_text("x")
    assert len(backup_schedule.made(schedule.folder)) == 2


def test_a_lease_keeps_the_server_and_the_last_one_stops_it(shared):
    first, second = shared
    first.stop()
    assert second.pid is not None and alive(second.url)
    second.stop()
    assert second.pid is None
