"""One piece was found out of limits: which of those before it to measure again, which to hold.

Model: something changed at one load. It moved one place or all of them at once, eased one place (it scatters more and sits
elsewhere), crept on from there, or only this one piece is bad. Estimate: each of these, at each load and for a range of sizes,
is weighed by how well it explains all readings (Bayes, on a grid). Decision: a piece whose chance of being bad costs more
shipped than a recheck is measured, the surest first; one that is bad almost for certain is held unmeasured.

Source: own derivation; the grid approximation of a change-point posterior is textbook Bayes.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any, Protocol

import numpy as np
from scipy.special import ndtr

from ditto_run.core.run.judge.places import Places

Array = np.ndarray[Any, Any]

ESCAPE, SCRAP, RECHECK = 60.0, 20.0, 1.0  # minutes: a bad piece shipped, a good one thrown away, one recheck
USUAL_SPREAD, SPREAD_WEIGHT = (
    0.18,
    4.0,
)  # of the readings of a sound process, in half tolerances, and how many readings that is worth
USUAL_PLACE = 0.15  # standard deviation of the places beside each other
STRAY = 0.01  # share of readings that mean nothing
RANGE = 6.0  # half tolerances over which those may lie
OWN_PLACE = 0.9  # of a change of one place: that it is the place that failed
AT_EVENT = 4.0  # how much likelier a change is where something was written down
KEPT_WEIGHT = 0.999  # of all that may have happened, what is looked at piece by piece
MOST_STARTS = 40  # loads at which a creep may have begun
SHIFTS = (0.45, 0.6, 0.75, 0.9, 1.05, 1.2, 1.35, 1.5, 1.7, 2.0, 2.5)
PLACES, FACTORS = (-0.4, -0.2, 0.0, 0.2, 0.4), (1.8, 2.4, 3.0, 3.8)
REACHES, POWERS = (0.7, 0.9, 1.1, 1.3, 1.6, 2.0, 2.6), (1.0, 1.5, 2.0)
KINDS = ("step", "step all", "loose", "creep", "creep one", "alone")
BELIEF = {  # before any reading is looked at, by what was tapped
    "bumped": (0.62, 0.12, 0.10, 0.06, 0.04, 0.06),
    "loosened": (0.10, 0.02, 0.70, 0.05, 0.07, 0.06),
    "dull": (0.05, 0.05, 0.05, 0.70, 0.09, 0.06),
    "unknown": (0.28, 0.08, 0.24, 0.26, 0.08, 0.06),
}


class SeenPiece(Protocol):
    """One reading as deviation from the middle of the limits, in half tolerances."""

    @property
    def piece(self) -> int: ...  # noqa: D102
    @property
    def station(self) -> int: ...  # noqa: D102
    @property
    def load(self) -> int: ...  # noqa: D102
    @property
    def deviation(self) -> float: ...  # noqa: D102


class FailedCase(Protocol):
    """What is known when a piece has failed; the fields are in docs/steps/run.md."""

    @property
    def pieces_done(self) -> int: ...  # noqa: D102
    @property
    def stations(self) -> int: ...  # noqa: D102
    @property
    def readings(self) -> Sequence[SeenPiece]: ...  # noqa: D102
    @property
    def failed(self) -> int: ...  # noqa: D102
    @property
    def cause(self) -> str: ...  # noqa: D102
    @property
    def events(self) -> Sequence[tuple[int, str]]: ...  # noqa: D102
    @property
    def rechecks(self) -> Sequence[SeenPiece]: ...  # noqa: D102


@dataclass(frozen=True, slots=True)
class RecheckOne:
    """Measure this piece again, and ask then.

    Args:
        piece: its number; it has not been measured yet.
        why: one sentence.
    """

    piece: int
    why: str = ""
    kind: str = "recheck"


@dataclass(frozen=True, slots=True)
class HoldThese:
    """Nothing more to measure.

    Args:
        hold: pieces to scrap unmeasured; those measured out are scrapped anyway, all others go on.
        why: one sentence.
    """

    hold: tuple[int, ...] = ()
    why: str = ""
    kind: str = "done"


def contain(case: FailedCase) -> RecheckOne | HoldThese:
    """Return the next piece to measure again, or that it is done and what to hold.

    Args:
        case: readings in half tolerances [-], what was tapped, what was written down. It is read only. It may have `places`, piece →
            (load, station), where loads are short, stations are off, or one holds several pieces.

    Source:
        Own derivation; see the module.
    """
    chance = suspicion(case)
    measured = {reading.piece for reading in (*case.readings, *case.rechecks)}
    sure = {piece for piece, bad in chance.items() if SCRAP * (1 - bad) < RECHECK * 0.8}
    open_ones = [
        (bad, piece)
        for piece, bad in chance.items()
        if piece not in measured and piece not in sure and ESCAPE * bad > RECHECK
    ]
    if open_ones:
        bad, piece = max(open_ones)
        return RecheckOne(piece, f"Piece {piece} is bad with a chance of {bad:.0%}.")
    hold = tuple(sorted(sure - measured))
    if hold:
        return HoldThese(
            hold, "Those held are bad almost for certain; no other is likely enough to be worth a reading."
        )
    return HoldThese((), "No other piece is likely enough to be bad to be worth a reading.")


def suspicion(case: FailedCase) -> dict[int, float]:
    """Return for each piece not measured yet the chance it is judged by, [0 to 1]: a bad piece found makes none less suspect.

    Whatever the models make of it: only a good reading clears a piece.
    """
    rechecks = list(case.rechecks)
    last_good = max((i + 1 for i, r in enumerate(rechecks) if abs(r.deviation) <= 1), default=0)
    found = chances(_Until(case, rechecks[:last_good]))
    for count in range(last_good + 1, len(rechecks) + 1):
        now = chances(_Until(case, rechecks[:count]))
        found = {piece: max(chance, found.get(piece, 0.0)) for piece, chance in now.items()}
    return found


class _Until:
    """A case as it stood after so many rechecks."""

    def __init__(self, case: FailedCase, rechecks: Sequence[SeenPiece]) -> None:
        self.pieces_done, self.stations, self.readings = case.pieces_done, case.stations, case.readings
        self.failed, self.cause, self.events = case.failed, case.cause, case.events
        self.rechecks, self.places = rechecks, getattr(case, "places", None)


def chances(case: FailedCase) -> dict[int, float]:
    """Return for each piece not measured yet the chance that it is out of limits, [0 to 1]."""
    seen = sorted((*case.readings, *case.rechecks), key=lambda reading: reading.load)
    load = np.array([reading.load for reading in seen])
    station = np.array([reading.station for reading in seen]) - 1
    value = np.array([reading.deviation for reading in seen])
    places = Places(case.stations, getattr(case, "places", None))
    last, failed_load = places.load(case.pieces_done), places.load(case.failed)
    spread, place = _sound(load, station, value, case.stations, failed_load)
    start = np.arange(1, last + 2)
    prior = np.ones(len(start))
    for at, _ in case.events:
        if 1 <= at <= last:
            prior[at - 1] *= AT_EVENT
    measured = {reading.piece for reading in seen}
    todo = np.array([piece for piece in range(1, case.pieces_done + 1) if piece not in measured], dtype=int)
    if not len(todo):
        return {}
    grid = _Grid(
        load,
        station,
        value,
        spread,
        place,
        prior,
        last,
        np.array([places.load(piece) for piece in todo]),
        np.array([places.station(piece) for piece in todo]),
    )
    parts = _weighed(grid, case, seen)
    top = max(likely for _, likely, _ in parts)
    weights = [share * float(np.exp(likely - top)) for share, likely, _ in parts]
    bad = sum(weight * chance for weight, (_, _, chance) in zip(weights, parts, strict=True)) / sum(weights)
    return {int(piece): float(x) for piece, x in zip(todo, np.asarray(bad), strict=True)}


def _weighed(grid: "_Grid", case: FailedCase, seen: Sequence[SeenPiece]) -> list[tuple[float, float, Array]]:
    """Return each thing that may have happened: belief before the readings, log evidence, chances of the pieces."""
    belief = dict(zip(KINDS, BELIEF.get(case.cause, BELIEF["unknown"]), strict=True))
    many = case.stations
    failed = Places(many, getattr(case, "places", None)).station(case.failed)
    own = [OWN_PLACE if one == failed else (1 - OWN_PLACE) / max(many - 1, 1) for one in range(many)]
    own = own if many > 1 else [1.0]
    return [
        *((belief["step"] * own[one], *grid.at_once(one, SHIFTS)) for one in range(many)),
        (belief["step all"], *grid.at_once(None, SHIFTS)),
        *((belief["loose"] * own[one], *grid.eased(one)) for one in range(many)),
        (belief["creep"], *grid.crept(None)),
        *((belief["creep one"] * own[one], *grid.crept(one)) for one in range(many)),
        (belief["alone"], *grid.alone(seen, case.failed)),
    ]


def _sound(load: Array, station: Array, value: Array, stations: int, failed_load: int) -> tuple[float, Array]:
    """Return the spread of the readings while all was well, and where each place sits, [half tolerances]."""
    early = load < max(failed_load * 0.5, min(failed_load, 2))
    inside = (np.abs(value) <= 1) & (early | (load == 1))
    place = np.zeros(stations)
    rest = []
    for one in range(stations):
        mine = value[inside & (station == one)]
        if len(mine):
            place[one] = np.median(mine) * len(mine) / (len(mine) + (USUAL_SPREAD / USUAL_PLACE) ** 2)
            rest += list(mine - place[one])
    square = float(np.sum(np.square(rest))) if rest else 0.0
    count = max(len(rest) - stations * 0.5, 0.0)
    return float(np.sqrt((square + SPREAD_WEIGHT * USUAL_SPREAD**2) / (count + SPREAD_WEIGHT))), place


@dataclass(frozen=True, slots=True)
class _Grid:
    """Weighs each change against the readings. Each method gives its log evidence and, for each piece asked about, its chance.

    Args:
        load, station, value: the readings, by load; stations from 0.
        spread: of a sound process.
        place: where each place sits.
        prior: weight of a change at each load, and of none, unscaled.
        last: last load.
        at, by: load and station of the pieces asked about.
    """

    load: Array
    station: Array
    value: Array
    spread: float
    place: Array
    prior: Array
    last: int
    at: Array
    by: Array

    def _density(self, mean: Array, spread: Array | float) -> Array:
        """Log density of the readings: mostly normal, now and then anywhere."""
        z = (self.value[:, None] - mean) / spread
        return np.log((1 - STRAY) * np.exp(-0.5 * z * z) / (spread * 2.5066) + STRAY / RANGE)

    @staticmethod
    def _out(mean: Array, spread: Array | float) -> Array:
        return ndtr((-1 - mean) / spread) + ndtr((mean - 1) / spread)

    def _changed(self, hit: Array, shift: Array, spread: Array) -> tuple[float, Array]:
        """A change that lasts from one load on, for stations `hit`, by parameters (columns)."""
        base = self._density(self.place[self.station][:, None], self.spread)
        moved = self._density(self.place[self.station][:, None] + shift, spread)
        moved = np.where(hit[self.station][:, None], moved, base)
        # log likelihood of a change at load t: readings before t as ever, those from t on moved
        before = np.searchsorted(self.load, np.arange(1, self.last + 1), side="left")
        sum_base = np.concatenate([[0.0], np.cumsum(base[:, 0])])
        sum_moved = np.vstack([np.zeros(moved.shape[1]), np.cumsum(moved, axis=0)])
        fits = sum_base[before][:, None] + sum_moved[-1] - sum_moved[before]
        fits = fits + np.log(self.prior[: self.last, None] / self.prior[: self.last].sum() / moved.shape[1])
        top = fits.max()
        weight = np.exp(fits - top)
        total = weight.sum()
        since = np.cumsum(weight, axis=0)[self.at - 1] / total  # chance that it changed by then, by parameter
        out = self._out(self.place[self.by][:, None] + shift, spread)
        usual = self._out(self.place[self.by], self.spread)
        chance = np.where(hit[self.by], (since * out).sum(1) + (1 - since.sum(1)) * usual, usual)
        return float(top + np.log(total)), chance

    def at_once(self, one: int | None, shifts: Sequence[float]) -> tuple[float, Array]:
        """One place, or all of them, moved at once and stayed there."""
        hit = np.arange(len(self.place)) == one if one is not None else np.ones(len(self.place), bool)
        both = np.array([*shifts, *(-x for x in shifts)])[None, :]
        return self._changed(hit, both, np.full(both.shape, self.spread))

    def eased(self, one: int) -> tuple[float, Array]:
        """One place scatters more and sits elsewhere."""
        hit = np.arange(len(self.place)) == one
        where, factor = (x.ravel()[None, :] for x in np.meshgrid(PLACES, FACTORS))
        return self._changed(hit, where, factor * self.spread)

    def crept(self, one: int | None) -> tuple[float, Array]:
        """It goes on moving from one load on, evenly or ever quicker, at one place or all."""
        hit = np.arange(len(self.place)) == one if one is not None else np.ones(len(self.place), bool)
        begin = np.unique(np.linspace(1, self.last, min(self.last, MOST_STARTS)).round())
        columns = [x.ravel() for x in np.meshgrid(begin, REACHES, POWERS, (-1.0, 1.0))]

        def path(load: Array, which: Array) -> Array:  # reading or load, parameters
            start, reach, power, sign = (x[which] for x in columns)
            along = (load[:, None] - start + 1) / np.maximum(self.last - start + 1, 1)
            return np.asarray(sign * reach * np.maximum(along, 0.0) ** power)

        every = np.arange(len(columns[0]))
        mean = (
            np.where(hit[self.station][:, None], path(self.load, every), 0.0)
            + self.place[self.station][:, None]
        )
        fit = self._density(mean, self.spread).sum(0) - np.log(len(every))
        top = fit.max()
        weight = np.exp(fit - top)
        order = np.argsort(weight)[::-1]
        keep = order[: int(np.searchsorted(np.cumsum(weight[order]), KEPT_WEIGHT * weight.sum())) + 1]
        loads, back = np.unique(self.at, return_inverse=True)
        share = weight[keep] / weight[keep].sum()
        shift = path(loads, keep)
        by_place = np.array([self._out(place + shift, self.spread) @ share for place in self.place])
        usual = self._out(self.place[self.by], self.spread)
        return float(top + np.log(weight.sum())), np.where(hit[self.by], by_place[self.by, back], usual)

    def alone(self, seen: Sequence[SeenPiece], failed: int) -> tuple[float, Array]:
        """Only the piece that failed is bad."""
        base = self._density(self.place[self.station][:, None], self.spread)[:, 0]
        own = np.array([reading.piece == failed for reading in seen])
        fits = np.where(own, np.log(1 / RANGE), base).sum()
        return float(fits), self._out(self.place[self.by], self.spread)
