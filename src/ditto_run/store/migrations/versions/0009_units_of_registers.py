"""Registers say their units: until now a figure typed alone changed its meaning with the shop's unit; speeds of kept sheets too."""

import json

import sqlalchemy as sa
from alembic import op

from ditto_run.formats.old_sheets import REGISTERS, SPEEDS, with_metric_marks

revision = "0009"
down_revision = "0008"


def upgrade() -> None:
    connection = op.get_bind()
    unit = connection.execute(sa.text("SELECT value FROM setting WHERE name = 'unit'")).scalar()
    for row, name, text in connection.execute(sa.text("SELECT id, drawer, texts FROM drawer_row")).fetchall():
        if name in REGISTERS:
            lengths = {column: "in" if unit == "in" else "mm" for column in REGISTERS[name]}
            marks = {c: lengths[c] if mark == "length" else mark for c, mark in REGISTERS[name].items()}
            texts = with_metric_marks(name, json.loads(text), {name: marks})
            connection.execute(
                sa.text("UPDATE drawer_row SET texts = :t WHERE id = :i"),
                {"t": json.dumps(texts, ensure_ascii=False), "i": row},
            )
    rows = connection.execute(sa.text("SELECT job_id, version, document FROM plan_version")).fetchall()
    for job_id, version, text in rows:
        document = json.loads(text)
        if document.get("heading", {}).get("unit") != "in" or not document.get("sheets"):
            continue
        for sheet in document["sheets"]:
            sheet["texts"] = with_metric_marks(sheet["kind"], sheet["texts"], SPEEDS)
        connection.execute(
            sa.text("UPDATE plan_version SET document = :d WHERE job_id = :j AND version = :v"),
            {"d": json.dumps(document), "j": job_id, "v": version},
        )
