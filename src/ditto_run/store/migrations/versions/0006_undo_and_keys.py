"""Which step a version was made on and what it equals (undo, redo), and a key that makes a new job once."""

import sqlalchemy as sa
from alembic import op

from ditto_run.store.migrations.steps import add_column

revision = "0006"
down_revision = "0005"

SAME = """
UPDATE plan_version SET same_as = (
  SELECT max(earlier.version) FROM plan_version earlier
  WHERE earlier.job_id = plan_version.job_id AND earlier.version < plan_version.version
    AND earlier.document = plan_version.document AND earlier.what NOT LIKE 'undid: %'
) WHERE what LIKE 'undid: %'
"""


def upgrade() -> None:
    add_column("plan_version", sa.Column("step", sa.String, nullable=False, server_default=""))
    add_column("plan_version", sa.Column("same_as", sa.Integer))
    add_column("plan_version", sa.Column("redo_from", sa.Integer))
    add_column("job", sa.Column("client_key", sa.String))
    op.create_index("job_client_key", "job", ["client_key"], unique=True, if_not_exists=True)
    op.execute(SAME)
