"""Drawers of the shop (drills, taps, reamers, materials, coatings, rates), and what a machine can do."""

import sqlalchemy as sa
from alembic import op

from ditto_run.store.migrations.steps import add_column

revision = "0003"
down_revision = "0002"


def upgrade() -> None:
    op.create_table(
        "drawer_row",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("drawer", sa.String, nullable=False),
        sa.Column("texts", sa.String, nullable=False),
        if_not_exists=True,
    )
    op.create_index("drawer_row_drawer", "drawer_row", ["drawer"], if_not_exists=True)
    add_column("machine", sa.Column("ability", sa.String, nullable=False, server_default="{}"))
