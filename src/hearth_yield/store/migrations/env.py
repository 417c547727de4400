"""Alembic's entry: runs on the connection it is handed."""

from alembic import context

from hearth_yield.store.tables import metadata

connection = context.config.attributes["connection"]
context.configure(connection=connection, target_metadata=metadata, render_as_batch=True)
with context.begin_transaction():
    context.run_migrations()
