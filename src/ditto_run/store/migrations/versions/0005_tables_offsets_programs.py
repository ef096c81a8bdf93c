"""A machine's table and dialect, the register of work offsets, the program files of a job."""

import sqlalchemy as sa
from alembic import op

revision = "0005"
down_revision = "0004"


def upgrade() -> None:
    op.add_column("machine", sa.Column("bed", sa.String, nullable=False, server_default=""))
    op.add_column("machine", sa.Column("dialect", sa.String, nullable=False, server_default="{}"))
    op.create_table(
        "offset",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("machine_id", sa.Integer, sa.ForeignKey("machine.id"), nullable=False),
        sa.Column("code", sa.String, nullable=False),
        sa.Column("body", sa.String, nullable=False),
        sa.Column("at", sa.String, nullable=False),
    )
    op.create_index("offset_code", "offset", ["machine_id", "code"])
    op.create_table(
        "program",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("job_id", sa.Integer, sa.ForeignKey("job.id", ondelete="CASCADE"), nullable=False),
        sa.Column("name", sa.String, nullable=False),
        sa.Column("content", sa.String, nullable=False),
        sa.Column("who", sa.String, nullable=False),
        sa.Column("at", sa.String, nullable=False),
    )
    op.create_index("program_job", "program", ["job_id"])
