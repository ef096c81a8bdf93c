"""What the shop forgot before a first load, and how it gets onto the start list."""

from dataclasses import replace

from ditto_run.core.shop.forgotten import Forgotten
from ditto_run.core.units import day_text
from ditto_run.desk.desk import Desk


def forgot(desk: Desk, words: str, machine: str) -> Forgotten:
    """Keep that something was forgotten before a first load; it stands on top of the start list from then on.

    Args:
        desk: the desk.
        words: what.
        machine: it happened at; empty for any.

    Raises:
        BadEntry: if nothing is said, or too much.
    """
    now = desk.now
    new = Forgotten(" ".join(words.split()), machine, day_text(now))
    rows = {row.value.key: row for row in desk.drawers.rows("forgotten")}
    row = rows.get(new.key)
    if row is not None:
        at = machine if row.value.machine.lower() == machine.lower() else ""
        new = replace(row.value, machine=at, day=new.day, times=row.value.times + 1, looked=0)
    desk.drawers.save("forgotten", row.id if row is not None else 0, new.texts)
    return new


def forgotten_before(desk: Desk) -> tuple[Forgotten, ...]:
    """Return what this shop forgot before a first load."""
    return tuple(row.value for row in desk.drawers.rows("forgotten"))
