"""Runs migrations on the engine that `database.upgrade` hands over: all that are wanted, in one transaction."""

from alembic import context

from ditto_run.store.tables import metadata

engine = context.config.attributes["engine"]
with engine.connect() as connection:
    # The lock comes first: of two that start at once the second waits, and finds the work done.
    connection.exec_driver_sql("BEGIN IMMEDIATE")
    context.configure(connection=connection, target_metadata=metadata, render_as_batch=True)
    with context.begin_transaction():  # ours is open already, so this adds none of its own
        context.run_migrations()
    connection.commit()
