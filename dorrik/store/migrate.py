"""Bringing a database to a version of the schema, up or down (Alembic)."""

from pathlib import Path

from alembic import command
from alembic.config import Config


def _config(url: str) -> Config:
    config = Config()
    config.set_main_option("script_location", str(Path(__file__).parent / "migrations"))
    config.attributes["url"] = url
    return config


def upgrade(url: str, revision: str = "head") -> None:
    """Migrate the database at `url` up to a revision."""
    command.upgrade(_config(url), revision)


def downgrade(url: str, revision: str) -> None:
    """Migrate the database at `url` down to a revision ('base' for an empty one)."""
    command.downgrade(_config(url), revision)


def make_revision(url: str, message: str) -> None:
    """Write a new migration from the difference between the tables and the database; read it before keeping it."""
    command.revision(_config(url), message=message, autogenerate=True)
