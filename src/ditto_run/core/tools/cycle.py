"""The cycle that a setup's tool steps make."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from types import MappingProxyType

from ditto_run.core.tools.tool_step import ToolStep


@dataclass(frozen=True, slots=True)
class CycleTime:
    """Times of one load.

    Args:
        cycle_s: from start to end of the cycle. [s]
        load_to_load_s: with unloading and loading. [s]
        per_piece_s: load to load, shared by its pieces. [s]
    """

    cycle_s: float
    load_to_load_s: float
    per_piece_s: float

    def ordered(self, ratio: float, pieces: int) -> "CycleTime":
        """Return the same with another order of visits.

        Args:
            ratio: what the cycle takes in that order over one tool round all. [-]
            pieces: in the load. [pieces]
        """
        cycle_s = self.cycle_s * ratio
        whole_s = self.load_to_load_s - self.cycle_s + cycle_s
        return CycleTime(cycle_s, whole_s, whole_s / max(pieces, 1))

    def loaded_meanwhile(self, pieces: int) -> "CycleTime":
        """Return the same where it is loaded while it cuts: from load to load takes the longer of both.

        Args:
            pieces: in the load. [pieces]
        """
        whole_s = max(self.cycle_s, self.load_to_load_s - self.cycle_s)
        return CycleTime(self.cycle_s, whole_s, whole_s / max(pieces, 1))


def cycle_time(
    steps: Sequence[ToolStep],
    pieces: int,
    handling_s: float,
    shares: Mapping[int, float] = MappingProxyType({}),
) -> CycleTime:
    """Return the times of one load: each tool cuts every piece at its stations, and is changed once.

    cycle = sum(cut × pieces × share + change); a cut that is for a strip or a whole load counts once for each

    Args:
        steps: the tool steps of the setups that are cut.
        pieces: pieces in the load, 1 or more. [pieces]
        handling_s: unload and load of one piece. [s]
        shares: share of the pieces that a step cuts, by its key; those not named cut all. [-]

    Returns:
        The times; all zero without steps and handling. [s]

    Source:
        Own derivation; the demo's 9:24 for three pieces is held by a test worked by hand.
    """
    cycle_s = sum(step.cut_for_s(pieces * shares.get(step.key, 1.0)) + step.change_s for step in steps)
    whole_s = cycle_s + handling_s * pieces
    return CycleTime(cycle_s, whole_s, whole_s / max(pieces, 1))
