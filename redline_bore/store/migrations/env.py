"""Alembic's environment: the connection is handed in by store.logbook."""

from alembic import context

connection = context.config.attributes["connection"]
context.configure(connection=connection)
context.run_migrations()
