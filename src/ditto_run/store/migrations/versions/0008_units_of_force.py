"""Forces, torques, pressures and masses of kept sheets: what was typed alone in a job in inches was metric, and says so now."""

import json

import sqlalchemy as sa
from alembic import op

from ditto_run.formats.old_sheets import FORCES, with_metric_marks

revision = "0008"
down_revision = "0007"


def upgrade() -> None:
    connection = op.get_bind()
    rows = connection.execute(sa.text("SELECT job_id, version, document FROM plan_version")).fetchall()
    for job_id, version, text in rows:
        document = json.loads(text)
        if document.get("heading", {}).get("unit") != "in":
            continue
        for sheet in document.get("sheets", ()):
            sheet["texts"] = with_metric_marks(sheet["kind"], sheet["texts"], FORCES)
        connection.execute(
            sa.text("UPDATE plan_version SET document = :d WHERE job_id = :j AND version = :v"),
            {"d": json.dumps(document), "j": job_id, "v": version},
        )
