"""One process holds the data folder; another is told which one, and where to find it."""

import sys
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from dataclasses import dataclass
from pathlib import Path
from typing import BinaryIO

from ditto_run.core.errors import CannotKeep

LOCK_NAME = "ditto-run.lock"


@dataclass(frozen=True, slots=True)
class Held:
    """A data folder that this process holds; the lock's file says where it is served."""

    path: Path
    file: BinaryIO

    def say(self, address: str) -> None:
        """Write down where the folder is served, for whoever is turned away."""
        self.file.seek(0)
        self.file.truncate()
        self.file.write(address.encode())
        self.file.flush()


@contextmanager
def hold_folder(folder: Path) -> Iterator[Held]:
    """Hold a data folder while the block runs. The system lets go of it when this process ends, however it does.

    Raises:
        CannotKeep: if another process holds it, or it cannot be written.
    """
    path = folder / LOCK_NAME
    try:
        folder.mkdir(parents=True, exist_ok=True)
        file = path.open("a+b")
    except OSError as fault:
        raise CannotKeep(
            f"{folder} cannot be written: {fault.strerror}.",
            "Let this user write there, or choose another folder with --data.",
        ) from None
    with file:
        if not _lock(file):
            file.seek(0)
            address = file.read(200).decode(errors="replace").strip()
            where = f" at {address}" if address else ""
            raise CannotKeep(
                f"Ditto Run is running on {folder}{where}.",
                "Use its Shop page to back up or restore, or stop it first.",
            )
        held = Held(path, file)
        held.say("")
        try:
            yield held
        finally:
            with suppress(OSError):
                held.say("")


def _lock(file: BinaryIO) -> bool:
    try:
        if sys.platform == "win32":
            import msvcrt  # noqa: PLC0415 - only there

            file.seek(0)
            msvcrt.locking(file.fileno(), msvcrt.LK_NBLCK, 1)
        else:
            import fcntl  # noqa: PLC0415 - only there

            fcntl.flock(file.fileno(), fcntl.LOCK_EX | fcntl.LOCK_NB)
    except OSError:
        return False
    return True
