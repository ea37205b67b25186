"""Several private servers started at once: each gets a port and a place for its temporary files of its own."""

from concurrent.futures import ThreadPoolExecutor

from sqlalchemy import create_engine, text

from dorrik.store.database.mariadb import PrivateMariaDB


def test_servers_that_start_at_the_same_moment_do_not_get_into_each_others_way(tmp_path):
    servers = [PrivateMariaDB(tmp_path / str(n)) for n in range(3)]
    with ThreadPoolExecutor(3) as pool:
        list(pool.map(PrivateMariaDB.start, servers))
    try:
        assert len({server.port for server in servers}) == 3
        for server in servers:
            engine = create_engine(server.url)
            with engine.connect() as connection:
                assert connection.execute(text("SELECT @@port")).scalar() == server.port
            engine.dispose()
    finally:
        for server in servers:
            server.stop()
