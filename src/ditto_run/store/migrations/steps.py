"""Steps of a migration that can be run again: what an earlier try left behind is kept."""

from typing import Any

import sqlalchemy as sa
from alembic import op


def add_column(table: str, column: sa.Column[Any]) -> None:
    """Add a column unless it is there."""
    there = {found["name"] for found in sa.inspect(op.get_bind()).get_columns(table)}
    if column.name not in there:
        op.add_column(table, column)
