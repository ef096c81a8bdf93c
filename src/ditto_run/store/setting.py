"""Settings of the shop: a name and a text."""

from sqlalchemy import Connection, select
from sqlalchemy.dialects.sqlite import insert as upsert

from ditto_run.store import tables


def keep_setting(connection: Connection, name: str, value: str) -> None:
    """Keep one setting within a write session of the caller."""
    statement = upsert(tables.setting).values(name=name, value=value)
    connection.execute(statement.on_conflict_do_update(index_elements=["name"], set_={"value": value}))


def read_setting(connection: Connection, name: str) -> str | None:
    """Return one setting, or None."""
    return connection.execute(select(tables.setting.c.value).where(tables.setting.c.name == name)).scalar()
