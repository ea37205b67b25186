"""The schema and the private server."""

import os
import uuid

from alembic.autogenerate import compare_metadata
from alembic.migration import MigrationContext
from argon2 import Type, extract_parameters
from sqlalchemy import inspect, text

from dorrik.demo import load
from dorrik.store import account_tables, migrate, passwords, tables  # noqa: F401
from dorrik.store.engine import make_engine, new_id
from dorrik.store.mariadb import PrivateMariaDB
from dorrik.store.metadata import metadata


def test_migrations_go_up_and_down_and_match_the_tables(tmp_path):
    with PrivateMariaDB(tmp_path / "db") as server:
        migrate.upgrade(server.url)
        engine = make_engine(server.url)
        with engine.connect() as connection:
            assert compare_metadata(MigrationContext.configure(connection, opts={"compare_type": True}), metadata) == []
        migrate.downgrade(server.url, "base")
        assert set(inspect(engine).get_table_names()) <= {"alembic_version"}
        migrate.upgrade(server.url)
        assert load.load(engine) is True
        assert load.load(engine) is False
        engine.dispose()


def test_the_server_is_strict_on_loopback_and_speaks_utf8mb4(mariadb, engine):
    with engine.connect() as connection:
        variables = dict(connection.execute(text("SHOW VARIABLES")).all())
    assert "STRICT_ALL_TABLES" in variables["sql_mode"]
    assert variables["bind_address"] == "127.0.0.1"
    assert variables["character_set_server"] == "utf8mb4"
    assert variables["innodb_flush_log_at_trx_commit"] == "1"
    assert (mariadb.folder / "password").stat().st_mode & 0o077 == 0


def test_a_start_that_was_killed_is_picked_up(tmp_path):
    first = PrivateMariaDB(tmp_path / "db")
    first.start()
    pid = first.pid
    # Whoever started it is gone; the server runs on.
    first.let_go()
    second = PrivateMariaDB(tmp_path / "db")
    second.start()
    assert second.pid == pid
    second.kill()
    second.let_go()
    third = PrivateMariaDB(tmp_path / "db")
    third.start()
    assert third.pid not in (None, pid)
    third.stop()
    assert third.pid is None


def test_a_pid_file_that_names_another_program_is_not_believed(tmp_path):
    server = PrivateMariaDB(tmp_path / "db")
    server.folder.mkdir(parents=True)
    (server.folder / "pid").write_text(str(os.getpid()))
    assert server.pid is None


def test_ids_sort_by_when_they_were_made():
    ids = [new_id() for _ in range(50)]
    assert all(uuid.UUID(i).version == 7 for i in ids)
    assert [i[:13] for i in ids] == sorted(i[:13] for i in ids)


def test_passwords_are_hashed_at_their_full_cost():
    """64 MiB and three passes or more (RFC 9106, second recommendation); tests use cheaper hashes of their own."""
    found = extract_parameters(passwords.hash_password("a long test password"))
    assert (found.type, found.memory_cost >= 64 * 1024, found.time_cost >= 3) == (Type.ID, True, True)
