"""The schema and the private server."""

import os
import uuid

from alembic.autogenerate import compare_metadata
from alembic.migration import MigrationContext
from argon2 import Type, extract_parameters
from sqlalchemy import inspect, text

from dorrik.demo import load
from dorrik.store.database import migrate
from dorrik.store.database.engine import make_engine, new_id
from dorrik.store.database.mariadb import PrivateMariaDB
from dorrik.store.database.metadata import metadata
from dorrik.store.people import passwords


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
        # Back by one and forth again, with a firm's work in it: figures and their history stand under their new names.
        _use_an_instrument(engine)
        told = (
            "SELECT entity, field, COUNT(*) FROM `change` WHERE (entity, field) IN (('instrument_used', 'serial'), "
            "('instrument_used', 'kind'), ('circuit', 'points_served')) GROUP BY entity, field ORDER BY entity, field"
        )
        figures = "SELECT SUM(points_served), COUNT(points_served) FROM circuit"
        used = "SELECT COUNT(*), COUNT(kind) FROM instrument_used"
        before = [_rows(engine, query) for query in (told, figures, used)]
        assert len(before[0]) == 3
        migrate.downgrade(server.url, "0005")
        assert _rows(engine, "SELECT COUNT(*), COUNT(sort) FROM meter") == before[2]
        assert _rows(engine, "SELECT COUNT(*) FROM `change` WHERE entity = 'meter' AND field = 'sort'")[0][0] > 0
        migrate.upgrade(server.url)
        assert [_rows(engine, query) for query in (told, figures, used)] == before
        # The way up made rooms out of the words at points: the journal tells of each, and no number is used twice.
        assert _rows(engine, "SELECT COUNT(*) FROM room")[0][0] > 0
        for table, column, field in ADDED:
            silent = (
                f"SELECT COUNT(*) FROM `{table}` t LEFT JOIN `change` c ON c.entity_id = t.id AND c.field = '{field}' "
                f"WHERE t.`{column}` IS NOT NULL AND c.seq IS NULL"
            )
            assert _rows(engine, silent)[0][0] == 0, (table, column)
        by_updates = "SELECT COUNT(*), MIN(JSON_VALID(value)) FROM `change` WHERE device = 'an update'"
        count, valid = _rows(engine, by_updates)[0]
        assert count > 0 and valid == 1
        last = "SELECT MAX(seq) FROM `change` WHERE inspection_id = i.id"
        assert _rows(engine, f"SELECT COUNT(*) FROM inspection i WHERE i.seq < ({last})")[0][0] == 0
        engine.dispose()


#: What migrations have added to inspections: table, column, and the field that the journal tells of it by.
ADDED = (
    ("room", "inspection_id", "inspection"), ("room", "name", "name"), ("room", "position", "position"),
    ("point", "room_id", "room_id"), ("circuit", "zs_not_possible", "zs_not_possible"),
    ("inspection", "reference", "reference"),
)  # fmt: skip


def _use_an_instrument(engine):
    """As the journal writes it down: the instrument, and where its kind came from."""
    ids = {"id": new_id(), "change": new_id()}
    first = "SELECT id, seq + 1 FROM inspection ORDER BY id LIMIT 1"
    with engine.begin() as connection:
        inspection, seq = connection.execute(text(first)).one()
        author = connection.execute(text("SELECT id FROM person LIMIT 1")).scalar_one()
        here = ids | {"inspection": inspection, "seq": seq, "author": author}
        connection.execute(
            text("INSERT INTO instrument_used (inspection_id, id, kind) VALUES (:inspection, :id, 'clamp')"), here
        )
        for at, field in enumerate(("kind", "serial")):
            connection.execute(
                text(
                    "INSERT INTO `change` (inspection_id, seq, change_id, entity, entity_id, field, value, based_on, "
                    "made_at, kept_at, device, author_id) VALUES (:inspection, :seq + :at, :change, 'instrument_used', "
                    ":id, :field, '\"clamp\"', 0, NOW(), NOW(), 'd', :author)"
                ),
                here | {"at": at, "field": field, "change": new_id()},
            )


def _rows(engine, query):
    with engine.connect() as connection:
        return [tuple(row) for row in connection.execute(text(query))]


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
