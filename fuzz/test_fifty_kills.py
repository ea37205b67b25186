"""Fifty kills of the server, and ten of its database, while a device types: nothing that was acknowledged is lost."""

import threading
import time

from dorrik.store.database.engine import new_id
from dorrik.store.database.mariadb import PrivateMariaDB
from tests.api.test_kill import check_all_there, database, stream
from tests.serving import Server, free_port

__all__ = ["database"]
KILLS, OF_DATABASE = 50, 10


def test_fifty_kills(database: PrivateMariaDB) -> None:
    inspection, port = new_id(), free_port()
    acknowledged: list[tuple[str, int]] = []
    stop = threading.Event()
    server = Server(database.url, port)
    thread = threading.Thread(target=stream, args=(server.base, acknowledged, stop, inspection), daemon=True)
    thread.start()
    watched = threading.Event()
    watcher = threading.Thread(target=database.watch, args=(watched,), daemon=True)
    watcher.start()
    try:
        for kill in range(KILLS):
            before, end = len(acknowledged), time.monotonic() + 60
            while len(acknowledged) < before + 20 and time.monotonic() < end:
                time.sleep(0.005)
            assert len(acknowledged) >= before + 20, f"It did not come back after kill {kill}."
            if kill % (KILLS // OF_DATABASE) == 0:
                database.kill()
            server.kill()
            server = Server(database.url, port)
    finally:
        stop.set()
        thread.join(20)
        watched.set()
        watcher.join(5)
        server.kill()
    check_all_there(database, inspection, acknowledged)
    print(f"{len(acknowledged)} changes acknowledged over {KILLS} kills")
