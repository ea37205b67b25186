"""The private database: shared by a lease, watched, migrated by one of those who start at once; and backed up."""

import errno
import hashlib
import json
import shutil
import tarfile
import threading
import time
from concurrent.futures import ThreadPoolExecutor
from datetime import UTC, datetime, timedelta

import pytest
from sqlalchemy import create_engine, delete, insert, select, text

from dorrik.core.inspection.kinds import KINDS
from dorrik.demo import load
from dorrik.store.database import migrate
from dorrik.store.database.engine import make_engine, new_id
from dorrik.store.database.mariadb import ROOM_TO_START, PrivateMariaDB
from dorrik.store.database.tables import ENTITIES, inspection, issued_report, uploaded_photo
from dorrik.store.files import backup, backup_schedule
from dorrik.store.files.photos import PhotoStore
from dorrik.store.inspections import inspections
from dorrik.store.people import audit
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


def test_a_full_disk_does_not_end_the_watching(shared, monkeypatch):
    """It dies of a full disk; it is not started before there is room, and whatever fails meanwhile is tried again."""
    first, _ = shared
    pid, room, looked = first.pid, {"free": 0}, []
    real_usage, real_launch = shutil.disk_usage, first._launch

    def usage(path):
        looked.append(path)
        return real_usage(path)._replace(free=room["free"])

    def launch():
        if room["free"] < 2 * ROOM_TO_START:
            raise OSError(errno.ENOSPC, "No space left on device")
        real_launch()

    monkeypatch.setattr(shutil, "disk_usage", usage)
    monkeypatch.setattr(first, "_launch", launch)
    stopped = threading.Event()
    watcher = threading.Thread(target=first.watch, args=(stopped,))
    watcher.start()
    try:
        first.kill()
        end = time.monotonic() + 120
        for free in (0, ROOM_TO_START, 2 * ROOM_TO_START):
            assert first.pid is None
            room["free"] = free
            seen = len(looked)
            while len(looked) < seen + 3 and first.pid is None and time.monotonic() < end:
                time.sleep(0.05)
        while time.monotonic() < end and (first.pid in (None, pid) or not alive(first.url)):
            time.sleep(0.1)
        assert first.pid not in (None, pid) and alive(first.url)
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
    assert (made.photos, made.tables["inspection"]) == (1, 5)
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


@pytest.fixture
def loaded(shared):
    """An engine on a database with the demo in it."""
    engine = make_engine(shared[0].url)
    load.load(engine)
    yield engine
    engine.dispose()


def test_a_photo_that_is_referred_to_and_was_lost_is_told(loaded, shared, tmp_path):
    digest = hashlib.sha256(PHOTO).hexdigest()
    with loaded.begin() as connection:
        one = connection.execute(select(inspection.c.id, inspection.c.firm_id)).first()
        photo = {"inspection_id": one.id, "id": new_id(), "sha256": digest}
        connection.execute(insert(ENTITIES["photo"]).values(**photo))
    store, target = PhotoStore(str(tmp_path / "photos")), str(tmp_path / "b.tar.gz")

    def verified():
        backup.make(shared[0].url, str(tmp_path / "photos"), target)
        return backup.verify(target).photos

    # It is still on the device that took it: nothing is lost.
    assert verified() == 0
    with loaded.begin() as connection:
        assert inspections.send_photo(connection, one.id, one.firm_id, digest)
    store.keep(one.firm_id, digest, PHOTO)
    assert verified() == 1
    store.remove(one.firm_id, digest)
    with pytest.raises(backup.BackupError, match=f"The photo {digest} of inspection {one.id} is missing"):
        verified()
    with loaded.begin() as connection:
        connection.execute(delete(uploaded_photo).where(uploaded_photo.c.sha256 == digest))
    assert verified() == 0


def test_a_backup_that_is_made_while_people_type_is_of_one_moment(loaded, shared, tmp_path):
    """Its manifest counts what is in it, line by line, and what is restored has as many."""
    stopped, target = threading.Event(), str(tmp_path / "b.tar.gz")

    def type_on():
        while not stopped.is_set():
            with loaded.begin() as connection:
                audit.note(connection, "signed in", firm_id=None, subject="(a line\n), (another")

    typing = threading.Thread(target=type_on)
    typing.start()
    try:
        made = backup.make(shared[0].url, str(tmp_path / "photos"), target)
    finally:
        stopped.set()
        typing.join()
    assert made.tables["audit_entry"] > 0
    assert backup.verify(target).tables == made.tables
    with tarfile.open(target) as packed:
        manifest = json.loads(packed.extractfile("manifest.json").read())
    assert manifest["tables"] == made.tables
    # One line fewer, and it is told.
    manifest["tables"]["audit_entry"] += 1
    other = tmp_path / "other.tar.gz"
    with tarfile.open(target) as old, tarfile.open(other, "w:gz", compresslevel=1) as new:
        for member in old:
            kept = json.dumps(manifest).encode() if member.name == "manifest.json" else old.extractfile(member).read()
            backup._add(new, member.name, kept)
    with pytest.raises(backup.BackupError, match="audit_entry has"):
        backup.verify(str(other))


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
