"""A simulated process: sizes as a machine might cut them, with known truth. The same seed gives the same pieces.

What is dialled never changes what chance brings: with another decision the same batch comes, dialled otherwise.
"""

from collections.abc import Mapping, Sequence
from math import exp
from random import Random

from ditto_run.core.rehearse.process import Fault, Happening
from ditto_run.core.run.judged import DimensionJudged

# in half tolerances; made up, as a shop might see them
SCATTER, PLACE = 0.16, 0.10
DRIFT, WORN = 0.0015, 0.05  # a load
LOOSE_BY, LOOSE_SCATTER, LOOSE_CREEP = 0.5, 0.45, 0.05
BUMPED, CHIPPED, COLD, KNOCKED = 0.85, 0.7, -0.6, 0.55
WARM_LOADS = 6.0


class SimulatedProcess:
    """Cuts pieces.

    Args:
        dimensions: by number.
        labels: of the stations.
        loads: that the batch will take.
        fault: what goes wrong.
        seed: of chance.
    """

    def __init__(
        self,
        dimensions: Mapping[int, DimensionJudged],
        labels: Sequence[str],
        loads: int,
        fault: Fault,
        seed: int,
    ) -> None:
        draw = Random(f"happens {seed} {fault}")  # noqa: S311 - made-up pieces, no secrets
        self._seed, self._fault, self._dims = seed, fault, dimensions
        at = draw.randint(max(2, loads // 4), max(3, loads * 3 // 5))
        station = draw.choice(list(labels)) if fault in {"loose", "bump"} else ""
        self._own = {(n, label): draw.gauss(0, PLACE) for n in dimensions for label in labels}
        self._sign = draw.choice((-1, 1))
        self.happens = Happening(fault, 1 if fault in {"wear", "heat"} else at, station, self._sign)
        self._mended = 0  # load from which on it holds again
        self._zero = 0.0 if fault != "gauge" else KNOCKED
        self._first_of = min(dimensions, default=0)

    def size_mm(self, load: int, label: str, piece: int, number: int, dialled_mm: float) -> float:
        """Return a dimension as it was really cut, [mm]; see `Process`."""
        one = self._dims[number]
        half = (one.upper - one.lower) / 2
        draw = Random(f"cuts {self._seed} {piece} {number}")  # noqa: S311
        scatter = SCATTER * (1 + self._looseness(load, label))
        off = self._own[number, label] + draw.gauss(0, scatter) + self._moved(load, label, number)
        return one.target + off * half + dialled_mm

    def read_mm(self, size_mm: float, load: int, piece: int, number: int, time: int) -> float:
        """Return what the gauge shows of a size, [mm]; see `Process`."""
        one = self._dims[number]
        draw = Random(f"reads {self._seed} {piece} {number} {time}")  # noqa: S311
        zero = 0.0
        if self._fault == "gauge" and load >= self.happens.load and number == self._first_of:
            zero = self._zero * (one.upper - one.lower) / 2
        shown = size_mm + zero + draw.gauss(0, one.repeatability)
        return round(shown / one.resolution) * one.resolution if one.resolution else shown

    def set_right(self, number: int, load: int) -> float:
        """Set the gauge of a dimension right on its master after a load. Returns what it read too much, [mm]."""
        if number != self._first_of or load < self.happens.load:
            return 0.0
        zero, self._zero = self._zero, 0.0
        one = self._dims[number]
        return zero * (one.upper - one.lower) / 2

    def look(self, load: int, label: str) -> bool:
        """Look at what holds before a load, at one station or all. Returns whether it was loose; it is tight then."""
        if self._fault != "loose" or load <= self.happens.load or label not in {"", self.happens.station}:
            return False
        found, self._mended = not self._mended, self._mended or load
        return found

    def _looseness(self, load: int, label: str) -> float:
        here = self._fault == "loose" and label == self.happens.station
        return LOOSE_SCATTER / SCATTER if here and self._is_on(load) else 0.0

    def _is_on(self, load: int) -> bool:
        return load >= self.happens.load and not (self._mended and load >= self._mended)

    def _moved(self, load: int, label: str, number: int) -> float:
        sign = self._sign * (1 if number % 2 else -1)
        off = DRIFT * load * sign
        if self._fault == "wear":
            off += WORN * load * sign
        elif self._fault == "heat":
            off += COLD * exp(-load / WARM_LOADS) * sign
        elif self._fault == "broken" and load >= self.happens.load:
            off += CHIPPED * sign
        elif self._fault == "bump" and load >= self.happens.load and label == self.happens.station:
            off += BUMPED * sign
        elif self._fault == "loose" and label == self.happens.station and self._is_on(load):
            off += (LOOSE_BY + LOOSE_CREEP * (load - self.happens.load)) * sign
        return off
