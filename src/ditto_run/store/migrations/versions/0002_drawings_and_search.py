"""Drawings and photos beside a job, and the words a job is found by."""

import json

import sqlalchemy as sa
from alembic import op

from ditto_run.store.migrations.steps import add_column

revision = "0002"
down_revision = "0001"


def upgrade() -> None:
    op.create_table(
        "attachment",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("job_id", sa.Integer, sa.ForeignKey("job.id", ondelete="CASCADE"), nullable=False),
        sa.Column("name", sa.String, nullable=False),
        sa.Column("media_type", sa.String, nullable=False),
        sa.Column("content", sa.LargeBinary, nullable=False),
        if_not_exists=True,
    )
    op.create_index("attachment_job", "attachment", ["job_id"], if_not_exists=True)
    add_column("job", sa.Column("words", sa.String, nullable=False, server_default=""))
    connection = op.get_bind()
    rows = connection.execute(
        sa.text(
            "SELECT job.id, plan_version.document FROM job JOIN plan_version"
            " ON plan_version.job_id = job.id AND plan_version.version = job.head"
        )
    ).all()
    for job_id, document in rows:
        head = json.loads(document)["heading"]
        names = ("part", "customer", "drawing", "material")
        words = " ".join(str(head.get(name, "")) for name in names).lower()
        connection.execute(sa.text("UPDATE job SET words = :words WHERE id = :id"), {"words": words, "id": job_id})
