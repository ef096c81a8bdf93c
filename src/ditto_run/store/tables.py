"""The tables. Plans and run lines are documents; a plan version and a run line are never changed."""

from sqlalchemy import (
    Boolean,
    Column,
    ForeignKey,
    Index,
    Integer,
    LargeBinary,
    MetaData,
    PrimaryKeyConstraint,
    String,
    Table,
    UniqueConstraint,
)

metadata = MetaData()

setting = Table(
    "setting",
    metadata,
    Column("name", String, primary_key=True),
    Column("value", String, nullable=False),
)
machine = Table(
    "machine",
    metadata,
    Column("id", Integer, primary_key=True),
    Column("name", String, nullable=False),
    Column("kind", String, nullable=False),
    Column("offset_codes", String, nullable=False),
    Column("wear_by", String, nullable=False),
    Column("wear_bigger_is", String, nullable=False),
    Column("wear_increment", String, nullable=False),
    Column("wear_unit", String, nullable=False),
    Column("ability", String, nullable=False, default="{}"),
    Column("bed", String, nullable=False, default=""),
    Column("dialect", String, nullable=False, default="{}"),
    Column("removed", Boolean, nullable=False, default=False),
)
gauge = Table(
    "gauge",
    metadata,
    Column("id", Integer, primary_key=True),
    Column("name", String, nullable=False),
    Column("resolution", String, nullable=False),
    Column("unit", String, nullable=False),
    Column("repeats", String, nullable=False, default=""),
    Column("removed", Boolean, nullable=False, default=False),
)
drawer_row = Table(
    "drawer_row",
    metadata,
    Column("id", Integer, primary_key=True),
    Column("drawer", String, nullable=False),
    Column("texts", String, nullable=False),
    Index("drawer_row_drawer", "drawer"),
)
drawer_photo = Table(
    "drawer_photo",
    metadata,
    Column("row_id", ForeignKey("drawer_row.id", ondelete="CASCADE"), primary_key=True),
    Column("name", String, nullable=False),
    Column("media_type", String, nullable=False),
    Column("content", LargeBinary, nullable=False),
)
person = Table(
    "person",
    metadata,
    Column("initials", String, primary_key=True),
    Column("removed", Boolean, nullable=False, default=False),
)
job = Table(
    "job",
    metadata,
    Column("id", Integer, primary_key=True),
    Column("created_at", String, nullable=False),
    Column("archived_at", String),
    Column("is_demo", Boolean, nullable=False, default=False),
    Column("head", Integer, nullable=False),
    Column("words", String, nullable=False),
    Column("client_key", String),
    Index("job_client_key", "client_key", unique=True),
)
plan_version = Table(
    "plan_version",
    metadata,
    Column("job_id", ForeignKey("job.id", ondelete="CASCADE"), nullable=False),
    Column("version", Integer, nullable=False),
    Column("parent", Integer),
    Column("document", String, nullable=False),
    Column("what", String, nullable=False),
    Column("who", String, nullable=False),
    Column("at", String, nullable=False),
    Column("step", String, nullable=False, default=""),
    Column("same_as", Integer),
    Column("redo_from", Integer),
    PrimaryKeyConstraint("job_id", "version"),
)
revision = Table(
    "revision",
    metadata,
    Column("job_id", ForeignKey("job.id", ondelete="CASCADE"), nullable=False),
    Column("revision", Integer, nullable=False),
    Column("version", Integer, nullable=False),
    Column("reason", String, nullable=False),
    Column("shop", String, nullable=False, default=""),
    PrimaryKeyConstraint("job_id", "revision"),
)
run = Table(
    "run",
    metadata,
    Column("id", Integer, primary_key=True),
    Column("job_id", ForeignKey("job.id", ondelete="CASCADE"), nullable=False),
    Column("batch", Integer, nullable=False),
    UniqueConstraint("job_id", "batch"),
)
run_event = Table(
    "run_event",
    metadata,
    Column("run_id", ForeignKey("run.id", ondelete="CASCADE"), nullable=False),
    Column("seq", Integer, nullable=False),
    Column("at", String, nullable=False),
    Column("who", String, nullable=False),
    Column("client_key", String, nullable=False),
    Column("body", String, nullable=False),
    PrimaryKeyConstraint("run_id", "seq"),
    UniqueConstraint("run_id", "client_key"),
    sqlite_with_rowid=False,
)
attachment = Table(
    "attachment",
    metadata,
    Column("id", Integer, primary_key=True),
    Column("job_id", ForeignKey("job.id", ondelete="CASCADE"), nullable=False),
    Column("name", String, nullable=False),
    Column("media_type", String, nullable=False),
    Column("content", LargeBinary, nullable=False),
    Index("attachment_job", "job_id"),
)
offset = Table(
    "offset",
    metadata,
    Column("id", Integer, primary_key=True),
    Column("machine_id", ForeignKey("machine.id"), nullable=False),
    Column("code", String, nullable=False),
    Column("body", String, nullable=False),
    Column("at", String, nullable=False),
    Index("offset_code", "machine_id", "code"),
)
program = Table(
    "program",
    metadata,
    Column("id", Integer, primary_key=True),
    Column("job_id", ForeignKey("job.id", ondelete="CASCADE"), nullable=False),
    Column("name", String, nullable=False),
    Column("content", String, nullable=False),
    Column("who", String, nullable=False),
    Column("at", String, nullable=False),
    Column("why", String, nullable=False, default=""),
    Column("read_back", Boolean, nullable=False, default=False),
    Index("program_job", "job_id"),
)
