"""The register of work offsets: lines are added, never changed; the last one of a code counts."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import replace
from datetime import UTC, datetime

from sqlalchemy import Connection, func, insert, select

from ditto_run.core.errors import NotFound
from ditto_run.core.place.offsets import Offset, OffsetChange, changed
from ditto_run.core.shop import Machine
from ditto_run.formats.documents import OFFSET
from ditto_run.store import tables
from ditto_run.store.database import Database
from ditto_run.store.setting import keep_setting

LINE = tables.offset.c
LOOK = "look "  # a setting per machine and code: who saw the read-out agree, and when
BACKUP = "backup "  # a setting per machine: when its values were last taken off


class Offsets:
    """The work offsets of the machines."""

    def __init__(self, database: Database, clock: Callable[[], datetime]) -> None:
        self._database = database
        self._clock = clock

    def of(self, machine_id: int) -> Mapping[str, Offset]:
        """Return a machine's offsets as they stand."""
        with self._database.reading() as connection:
            return standing_offsets(connection, machine_id=machine_id).get(machine_id, {})

    def until(self, machine_id: int, moment: datetime) -> Mapping[str, Offset]:
        """Return a machine's offsets as they stood at a moment."""
        with self._database.reading() as connection:
            return standing_offsets(connection, moment).get(machine_id, {})

    def history(self, machine_id: int, code: str = "", most: int = 200) -> list[Offset]:
        """Return the last lines of a machine, or of one of its offsets, oldest first."""
        mine = LINE.machine_id == machine_id
        query = select(tables.offset).where(mine & (LINE.code == code) if code else mine)
        with self._database.reading() as connection:
            rows = connection.execute(query.order_by(LINE.id.desc()).limit(most)).all()
        return [_offset(row.body, row.id) for row in reversed(rows)]

    def line(self, machine_id: int, number: int) -> Offset:
        """Return one line of a machine's history.

        Raises:
            NotFound: if there is none.
        """
        with self._database.reading() as connection:
            row = connection.execute(
                select(tables.offset).where((LINE.id == number) & (LINE.machine_id == machine_id))
            ).first()
        if row is None:
            raise NotFound("line of the register", number, "Choose one of the history.")
        return _offset(row.body, row.id)

    def write(self, machine: Machine, changes: Sequence[OffsetChange], who: str) -> int:
        """Write changes to the register, all of them or none. Returns how many offsets changed.

        Raises:
            BadEntry: if the machine lacks a code, or a kept one would be overwritten without its name typed.
        """
        with self._database.writing(offsets=True) as connection:
            return write_offsets(connection, machine, changes, who, self._clock())

    def look(self, machine_id: int, code: str, who: str) -> None:
        """Remember that the read-out agreed with the drawing at an offset just now."""
        with self._database.writing(offsets=True) as connection:
            keep_setting(connection, f"{LOOK}{machine_id} {code}", f"{who} {self._clock().isoformat()}")

    def backed_up(self, machine_id: int) -> None:
        """Remember that a machine's values were taken off just now."""
        with self._database.writing(offsets=True) as connection:
            keep_setting(connection, f"{BACKUP}{machine_id}", self._clock().isoformat())


def write_offsets(
    connection: Connection, machine: Machine, changes: Sequence[OffsetChange], who: str, at: datetime
) -> int:
    """Write changes to the register within a write session of the caller. Returns how many offsets changed.

    Raises:
        BadEntry: if the machine lacks a code, or a kept one would be overwritten without its name typed.
    """
    now, written = at.astimezone(UTC), 0
    for change in changes:
        old = _last(connection, machine.id, change.code)
        new = changed(old, change, machine)
        if old is not None and replace(new, how=old.how) == old:
            continue  # nothing but how it was found would change
        line = OFFSET.dump_json(replace(new, who=who, at=now, number=0)).decode()
        values = {"machine_id": machine.id, "code": change.code, "body": line, "at": now.isoformat()}
        connection.execute(insert(tables.offset).values(**values))
        written += 1
    return written


def standing_offsets(
    connection: Connection, until: datetime | None = None, machine_id: int = 0
) -> dict[int, dict[str, Offset]]:
    """Return the last line of every offset, by machine and code; as it was at a moment, or of one machine, if asked."""
    query = select(func.max(LINE.id)).group_by(LINE.machine_id, LINE.code)
    if machine_id:
        query = query.where(LINE.machine_id == machine_id)
    if until is not None:
        query = query.where(LINE.at <= until.astimezone(UTC).isoformat())
    rows = connection.execute(select(tables.offset).where(LINE.id.in_(query)).order_by(LINE.id)).all()
    found: dict[int, dict[str, Offset]] = {}
    for row in rows:
        found.setdefault(row.machine_id, {})[row.code] = _offset(row.body, row.id)
    return found


def backups_of(settings: Mapping[str, str]) -> dict[int, datetime]:
    """Return when each machine's values were last taken off, from the settings."""
    return {
        int(name.removeprefix(BACKUP)): datetime.fromisoformat(value)
        for name, value in settings.items()
        if name.startswith(BACKUP)
    }


def looks_of(settings: Mapping[str, str]) -> dict[tuple[int, str], tuple[str, datetime]]:
    """Return who last saw the read-out agree at each offset, and when, from the settings."""
    found = {}
    for name, value in settings.items():
        if name.startswith(LOOK):
            machine, _, code = name.removeprefix(LOOK).partition(" ")
            who, _, at = value.partition(" ")
            found[int(machine), code] = (who, datetime.fromisoformat(at))
    return found


def _last(connection: Connection, machine_id: int, code: str) -> Offset | None:
    mine = (LINE.machine_id == machine_id) & (LINE.code == code)
    row = connection.execute(select(tables.offset).where(mine).order_by(LINE.id.desc()).limit(1)).first()
    return _offset(row.body, row.id) if row else None


def _offset(body: str, number: int) -> Offset:
    return replace(OFFSET.validate_json(body), number=number)
