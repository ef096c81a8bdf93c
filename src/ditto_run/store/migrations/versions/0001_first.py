"""The first schema."""

import sqlalchemy as sa
from alembic import op

revision = "0001"
down_revision = None


def upgrade() -> None:
    op.create_table(
        "setting",
        sa.Column("name", sa.String, primary_key=True),
        sa.Column("value", sa.String, nullable=False),
        if_not_exists=True,
    )
    op.create_table(
        "machine",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("name", sa.String, nullable=False),
        sa.Column("kind", sa.String, nullable=False),
        sa.Column("offset_codes", sa.String, nullable=False),
        sa.Column("wear_by", sa.String, nullable=False),
        sa.Column("wear_bigger_is", sa.String, nullable=False),
        sa.Column("wear_increment", sa.String, nullable=False),
        sa.Column("wear_unit", sa.String, nullable=False),
        sa.Column("removed", sa.Boolean, nullable=False),
        if_not_exists=True,
    )
    op.create_table(
        "gauge",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("name", sa.String, nullable=False),
        sa.Column("resolution", sa.String, nullable=False),
        sa.Column("unit", sa.String, nullable=False),
        sa.Column("removed", sa.Boolean, nullable=False),
        if_not_exists=True,
    )
    op.create_table(
        "person",
        sa.Column("initials", sa.String, primary_key=True),
        sa.Column("removed", sa.Boolean, nullable=False),
        if_not_exists=True,
    )
    op.create_table(
        "job",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("created_at", sa.String, nullable=False),
        sa.Column("archived_at", sa.String),
        sa.Column("is_demo", sa.Boolean, nullable=False),
        sa.Column("head", sa.Integer, nullable=False),
        if_not_exists=True,
    )
    op.create_table(
        "plan_version",
        sa.Column("job_id", sa.Integer, sa.ForeignKey("job.id", ondelete="CASCADE"), nullable=False),
        sa.Column("version", sa.Integer, nullable=False),
        sa.Column("parent", sa.Integer),
        sa.Column("document", sa.String, nullable=False),
        sa.Column("what", sa.String, nullable=False),
        sa.Column("who", sa.String, nullable=False),
        sa.Column("at", sa.String, nullable=False),
        sa.PrimaryKeyConstraint("job_id", "version"),
        if_not_exists=True,
    )
    op.create_table(
        "revision",
        sa.Column("job_id", sa.Integer, sa.ForeignKey("job.id", ondelete="CASCADE"), nullable=False),
        sa.Column("revision", sa.Integer, nullable=False),
        sa.Column("version", sa.Integer, nullable=False),
        sa.Column("reason", sa.String, nullable=False),
        sa.PrimaryKeyConstraint("job_id", "revision"),
        if_not_exists=True,
    )
    op.create_table(
        "run",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("job_id", sa.Integer, sa.ForeignKey("job.id", ondelete="CASCADE"), nullable=False),
        sa.Column("batch", sa.Integer, nullable=False),
        sa.UniqueConstraint("job_id", "batch"),
        if_not_exists=True,
    )
    op.create_table(
        "run_event",
        sa.Column("run_id", sa.Integer, sa.ForeignKey("run.id", ondelete="CASCADE"), nullable=False),
        sa.Column("seq", sa.Integer, nullable=False),
        sa.Column("at", sa.String, nullable=False),
        sa.Column("who", sa.String, nullable=False),
        sa.Column("client_key", sa.String, nullable=False),
        sa.Column("body", sa.String, nullable=False),
        sa.PrimaryKeyConstraint("run_id", "seq"),
        sa.UniqueConstraint("run_id", "client_key"),
        sqlite_with_rowid=False,
        if_not_exists=True,
    )
