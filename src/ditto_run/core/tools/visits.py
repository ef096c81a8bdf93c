"""The order in which the tools of a cycle visit its stations, as somebody chose it."""

from collections.abc import Iterable
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


def visits_say(visits: Iterable[tuple[str, str]]) -> str:
    """Return an order in words: T01 at A, B, C; T02 at C, B, A.

    Args:
        visits: tool and station of each, in order.
    """
    said: list[tuple[str, list[str]]] = []
    for tool, station in visits:
        if not said or said[-1][0] != tool:
            said.append((tool, []))
        said[-1][1].append(station)
    return "; ".join(f"{tool} at {', '.join(at)}" for tool, at in said) + "."
