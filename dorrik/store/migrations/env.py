"""Alembic's entry: runs migrations on the engine that `store.migrate` names."""

from alembic import context

from dorrik.store import account_tables, follow_up_tables, mail_tables, tables  # noqa: F401
from dorrik.store.engine import make_engine
from dorrik.store.metadata import metadata

engine = make_engine(context.config.attributes["url"])
with engine.connect() as connection:
    context.configure(connection=connection, target_metadata=metadata)
    with context.begin_transaction():
        context.run_migrations()
engine.dispose()
