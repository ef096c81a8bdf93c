"""The order in which the tools of a cycle visit its stations, as somebody chose it."""

from dataclasses import dataclass

MOVE_S = 3.0  # from station to station, while nobody said it; a guess


@dataclass(frozen=True, slots=True)
class Visits:
    """The order of visits of one cycle.

    Args:
        key: of the cycle; that of the setup where it is cut alone.
        order: every visit once, station and tool step: A.12.
        move_s: from one station to another. [s]
    """

    key: int
    order: tuple[str, ...]
    move_s: float = MOVE_S

    @property
    def name(self) -> str:
        """What it is called where a change of it is told."""
        return "order of visits"
