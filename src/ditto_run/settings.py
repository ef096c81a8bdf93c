"""Where the data lives, which address is served, and what time it is. Declared once."""

import os
import sys
from collections.abc import Callable
from dataclasses import dataclass, field
from datetime import datetime
from pathlib import Path


def now() -> datetime:
    """Return the present moment in the shop's own time zone."""
    return datetime.now().astimezone()


def data_folder() -> Path:
    """Return the user's data folder for Ditto Run; DITTO_RUN_DATA overrides it."""
    chosen = os.environ.get("DITTO_RUN_DATA")
    if chosen:
        return Path(chosen)
    if sys.platform == "win32":
        return Path(os.environ.get("LOCALAPPDATA", Path.home())) / "ditto-run"
    if sys.platform == "darwin":
        return Path.home() / "Library" / "Application Support" / "ditto-run"
    return Path(os.environ.get("XDG_DATA_HOME", Path.home() / ".local" / "share")) / "ditto-run"


@dataclass(frozen=True, slots=True)
class Settings:
    """What the application is started with.

    Args:
        folder: where the database and the log are.
        demo: True for the demo shop.
        clock: tells the time; a test brings its own.
    """

    folder: Path
    demo: bool = False
    clock: Callable[[], datetime] = field(default=now)
