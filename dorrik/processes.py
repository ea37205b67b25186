"""The processes that serve: forked from one that has imported everything, each with the settings of the first."""

import logging
import multiprocessing
import os
from typing import Any

import uvicorn
from uvicorn import _subprocess
from uvicorn.supervisors import Multiprocess

from dorrik.api.request_head import BoundedHead

#: How long requests that are being answered have when the server stops (s).
GRACE_S = 10
#: A process that says nothing for so long is replaced (s). One that a busy machine does not get to is not hung: to end
#: it would drop what it is answering and add the work of a new one.
SILENCE_S = 60


class Config(uvicorn.Config):
    """Settings that take along what was found out since the first process was made: where the database is."""

    def __init__(self, *given: Any, **named: Any) -> None:
        super().__init__(*given, **named)
        self.environment = dict(os.environ)

    def load(self) -> None:
        """Make the application, in the process that serves it."""
        os.environ.update(self.environment)
        super().load()


def run(factory: str, host: str, port: int, workers: int) -> None:
    """Serve until stopped. factory: of the application, by name."""
    logging.basicConfig(level=logging.WARNING, format="%(asctime)s %(name)s: %(message)s")
    config = Config(
        factory,
        factory=True,
        host=host,
        port=port,
        workers=workers,
        http=BoundedHead,
        ws="none",
        log_level="warning",
        # It would write every address anew, for a line that is not printed at this level.
        access_log=False,
        server_header=False,
        timeout_graceful_shutdown=GRACE_S,
        timeout_keep_alive=75,
        timeout_worker_healthcheck=SILENCE_S,
    )
    if workers <= 1:
        uvicorn.Server(config).run()
        return
    # By itself it would have each of them import everything anew, one after another on a busy machine.
    vars(_subprocess)["spawn"] = multiprocessing.get_context("forkserver")
    Multiprocess(config, sockets=[config.bind_socket()]).run()
