"""Runs migrations over the connection that `Database.migrate` contains."""

from alembic import context

from signpost.store.models import Base

connection = context.config.attributes["connection"]
context.configure(connection=connection, target_metadata=Base.metadata)
with context.begin_transaction():
    context.run_migrations()
