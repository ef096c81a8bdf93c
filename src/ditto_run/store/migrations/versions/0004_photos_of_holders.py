"""A photo beside a row of a drawer: what a holder looks like."""

import sqlalchemy as sa
from alembic import op

revision = "0004"
down_revision = "0003"


def upgrade() -> None:
    op.create_table(
        "drawer_photo",
        sa.Column("row_id", sa.Integer, sa.ForeignKey("drawer_row.id", ondelete="CASCADE"), primary_key=True),
        sa.Column("name", sa.String, nullable=False),
        sa.Column("media_type", sa.String, nullable=False),
        sa.Column("content", sa.LargeBinary, nullable=False),
        if_not_exists=True,
    )
