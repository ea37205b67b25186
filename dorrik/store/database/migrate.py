"""Bringing a database to a version of the schema, up or down (Alembic)."""

from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from alembic import command
from alembic.config import Config
from sqlalchemy import func, select

from dorrik.store.database.engine import make_engine


def _config(url: str) -> Config:
    config = Config()
    config.set_main_option("script_location", str(Path(__file__).parent / "migrations"))
    config.attributes["url"] = url
    return config


#: How long another process may take to migrate (s).
PATIENCE_S = 600


@contextmanager
def alone(url: str, what: str = "migrate") -> Iterator[None]:
    """Alone among all processes on the database, under a lock that ends with its connection."""
    engine = make_engine(url)
    try:
        with engine.connect() as connection:
            name = f"dorrik {what} {engine.url.database}"[:64]
            if connection.execute(select(func.get_lock(name, PATIENCE_S))).scalar() != 1:
                raise TimeoutError(f"Another process has not ended to {what} within {PATIENCE_S} s.")
            yield
    finally:
        engine.dispose()


def upgrade(url: str, revision: str = "head") -> None:
    """Migrate the database at `url` up to a revision. Of processes that start at once one does it, the others wait."""
    with alone(url):
        command.upgrade(_config(url), revision)


def downgrade(url: str, revision: str) -> None:
    """Migrate the database at `url` down to a revision ('base' for an empty one)."""
    command.downgrade(_config(url), revision)


def make_revision(url: str, message: str) -> None:
    """Write a new migration from the difference between the tables and the database; read it before keeping it."""
    command.revision(_config(url), message=message, autogenerate=True)
