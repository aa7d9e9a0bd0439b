"""Alembic environment: runs on the connection the application hands over."""

from alembic import context

from vessel.store.table_base import Base

context.configure(
    connection=context.config.attributes["connection"], target_metadata=Base.metadata, render_as_batch=True
)
with context.begin_transaction():
    context.run_migrations()
