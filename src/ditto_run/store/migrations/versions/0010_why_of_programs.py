"""Why a revision of a program was kept, and whether it was read back from the machine; older ones do not say."""

import sqlalchemy as sa

from ditto_run.store.migrations.steps import add_column

revision = "0010"
down_revision = "0009"


def upgrade() -> None:
    add_column("program", sa.Column("why", sa.String, nullable=False, server_default=""))
    add_column("program", sa.Column("read_back", sa.Boolean, nullable=False, server_default=sa.false()))
