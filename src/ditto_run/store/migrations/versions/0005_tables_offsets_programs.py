"""A machine's table and dialect, the register of work offsets, the program files of a job.

Offsets that plans had written down become the first lines of the register; of several plans the newest counts.
"""

import json

import sqlalchemy as sa
from alembic import op

from ditto_run.store.migrations.steps import add_column

revision = "0005"
down_revision = "0004"


def upgrade() -> None:
    add_column("machine", sa.Column("bed", sa.String, nullable=False, server_default=""))
    add_column("machine", sa.Column("dialect", sa.String, nullable=False, server_default="{}"))
    op.create_table(
        "offset",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("machine_id", sa.Integer, sa.ForeignKey("machine.id"), nullable=False),
        sa.Column("code", sa.String, nullable=False),
        sa.Column("body", sa.String, nullable=False),
        sa.Column("at", sa.String, nullable=False),
        if_not_exists=True,
    )
    op.create_index("offset_code", "offset", ["machine_id", "code"], if_not_exists=True)
    op.create_table(
        "program",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("job_id", sa.Integer, sa.ForeignKey("job.id", ondelete="CASCADE"), nullable=False),
        sa.Column("name", sa.String, nullable=False),
        sa.Column("content", sa.String, nullable=False),
        sa.Column("who", sa.String, nullable=False),
        sa.Column("at", sa.String, nullable=False),
        if_not_exists=True,
    )
    op.create_index("program_job", "program", ["job_id"], if_not_exists=True)
    if op.get_bind().execute(sa.text('SELECT count(*) FROM "offset"')).scalar() == 0:
        _first_lines(op.get_bind())


def _first_lines(connection: sa.Connection) -> None:
    machines = {row[0] for row in connection.execute(sa.text("SELECT id FROM machine"))}
    plans = connection.execute(sa.text(
        "SELECT v.document, v.who, v.at FROM job JOIN plan_version v ON v.job_id = job.id AND v.version = job.head ORDER BY job.id DESC"
    )).all()
    known = set()
    for document, who, at in plans:
        plan = json.loads(document)
        on = {setup["key"]: setup.get("machine_id") for setup in plan.get("setups", [])}
        for station in plan.get("stations", []):
            machine, code = on.get(station["setup"]), station.get("offset")
            axes = {axis: value for axis, value in zip("xyz", station.get("zero") or (), strict=False) if value is not None}
            if machine not in machines or code is None or not axes or (machine, code) in known:
                continue
            known.add((machine, code))
            line = {"code": code, "axes": axes, "unit": station.get("unit", "mm"), "who": who, "at": at, "how": f"from the plan of {plan['heading']['part']}"}
            values = {"m": machine, "c": code, "b": json.dumps(line), "a": at}
            connection.execute(sa.text('INSERT INTO "offset" (machine_id, code, body, at) VALUES (:m, :c, :b, :a)'), values)
