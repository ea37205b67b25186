"""Everything a firm has, in one file: the database, photos, and the reports in it; made while the server runs.

The file is a packed tar of `database.sql` (a consistent dump), `photos/…` and `manifest.json`, which has the SHA-256 of
each and the number of lines of every table at the moment of the dump, counted in the dump itself. Checking it means
restoring it into a database of its own and looking at what is there: every line, every digest, every report against its
own SHA-256, every photo against its name, and every photo that was sent and is referred to.
"""

import hashlib
import io
import json
import os
import re
import shutil
import subprocess
import tarfile
import tempfile
from collections import Counter
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from datetime import UTC, datetime
from pathlib import Path
from typing import IO

import fsspec
from sqlalchemy import Engine, inspect, select, text
from sqlalchemy.engine import URL, make_url

from dorrik.store.database import migrate
from dorrik.store.database.engine import make_engine
from dorrik.store.database.mariadb import PrivateMariaDB, program
from dorrik.store.database.metadata import metadata
from dorrik.store.database.tables import ENTITIES, issued_report, uploaded_photo
from dorrik.store.files.photos import PhotoStore

FORMAT, BEFORE = "dorrik backup 2", "dorrik backup 1"
DATABASE, MANIFEST = "database.sql", "manifest.json"
_CHUNK = 1 << 20


class BackupError(RuntimeError):
    """The backup cannot be made, read or restored; the message says why."""


@dataclass(frozen=True, slots=True)
class Contents:
    """What a backup holds: when it was made, lines of every table, digests of its files, reports and photos checked."""

    made_at: str
    tables: dict[str, int]
    files: dict[str, str]
    reports: int = 0
    of_one_moment: bool = True

    @property
    def photos(self) -> int:
        return sum(name.startswith("photos/") for name in self.files)


# Making one.


def make(url: str, photos: str, target: str) -> Contents:
    """Back up into `target`, a path or any address that fsspec knows. Raises BackupError.

    Written under another name until it is whole: a full disk or a broken line leaves no half backup behind.
    """
    engine = make_engine(url)
    try:
        with tempfile.TemporaryDirectory(prefix="dorrik-backup-") as folder:
            whole = Path(folder) / "backup.tar.gz"
            contents = _pack(engine, make_url(url), PhotoStore(photos), whole, Path(folder))
            _put(whole, target)
            return contents
    except OSError as error:
        raise BackupError(f"The backup could not be written: {error.strerror or error}.") from None
    finally:
        engine.dispose()


def _put(whole: Path, target: str) -> None:
    files, path = fsspec.core.url_to_fs(target)
    part = f"{path}.part"
    folder = path.rpartition("/")[0]
    if folder:
        files.makedirs(folder, exist_ok=True)
    try:
        files.put_file(str(whole), part)
        if files.exists(path):
            files.rm_file(path)
        files.mv(part, path)
    except OSError:
        if files.exists(part):
            files.rm_file(part)
        raise


def _pack(engine: Engine, url: URL, photos: PhotoStore, whole: Path, folder: Path) -> Contents:
    made_at = datetime.now(UTC).isoformat(timespec="seconds")
    dump = folder / DATABASE
    _dump(url, dump)
    counted = _counted(dump)
    tables = {name: counted.get(name, 0) for name in _lines(engine)}
    digests: dict[str, str] = {}
    with tarfile.open(whole, "w:gz", compresslevel=5) as packed:
        digests[DATABASE] = _digest_of(dump)
        packed.add(dump, DATABASE)
        dump.unlink()
        # Photos are named by their content and never change: copied after the dump, there are all that it names.
        for name in photos.names():
            content = photos.read(name)
            digests[f"photos/{name}"] = hashlib.sha256(content).hexdigest()
            _add(packed, f"photos/{name}", content)
        manifest = {"format": FORMAT, "made_at": made_at, "tables": tables, "files": digests}
        _add(packed, MANIFEST, json.dumps(manifest, indent=1).encode())
    return Contents(made_at, tables, digests)


#: A row as it stands in a dump: one a line, since line ends within a text are written otherwise.
_ROW = re.compile(rb"INSERT INTO `(\w+)` VALUES ")


def _counted(dump: Path) -> dict[str, int]:
    """How many rows of each table a dump has."""
    counts: Counter[str] = Counter()
    with dump.open("rb") as lines:
        for line in lines:
            if match := _ROW.match(line):
                counts[match[1].decode()] += 1
    return dict(counts)


def _add(packed: tarfile.TarFile, name: str, content: bytes) -> None:
    member = tarfile.TarInfo(name)
    member.size = len(content)
    member.mode = 0o600
    packed.addfile(member, io.BytesIO(content))


def _lines(engine: Engine) -> dict[str, int]:
    with engine.connect() as connection:
        there = set(inspect(engine).get_table_names())
        return {
            table.name: connection.execute(text(f"SELECT COUNT(*) FROM `{table.name}`")).scalar_one()
            for table in metadata.sorted_tables
            if table.name in there
        }


def _login(url: URL) -> tuple[list[str], dict[str, str]]:
    """Arguments and environment of Debian's own clients; the password stands in no list of processes and in no file."""
    arguments = ["--protocol=TCP", f"--host={url.host}", f"--port={url.port or 3306}", f"--user={url.username}"]
    return arguments, os.environ | {"MYSQL_PWD": url.password or ""}


def _dump(url: URL, to: Path) -> None:
    arguments, environment = _login(url)
    with to.open("wb") as out:
        done = subprocess.run(
            [
                program("mariadb-dump", "mysqldump"), "--no-defaults", *arguments, "--single-transaction", "--quick",
                "--hex-blob", "--skip-comments", "--skip-extended-insert", "--no-autocommit",
                "--default-character-set=utf8mb4", "--max-allowed-packet=1G",
                str(url.database),
            ],
            stdout=out, stderr=subprocess.PIPE, env=environment, check=False,
        )  # fmt: skip
    if done.returncode:
        raise BackupError(f"The database could not be dumped: {done.stderr.decode(errors='replace').strip()[-300:]}")


def _digest_of(path: Path) -> str:
    digest = hashlib.sha256()
    with path.open("rb") as file:
        while part := file.read(_CHUNK):
            digest.update(part)
    return digest.hexdigest()


# Reading one.


@contextmanager
def _opened(source: str) -> Iterator[tuple[Path, Contents]]:
    """A folder with what a backup holds, every digest compared. Raises BackupError."""
    with tempfile.TemporaryDirectory(prefix="dorrik-restore-") as folder:
        here = Path(folder)
        try:
            with fsspec.open(source, "rb") as file, tarfile.open(fileobj=file, mode="r|gz") as packed:
                _unpack(packed, here)
            manifest = json.loads((here / MANIFEST).read_text())
        except (OSError, tarfile.TarError, EOFError, ValueError, KeyError) as error:
            raise BackupError(f"{source} is no whole backup: {error}.") from None
        if manifest.get("format") not in (FORMAT, BEFORE):
            raise BackupError(f"{source} is not of the form {FORMAT!r}.")
        for name, digest in manifest["files"].items():
            if not (here / name).is_file():
                raise BackupError(f"{name} is missing in {source}.")
            if _digest_of(here / name) != digest:
                raise BackupError(f"{name} in {source} is not what was backed up: its SHA-256 differs.")
        of_one_moment = manifest["format"] == FORMAT
        yield here, Contents(manifest["made_at"], manifest["tables"], manifest["files"], of_one_moment=of_one_moment)


def _unpack(packed: tarfile.TarFile, folder: Path) -> None:
    for member in packed:
        # Only plain files under names that we give: nothing leads out of the folder.
        plain = member.isfile() and not member.name.startswith("/") and ".." not in member.name.split("/")
        if not plain:
            raise BackupError(f"The backup holds {member.name!r}, which is none of ours.")
        content: IO[bytes] | None = packed.extractfile(member)
        if content is None:
            continue
        to = folder / member.name
        to.parent.mkdir(parents=True, exist_ok=True)
        with to.open("wb") as file:
            shutil.copyfileobj(content, file, _CHUNK)


def _load(url: URL, dump: Path) -> None:
    arguments, environment = _login(url)
    with dump.open("rb") as file:
        done = subprocess.run(
            [
                program("mariadb", "mysql"), "--no-defaults", *arguments, "--default-character-set=utf8mb4",
                "--max-allowed-packet=1G", str(url.database),
            ],
            stdin=file, stdout=subprocess.DEVNULL, stderr=subprocess.PIPE, env=environment, check=False,
        )  # fmt: skip
    if done.returncode:
        raise BackupError(f"The dump could not be loaded: {done.stderr.decode(errors='replace').strip()[-300:]}")


def restore(url: str, photos: str, source: str, *, replace: bool = False) -> Contents:
    """Restore a backup into an empty database; replace: what is there goes. Raises BackupError."""
    engine = make_engine(url)
    try:
        with _opened(source) as (folder, contents):
            there = inspect(engine).get_table_names()
            if there and not replace:
                raise BackupError(
                    "The database is not empty: nothing was restored. --replace lets go of what is there."
                )
            _empty(engine, there)
            _load(make_url(url), folder / DATABASE)
            checked = _check(engine, contents)
            store = PhotoStore(photos)
            for name in contents.files:
                if name.startswith("photos/"):
                    store.put(name.removeprefix("photos/"), (folder / name).read_bytes())
    finally:
        engine.dispose()
    migrate.upgrade(url)
    return checked


def _empty(engine: Engine, tables: list[str]) -> None:
    with engine.begin() as connection:
        connection.exec_driver_sql("SET FOREIGN_KEY_CHECKS = 0")
        for name in tables:
            connection.exec_driver_sql(f"DROP TABLE `{name}`")
        connection.exec_driver_sql("SET FOREIGN_KEY_CHECKS = 1")


def verify(source: str) -> Contents:
    """Restore a backup into a database that is made for it and thrown away, and check all of it. Raises BackupError."""
    with (
        _opened(source) as (folder, contents),
        tempfile.TemporaryDirectory(prefix="dorrik-verify-") as scratch,
        PrivateMariaDB(Path(scratch) / "mariadb") as server,
    ):
        _load(make_url(server.url), folder / DATABASE)
        engine = make_engine(server.url)
        try:
            return _check(engine, contents)
        finally:
            engine.dispose()


def _check(engine: Engine, contents: Contents) -> Contents:
    """Lines of every table, every report by its SHA-256, every photo by its name."""
    lines = _lines(engine)
    for name, count in contents.tables.items():
        if name not in lines:
            raise BackupError(f"The table {name} is missing in the backup.")
        # What an earlier version counted may be of a later moment than the dump.
        if contents.of_one_moment and lines[name] != count:
            raise BackupError(f"The table {name} has {lines[name]} lines where {count} were backed up.")
    reports = 0
    with engine.connect() as connection:
        r = issued_report.c
        there = {column["name"] for column in inspect(engine).get_columns("issued_report")}
        kept = r.erased_at.is_(None) if "erased_at" in there else text("1 = 1")
        for row in connection.execution_options(yield_per=20).execute(select(r.id, r.pdf, r.sha256).where(kept)):
            if hashlib.sha256(row.pdf).hexdigest() != row.sha256:
                raise BackupError(f"The report {row.id} is not what was issued: its SHA-256 differs.")
            reports += 1
    for name, digest in contents.files.items():
        if name.startswith("photos/") and name.rpartition("/")[2] != digest:
            raise BackupError(f"The photo {name} is not what its name says.")
    _check_photos(engine, contents)
    return Contents(contents.made_at, lines, contents.files, reports)


def _check_photos(engine: Engine, contents: Contents) -> None:
    """Every photo that an inspection refers to and that was sent is there. One that is still on the device that took it
    is waited for."""
    if not inspect(engine).has_table(uploaded_photo.name):
        return
    photo, sent = ENTITIES["photo"].c, uploaded_photo.c
    query = (
        select(sent.firm_id, sent.sha256, sent.inspection_id)
        .join(ENTITIES["photo"], (photo.inspection_id == sent.inspection_id) & (photo.sha256 == sent.sha256))
        .where(photo.removed.isnot(True))
    )
    with engine.connect() as connection:
        for row in connection.execute(query):
            if f"photos/{row.firm_id}/{row.sha256[:2]}/{row.sha256}" not in contents.files:
                raise BackupError(f"The photo {row.sha256} of inspection {row.inspection_id} is missing in the backup.")
