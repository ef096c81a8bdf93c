"""Which piece was cut in which load at which station."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass

import numpy as np

from ditto_run.core.run.judge.bank import Array


@dataclass(frozen=True, slots=True)
class Places:
    """Every load full and one piece a station, unless it is given otherwise.

    Args:
        stations: how many there are.
        given: piece → (load, station), both from 1, where loads are short, stations are off, or one holds several pieces.
    """

    stations: int
    given: Mapping[int, tuple[int, int]] | None = None

    def station(self, piece: int) -> int:
        """Station of a piece, from 0."""
        return self._place(piece)[1] - 1

    def load(self, piece: int) -> int:
        """Load of a piece, from 1."""
        return self._place(piece)[0]

    def _place(self, piece: int) -> tuple[int, int]:
        usual = (piece - 1) // self.stations + 1, (piece - 1) % self.stations + 1
        return usual if self.given is None else self.given.get(piece, usual)

    def newest(self, now: int) -> int:
        """First piece of the load that holds this piece; 0 before the first."""
        if not now:
            return 0
        if self.given is None:
            return now - (now - 1) % self.stations
        load, first = self.load(now), now
        while first > 1 and self.load(first - 1) == load:
            first -= 1
        return first

    def pieces(self, now: int) -> int:
        """Pieces in a load, as far as is known: as many as in the newest."""
        return now - self.newest(now) + 1 if self.given is not None and now else self.stations

    def shares(self, now: int) -> Array:
        """Share of the pieces each station makes, as in the newest load: shape (stations,), adds up to 1."""
        if self.given is None or not now:
            return np.full(self.stations, 1 / self.stations)
        made = np.zeros(self.stations)
        for piece in range(self.newest(now), now + 1):
            made[self.station(piece)] += 1
        return np.asarray(made / made.sum())

    def back(self, station: int, now: int) -> Iterator[int]:
        """Give the pieces of a station (from 0), newest first."""
        if self.given is None:
            yield from range(now - (now - 1 - station) % self.stations, 0, -self.stations)
        else:
            yield from (piece for piece in range(now, 0, -1) if self.station(piece) == station)
