"""Rapids that go through a blank: of a mill at every station, of a lathe against the outline as it is cut so far."""

import itertools
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field

from ditto_run.core.program.given import BoxBlank, Three
from ditto_run.core.program.paths import ON_MM, Line, Path, parts_of

WORTH_MM = 0.001  # inside a blank, from which it is said
NEAR_MM = 0.01  # two places are the same
MOST_PLACES = 100_000  # that are remembered
MOST_WAITING = 50_000  # to be sorted in


def legs(start: Three, end: Three, rates: Three | None) -> list[Line]:
    """Return the way of a rapid: straight, or each axis at its own rate where rates are given.

    Args:
        start: where it begins. [mm]
        end: where it ends. [mm]
        rates: of X, Y and Z; None for a straight way. [mm/min]
    """
    if rates is None:
        return [Line(start, end)]
    takes = [abs(b - a) / rate for a, b, rate in zip(start, end, rates, strict=True)]
    times = sorted({0.0, *takes})

    def at(time: float) -> Three:
        x, y, z = (
            b if took <= time else a + (b - a) * time / took
            for a, b, took in zip(start, end, takes, strict=True)
        )
        return x, y, z

    return [Line(at(a), at(b)) for a, b in itertools.pairwise(times)]


def inside_mm(way: Iterable[Line], blank: BoxBlank, grown: float) -> float:
    """Return how much of a way lies inside a block, [mm]."""
    return sum(
        (high - low) * leg.length
        for leg in way
        for low, high, within in parts_of(leg, blank, grown)
        if within and leg.length > 0
    )


@dataclass(slots=True)
class Fed:
    """How deep each place was fed, by its X and Y in hundredths of a millimetre; sorted in only when it is asked."""

    deep: dict[tuple[int, int], float] = field(default_factory=dict)
    waiting: list[Three] = field(default_factory=list)

    def to(self, at: Three) -> None:
        """Note that feed reached a place."""
        self.waiting.append(at)
        if len(self.waiting) >= MOST_WAITING:
            self._sort_in()

    def _sort_in(self) -> None:
        deep = self.deep
        for x, y, z in self.waiting:
            key = (round(x / NEAR_MM), round(y / NEAR_MM))
            before = deep.get(key)
            if before is None and len(deep) >= MOST_PLACES:
                deep.pop(next(iter(deep)))  # the oldest
            if before is None or z < before:
                deep[key] = z
        self.waiting.clear()

    def lowest(self, x: float, y: float) -> float:
        """Return how deep it was fed up to 0.015 off a place in X and in Y, [mm]; infinitely high where it was not."""
        self._sort_in()
        i, j = round(x / NEAR_MM), round(y / NEAR_MM)
        return min(self.deep.get((i + di, j + dj), float("inf")) for di in (-1, 0, 1) for dj in (-1, 0, 1))


@dataclass(slots=True)
class Blocks:
    """The blocks of a mill in one system of coordinates. [mm]."""

    there: Mapping[object, BoxBlank]
    top: float = float("-inf")

    def __post_init__(self) -> None:
        self.top = max((one.high[2] for one in self.there.values()), default=float("-inf"))

    def meets(self, way: list[Line], grown: float) -> float:
        """Return how much of a way lies inside any of them, [mm]."""
        ends = [way[0].start, *(leg.end for leg in way)]
        if min(at[2] for at in ends) >= self.top - ON_MM:
            return 0.0
        low = [min(at[n] for at in ends) for n in range(3)]
        high = [max(at[n] for at in ends) for n in range(3)]
        found = 0.0
        for one in self.there.values():
            sides = (grown, grown, 0.0)
            apart = any(
                high[n] <= one.low[n] - sides[n] or low[n] >= one.high[n] + sides[n] for n in range(3)
            )
            if not apart:
                found = max(found, inside_mm(way, one, grown))
        return found


def moved(blank: BoxBlank, by: Three) -> BoxBlank:
    """Return a block somewhere else."""
    low = tuple(a + b for a, b in zip(blank.low, by, strict=True))
    high = tuple(a + b for a, b in zip(blank.high, by, strict=True))
    return BoxBlank(low, high)  # type: ignore[arg-type] # of three axes


def goes_back(rapid: Line, fed: Path | None) -> bool:
    """Return whether a rapid goes straight back along the feed move just made, no farther than where that began."""
    if not isinstance(fed, Line) or fed.length <= 0 or rapid.length <= 0:
        return False
    ahead, back = fed.tangents()[0], rapid.tangents()[0]
    along = sum(a * b for a, b in zip(ahead, back, strict=True))
    return along < -1 + 1e-9 and rapid.length <= fed.length + ON_MM
