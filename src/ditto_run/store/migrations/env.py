"""Runs migrations on the engine that `database.upgrade` hands over."""

from alembic import context

from ditto_run.store.tables import metadata

engine = context.config.attributes["engine"]
with engine.connect() as connection:
    context.configure(connection=connection, target_metadata=metadata, render_as_batch=True)
    with context.begin_transaction():
        connection.exec_driver_sql("BEGIN IMMEDIATE")  # all of the steps or none
        context.run_migrations()
