"""Runs migrations on the connection that `vamper.store.database.migrate` hands over."""

from alembic import context

from vamper.store.tables import TableBase

context.configure(
    connection=context.config.attributes["connection"], target_metadata=TableBase.metadata, render_as_batch=True
)
with context.begin_transaction():
    context.run_migrations()
