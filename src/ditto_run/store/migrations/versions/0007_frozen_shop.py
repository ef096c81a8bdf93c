"""What of the shop a revision was worked out with; older revisions do not know."""

import sqlalchemy as sa

from ditto_run.store.migrations.steps import add_column

revision = "0007"
down_revision = "0006"


def upgrade() -> None:
    add_column("revision", sa.Column("shop", sa.String, nullable=False, server_default=""))
