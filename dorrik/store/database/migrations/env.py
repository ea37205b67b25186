"""Alembic's entry: runs migrations on the engine that `store.database.migrate` names."""

from alembic import context

from dorrik.store.database.engine import make_engine
from dorrik.store.database.metadata import metadata

engine = make_engine(context.config.attributes["url"])
with engine.connect() as connection:
    context.configure(connection=connection, target_metadata=metadata)
    with context.begin_transaction():
        context.run_migrations()
engine.dispose()
