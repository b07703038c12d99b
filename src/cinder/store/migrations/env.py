"""Alembic's environment: runs on the connection `cinder.store.database.migrate` hands over."""

from alembic import context

from cinder.store.tables import Base

context.configure(connection=context.config.attributes["connection"], target_metadata=Base.metadata)
with context.begin_transaction():
    context.run_migrations()
