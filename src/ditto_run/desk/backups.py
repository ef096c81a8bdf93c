"""The whole shop out and in: a sealed copy, and a restore that is checked first and keeps what it replaces."""

from collections.abc import Callable, Sequence
from datetime import datetime
from pathlib import Path

from ditto_run.desk.worker import Worker
from ditto_run.store.backup import back_up, backup_bytes, carry_numbers, check_ready, lay_ready
from ditto_run.store.database import Database

INCOMING = "ditto-run.incoming"
CHECK_S = 600.0  # a shop of many years may take its time; nobody else waits meanwhile


class Backups:
    """The backups of the shop."""

    def __init__(
        self,
        database: Database,
        clock: Callable[[], datetime],
        worker: Worker,
        forget: Sequence[Callable[[], None]],
    ) -> None:
        """Take what keeps something in memory: each of `forget` is called once the shop was replaced."""
        self._database, self._clock, self._worker, self._forget = database, clock, worker, forget

    def write(self, target: Path) -> None:
        """Write a sealed copy of the whole shop, while others go on writing."""
        back_up(self._database.path, target)

    def content(self) -> bytes:
        """Return a sealed copy of the whole shop as the bytes of one file."""
        return backup_bytes(self._database.path)

    def restore(self, content: bytes) -> Path:
        """Put a backup in the place of everything that is here, all of it or nothing.

        The backup is checked whole beside the shop's file first; what it replaces is kept as a backup of its own. Job
        numbers that were given since are not given again, so an old tab writes into no other job.

        Returns:
            Where what was replaced is kept.

        Raises:
            FileNotRead: if it is no sound backup of Ditto Run; nothing was changed then.
        """
        folder = self._database.path.parent
        incoming, replaced = folder / INCOMING, _free(folder, self._clock())
        lay_ready(content, incoming)
        self._worker.run_within(CHECK_S, check_ready, incoming)
        self._database.settle()
        copied = self._database.stamp()
        back_up(self._database.path, replaced)

        def last_look() -> None:
            if self._database.stamp() != copied:  # somebody wrote meanwhile
                replaced.unlink()
                back_up(self._database.path, replaced)
            carry_numbers(self._database.path, incoming)

        self._database.swap(incoming, last_look)
        for forget in self._forget:
            forget()
        return replaced


def _free(folder: Path, now: datetime) -> Path:
    """Return a name in the folder that is not taken yet."""
    first = folder / f"replaced-{now:%Y-%m-%d-%H%M%S}.backup"
    number, found = 2, first
    while found.exists():
        found, number = first.with_stem(f"{first.stem}-{number}"), number + 1
    return found
