"""What one press of start cuts: a machine and its stations, each with its part and its setup."""

from collections.abc import Sequence
from dataclasses import dataclass

from ditto_run.core.place import Station


@dataclass(frozen=True, slots=True)
class CycleHead:
    """A cycle that somebody put together: stations of several setups, or some stations of one.

    Args:
        key: its lasting number in the job.
        name: what the shop calls it.
        machine_id: the machine it runs on; None for that of its setups.
    """

    key: int
    name: str
    machine_id: int | None = None


@dataclass(frozen=True, slots=True)
class Press:
    """What one press of start cuts.

    Args:
        key: of the cycle; that of the setup where a setup is cut alone.
        name: of the cycle, or of that setup.
        machine_id: the machine; None while open.
        setups: keys of the setups that are cut in it, in the order of the chain.
        stations: where the pieces sit.
        declared: True where somebody put it together.
    """

    key: int
    name: str
    machine_id: int | None
    setups: tuple[int, ...]
    stations: tuple[Station, ...] = ()
    declared: bool = False

    def stations_of(self, setup: int) -> tuple[Station, ...]:
        """Return the stations at which a setup is cut in it."""
        return tuple(station for station in self.stations if station.setup == setup)


def chosen_cycle(cycles: Sequence[Press], key: int) -> Press | None:
    """Return the cycle of that key, else the first; None where there is none."""
    return next((cycle for cycle in cycles if cycle.key == key), next(iter(cycles), None))
