"""How far each way comes in the time there is."""

from collections.abc import Sequence
from dataclasses import dataclass
from math import floor


@dataclass(frozen=True, slots=True)
class WayReach:
    """How far one way comes.

    Args:
        name: of the way.
        ready_s: until its first piece is begun, trial pieces cut. [s]
        each_s: a good piece. [s]
        pieces: good ones done in the time there is.
        whole_s: until the whole batch is done. [s]
    """

    name: str
    ready_s: float
    each_s: float
    pieces: int
    whole_s: float


def reached(ways: Sequence[tuple[str, float, float]], time_s: float, quantity: int) -> list[WayReach]:
    """Return how far each way comes, the one with most pieces first; of two alike the one that is ready sooner.

    Args:
        ways: name, getting ready and time of a good piece. [s, s]
        time_s: there is. [s]
        quantity: good pieces wanted.

    Source:
        Own derivation.
    """
    found = []
    for name, ready_s, each_s in ways:
        left = time_s - ready_s
        done = floor(left / each_s + 1e-9) if each_s > 0 and left > 0 else 0
        found.append(WayReach(name, ready_s, each_s, min(quantity, done), ready_s + each_s * quantity))
    return sorted(
        found, key=lambda one: (-one.pieces, one.whole_s if one.pieces else one.ready_s + one.each_s)
    )
