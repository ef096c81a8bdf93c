"""Several machines or spindles and one pair of hands: who waits, how many one pair serves, what is left of it."""

from collections.abc import Sequence
from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Minded:
    """One machine or spindle that is served again and again.

    Args:
        name: what it is called.
        runs_s: it runs by itself, from start to end. [s]
        hands_s: the hands are at it, while it stands. [s]
    """

    name: str
    runs_s: float
    hands_s: float


@dataclass(frozen=True, slots=True)
class Minding:
    """How a pair of hands goes round.

    Args:
        order: the machines, the one with the longest run first.
        round_s: from one visit at a machine to the next. [s]
        hands_wait_s: of a round, the hands have nothing to do at any of them. [s]
        waits: how long each machine stands and waits for the hands in a round. [s]
        serves: how many machines like each a pair of hands serves without one that waits.
    """

    order: tuple[Minded, ...]
    round_s: float
    hands_wait_s: float
    waits: tuple[float, ...]
    serves: tuple[int, ...]

    @property
    def hands_set_pace(self) -> bool:
        """True if the machines wait for the hands."""
        return self.hands_wait_s <= 0


def go_round(machines: Sequence[Minded]) -> Minding:
    """Return how one pair of hands goes round several machines, each served once a round, always in the same order.

    Args:
        machines: one or more, with times that do not vary.

    Returns:
        A round takes what the hands do at all of them, or what the slowest machine runs and is served, whichever is more.
        The longest run is started first, so that it is under way while the others are served.

    Source:
        Own derivation; held to a simulation by a test.
    """
    order = tuple(sorted(machines, key=lambda one: -one.runs_s))
    hands = sum(one.hands_s for one in order)
    round_s = max(hands, *(one.runs_s + one.hands_s for one in order))
    return Minding(
        order,
        round_s,
        round_s - hands,
        tuple(round_s - one.runs_s - one.hands_s for one in order),
        tuple(
            int((one.runs_s + one.hands_s) / one.hands_s + 1e-9) if one.hands_s > 0 else 0 for one in order
        ),
    )
