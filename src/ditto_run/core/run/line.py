"""What lines of a log are made of: pieces in a station, and the words a line may use."""

from dataclasses import dataclass
from typing import Literal

Identity = Literal["marked", "tray", "lost", "unstated"]
Outcome = Literal["good", "as_is", "rework", "scrap", "trial", "spare", "lost"]


@dataclass(frozen=True, slots=True)
class Loaded:
    """Pieces in one station.

    Args:
        station: its label.
        pieces: their numbers.
        part: key of the part that sits there; 1 where a job has one part.
        setup: key of the setup it is cut in; None for the setup of its load.
    """

    station: str
    pieces: tuple[int, ...]
    part: int = 1
    setup: int | None = None
