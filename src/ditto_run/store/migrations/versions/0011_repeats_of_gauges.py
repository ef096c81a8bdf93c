"""How well a gauge repeats, by a study; those kept before had none."""

import sqlalchemy as sa

from ditto_run.store.migrations.steps import add_column

revision = "0011"
down_revision = "0010"


def upgrade() -> None:
    add_column("gauge", sa.Column("repeats", sa.String, nullable=False, server_default=""))
